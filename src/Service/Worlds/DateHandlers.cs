using System.Globalization;
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

/// <summary>The work behind <see cref="DateEndpoints"/>.</summary>
internal static class DateHandlers
{
    public static bool TryArrives(string text, out DateTime at) =>
        DateTime.TryParseExact(text, ["yyyy-MM-dd HH:mm", "yyyy-MM-dd'T'HH:mm"], CultureInfo.InvariantCulture, DateTimeStyles.None, out at)
        || (DateTime.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out at)
            && (at = at.AddHours(12)) > default(DateTime));

    internal static async Task<Ok<List<ClosureSeen>>> ClosuresAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Closures.AsNoTracking()
            .Where(c => c.Refresh == refresh)
            .OrderBy(c => c.At)
            .ThenBy(c => c.Key)
            .ToListAsync(cancel))
            .ConvertAll(WorldView.Seen));

    internal static async Task<Results<Ok<ClosureSeen>, ProblemHttpResult>> PutClosureAsync(
        RefreshKey refresh, string key, ClosureWanted wanted, Writer writer, CancellationToken cancel)
    {
        var at = LocalSpan.Parse(wanted.At);
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("closure", key),
            WorldWrite.NameFault("closure", wanted.Name),
            at.IsOk ? null : at.Problem with { Code = "closure.at" });
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<ClosureSeen>(refresh, async w =>
        {
            var sites = await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel);
            if (wanted.Site is { } site && !sites.Contains(site))
                return new ClosureSiteProblem(site, refresh, (sites.Count == 0 ? "none yet" : string.Join(", ", sites.Order())));
            return await w.SetAsync("closure", w.Db.Closures.FirstOrDefaultAsync(
                c => c.Refresh == refresh && c.Key == key,
                cancel), () => new ClosureRow { Refresh = refresh, Key = key, Name = wanted.Name, At = "" },
                row => (row.Name, row.Site, row.At) = (wanted.Name, wanted.Site, at.Value.ToString()),
                WorldView.Seen,
                c => $"{c.Name}: nothing takes place {(c.Site is null ? "anywhere" : $"at {c.Site}")} {c.At}");
        }, cancel)).ToHttp();
    }

    internal static Task<Results<NoContent, ProblemHttpResult>> DropClosureAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh,
            "closure",
            w => w.Db.Closures.FirstOrDefaultAsync(c => c.Refresh == refresh && c.Key == key, cancel),
            c => c.Name,
            cancel);

    internal static async Task<Ok<List<DeliverySeen>>> DeliveriesAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Deliveries.AsNoTracking()
            .Where(d => d.Refresh == refresh)
            .OrderBy(d => d.Arrives)
            .ThenBy(d => d.Key)
            .ToListAsync(cancel))
            .ConvertAll(WorldView.Seen));

    internal static async Task<Results<Ok<DeliverySeen>, ProblemHttpResult>> PutDeliveryAsync(
        RefreshKey refresh, string key, DeliveryWanted wanted, Writer writer, CancellationToken cancel)
    {
        var read = TryArrives(wanted.Arrives, out var arrives);
        var tags = wanted.Tags.Select(t => t.Trim()).Where(t => t.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("delivery", key), WorldWrite.NameFault("delivery", wanted.Name),
            read
                ? null
                : new DeliveryArrivesProblem(wanted.Arrives),
            tags.Count == 0
                ? new DeliveryEmptyProblem(wanted.Name)
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<DeliverySeen>(refresh, async w =>
        {
            var known = (await w.Db.Swaps.Where(s => s.Refresh == refresh && s.NewTag != null).Select(s => s.NewTag!).ToListAsync(cancel))
                .ToHashSet(StringComparer.OrdinalIgnoreCase);
            var unknown = tags.Where(t => !known.Contains(t)).ToList();
            if (unknown.Count > 0)
                return new DeliveryTagsUnknown(unknown.Count, string.Join(", ", unknown.Take(10)), (unknown.Count > 10 ? ", …" : ""));
            var others = await w.Db.Deliveries.Where(d => d.Refresh == refresh && d.Key != key).ToListAsync(cancel);
            if (others.SelectMany(d =>
                d.Tags.Where(t => tags.Contains(t, StringComparer.OrdinalIgnoreCase))
                    .Select(t => (d, t))).FirstOrDefault() is { d: { } other } twice)
                return new DeliveredTwice(twice.t, other.Name);
            return await w.SetAsync("delivery", w.Db.Deliveries.FirstOrDefaultAsync(
                d => d.Refresh == refresh && d.Key == key,
                cancel), () => new DeliveryRow { Refresh = refresh, Key = key, Name = wanted.Name, Arrives = "", Tags = [] },
                row => (row.Name, row.Arrives, row.Tags) =
                    (wanted.Name, arrives.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture), tags),
                WorldView.Seen,
                d => $"Delivery {d.Name} brings {d.Tags.Count} computers on {d.Arrives}");
        }, cancel)).ToHttp();
    }

    internal static Task<Results<NoContent, ProblemHttpResult>> DropDeliveryAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh,
            "delivery",
            w => w.Db.Deliveries.FirstOrDefaultAsync(d => d.Refresh == refresh && d.Key == key, cancel),
            d => d.Name,
            cancel);

    internal static async Task<Ok<List<WaveSeen>>> WavesAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await WorldView.ReadWavesAsync(db, refresh, cancel));

    internal static async Task<Results<Ok<WaveSeen>, ProblemHttpResult>> PutWaveAsync(
        RefreshKey refresh, string key, WaveWanted wanted, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("wave", key),
            WorldWrite.NameFault("wave", wanted.Name),
            wanted.Until < wanted.From
                ? new WaveEndsBeforeItBegins(wanted.Name, wanted.Until, wanted.From)
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<WaveSeen>(refresh, async w =>
        {
            var swaps = await w.Db.Swaps.CountAsync(s => s.Refresh == refresh && s.Wave == key, cancel);
            if (wanted.Until < w.Refresh.Starts || wanted.From > w.Refresh.Starts.AddDays(w.Refresh.Days - 1))
                return new WaveOutsideRefresh(wanted.Name, w.Refresh.Starts, w.Refresh.Starts.AddDays(w.Refresh.Days - 1));
            return await w.SetAsync("wave", w.Db.Waves.FirstOrDefaultAsync(
                v => v.Refresh == refresh && v.Key == key, cancel), () => new WaveRow { Refresh = refresh, Key = key, Name = wanted.Name },
                row => (row.Name, row.From, row.Until) = (wanted.Name, wanted.From, wanted.Until),
                v => WorldView.Seen(v, swaps),
                v => $"Wave {v.Name} goes from {v.From:yyyy-MM-dd} to {v.Until:yyyy-MM-dd}");
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> DropWaveAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        await writer.DropAsync(refresh, "wave", async w =>
        {
            foreach (var swap in await w.Db.Swaps.Where(s => s.Refresh == refresh && s.Wave == key).ToListAsync(cancel)) swap.Wave = null;
            return await w.Db.Waves.FirstOrDefaultAsync(v => v.Refresh == refresh && v.Key == key, cancel);
        }, v => v.Name, cancel);
}
