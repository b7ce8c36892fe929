using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Custody;

/// <summary>A wipe is refused; everything that is missing is said at once.</summary>
public sealed record WipeShut(string Tag, IReadOnlyList<string> Missing)
    : Problem("computer.wipe-shut", $"{Tag} must not be wiped: {string.Join(' ', Missing)}");

/// <summary>What is known of a swap whose old computer is to be wiped.</summary>
/// <param name="Staged">All files are in the depot, verified as a whole.</param>
/// <param name="SecondProof">Verified in a second way since the last trip: a part of it was restored, or a second copy was read.</param>
/// <param name="Unexplained">Files neither carried nor waived.</param>
/// <param name="Restored">All files are on the new computer, or a named person decided that none are.</param>
/// <param name="HandedOver">Of a leave: who receives the parcel has accepted it.</param>
/// <param name="Accepted">The person has looked and is content.</param>
/// <param name="Signed">Day of the last sign-off by technician or person, in the refresh's zone; null: not signed by its
/// technician.</param>
/// <param name="ClosingOpen">Its checklist asks for a closing trip, and none is made.</param>
/// <param name="LookedLast">Since the last trip, and lately, it was looked at and found as that trip left it.</param>
/// <param name="Seconded">Since the last trip, the parcel was verified by the service, or verified or restored whole by a hand at another
/// computer than the one that it came from.</param>
/// <param name="Missing">Lost or stolen; null: it is there.</param>
/// <param name="OpenHandIn">Titles of hand-in steps that are open and come before the one that hands the computer in.</param>
public sealed record WipeFacts(
    SwapKind Kind, bool Staged, bool SecondProof, int OpenSnags, long Unexplained, bool Restored, bool HandedOver, bool Accepted,
    DateOnly? Signed,
    IReadOnlyList<string> OpenHandIn, IReadOnlyList<OpenFollowUp> FollowUps, bool ClosingOpen = false,
    bool LookedLast = false, bool Seconded = false, CustodyAct? Missing = null);

/// <summary>The gate before an old computer is wiped, from facts.</summary>
public static class WipeRule
{
    /// <summary>How long a last look counts: whoever works on goes on changing files.</summary>
    public static readonly TimeSpan LookCounts = TimeSpan.FromHours(12);

    /// <summary>First day on which it may be wiped; null: not known before it is signed, or it need not be held.</summary>
    public static DateOnly? From(WipeFacts facts, int holdDays) => facts.Kind == SwapKind.Reimage ? null : facts.Signed?.AddDays(holdDays);

    /// <summary>
    /// Whether all that is known of what was carried comes from the computer that is to be wiped: then whoever wipes it says so.
    /// </summary>
    public static bool IsAlone(WipeFacts facts) => facts.Kind.Stages() && facts.Staged && !facts.Seconded;

    /// <summary>What is missing before it may be wiped; empty: it may.</summary>
    /// <param name="today">The day in the refresh's zone.</param>
    /// <param name="holdDays">How many days the refresh holds old computers after the last sign-off.</param>
    public static IReadOnlyList<string> Missing(WipeFacts facts, DateOnly today, int holdDays) =>
        facts.Missing is { } how
            ? [$"It is {how.ToString().ToLowerInvariant()}: nobody has it to wipe it."]
            : MissingOf(facts, today, holdDays);

    private static List<string> MissingOf(WipeFacts facts, DateOnly today, int holdDays)
    {
        var missing = new List<string>();
        switch (facts.Kind)
        {
            case SwapKind.Second:
                return ["The old computer stays in use beside the new one."];
            case SwapKind.Issue:
                return ["This swap has no old computer."];
            case SwapKind.Reimage:
                // The same disk is set up afresh: what is in the depot is then the only copy.
                if (!facts.Staged) missing.Add("Its files are not staged and verified as a whole.");
                if (facts.ClosingOpen) missing.Add("Its closing trip is not made: what changed since the last one is only there.");
                if (!facts.LookedLast)
                    missing.Add(
                        $"Nobody has looked in the last {LookCounts.TotalHours:0} hours whether it still is what its last trip left. Order "
                            + "the last look.");
                if (!facts.SecondProof)
                    missing.Add(
                        "Its parcel is verified in one way only. Restore a part of it somewhere, or read a second copy, since its last "
                            + "trip.");
                break;
            default:
                if (facts.Kind.Stages() && !facts.Staged) missing.Add("Its files are not staged and verified.");
                if (facts.Kind.Restores() && !facts.Restored) missing.Add("Its files are not on the new computer yet.");
                if (facts.Kind == SwapKind.Leave && !facts.HandedOver)
                    missing.Add("The person who receives its parcel has not accepted it.");
                if (facts.Kind != SwapKind.Leave && !facts.Accepted) missing.Add("The person has not accepted.");
                if (facts.OpenHandIn.Count > 0)
                    missing.Add(
                        $"{(facts.OpenHandIn.Count == 1 ? "A step of the hand-in is" : "Steps of the hand-in are")} open: "
                            + $"{string.Join("; ", facts.OpenHandIn)}.");
                if (facts.Signed is null) missing.Add("The swap is not signed off by its technician.");
                else if (From(facts, holdDays) is { } from && today < from)
                    missing.Add($"It is held until {from:yyyy-MM-dd}, {holdDays} days from the last sign-off.");
                break;
        }
        if (facts.Unexplained > 0)
            missing.Add($"{(facts.Unexplained == 1 ? "1 file is" : $"{facts.Unexplained:#,0} files are")} neither carried nor waived.");
        if (facts.OpenSnags > 0) missing.Add($"{(facts.OpenSnags == 1 ? "1 snag is" : $"{facts.OpenSnags} snags are")} open.");
        missing.AddRange(FollowUpRule.MissingForWipe(facts.FollowUps));
        return missing;
    }
}
