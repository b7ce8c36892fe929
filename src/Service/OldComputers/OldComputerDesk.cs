using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.OldComputers;

/// <summary>What happens to an old computer, written down within a change.</summary>
internal static class OldComputerDesk
{
    /// <summary>Adds a move and brings the computer's row up to it.</summary>
    public static async Task<Problem?> AddAsync(Change w, SwapRow swap, CustodyMove move, CancellationToken cancel)
    {
        var (refresh, tag) = (w.Refresh.Key, swap.OldTag!);
        var row = await RowAsync(w, swap, cancel);
        var moves = await w.Db.Custody.AsNoTracking()
            .Where(c => c.Refresh == refresh && c.Tag == tag)
            .Select(c => new CustodyMove(c.Id, c.Act, c.Where, c.By, c.At, c.Recorded))
            .ToListAsync(cancel);
        // A late report is judged by what was then, not by what came after it.
        if (CustodyState.Of(moves.Where(m => m.At <= move.At)).Refuses(tag, move.Act, move.Where, row.WipeResult == "done") is { } refused)
            return ServiceProblem.AsConflict(refused);
        var now = CustodyState.Of([.. moves, move]);
        (row.Holder, row.Place, row.Pallet, row.End, row.EndedTo, row.MovedAt) =
            (now.Holder, now.Place, now.Pallet, now.End, now.EndedTo, now.Since);
        w.Db.Custody.Add(new()
        {
            Id = move.Id,
            Refresh = refresh,
            Tag = tag,
            Act = move.Act,
            Where = move.Where,
            By = move.By,
            At = move.At,
            Recorded = move.Recorded
        });
        w.Note(
            "computer.moved",
            swap.Id,
            $"{tag} of {swap.Name}: {Words(move)}"
                + $"{(move.Recorded - move.At > TimeSpan.FromMinutes(2)
                    ? $", at {new RefreshClock(w.Refresh).Local(move.At):ddd d MMM HH:mm}"
                    : "")}",
            new() { ["act"] = move.Act.ToString(), ["move"] = move.Id });
        return null;
    }

    private static string Words(CustodyMove move) => move.Act switch
    {
        CustodyAct.Taken => $"{move.Where} has it",
        CustodyAct.Placed => $"{move.By} put it to {move.Where}",
        CustodyAct.Loaded => $"{move.By} put it on pallet {move.Where}",
        CustodyAct.Unloaded => $"{move.By} took it off its pallet, to {move.Where}",
        CustodyAct.Lost or CustodyAct.Stolen => $"{move.Act.ToString().ToLowerInvariant()}; last at {move.Where}",
        CustodyAct.Found => $"found; it is at {move.Where}",
        _ => $"{move.Act.ToString().ToLowerInvariant()} to {move.Where}",
    };

    internal static async Task<OldComputerRow> RowAsync(Change w, SwapRow swap, CancellationToken cancel)
    {
        // Also one that this change has just made.
        var row = await w.Db.OldComputers.FindAsync([w.Refresh.Key, swap.OldTag!], cancel);
        if (row is null) w.Db.OldComputers.Add(row = new() { Refresh = w.Refresh.Key, Tag = swap.OldTag!, Swap = swap.Id });
        return row;
    }
}
