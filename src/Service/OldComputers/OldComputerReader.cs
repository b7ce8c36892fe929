using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Checklists;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;

namespace YardRelay.Service.OldComputers;

/// <summary>Old computers as people see them: where each is, and what stands in the way of its wipe.</summary>
internal sealed class OldComputerReader(YardDb db, TimeProvider time)
{
    /// <summary>The old computers of swaps, in the order of the swaps; those without one left out.</summary>
    public async Task<List<OldComputerSeen>> ReadAsync(IReadOnlyList<SwapRow> swaps, CancellationToken cancel)
    {
        swaps = [.. swaps.Where(s => s.OldTag is not null)];
        var (ids, tags, refreshes) = (
            swaps.Select(s => s.Id).ToList(), swaps.Select(s => s.OldTag).ToList(), swaps.Select(s => s.Refresh).Distinct().ToList());
        var computers = (await db.OldComputers.AsNoTracking()
            .Where(c => refreshes.Contains(c.Refresh) && tags.Contains(c.Tag))
            .ToListAsync(cancel))
            .ToDictionary(c => (c.Refresh, c.Tag));
        var rows = (await db.Refreshes.AsNoTracking().Where(r => refreshes.Contains(r.Key)).ToListAsync(cancel)).ToDictionary(r => r.Key);
        var snags = (await db.Snags.AsNoTracking().Where(n => ids.Contains(n.Swap)).ToListAsync(cancel)).ToLookup(n => n.Swap);
        var folders = (await db.Folders.AsNoTracking().Where(f => ids.Contains(f.Swap)).ToListAsync(cancel)).ToLookup(f => f.Swap);
        var signed = (await db.SignOffs.AsNoTracking()
            .Where(s => ids.Contains(s.Swap))
            .Select(s => new { s.Swap, s.Part, s.At })
            .ToListAsync(cancel))
            .ToLookup(s => s.Swap);
        var follow = (await db.FollowUps.AsNoTracking().Where(f => ids.Contains(f.Swap) && f.DoneAt == null).ToListAsync(cancel))
            .ToLookup(f => f.Swap);
        var done = await DoneAsync(ids, cancel);
        var lately = time.GetUtcNow() - WipeRule.LookCounts;
        var seen = new List<OldComputerSeen>();
        foreach (var swap in swaps)
        {
            var (refresh, computer) = (rows[swap.Refresh], computers.GetValueOrDefault((swap.Refresh, swap.OldTag!)));
            var clock = new RefreshClock(refresh);
            var account = SwapFacts.Account([.. folders[swap.Id]], [.. snags[swap.Id]]);
            var asks = swap.Kind.HandsIn() || swap.Kind == SwapKind.Reimage;
            var steps = asks && computer?.WipedAt is null ? (await ChecklistFacts.ReadAsync(db, swap, cancel)).Steps : [];
            var facts = new WipeFacts(
                swap.Kind,
                SwapFacts.IsStaged(swap, account, [.. snags[swap.Id]]),
                swap.CopiedAt > swap.TripAt || done[swap.Id].Any(o => o.Kind == OrderNames.PartRestore && o.EndedAt >= swap.TripAt),
                snags[swap.Id].Count(n => n.End == "open"),
                account.Sum(f => Math.Abs(f.Unexplained)),
                swap.RestoredAt is not null, swap.ReceiverAcceptedAt is not null, swap.AcceptedAt is not null,
                signed[swap.Id].Any(s => s.Part == SignOffPart.Technician) ? clock.DayOf(signed[swap.Id].Max(s => s.At)) : null,
                [.. steps.Where(s =>
                    s.Step.Phase == Phase.HandIn && s.State.IsOpen && s.Step.Marks is null && s.Step.Work is not StepWork.Automatic)
                    .Select(s => s.Step.Title)],
                [.. follow[swap.Id].Select(f => new OpenFollowUp(f.Words, f.Owner, f.Due, f.Holds))],
                steps.Any(s => s.IsOpenClosing),
                done[swap.Id].Any(o => o.Kind == OrderNames.LastLook && o.EndedAt >= swap.TripAt && o.EndedAt >= lately),
                done[swap.Id].Any(o => IsSecond(o, swap)),
                computer?.End is { } end && end.IsMissing() ? end : null);
            seen.Add(Seen(swap, computer, facts, clock, refresh.OldHoldDays));
        }
        return seen;
    }

    private sealed record Over(string Swap, string Kind, string Tag, DateTimeOffset? EndedAt);

