using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Paper;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.OldComputers;

/// <summary>The work behind <see cref="PalletEndpoints"/>.</summary>
internal static class PalletHandlers
{
    private const int MostOnPallet = 500;

    internal static async Task<Ok<List<PalletSeen>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        // Counted over all sites, also for who sees some: a pallet stands there as it is.
        TypedResults.Ok((await db.OldComputers.IgnoreQueryFilters().AsNoTracking()
            .Where(c => c.Refresh == refresh && c.Pallet != null)
            .GroupBy(c => c.Pallet!)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Wiped = g.Count(c => c.WipeResult == "done"),
                Gone = g.Count(c => c.End != null),
                Since = g.Max(c => c.MovedAt)
            })
                .OrderBy(g => g.Key)
                .Take(MostOnPallet)
                .ToListAsync(cancel))
            .ConvertAll(g => new PalletSeen(g.Key, g.Count, g.Wiped, g.Gone, g.Since)));

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CsvAsync(
        RefreshKey refresh, string pallet, YardDb db, OldComputerReader reader, CancellationToken cancel)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var clock = new RefreshClock(row);
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && db.OldComputers.Any(c => c.Refresh == refresh && c.Tag == s.OldTag && c.Pallet == pallet))
            .OrderBy(s => s.OldTag)
            .Take(MostOnPallet)
            .ToListAsync(cancel);
        var all = await db.OldComputers.IgnoreQueryFilters().CountAsync(c => c.Refresh == refresh && c.Pallet == pallet, cancel);
        if (all == 0) return ServiceProblem.NotFound("pallet", pallet).ToHttp();
        if (db.IsNarrow && swaps.Count < all) return new PalletOfOthersProblem(pallet, all - swaps.Count).ToHttp();
        var lines = (await reader.ReadAsync(swaps, cancel)).ConvertAll(c =>
            (IReadOnlyList<string>)[
                c.Tag,
                c.Model ?? "",
                c.Swap,
                c.State,
                c.Wipe?.Method ?? "",
                c.Wipe?.Evidence ?? "",
                c.Wipe?.By ?? "",
                c.Wipe is { } w ? $"{clock.Local(w.At):yyyy-MM-dd HH:mm}" : "",
                c.Since is { } at ? $"{clock.Local(at):yyyy-MM-dd HH:mm}" : "",
                c.EndedTo ?? ""
            ]);
        return TypedResults.File(
            CsvTable.Write(lines.Prepend([
                "Tag", "Model", "Swap", "State", "Wipe", "Evidence", "Wiped by", "Wiped at", "Moved at", "Left to"
            ])),
            "text/csv; charset=utf-8",
            $"pallet-{new string([.. pallet.Where(c => char.IsAsciiLetterOrDigit(c) || c == '-')])}.csv");
    }

    internal static async Task<Results<Ok<PalletSeen>, ProblemHttpResult>> LeaveAsync(
        RefreshKey refresh, string pallet, PalletDeparture wanted, Writer writer, CancellationToken cancel)
    {
        if (!wanted.As.IsEnd()) return new PalletAsProblem().ToHttp();
        if (wanted.To?.Trim().Length is not (>= 1 and <= 120))
            return new PalletToProblem().ToHttp();
        return (await writer.WriteAsync<PalletSeen>(refresh, async w =>
        {
            var on = await w.Db.OldComputers.Where(c => c.Refresh == refresh && c.Pallet == pallet).OrderBy(c => c.Tag).ToListAsync(cancel);
            if (on.Count == 0) return ServiceProblem.NotFound("pallet", pallet);
            var there = on.FindAll(c => c.End is null);
            if (there.FindAll(c => c.WipeResult != "done") is { Count: > 0 } dirty)
                return new PalletNotWipedProblem(
                    dirty.Count, on.Count, pallet, string.Join(", ", dirty.Take(10).Select(c => c.Tag)), (dirty.Count > 10 ? ", …" : ""));
            foreach (var computer in there)
            {
                var swap = await w.Db.Swaps.AsNoTracking().FirstAsync(s => s.Id == computer.Swap, cancel);
                if (await OldComputerDesk.AddAsync(
                    w,
                    swap,
                    new(Guid.CreateVersion7(w.Now).ToString(), wanted.As, wanted.To.Trim(), w.By, w.Now, w.Now),
                    cancel) is { } refused)
                    return refused;
            }
            if (there.Count > 0)
                w.Note(
                    "pallet.left",
                    null,
                    $"Pallet {pallet} {wanted.As.ToString().ToLowerInvariant()} to {wanted.To.Trim()} with {there.Count} computers",
                    new() { ["computers"] = there.Count });
            return new PalletSeen(pallet, on.Count, on.Count(c => c.WipeResult == "done"), on.Count, w.Now);
        }, cancel)).ToHttp();
    }
}
