using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteSiteScopeTests(OnSqlite service) : SiteScopeSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSiteScopeTests(OnPostgres service) : SiteScopeSuite(service), IClassFixture<OnPostgres>;

/// <summary>A technician sees and changes what is of their sites, whatever they ask.</summary>
public abstract partial class SiteScopeSuite(RunningService service) : Morning(service)
{
    // What tells of the swap at South: its id, its person, its computers.
    private static readonly string[] OfSouth = ["-0002", "Sol Okafor", "KB-3", "KB-4", "SPARE-S"];

    [GeneratedRegex(@"\{(swap|snag|followUp)[:}]")]
    private static partial Regex NamesOne();

    /// <summary>A morning with something of everything about the swap at South, and a technician of North.</summary>
    private async Task<(string Refresh, HttpClient Lea, string Snag, string FollowUp)> AtNorthAsync()
    {
        var refresh = await MorningAsync();
        var south = $"{refresh}-0002";
        await BookAsync(south, "theo", 30);
        await BookAsync($"{refresh}-0001", "noor", 30);
        await Service.StaffAsync($"lea-{refresh}", "North");
        await Service.DoAsync(south, "first-trip", await Service.HandAsync(refresh, "KB-3"), RunningService.Result(10, 10));
        (await Service.OrderAsync(south, new("verify"))).EnsureSuccessStatusCode();
        var follow = await OkAsync<FollowUpSeen>(PostAsync($"swaps/{south}/follow-ups", new FollowUpWanted("call Sol Okafor", "kit")));
        foreach (var (key, site) in new[] { ("SPARE-S", "South"), ("SPARE-N", "North") })
            (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/spares/{key}", new SpareWanted(site))).EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/groups/two", new GroupWanted("Two", [$"{refresh}-0001", south], OneDay: true)))
            .EnsureSuccessStatusCode();
        (await PostAsync($"swaps/{south}/person-links", new PersonLinkWanted())).EnsureSuccessStatusCode();
        var snag = $"snag-{refresh}";
        await SnagAsync(snag, south, "of Sol Okafor");
        await Service.WithRecordsAsync(async db =>
        {
            db.Waits.Add(new() { Swap = south, Refresh = refresh, From = Service.Now, Until = Service.Now.AddHours(8), At = Service.Now });
            return await db.SaveChangesAsync();
        });
        return (refresh, await Service.AsAsync($"lea-{refresh}"), snag, follow.Id);
    }

    [Fact]
    public async Task No_endpoint_shows_or_changes_what_is_of_another_site()
    {
        var (refresh, lea, snag, follow) = await AtNorthAsync();
        var (named, listed) = (0, 0);
        foreach (var call in EndpointWalk.Of(Service, part => part switch
        {
            "refresh" => refresh,
            "swap" => $"{refresh}-0002",
            "snag" => snag,
            "followUp" => follow,
            "tag" => "KB-3",
            "technician" => "theo",
            "number" => "1",
            _ => "none"
        }))
        {
            if (call.IsOpen || !Accounts.Roles.Policies[call.Policies[0]].Contains("technician")) continue;
            if (call.Name == "GetEvents") continue;
            if (!NamesOne().IsMatch(call.Route) && call.Method != HttpMethod.Get) continue;
            using var answer = await call.AskAsync(lea);
            var text = await answer.Content.ReadAsStringAsync();
            if (NamesOne().IsMatch(call.Route))
            {
                answer.StatusCode.ShouldBe(HttpStatusCode.Forbidden, $"{call.Method} {call.Path}");
                text.ShouldContain("not one of your sites", Case.Sensitive, call.Path);
                named++;
                continue;
            }
            ((int)answer.StatusCode).ShouldBeLessThan(500, call.Path);
            foreach (var told in OfSouth.Where(t => !call.Path.Contains(t, StringComparison.Ordinal)))
                text.ShouldNotContain(told, Case.Sensitive, call.Path);
            if (answer.IsSuccessStatusCode) listed++;
        }
        await RefusedAsync(
            lea.PostAsJsonAsync(
                $"api/refreshes/{refresh}/notice-texts/preview", new NoticePreviewWanted("announced", "en", $"{refresh}-0002", null)),
            404);
        named.ShouldBeGreaterThan(25);
        listed.ShouldBeGreaterThan(30);
    }

    [Fact]
    public async Task What_sites_share_is_told_as_it_is_and_half_a_list_is_given_to_nobody()
    {
        var (refresh, lea, _, _) = await AtNorthAsync();
        async Task<List<T>> AskAsync<T>(HttpClient by, string path) =>
            await OkAsync<List<T>>(by.GetAsync($"api/refreshes/{refresh}/{path}"));
        (await AskAsync<DepotSeen>(lea, "depots")).Sum(d => d.Parcels).ShouldBe(1);
        foreach (var tag in new[] { "KB-1", "KB-3" })
            (await PostAsync(
                $"refreshes/{refresh}/old-computers/{tag}/moves",
                new CustodyWanted(Guid.NewGuid().ToString(), Core.Custody.CustodyAct.Loaded, "P-1"))).EnsureSuccessStatusCode();
        (await AskAsync<PalletSeen>(lea, "pallets")).Single().Computers.ShouldBe(2);
        (await RefusedAsync(lea.GetAsync($"api/refreshes/{refresh}/pallets/P-1/list.csv"), 403)).ShouldContain("half a list");
        (await Kit.GetAsync($"api/refreshes/{refresh}/pallets/P-1/list.csv")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Nothing_is_taken_from_another_site_by_a_detour_or_as_a_spare()
    {
        var (refresh, lea, _, _) = await AtNorthAsync();
        Task<HttpResponseMessage> TellAsync(DetourTold told) =>
            lea.PostAsJsonAsync($"api/swaps/{refresh}-0001/detours", told, RunningService.Json);
        foreach (var exchange in new[] { false, true })
            (await RefusedAsync(TellAsync(new(Core.Detours.DetourKind.WrongComputer, Tag: "KB-4", Exchange: exchange)), 403))
                .ShouldNotContain("Sol Okafor");
        await RefusedAsync(TellAsync(new(Core.Detours.DetourKind.WrongComputer, Tag: "SPARE-S")), 403);
        (await RefusedAsync(TellAsync(new(Core.Detours.DetourKind.WrongComputer, Tag: "KB-3")), 422)).ShouldNotContain("Sol Okafor");
        var dead = await OkAsync<DetourTaken>(TellAsync(new(Core.Detours.DetourKind.DeadOnArrival, Reason: "dark", DryRun: true)));
        dead.Lines.ShouldContain(l => l.StartsWith("SPARE-N"));
        foreach (var (key, site) in new[] { ("SPARE-S", "North"), ("SPARE-N", "South"), ("NEW-1", "South") })
            await RefusedAsync(lea.PutAsJsonAsync($"api/refreshes/{refresh}/spares/{key}", new SpareWanted(site)), 403);
        (await RefusedAsync(lea.PutAsJsonAsync($"api/refreshes/{refresh}/spares/KB-4", new SpareWanted("North")), 409))
            .ShouldNotContain("Sol Okafor");
        (await lea.PutAsJsonAsync($"api/refreshes/{refresh}/spares/NEW-1", new SpareWanted("North"))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_stream_tells_of_ones_own_sites_and_ends_when_they_change()
    {
        var (refresh, lea, _, _) = await AtNorthAsync();
        using var stream = await lea.GetAsync($"api/refreshes/{refresh}/events", HttpCompletionOption.ResponseHeadersRead);
        stream.EnsureSuccessStatusCode();
        foreach (var swap in new[] { "0002", "0001" })
            (await PostAsync($"swaps/{refresh}-{swap}/follow-ups", new FollowUpWanted("look", "kit"))).EnsureSuccessStatusCode();
        await Service.StaffAsync($"lea-{refresh}", "North", "South");
        var told = await stream.Content.ReadAsStringAsync().WaitAsync(TimeSpan.FromMinutes(2));
        told.ShouldContain($"{refresh}-0001");
        told.ShouldNotContain($"{refresh}-0002");
    }
}
