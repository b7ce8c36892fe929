namespace YardRelay.Core.Custody;

/// <summary>What happened to an old computer.</summary>
public enum CustodyAct
{
    /// <summary>Somebody took it in hand.</summary>
    Taken,

    /// <summary>It was put somewhere.</summary>
    Placed,

    /// <summary>It was put on a pallet.</summary>
    Loaded,

    /// <summary>It was taken off its pallet.</summary>
    Unloaded,

    /// <summary>It went back to where it was leased or bought.</summary>
    Returned,

    /// <summary>It was given away.</summary>
    Donated,

    /// <summary>It was scrapped.</summary>
    Disposed,

    /// <summary>Nobody knows where it is.</summary>
    Lost,

    /// <summary>Somebody took it who had no right to.</summary>
    Stolen,

    /// <summary>It was lost or stolen, and is here again.</summary>
    Found,
}

/// <summary>What custody acts are.</summary>
public static class CustodyActs
{
    /// <summary>Whether the computer leaves for good, because somebody let it go.</summary>
    public static bool IsEnd(this CustodyAct act) => act is CustodyAct.Returned or CustodyAct.Donated or CustodyAct.Disposed;

    /// <summary>Whether nobody of ours has it, and nobody let it go.</summary>
    public static bool IsMissing(this CustodyAct act) => act is CustodyAct.Lost or CustodyAct.Stolen;
}

/// <summary>One move of an old computer from hand to hand.</summary>
/// <param name="Where">Of a place: its name; of a pallet: its name; of an end: to whom it goes; of a taking: who has it now; of one that
/// is missing: where it was last; of one that was found: where it is.</param>
/// <param name="At">When it happened, as whoever reports it says.</param>
/// <param name="Recorded">When it was told.</param>
public sealed record CustodyMove(string Id, CustodyAct Act, string Where, string By, DateTimeOffset At, DateTimeOffset Recorded);

/// <summary>Where an old computer is, from its moves.</summary>
/// <param name="Holder">Who has it in hand; null: it lies somewhere.</param>
/// <param name="Place">Where it lies, or lay last.</param>
/// <param name="Pallet">The pallet it is on; null: none.</param>
/// <param name="End">How it left, for good or because it is missing; null: it is there.</param>
/// <param name="EndedTo">To whom; of one that is missing: where it was last.</param>
/// <param name="Since">When the last move happened; null: it was never moved.</param>
public sealed record CustodyState(string? Holder, string? Place, string? Pallet, CustodyAct? End, string? EndedTo, DateTimeOffset? Since)
{
    /// <summary>Nobody has moved it yet.</summary>
    public static readonly CustodyState Start = new(null, null, null, null, null, null);

    /// <summary>The state after all moves, in the order in which they happened; late and repeated reports come out the same.</summary>
    public static CustodyState Of(IEnumerable<CustodyMove> moves) =>
        moves.DistinctBy(m => m.Id)
            .OrderBy(m => m.At)
            .ThenBy(m => m.Recorded)
            .ThenBy(m => m.Id, StringComparer.Ordinal)
            .Aggregate(Start, (state, move) => state.After(move));

    /// <summary>The state after one more move.</summary>
    public CustodyState After(CustodyMove move) => move.Act switch
    {
        CustodyAct.Taken => this with { Holder = move.Where, Pallet = null, Since = move.At },
        CustodyAct.Placed => this with { Holder = null, Place = move.Where, Pallet = null, Since = move.At },
        CustodyAct.Loaded => this with { Holder = null, Pallet = move.Where, Since = move.At },
        CustodyAct.Unloaded => this with { Pallet = null, Place = move.Where, Since = move.At },
        CustodyAct.Found => new(null, move.Where, null, null, null, move.At),
        CustodyAct.Lost or CustodyAct.Stolen => new(null, null, null, move.Act, move.Where, move.At),
        _ => this with { Holder = null, Pallet = Pallet, End = move.Act, EndedTo = move.Where, Since = move.At },
    };

    /// <summary>Why a move cannot be; null: it can.</summary>
    /// <param name="isWiped">Whether the computer was wiped, with a good result.</param>
    public Problem? Refuses(string tag, CustodyAct act, string where, bool isWiped)
    {
        if (End is { } end && end.IsMissing() && act != CustodyAct.Found) return new CustodyMissingProblem(tag, end, EndedTo);
        if (act == CustodyAct.Found) return End is { } missing && missing.IsMissing() ? null : new CustodyNotMissingProblem(tag);
        if (End is { } gone)
            return new CustodyGoneProblem(tag, gone.ToString().ToLowerInvariant(), EndedTo);
        if (act == CustodyAct.Loaded && Pallet is { } pallet && pallet != where)
            return new CustodyPalletProblem(tag, pallet);
        if (act == CustodyAct.Unloaded && Pallet is null) return new CustodyNoPalletProblem(tag);
        return act.IsEnd() && !isWiped
            ? new CustodyNotWipedProblem(tag)
            : null;
    }
}
