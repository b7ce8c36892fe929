using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Detours;

/// <summary>What went otherwise with a swap, and what may still.</summary>
internal static class DetourReader
{
    /// <summary>What went otherwise with a swap, the newest first.</summary>
    public static async Task<List<DetourSeen>> OfSwapAsync(YardDb db, string swap, CancellationToken cancel) =>
        await db.Detours.AsNoTracking()
            .Where(d => d.Swap == swap)
            .OrderByDescending(d => d.At)
            .ThenByDescending(d => d.Id)
            .Take(50)
            .Select(d => new DetourSeen(d.Kind, d.Words, d.By, d.At))
            .ToListAsync(cancel);

    /// <summary>How the old computer of a swap left, for good or because it is missing; null: it is there, or there is none.</summary>
    public static async Task<CustodyAct?> GoneAsync(YardDb db, SwapRow swap, CancellationToken cancel) => swap.OldTag is { } tag
        ? await db.OldComputers.AsNoTracking()
            .Where(c => c.Refresh == swap.Refresh && c.Tag == tag)
            .Select(c => c.End)
            .FirstOrDefaultAsync(cancel)
        : null;

    /// <param name="gone">How the old computer left; null: it is there.</param>
    public static DetourFacts FactsOf(SwapRow s, bool signed, CustodyAct? gone) =>
        new(
            s.Name, s.Start, SwapFacts.IsOver(s), s.CalledOffAt is not null, s.SwappedAt is not null, s.RestoredAt is not null, signed,
            SwapFacts.HasParcel(s), s.OldTag, s.NewTag, s.OldDiedAt is not null, gone);
}
