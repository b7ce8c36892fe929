using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging.Abstractions;
using YardRelay.Contracts;
using YardRelay.Peers;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Tests;

/// <summary>An older copy of the records, put back in place of them, lets nobody in again who was shut out since.</summary>
public sealed class EndedTests(OnSqlite service) : IClassFixture<OnSqlite>
{
    [Fact]
    public async Task A_copy_of_before_revives_no_session_hand_code_or_account_and_all_else_goes_on()
    {
        using var folder = new TempFolder();
        var refresh = await service.RefreshAsync();
        var (stays, leaves) = (await service.AccountAsync("stays", "auditor"), await service.AccountAsync("leaves", "auditor"));
        foreach (var name in new[] { "disabled", "removed", "back" }) await service.AccountAsync(name, "auditor");
        var (hand, kept) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-2"));
        async Task<string> CodeAsync(string tag) => (await (await service.Kit.PostAsJsonAsync(
            $"api/refreshes/{refresh}/codes", new CodeWanted(tag))).Content.ReadFromJsonAsync<CodeMade>(RunningService.Json))!.Code;
        var (used, withdrawn) = (await CodeAsync("KB-3"), await CodeAsync("KB-4"));
        var copy = folder["copy.db"];
        await service.WithRecordsAsync(db => db.Database.ExecuteSqlAsync($"VACUUM INTO {copy}"));

        (await leaves.DeleteAsync("api/sessions/current")).EnsureSuccessStatusCode();
        (await service.Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-1")).EnsureSuccessStatusCode();
        (await service.Nobody().PostAsJsonAsync("api/hand/enrol", new EnrolWanted(used, "KB-3", "host"))).EnsureSuccessStatusCode();
        (await service.Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-4")).EnsureSuccessStatusCode();
        foreach (var name in new[] { "disabled", "back" })
            (await service.Kit.PutAsJsonAsync($"api/accounts/{name}/use", new AccountUse(true))).EnsureSuccessStatusCode();
        (await service.Kit.PutAsJsonAsync("api/accounts/back/use", new AccountUse(false))).EnsureSuccessStatusCode();
        (await service.Kit.DeleteAsync("api/accounts/removed")).EnsureSuccessStatusCode();

        await using var restored = service.StartAnother($"Data Source={copy}");
        async Task<HttpStatusCode> MeAsync(HttpClient caller) => (await RunningService.At(restored, caller).GetAsync("api/me")).StatusCode;
        (await MeAsync(stays), await MeAsync(leaves)).ShouldBe((HttpStatusCode.OK, HttpStatusCode.Unauthorized));
        (await MeAsync(kept), await MeAsync(hand)).ShouldBe((HttpStatusCode.OK, HttpStatusCode.Unauthorized));
        var nobody = RunningService.At(restored, service.Browser());
        foreach (var (code, tag) in new[] { (used, "KB-3"), (withdrawn, "KB-4") })
            await RunningService.ProblemAsync(await nobody.PostAsJsonAsync("api/hand/enrol", new EnrolWanted(code, tag, "host")), 403);
        foreach (var (name, status) in new[] { ("disabled", 403), ("removed", 403), ("back", 200) })
            ((int)(await nobody.PostAsJsonAsync("api/sessions", new SignIn(name, RunningService.Password))).StatusCode)
                .ShouldBe(status, name);
    }

    [Fact]
    public async Task What_would_be_over_by_itself_is_forgotten_and_a_line_that_broke_off_takes_no_other_along()
    {
        using var folder = new TempFolder();
        var (file, now) = (folder["ended"], DateTimeOffset.UtcNow);
        var ended = new Ended(file, NullLogger<Ended>.Instance, TimeProvider.System);
        await Task.WhenAll(Enumerable.Range(0, 20).Select(i => Task.Run(
            () => ended.Add(EndedKind.Session, [($"s {i}", i % 10 == 0 ? now.AddDays(1) : now.AddDays(-1))]))));
        await File.AppendAllTextAsync(file, "Session br", TestContext.Current.CancellationToken);
        ended.Add(EndedKind.Hand, [("h", now.AddDays(1))]);
        (await File.ReadAllLinesAsync(file, TestContext.Current.CancellationToken)).Count(l => l.Length > 0).ShouldBe(22);
        await service.WithRecordsAsync(async db =>
        {
            await ended.ApplyAsync(db, TestContext.Current.CancellationToken);
            return 0;
        });
        (await File.ReadAllLinesAsync(file, TestContext.Current.CancellationToken)).Select(l => l.Split(' ')[1])
            .ShouldBe(["s%200", "s%2010", "h"], ignoreOrder: true);
        new Ended(folder["no/such"], NullLogger<Ended>.Instance, TimeProvider.System).Add(EndedKind.Hand, [("h", now)]);
    }
}
