using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="EstimateEndpoints"/>.</summary>
internal static class EstimateHandlers
{
    internal static async Task<Ok<List<EstimateRuleSeen>>> RulesAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Estimates.AsNoTracking()
            .Where(e => e.Refresh == refresh)
            .OrderBy(e => e.Scope)
            .ThenBy(e => e.Of)
            .ToListAsync(cancel))
            .ConvertAll(WorldView.Seen));

    internal static async Task<Results<Ok<EstimateRuleSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string scope, string of, EstimateWanted wanted, Writer writer, CancellationToken cancel)
    {
        var known = Enum.TryParse<EstimateScope>(scope, true, out var about) && Enum.IsDefined(about);
        bool Odd(int? minutes, int least) => minutes < least || minutes > 1440;
        var faults = WorldWrite.Faults(
            known ? null : new EstimateScopeProblem(scope),
            known && about == EstimateScope.Kind && !Enum.TryParse<SwapKind>(of, true, out _)
                ? new EstimateKindProblem(of, string.Join(", ", Enum.GetNames<SwapKind>()).ToLowerInvariant())
                : null,
            Odd(wanted.BeforeMinutes, 1) || Odd(wanted.UnattendedMinutes, 0) || Odd(wanted.AfterMinutes, 0)
                ? new EstimateMinutesProblem()
                : null,
            wanted.Bench is { } b && (Odd(b.HandsOnMinutes, 1) || Odd(b.UnattendedMinutes, 0) || b.GapMinutes is < 0 or > 20_160)
                ? new EstimateBenchProblem()
                : null,
            wanted is { BeforeMinutes: null, UnattendedMinutes: null, AfterMinutes: null, Bench: null }
                ? new EstimateEmptyProblem()
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        if (about == EstimateScope.Kind) of = of.ToLowerInvariant();
        return (await writer.WriteAsync<EstimateRuleSeen>(refresh, async w =>
        {
            if (wanted.Bench?.Site is { } site && !await w.Db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == site, cancel))
                return new EstimateSiteProblem(site, refresh);
            if (about == EstimateScope.Swap && !await w.Db.Swaps.AnyAsync(s => s.Refresh == refresh && s.Id == of, cancel))
                return ServiceProblem.NotFound("swap", of);
            return await w.SetAsync("estimate", w.Db.Estimates.FirstOrDefaultAsync(
                e => e.Refresh == refresh && e.Scope == about && e.Of == of,
                cancel), () => new EstimateRow { Refresh = refresh, Scope = about, Of = of }, row =>
            {
                (row.BeforeMinutes, row.UnattendedMinutes, row.AfterMinutes, row.HasBench) =
                    (wanted.BeforeMinutes, wanted.UnattendedMinutes, wanted.AfterMinutes, wanted.Bench is not null);
                (row.BenchSite, row.BenchHandsOnMinutes, row.BenchUnattendedMinutes, row.BenchGapMinutes) = (
                    wanted.Bench?.Site, wanted.Bench?.HandsOnMinutes ?? 0, wanted.Bench?.UnattendedMinutes ?? 0,
                    wanted.Bench?.GapMinutes ?? 0);
            }, WorldView.Seen, r => $"Lengths of {scope} {of} set by hand");
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        RefreshKey refresh, string scope, string of, Writer writer, CancellationToken cancel)
    {
        if (!Enum.TryParse<EstimateScope>(scope, true, out var about))
            return new EstimateScopeProblem(scope).ToHttp();
        return await writer.DropAsync(
            refresh,
            "estimate",
            w => w.Db.Estimates.FirstOrDefaultAsync(e => e.Refresh == refresh && e.Scope == about && e.Of == of, cancel),
            e => e.Of,
            cancel);
    }

    internal static async Task<Results<Ok<EstimateSeen>, ProblemHttpResult>> OfSwapAsync(
        SwapId swap, YardDb db, Depots.DepotReader read, CancellationToken cancel)
    {
        if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == swap, cancel) is not { } row)
            return ServiceProblem.NotFound("swap", swap).ToHttp();
        var depots = await db.Depots.AsNoTracking().Where(d => d.Refresh == row.Refresh).OrderBy(d => d.Key).ToListAsync(cancel);
        var rules = (await db.Estimates.AsNoTracking().Where(e => e.Refresh == row.Refresh).ToListAsync(cancel))
            .ConvertAll(WorldReader.RuleOf);
        var cargo = (await WorldReader.CargoAsync(db, db.Swaps.Where(s => s.Id == swap), cancel)).GetValueOrDefault(swap);
        var depot = depots.Find(d => d.Key == row.Depot) ?? depots.FirstOrDefault();
        var estimate = Estimates.For(
            swap, row.Kind, row.NewModel, cargo, depot is null ? DepotRate.Default : DepotRates.Of(depot), rules, WorldReader.Grid);
        return TypedResults.Ok(new EstimateSeen(
            swap, estimate, (await ComparerAsync(read, row.Refresh, cancel))(row.Kind, estimate.Cargo)));
    }

    internal static async Task<Results<Ok<WaysSeen>, ProblemHttpResult>> WaysAsync(
        RefreshKey refresh, YardDb db, Depots.DepotReader read, CancellationToken cancel, string? wave = null)
    {
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && (wave == null || s.Wave == wave))
            .Select(s => new { s.Id, s.Kind })
            .ToListAsync(cancel);
        if (swaps.Count == 0) return ServiceProblem.NotFound(wave is null ? "refresh" : "wave", wave ?? refresh).ToHttp();
        var found = await WorldReader.CargoAsync(db, db.Swaps.Where(s => s.Refresh == refresh), cancel);
        var staged = swaps.Where(s => s.Kind.Stages()).ToList();
        var compare = await ComparerAsync(read, refresh, cancel);
        var ways = staged.SelectMany(s => compare(s.Kind, found.GetValueOrDefault(s.Id) ?? Cargo.Typical))
            .GroupBy(w => w.Way)
            .Select(g => new WayToCarry(
                g.Key, g.Sum(w => w.AheadMinutes), g.Sum(w => w.VisitMinutes), g.Sum(w => w.HandsOnMinutes), g.Sum(w => w.RoomBytes),
                g.First().Risk, g.All(w => w.Fits)))
            .OrderByDescending(w => w.Fits)
            .ThenBy(w => w.VisitMinutes + w.HandsOnMinutes).ToList();
        return TypedResults.Ok(new WaysSeen(swaps.Count, staged.Sum(s => (found.GetValueOrDefault(s.Id) ?? Cargo.Typical).Bytes), ways));
    }

    private static async Task<Func<SwapKind, Cargo, IReadOnlyList<WayToCarry>>> ComparerAsync(
        Depots.DepotReader read, string refresh, CancellationToken cancel)
    {
        var depots = await read.ReadAsync(refresh, cancel);
        var (share, cloud) = (
            depots.Find(d => d.Address == Depots.BuiltInDepot.Address || d.Address.StartsWith("file:", StringComparison.Ordinal)),
            depots.Find(d => d.Address.StartsWith("http", StringComparison.Ordinal)));
        static DepotRate Rate(DepotSeen? depot) => depot is null ? DepotRate.Default : new(depot.BytesPerSecond, depot.Observed);
        return (kind, cargo) => WaysToCarry.Compare(
            kind, cargo, Rate(share), Rate(cloud), share?.CapacityBytes - share?.Bytes, cloud?.CapacityBytes - cloud?.Bytes);
    }
}
