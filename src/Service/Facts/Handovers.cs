using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>What was passed on between technicians, the newest first.</summary>
internal static class Handovers
{
    /// <summary>The newest handover of a swap; null: none.</summary>
    public static async Task<HandoverSeen?> NewestAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        if (await db.Handovers.AsNoTracking()
            .Where(h => h.Swap == swap.Id)
            .OrderByDescending(h => h.At)
            .ThenByDescending(h => h.Id)
            .FirstOrDefaultAsync(cancel) is not { } row)
            return null;
        var names = await db.Technicians.AsNoTracking()
            .Where(t => t.Refresh == swap.Refresh && (t.Key == row.From || t.Key == row.To))
            .ToDictionaryAsync(t => t.Key, t => t.Name, cancel);
        return new(
            swap.Id,
            swap.Name,
            names.GetValueOrDefault(row.From, row.From),
            names.GetValueOrDefault(row.To, row.To),
            row.Note,
            row.By,
            row.At,
            []);
    }
}
