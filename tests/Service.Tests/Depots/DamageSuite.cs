using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteDamageTests(OnSqlite service) : DamageSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresDamageTests(OnPostgres service) : DamageSuite(service), IClassFixture<OnPostgres>;

/// <summary>A depot that was damaged: what lies there proves nothing any more.</summary>
public abstract class DamageSuite(RunningService service) : Morning(service)
{
    private static readonly DamageTold Told = new("a disk of the array failed");

    private Task<HttpResponseMessage> TellAsync(string refresh, DamageTold told, string depot = "cloud") =>
        PostAsync($"refreshes/{refresh}/depots/{depot}/damages", told);

    private async Task<SwapSeen> StagedAsync(string swap, HttpClient hand)
    {
        await Service.DoAsync(swap, "first-trip", hand, RunningService.Result(10, 10));
        await Service.DoAsync(swap, "verify", hand, HandReport.Fine);
        return await Service.SwapAsync(swap);
    }

    private static DateTimeOffset? Staged(SwapSeen seen) => seen.Swap.Line.FirstOrDefault(l => l.Station == Station.Staged)?.At;

    [Fact]
    public async Task Nothing_in_it_counts_as_verified_and_whose_only_copy_it_may_be_comes_first()
    {
        var refresh = await MorningAsync();
        string Of(int number) => $"{refresh}-000{number}";
        await FinishAsync(refresh, Of(1), "KB-1", "KB-2");
        var una = await Service.HandAsync(refresh, "KB-7");
        Staged(await StagedAsync(Of(4), una)).ShouldNotBeNull();
        await StagedAsync(Of(2), await Service.HandAsync(refresh, "KB-3"));
        (await PostAsync($"swaps/{Of(2)}/detours", new DetourTold(DetourKind.Stolen))).EnsureSuccessStatusCode();

        var looked = await OkAsync<DamageSeen>(TellAsync(refresh, Told with { DryRun = true }));
        Staged(await Service.SwapAsync(Of(4))).ShouldNotBeNull("it was only looked");
        var seen = await OkAsync<DamageSeen>(TellAsync(refresh, Told));

        seen.Parcels.Select(p => (p.Swap, p.Beside)).ShouldBe(
            [(Of(2), FilesBeside.Nowhere), (Of(4), FilesBeside.OldComputer), (Of(1), FilesBeside.NewComputer)]);
        looked.Parcels.ShouldBe(seen.Parcels);
        (await Service.SwapAsync(Of(2))).FollowUps!.ShouldContain(f => f.Words.Contains("may be the only copy"));
        var doubted = await Service.SwapAsync(Of(4));
        Staged(doubted).ShouldBeNull();
        doubted.History.ShouldContain(h => h.Words.Contains("counts as verified no more") && h.Words.Contains("disk of the array"));
        // The old computer of who has all files is kept, too, until the parcel was read again.
        (await Kit.GetFromJsonAsync<OldComputerHistory>($"api/refreshes/{refresh}/old-computers/KB-1", RunningService.Json))!
            .Computer.Missing.ShouldContain("Its files are not staged and verified.");
        (await RefusedAsync(PostAsync($"swaps/{Of(1)}/sign-offs", new SignOffWanted(SignOffPart.Technician)), 409))
            .ShouldContain("staged and verified");
        // What is read again and whole counts again.
        (await Service.OrderAsync(Of(4), new("verify"))).EnsureSuccessStatusCode();
        await Service.DoAsync(Of(4), "verify", una, HandReport.Fine);
        Staged(await Service.SwapAsync(Of(4))).ShouldNotBeNull();
    }

    [Fact]
    public async Task Second_copies_in_it_count_no_more()
    {
        var refresh = await MorningAsync();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/second", new DepotWanted("Second", "http://127.0.0.1:2/")))
            .EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Cloud", "http://127.0.0.1:1/", CopyTo: "second")))
            .EnsureSuccessStatusCode();
        await StagedAsync($"{refresh}-0001", await Service.HandAsync(refresh, "KB-1"));
        await Service.WithRecordsAsync(async db =>
        {
            db.Swaps.Single(s => s.Id == $"{refresh}-0001").CopiedAt = Service.Now;
            return await db.SaveChangesAsync();
        });
        var seen = await OkAsync<DamageSeen>(TellAsync(refresh, Told, "second"));
        (seen.Total, seen.Copies).ShouldBe((0, 1));
        Staged(await Service.SwapAsync($"{refresh}-0001")).ShouldNotBeNull("the first copy lies elsewhere");
        (await OkAsync<DamageSeen>(TellAsync(refresh, Told, "second"))).Copies.ShouldBe(0, "it can be said again");
    }

    [Fact]
    public async Task It_is_a_coordinators_to_say_with_what_happened()
    {
        var refresh = await MorningAsync();
        (await RefusedAsync(TellAsync(refresh, new("  ")), 422)).ShouldContain("What happened");
        (await RefusedAsync(TellAsync(refresh, Told, "nowhere"), 404)).ShouldContain("nowhere");
        (await (await Service.AsAsync("noor")).PostAsJsonAsync($"api/refreshes/{refresh}/depots/cloud/damages", Told))
            .StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }
}
