using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Parcels;

/// <summary>How long a swap's parcel is kept, from the records.</summary>
internal static class HoldReader
{
    /// <summary>Cause of follow-ups about files that somebody misses: their parcel is kept while one is open.</summary>
    public const string Missed = "missed";

    public static async Task<HoldSeen> ReadAsync(YardDb db, SwapRow swap, DateOnly today, CancellationToken cancel)
    {
        var depot = await db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel);
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == swap.Refresh, cancel);
        var signed = await db.SignOffs.AsNoTracking().Where(s => s.Swap == swap.Id).Select(s => new { s.Part, s.At }).ToListAsync(cancel);
        var account = SwapFacts.Account(
            await db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).ToListAsync(cancel),
            await db.Snags.AsNoTracking().Where(n => n.Swap == swap.Id).ToListAsync(cancel));
        // What is called off is signed by nobody: its parcel is held from then on.
        var ended = swap.CalledOffAt ?? (signed.Count == 0 ? null : signed.Max(s => (DateTimeOffset?)s.At));
        var hold = Hold.Of(
            today,
            ended is { } at ? new RefreshClock(refresh).DayOf(at) : null,
            depot?.HoldDays ?? 14,
            swap.CalledOffAt is not null || signed.Exists(s => s.Part == SignOffPart.Technician),
            swap.Kind.Restores() && swap.RestoredAt is null && swap.CalledOffAt is null,
            account.Sum(f => f.Open.Files + Math.Abs(f.Unexplained)),
            swap.PurgedAt is null && SwapFacts.HasParcel(swap) ? depot?.EndsOn : null);
        var missing = SwapFacts.CanBeginAnew(swap) ? [] : hold.Missing.ToList();
        if (swap.Kind == SwapKind.Leave && swap.Trips > 0 && swap.ReceiverAcceptedAt is null)
            missing.Insert(0, "The person who receives it has not accepted it.");
        if (await db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.RescuedFrom == swap.Id && s.Id != swap.Id && s.PurgedAt == null)
            .Select(s => s.Id)
            .FirstOrDefaultAsync(cancel) is { } rescue)
            missing.Insert(0, $"It serves the rescue {rescue}; purge it there.");
        if (swap.PurgedAt is null
            && await db.FollowUps.AsNoTracking().AnyAsync(f => f.Swap == swap.Id && f.Cause == Missed && f.DoneAt == null, cancel))
            missing.Insert(0, $"{swap.Name} misses files; a follow-up about it is open.");
        return new(hold.Until, swap.PurgedAt is null ? missing : [], depot?.EndsOn, hold.Alarm, swap.PurgedAt);
    }
}
