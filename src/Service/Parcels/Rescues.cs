using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Parcels;

/// <summary>The parcels of lost computers, as rescues use them.</summary>
internal static class Rescues
{
    private const int Most = 50;

    /// <summary>What serves a rescue; null: nothing does, or the swap is none.</summary>
    public static async Task<RescueSeen?> ReadAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        if (swap.Kind != SwapKind.Rescue || !SwapFacts.HasParcel(swap)) return null;
        var from = swap.RescuedFrom is { } id && id != swap.Id
            // Wherever the lost computer was: whoever works on the rescue needs to know.
            ? await db.Swaps.IgnoreQueryFilters().AsNoTracking().FirstOrDefaultAsync(s => s.Id == id, cancel)
            : swap;
        var clock = new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == swap.Refresh, cancel));
        DateTimeOffset? tripAt = swap.TripAt is { } at ? clock.Local(at) : null;
        return from is null
            ? null
            : new(
                from.Id,
                from.Name,
                from.OldTag,
                swap.TripAt,
                SwapFacts.HasUnfinishedParcel(swap)
                    ? $"The first trip of {from.OldTag ?? "the lost computer"} broke off. What it had brought can be restored: nothing "
                        + "says how it must be, so it is named, to be looked at. What it had not brought is lost with the computer."
                    : $"The last good trip is of {tripAt:yyyy-MM-dd HH:mm}. What was made or changed at "
                        + $"{from.OldTag ?? "the lost computer"} after that is lost with it.");
    }

    /// <summary>Computers with something staged, those that were seen last first, found by tag, person or swap.</summary>
    /// <param name="own">Keys of the refreshes to look in; none: all.</param>
    public static async Task<List<LostComputer>> FindAsync(
        YardDb db, string find, IReadOnlyList<string> own, CancellationToken cancel)
    {
        var like = SearchPattern.Like(find);
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => (s.Trips > 0 || s.ParcelId != null)
                && s.RescuedFrom == null
                && (own.Count == 0 || own.Contains(s.Refresh))
                && (EF.Functions.Like(s.Name.ToLower(), like, "\\")
                    || EF.Functions.Like((s.OldTag ?? "").ToLower(), like, "\\")
                    || EF.Functions.Like(s.Person.ToLower(), like, "\\")
                    || EF.Functions.Like(s.Id.ToLower(), like, "\\")))
            .OrderByDescending(s => s.TripAt != null).ThenByDescending(s => s.TripAt).ThenBy(s => s.Id).Take(Most).ToListAsync(cancel);
        var ids = swaps.ConvertAll(s => s.Id);
        var heard = await db.Orders.AsNoTracking()
            .Where(o => ids.Contains(o.Swap) && o.HeardAt != null)
            .GroupBy(o => new { o.Swap, o.Tag })
            .Select(g => new { g.Key.Swap, g.Key.Tag, At = g.Max(o => o.HeardAt) })
            .ToListAsync(cancel);
        var staged = await db.Folders.AsNoTracking()
            .Where(f => ids.Contains(f.Swap))
            .GroupBy(f => f.Swap)
            .Select(g => new { g.Key, Files = g.Sum(f => f.DepotFiles), Bytes = g.Sum(f => f.DepotBytes) })
            .ToDictionaryAsync(g => g.Key, cancel);
        var snags = await db.Snags.AsNoTracking()
            .Where(n => ids.Contains(n.Swap) && n.Side == "old" && n.End == "open")
            .GroupBy(n => n.Swap)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        return [.. swaps.Select(s => new LostComputer(
            s.Id, s.Refresh, s.Name, s.OldTag, s.OldModel, s.Site, heard.Find(h => h.Swap == s.Id && h.Tag == s.OldTag)?.At ?? s.TripAt,
            s.TripAt,
            staged.TryGetValue(s.Id, out var amount) ? new Amount(amount.Files, amount.Bytes) : default,
            IsGood(s),
            snags.GetValueOrDefault(s.Id),
            Refusal(s)))
                .OrderByDescending(c => c.LastSeen)];
    }

    private static bool IsGood(SwapRow s) => s.VerifiedWhole && s.VerifiedAt >= s.TripAt;

    /// <summary>Why a parcel cannot serve; null: it can.</summary>
    public static string? Refusal(SwapRow s) =>
        s.PurgedAt is not null
            ? "its parcel is purged"
            : !SwapFacts.HasParcel(s) || s.Parcel is null
            ? "nothing of it was staged"
            : s.Trips > 0 && !IsGood(s)
            ? "its parcel was not found whole since its last trip; have it verified by the service first"
            : null;
}
