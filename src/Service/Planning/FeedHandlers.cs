using System.Security.Claims;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>The work behind <see cref="FeedEndpoints"/>.</summary>
internal static class FeedHandlers
{
    private const int IdLength = 12;
    private const int Most = 200;
    private static readonly TimeSpan ReadEvery = TimeSpan.FromHours(1);

    /// <summary>What of a plan is wanted.</summary>
    /// <param name="IsOutside">It leaves the house: nothing is told that the visit does not need.</param>
    private sealed record Feed(string Refresh, string? Site, string? Technician, bool IsOutside);

    internal static async Task<Results<Ok<FeedMade>, ProblemHttpResult>> MakeAsync(
        RefreshKey refresh, FeedWanted wanted, ClaimsPrincipal user, HttpRequest request, ServiceOptions options, Writer writer,
        CancellationToken cancel) =>
        (await writer.WriteAsync<FeedMade>(refresh, async w =>
        {
            if (wanted.Site is { } site && !await w.Db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == site, cancel))
                return ServiceProblem.NotFound("site", site);
            if (wanted.Technician is { } who && !await w.Db.Technicians.AnyAsync(t => t.Refresh == refresh && t.Key == who, cancel))
                return ServiceProblem.NotFound("technician", who);
            if (wanted.Site is { } at && !user.MayWorkAt(at)) return new FeedOfAnotherSite(at);
            if (await w.Db.Feeds.CountAsync(f => f.Refresh == refresh && f.Account == user.NameOf(), cancel) >= Most)
                return new FeedsTooManyProblem(Most);
            var key = TokenAuthentication.New();
            var row = new FeedRow
            {
                Sha256 = TokenAuthentication.Digest(key),
                Refresh = refresh,
                Site = wanted.Site,
                Technician = wanted.Technician,
                Account = user.NameOf(),
                MadeAt = w.Now
            };
            w.Db.Feeds.Add(row);
            w.Note(
                "feed.made",
                null,
                $"{w.By} made an address that calendars read {Words(row)} at",
                new() { ["feed"] = row.Sha256[..IdLength] });
            return new FeedMade(
                row.Sha256[..IdLength], $"{options.Address ?? $"{request.Scheme}://{request.Host}{request.PathBase}"}/api/feeds/{key}");
        }, cancel)).ToHttp();

    internal static async Task<Ok<List<FeedSeen>>> ListAsync(
        RefreshKey refresh, ClaimsPrincipal user, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await OfCaller(db.Feeds.AsNoTracking(), refresh, user)
            .OrderByDescending(f => f.MadeAt)
            .Take(Most)
            .Select(f => new FeedSeen(f.Sha256.Substring(0, IdLength), f.Site, f.Technician, f.Account, f.MadeAt, f.ReadAt))
            .ToListAsync(cancel));

    internal static async Task<Results<NoContent, ProblemHttpResult>> EndAsync(
        RefreshKey refresh, string feed, ClaimsPrincipal user, Writer writer, CancellationToken cancel) =>
        (await writer.WriteAsync<bool>(refresh, async w =>
        {
            var found = feed.Length == IdLength
                ? await OfCaller(w.Db.Feeds, refresh, user).FirstOrDefaultAsync(f => f.Sha256.StartsWith(feed), cancel)
                : null;
            if (found is null) return ServiceProblem.NotFound("feed", feed);
            w.Db.Feeds.Remove(found);
            w.Note("feed.withdrawn", null, $"{w.By} withdrew the address that calendars read {Words(found)} at", new() { ["feed"] = feed });
            return true;
        }, cancel)) is { IsOk: false } failed
            ? failed.Problems.ToHttp()
            : TypedResults.NoContent();

    // A coordinator sees and ends all, others their own.
    private static IQueryable<FeedRow> OfCaller(IQueryable<FeedRow> feeds, string refresh, ClaimsPrincipal user)
    {
        var (all, name) = (user.RoleOf() == Roles.Coordinator, user.NameOf());
        return feeds.Where(f => f.Refresh == refresh && (all || f.Account == name));
    }

    private static string Words(FeedRow feed) =>
        (feed.Technician is null ? "the appointments" : $"the appointments of {feed.Technician}")
            + (feed.Site is null ? "" : $" at {feed.Site}");

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReadAsync(
        string key, YardDb db, IDbContextFactory<YardDb> records, TimeProvider time, CancellationToken cancel)
    {
        var (sha256, now) = (TokenAuthentication.Digest(key), time.GetUtcNow());
        await using var rights = await records.CreateDbContextAsync(cancel);
        var feed = await rights.Feeds.AsNoTracking().FirstOrDefaultAsync(f => f.Sha256 == sha256, cancel);
        var maker = feed is null ? null : await rights.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == feed.Account, cancel);
        // Whoever made it gives no more than they may see now.
        if (feed is null
            || maker is not { DisabledAt: null }
            || !Roles.Policies[Roles.Reads].Contains(maker.Role)
            || (maker.Refreshes.Count > 0 && !maker.Refreshes.Contains(feed.Refresh)))
            return ServiceProblem.NotFound("feed", key.Length > IdLength ? key[..IdLength] + "…" : key).ToHttp();
        if (!(now - feed.ReadAt < ReadEvery))
            await rights.Feeds.Where(f => f.Sha256 == sha256).ExecuteUpdateAsync(u => u.SetProperty(f => f.ReadAt, now), cancel);
        if (maker.Role == Roles.Technician) db.SeeOnly(maker.Sites);
        return await FileAsync(db, new(feed.Refresh, feed.Site, feed.Technician, IsOutside: true), "ics", cancel);
    }

    internal static Task<Results<FileContentHttpResult, ProblemHttpResult>> ExportAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel, string form = "ics", string? site = null, string? technician = null) =>
        FileAsync(db, new(refresh, site, technician, IsOutside: false), form, cancel);

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
        var stand = swaps.SelectMany(s => Of(s, names)).Concat(Of(returns, swaps, names, feed.IsOutside)).Where(e => Wanted(e.At)).ToList();
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

    private static IEnumerable<CalendarEntry> Of(
        List<FollowUpRow> returns, List<SwapRow> swaps, Dictionary<string, string> names, bool isOutside) =>
        from f in returns
        join s in swaps on f.Swap equals s.Id
        select new CalendarEntry(
            new(
                s.Id + WorldProblem.ReturnSuffix,
                $"{s.Name} (return visit{(isOutside ? "" : $": {f.Words}")})",
                s.Site, s.Room, f.VisitTechnician!,
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
