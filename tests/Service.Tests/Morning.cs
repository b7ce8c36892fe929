using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

/// <summary>A working morning of three technicians and four swaps at two sites, for suites about the day itself.</summary>
public abstract class Morning(RunningService service)
{
    protected RunningService Service => service;

    protected const string Roster =
        "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North,renew,KB-1,KB-2\nk2,Sol Okafor,South,renew,KB-3,KB-4\nk3,Per "
            + "Lunde,North,second,KB-5,KB-6\nk4,Una Berg,North,renew,KB-7,KB-8\n";

    protected HttpClient Kit => Service.Kit;

    /// <summary>A refresh whose day is a working morning now, with three technicians; all swaps are booked on it, an hour apart.</summary>
    protected async Task<string> MorningAsync()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        await Service.WithRecordsAsync(async db =>
            await db.Refreshes.Where(r => r.Key == refresh).ExecuteUpdateAsync(r => r.SetProperty(x => x.Starts, DrivenClock.Today)));
        foreach (var (key, name, sites) in new[]
        {
            ("noor", "Noor", new[] { "North", "South" }), ("vera", "Vera", ["North", "South"]), ("theo", "Theo", ["South"])
        })
        {
            (await Kit.PutAsJsonAsync(
                $"api/refreshes/{refresh}/technicians/{key}",
                new TechnicianWanted(name, sites, ["daily 00:15-23:45"]))).EnsureSuccessStatusCode();
            await Service.StaffAsync(key, sites);
        }
        foreach (var site in new[] { "North", "South" })
            (await Kit.PutAsJsonAsync(
                $"api/refreshes/{refresh}/sites/{site}", new SiteWanted(site, 3, Opens: "daily 00:15-23:45"))).EnsureSuccessStatusCode();
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        return refresh;
    }

    /// <summary>Books a swap of today so many minutes from the last quarter of an hour, in three parts of 15, 60 and 15 minutes.</summary>
    protected Task BookAsync(string swap, string technician, int minutes) => Service.WithRecordsAsync(async db =>
    {
        var row = await db.Swaps.FirstAsync(s => s.Id == swap);
        const long Quarter = 15 * TimeSpan.TicksPerMinute;
        var start = new DateTimeOffset((Service.Now.Ticks / Quarter * Quarter) + (minutes * TimeSpan.TicksPerMinute), TimeSpan.Zero);
        (row.Technician, row.Start, row.HandsOnUntil, row.Finish, row.End, row.BookedAt) =
            (technician, start, start.AddMinutes(15), start.AddMinutes(75), start.AddMinutes(90), Service.Now);
        (row.BenchTechnician, row.BenchStart, row.BenchHandsOnUntil, row.BenchEnd) = (null, null, null, null);
        return await db.SaveChangesAsync();
    });

    protected async Task<RoundSeen> RoundAsync(string refresh, string technician) =>
        (await Kit.GetFromJsonAsync<RoundSeen>($"api/refreshes/{refresh}/round?technician={technician}", RunningService.Json))!;

    protected static async Task<T> OkAsync<T>(Task<HttpResponseMessage> asked)
    {
        var answer = await asked;
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<T>(RunningService.Json))!;
    }

    protected static async Task<string> RefusedAsync(Task<HttpResponseMessage> asked, int status) =>
        (await RunningService.ProblemAsync(await asked, status))["detail"]!.GetValue<string>();

    protected Task<HttpResponseMessage> PostAsync<T>(string path, T body) => Kit.PostAsJsonAsync($"api/{path}", body, RunningService.Json);

    /// <summary>A file of the old computer that could not be read, open.</summary>
    protected Task<int> SnagAsync(string id, string swap, string path = "a") => Service.WithRecordsAsync(async db =>
    {
        db.Snags.Add(new()
        {
            Id = id,
            Refresh = Core.Ids.SwapId.Parse(swap).Refresh,
            Swap = swap,
            Path = path,
            Kind = Core.Carrying.SnagKind.Unreadable,
            Side = "old",
            Reason = "r",
            End = "open"
        });
        return await db.SaveChangesAsync();
    });

    /// <summary>Everything up to the technician's signature.</summary>
    protected async Task FinishAsync(string refresh, string swap, string oldTag, string newTag)
    {
        await Service.DoAsync(swap, "first-trip", await Service.HandAsync(refresh, oldTag), RunningService.Result(10, 10));
        await Service.DoAsync(swap, "verify", await Service.HandAsync(refresh, oldTag), HandReport.Fine);
        await Service.DoAsync(swap, "restore", await Service.HandAsync(refresh, newTag), RunningService.Result(10, 10));
        await Service.WorkAsync(swap, s => s.Phase != "hand-in");
    }
}