    /// <summary>What was done that proves something of a parcel.</summary>
    private async Task<ILookup<string, Over>> DoneAsync(List<string> swaps, CancellationToken cancel)
    {
        string[] kinds = [OrderNames.PartRestore, OrderNames.LastLook, OrderNames.Verify, OrderNames.Restore];
        return (await db.Orders.AsNoTracking()
            .Where(o => swaps.Contains(o.Swap) && kinds.Contains(o.Kind) && o.State == OrderStates.Done)
            .Select(o => new Over(o.Swap, o.Kind, o.Tag, o.EndedAt))
            .ToListAsync(cancel))
            .ToLookup(o => o.Swap);
    }

    /// <summary>Whether it proves, since the last trip and elsewhere than where the files came from, that all of them are there.</summary>
    private static bool IsSecond(Over over, SwapRow swap) =>
        over.EndedAt >= swap.TripAt
        && over.Tag != swap.OldTag
        && (over.Kind == OrderNames.Verify ? swap.VerifiedWhole : over.Kind == OrderNames.Restore && swap.RestoreWhole);

    private OldComputerSeen Seen(SwapRow swap, OldComputerRow? computer, WipeFacts facts, RefreshClock clock, int holdDays)
    {
        var wiped = computer?.WipeResult == "done";
        var missing = wiped ? [] : WipeRule.Missing(facts, clock.DayOf(time.GetUtcNow()), holdDays);
        var state = facts.Missing is not null
            ? "missing"
            : computer?.End is not null
            ? "gone"
            : wiped
            ? "wiped"
            : computer?.WipeResult == "failed"
            ? "wipe-failed"
            : swap.SwappedAt is null && computer?.MovedAt is null && swap.AcceptedAt is null
            ? "in-use"
            : missing.Count == 0
            ? "may-be-wiped"
            : "held";
        var words = computer switch
        {
            { End: CustodyAct.Lost or CustodyAct.Stolen } => $"{computer.End}; last at {computer.EndedTo}",
            { End: { } end } => $"{end} to {computer.EndedTo}{(computer.Pallet is { } with ? $" with pallet {with}" : "")}",
            { Holder: { } holder } => $"In the hands of {holder}",
            { Pallet: { } pallet } => $"On pallet {pallet}{(computer.Place is { } at ? $", {at}" : "")}",
            { Place: { } place } => place,
            _ when swap.HandedInAt is not null => "Taken in; nobody has said where it stands",
            _ => swap.Kind == SwapKind.Rescue ? "Lost or broken" : $"With {swap.Name}{(swap.Room is { } room ? $", {room}" : "")}",
        };
        return new(
            swap.OldTag!, swap.OldModel, swap.Id, swap.Name, swap.Site, swap.Kind, state, words, computer?.Holder, computer?.Place,
            computer?.Pallet, computer?.MovedAt,
            wiped ? null : WipeRule.From(facts, holdDays), missing,
            computer is { WipeMethod: { } method, WipedAt: { } wipedAt }
                ? new(method, computer.WipeResult!, computer.WipeEvidence!, computer.WipedBy!, wipedAt)
                : null,
            computer?.End,
            computer?.EndedTo,
            !wiped && WipeRule.IsAlone(facts));
    }

    /// <summary>One old computer with its moves; null: no swap of the refresh has it.</summary>
    public async Task<OldComputerHistory?> GetAsync(string refresh, string tag, CancellationToken cancel)
    {
        if (await SwapOfAsync(db, refresh, tag, cancel) is not { } swap) return null;
        var moves = await db.Custody.AsNoTracking()
            .Where(c => c.Refresh == refresh && c.Tag == swap.OldTag)
            .OrderByDescending(c => c.At)
            .ThenByDescending(c => c.Recorded)
            .Take(200)
            .Select(c => new CustodySeen(c.Id, c.Act, c.Where, c.By, c.At, c.Recorded))
            .ToListAsync(cancel);
        return new((await ReadAsync([swap], cancel))[0], moves);
    }

    /// <summary>The swap whose old computer has the tag, however its letters are written.</summary>
    public static async Task<SwapRow?> SwapOfAsync(YardDb db, string refresh, string tag, CancellationToken cancel)
    {
        var (trimmed, upper) = (tag.Trim(), tag.Trim().ToUpperInvariant());
        return await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && (s.OldTag == trimmed || s.OldTag == upper))
            .OrderBy(s => s.Id)
            .FirstOrDefaultAsync(cancel);
    }
}
