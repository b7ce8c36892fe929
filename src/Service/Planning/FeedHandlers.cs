using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Planning;

/// <summary>The work behind <see cref="FeedEndpoints"/>.</summary>
internal static class FeedHandlers
{
    private sealed record Feed(string Refresh, string? Site, string? Technician);

    private static IDataProtector Protector(IDataProtectionProvider protection) => protection.CreateProtector("calendar feed");

    internal static async Task<Results<Ok<FeedMade>, ProblemHttpResult>> MakeAsync(
        RefreshKey refresh, FeedWanted wanted, HttpRequest request, YardDb db, IDataProtectionProvider protection, CancellationToken cancel)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        if (wanted.Site is { } site && !await db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == site, cancel))
            return ServiceProblem.NotFound("site", site).ToHttp();
        if (wanted.Technician is { } who && !await db.Technicians.AnyAsync(t => t.Refresh == refresh && t.Key == who, cancel))
            return ServiceProblem.NotFound("technician", who).ToHttp();
        var key = Protector(protection).Protect(JsonSerializer.Serialize(new Feed(refresh, wanted.Site, wanted.Technician)));
        return TypedResults.Ok(new FeedMade($"{request.Scheme}://{request.Host}/api/feeds/{key}"));
    }

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReadAsync(
        string key, YardDb db, IDataProtectionProvider protection, CancellationToken cancel)
    {
        Feed feed;
        try
        {
            feed = JsonSerializer.Deserialize<Feed>(Protector(protection).Unprotect(key))!;
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            return ServiceProblem.NotFound("feed", key.Length > 12 ? key[..12] + "…" : key).ToHttp();
        }
        return await FileAsync(db, feed, "ics", cancel);
    }

    internal static Task<Results<FileContentHttpResult, ProblemHttpResult>> ExportAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel, string form = "ics", string? site = null, string? technician = null) =>
        FileAsync(db, new(refresh, site, technician), form, cancel);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> FileAsync(
        YardDb db, Feed feed, string form, CancellationToken cancel)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == feed.Refresh, cancel) is not { } refresh)
            return ServiceProblem.NotFound("refresh", feed.Refresh).ToHttp();
        var swaps = await db.Swaps.AsNoTracking().Where(s => s.Refresh == feed.Refresh).ToListAsync(cancel);
        var names = await db.Technicians.AsNoTracking()
            .Where(t => t.Refresh == feed.Refresh)
            .ToDictionaryAsync(t => t.Key, t => t.Name, cancel);
        bool Wanted(AppointmentSeen a) =>
            (feed.Site is null || a.Site == feed.Site) && (feed.Technician is null || a.Technician == feed.Technician);
        var returns = await db.FollowUps.AsNoTracking()
            .Where(f => f.Refresh == feed.Refresh && f.DoneAt == null && f.VisitStart != null)
            .ToListAsync(cancel);
        var stand = swaps.SelectMany(s => Of(s, names)).Concat(Of(returns, swaps, names)).Where(e => Wanted(e.At)).ToList();
        var name =
            $"{refresh.Name}{(feed.Site is null ? "" : $", {feed.Site}")}"
                + $"{(feed.Technician is null ? "" : $", {names.GetValueOrDefault(feed.Technician, feed.Technician)}")}";
        var file = $"plan-{refresh.Key}{(feed.Technician is null ? "" : "-" + feed.Technician)}";
        return form switch
        {
            "ics" =>
                TypedResults.File(
                    Encoding.UTF8.GetBytes(PlanOut.Calendar(
                        name,
                        refresh.Key,
                        refresh.Zone,
                        [
                            .. stand,
                            .. (await CancelledAsync(db, refresh, swaps, names, cancel))
                                .Where(e => Wanted(e.At) && stand.TrueForAll(s => s.At.Swap != e.At.Swap || s.At.IsBench != e.At.IsBench))
                        ])),
                    "text/calendar; charset=utf-8",
                    file + ".ics"),
            "csv" => TypedResults.File(PlanOut.Csv(stand.Select(e => e.At), refresh.Zone), "text/csv; charset=utf-8", file + ".csv"),
            "xlsx" =>
                TypedResults.File(
                    PlanOut.Workbook(stand.Select(e => e.At), refresh.Zone),
                    "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                    file + ".xlsx"),
            _ => new PlanFormProblem(form).ToHttp(),
        };
    }

    private static IEnumerable<CalendarEntry> Of(List<FollowUpRow> returns, List<SwapRow> swaps, Dictionary<string, string> names) =>
        from f in returns
        join s in swaps on f.Swap equals s.Id
        select new CalendarEntry(
            new(
                s.Id + WorldProblem.ReturnSuffix, $"{s.Name} (return visit: {f.Words})", s.Site, s.Room, f.VisitTechnician!,
                names.GetValueOrDefault(f.VisitTechnician!, f.VisitTechnician!), f.VisitStart!.Value, f.VisitEnd!.Value, f.VisitEnd.Value,
                f.VisitEnd.Value),
            s.Sequence,
            f.MadeAt,
            false);

    private static IEnumerable<CalendarEntry> Of(SwapRow s, Dictionary<string, string> names)
    {
        string Name(string key) => names.GetValueOrDefault(key, key);
        if (s is { Start: { } start, HandsOnUntil: { } until, Finish: { } finish, End: { } end, Technician: { } who })
            yield return new(
                new(s.Id, s.Name, s.Site, s.Room, who, Name(who), start, until, finish, end), s.Sequence, s.BookedAt ?? start, false);
        if (s is { BenchStart: { } bench, BenchHandsOnUntil: { } handsOn, BenchEnd: { } over, BenchTechnician: { } by })
            yield return new(
                new(s.Id, s.Name, s.Site, s.Room, by, Name(by), bench, handsOn, over, over, IsBench: true),
                s.Sequence,
                s.BookedAt ?? bench,
                false);
    }

    /// <summary>What plans published earlier had promised: whoever subscribed sees it called off, not merely gone.</summary>
    private static async Task<List<CalendarEntry>> CancelledAsync(
        YardDb db, RefreshRow refresh, List<SwapRow> swaps, Dictionary<string, string> names, CancellationToken cancel)
    {
        var clock = new RefreshClock(refresh);
        var rows = swaps.ToDictionary(s => s.Id);
        var found = new Dictionary<(string Visit, string Technician), CalendarEntry>();
        foreach (var past in await db.Plans.AsNoTracking()
            .Where(p => p.Refresh == refresh.Key && p.State == "past")
            .OrderByDescending(p => p.Number)
            .Take(20)
            .ToListAsync(cancel))
            foreach (var placed in PlanReader.BodyOf(past).Placed)
            {
                if (!rows.TryGetValue(WorldProblem.SwapOf(placed.Id), out var swap)) continue;
                var (start, finish) = (clock.At(placed.Start), clock.At(placed.Finish));
                var at = new AppointmentSeen(
                    swap.Id, swap.Name, swap.Site, swap.Room, placed.Technician,
                    names.GetValueOrDefault(placed.Technician, placed.Technician), start, finish, finish, finish.AddMinutes(15),
                    WorldProblem.IsPreparation(placed.Id));
                if (WorldProblem.IsReturn(placed.Id)) at = at with { Swap = placed.Id };
                found.TryAdd((placed.Id, placed.Technician), new(at, swap.Sequence, past.PublishedAt ?? past.MadeAt, true));
            }
        return [.. found.Values];
    }
}
