using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="SiteEndpoints"/>.</summary>
internal static class SiteHandlers
{
    internal static async Task<Ok<List<SiteSeen>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Sites.AsNoTracking().Where(s => s.Refresh == refresh).OrderBy(s => s.Key).ToListAsync(cancel))
            .ConvertAll(WorldView.Seen));

    internal static async Task<Results<Ok<SiteSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string key, SiteWanted wanted, Writer writer, CancellationToken cancel)
    {
        var rooms = wanted.Rooms ?? [];
        var opens = ShiftRule.Parse(wanted.Opens ?? "daily 07:00-19:00");
        var limits = Core.Carrying.RateRule.ParseAll(wanted.Limits ?? []);
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("site", key), WorldWrite.NameFault("site", wanted.Name),
            wanted.Benches is < 0 or > 1000 ? new SiteBenchesProblem(wanted.Benches) : null,
            rooms.FirstOrDefault(r => r.Benches is < 0 or > 1000 || string.IsNullOrWhiteSpace(r.Name)) is { } odd
                ? new RoomFaulty(odd.Name)
                : null,
            rooms.GroupBy(r => r.Name).FirstOrDefault(g => g.Count() > 1) is { } twice
                ? new RoomTwice(twice.Key)
                : null,
            limits.IsOk ? null : limits.Problem,
            opens.IsOk ? null : new SiteOpensProblem(opens.Problem.Message));
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<SiteSeen>(refresh, w => w.SetAsync(
            "site",
            w.Db.Sites.FirstOrDefaultAsync(s => s.Refresh == refresh && s.Key == key, cancel),
            () => new SiteRow { Refresh = refresh, Key = key, Name = wanted.Name },
            row => (row.Name, row.Benches, row.Rooms, row.Opens, row.Limits) = (
                wanted.Name,
                wanted.Benches,
                [.. rooms.Select(r => $"{r.Name}:{r.Benches}")],
                opens.Value.Text,
                [.. limits.Value.Select(l => l.ToString())]),
            WorldView.Seen,
            s => $"Site {s.Name} has {s.Benches} benches and is open {s.Opens}"), cancel)).ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel)
    {
        var done = await writer.WriteAsync<bool>(refresh, async w =>
        {
            if (await w.Db.Sites.FirstOrDefaultAsync(s => s.Refresh == refresh && s.Key == key, cancel) is not { } site) return false;
            var swaps = await w.Db.Swaps.CountAsync(s => s.Refresh == refresh && s.Site == key, cancel);
            if (swaps > 0) return new SiteHasSwaps(site.Name, swaps);
            if ((await w.Db.Technicians.Where(t => t.Refresh == refresh).ToListAsync(cancel))
                .Find(t => t.Sites.Contains(key)) is { } served)
                return new SiteIsServed(served.Name, site.Name);
            w.Db.Ways.RemoveRange(await w.Db.Ways.Where(o => o.Refresh == refresh && (o.From == key || o.To == key)).ToListAsync(cancel));
            w.Db.Sites.Remove(site);
            w.WorldChanged();
            w.Note("site.dropped", null, $"Site {site.Name} taken out");
            return true;
        }, cancel);
        return done.IsOk ? TypedResults.NoContent() : done.Problems.ToHttp();
    }

    internal static async Task<Ok<List<WaySeen>>> WaysAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Ways.AsNoTracking()
            .Where(w => w.Refresh == refresh)
            .OrderBy(w => w.From)
            .ThenBy(w => w.To)
            .ToListAsync(cancel))
            .ConvertAll(WorldView.Seen));

    internal static async Task<Results<Ok<WaySeen>, ProblemHttpResult>> PutWayAsync(
        RefreshKey refresh, WaySeen wanted, Writer writer, CancellationToken cancel)
    {
        if (wanted.Minutes is < 0 or > 1440)
            return WorldWrite.Faults(new WayMinutesProblem(wanted.Minutes)).ToHttp();
        if (wanted.From == wanted.To) return WorldWrite.Faults(new WayToItself()).ToHttp();
        var (from, to) = string.CompareOrdinal(wanted.From, wanted.To) < 0 ? (wanted.From, wanted.To) : (wanted.To, wanted.From);
        return (await writer.WriteAsync<WaySeen>(refresh, async w =>
        {
            var sites = await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel);
            foreach (var end in new[] { from, to })
                if (!sites.Contains(end))
                    return new WaySiteUnknown(end, refresh, (sites.Count == 0 ? "none yet" : string.Join(", ", sites.Order())));
            var find = w.Db.Ways.FirstOrDefaultAsync(o => o.Refresh == refresh && o.From == from && o.To == to, cancel);
            if (wanted.Minutes == 0)
            {
                if (await find is { } row)
                {
                    w.Db.Ways.Remove(row);
                    w.WorldChanged();
                    w.Note("way.dropped", null, $"The way between {from} and {to} taken out");
                }
                return new WaySeen(from, to, 0);
            }
            return await w.SetAsync(
                "way",
                find,
                () => new WayRow { Refresh = refresh, From = from, To = to },
                row => row.Minutes = wanted.Minutes,
                WorldView.Seen,
                s => $"From {s.From} to {s.To} it takes {s.Minutes} minutes");
        }, cancel)).ToHttp();
    }
}
