using YardRelay.Core.Custody;
using YardRelay.Core.Detours;

namespace YardRelay.Contracts;

/// <summary>Says that something of a swap goes otherwise than planned.</summary>
/// <param name="Kind">What happened.</param>
/// <param name="Reason">What there is to say about it; needed where a person is gone, a computer is dead or a swap is called off, and
/// of missed files: which.</param>
/// <param name="Minutes">Of a late person: how late, at least.</param>
/// <param name="Tag">Of another new computer: its asset tag. Of a dead one, or a missing old one: the spare that takes its place; null: one
/// is chosen where it is needed.</param>
/// <param name="Exchange">The computer that was delivered is meant for another swap: each gets the other's.</param>
/// <param name="Soonest">Of a person who was not there, or has no computer any more: the first other time that fits is promised at once;
/// else the next plan finds one.</param>
/// <param name="Receiver">Of a person who is gone: key of the person who receives the files. Null: the swap is called off.</param>
/// <param name="DryRun">Only says what would become of it.</param>
public sealed record DetourTold(
    DetourKind Kind, string? Reason = null, int? Minutes = null, string? Tag = null, bool? Exchange = null, bool? Soonest = null,
    string? Receiver = null, bool? DryRun = null)
{
    /// <summary>Of a computer that is missing: where it was last; of one that was found: where it is now.</summary>
    public string? Where { get; init; }

    /// <summary>Of a computer that is missing: whether a stranger can read its disk; null: nobody knows.</summary>
    public DiskSecrecy? Disk { get; init; }

    /// <summary>Of a person who wants all of it later: the first day that suits them.</summary>
    public DateOnly? From { get; init; }

    /// <summary>Of somebody else who came: the swap that is theirs.</summary>
    public string? Other { get; init; }
}

/// <summary>Something went otherwise than planned.</summary>
public sealed record DetourSeen(DetourKind Kind, string Words, string By, DateTimeOffset At);

/// <summary>What became of a swap.</summary>
/// <param name="Done">False: only looked.</param>
/// <param name="Words">What happened, in a sentence.</param>
/// <param name="Lines">What follows, each in a sentence.</param>
public sealed record DetourTaken(string Swap, string Name, DetourKind Kind, bool Done, string Words, IReadOnlyList<string> Lines);

/// <summary>A new computer that no swap has.</summary>
/// <param name="Key">Its asset tag.</param>
/// <param name="Trouble">Why it cannot be given out; null: it can.</param>
public sealed record SpareSeen(string Key, string? Model, string Site, string? Trouble);

/// <summary>Makes or changes a spare computer.</summary>
public sealed record SpareWanted(string Site, string? Model = null, string? Trouble = null);
