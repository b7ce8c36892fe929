using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.SignOffs;

/// <summary>Which part of a swap is signed.</summary>
public enum SignOffPart
{
    /// <summary>The technician: everything up to the person's acceptance is done.</summary>
    Technician,

    /// <summary>The person: their files and programs are there.</summary>
    Person,

    /// <summary>The coordinator: the swap is over, the old computer too.</summary>
    Coordinator,
}

/// <summary>A sign-off is refused; everything that is missing is said at once.</summary>
public sealed record SignOffShut(string Swap, IReadOnlyList<string> Missing)
    : Problem("swap.sign-off-shut", $"Swap {Swap} cannot be signed off: {string.Join(' ', Missing)}");

/// <summary>The gate before a sign-off, from facts.</summary>
public static class SignOffRule
{
    /// <summary>What is missing before a part can be signed; empty: it can.</summary>
    /// <param name="openSnags">Snags neither retried nor waived.</param>
    /// <param name="isHandedOver">Of a leave: the person who receives the parcel has accepted it.</param>
    /// <param name="signed">Parts signed so far.</param>
    /// <param name="followUps">Follow-ups that are open.</param>
    public static IReadOnlyList<string> Missing(
        SignOffPart part, SwapKind kind, IReadOnlyList<StepNow> steps, IReadOnlyCollection<FolderAccount> account, int openSnags,
        bool isStaged, bool isRestored, bool isHandedOver, IReadOnlyCollection<SignOffPart> signed,
        IReadOnlyCollection<OpenFollowUp> followUps)
    {
        var missing = new List<string>();
        if (kind.Stages() && !isStaged) missing.Add("The files are not staged and verified. Run a trip, then verify.");
        if (kind.Restores() && !isRestored)
            missing.Add(
                "The files are not restored and verified on the new computer. Restore them, or decide with a reason that nothing is "
                    + "restored.");
        if (kind == SwapKind.Leave && !isHandedOver)
            missing.Add("Nobody has accepted the parcel. Name the person who receives it, and have it accepted.");
        var unexplained = account.Sum(f => f.Unexplained);
        if (unexplained > 0)
            missing.Add(
                $"{(unexplained == 1 ? "1 file is" : $"{unexplained:#,0} files are")} neither carried nor waived. Run another trip, or "
                    + $"waive each snag with a reason.");
        if (openSnags > 0) missing.Add($"{(openSnags == 1 ? "1 snag is" : $"{openSnags} snags are")} open. Retry or waive each.");
        missing.AddRange(FollowUpRule.MissingForSignOff(followUps));
        if (part != SignOffPart.Person && steps.Any(s => s.IsOpenClosing))
            missing.Add("The closing trip is not made: what changed since the last one is nowhere else.");
        // What a person signs for is what they see; the technician's own steps are the technician's.
        var needed = steps.Where(s =>
            part != SignOffPart.Person
                && (part == SignOffPart.Coordinator || s.Step.Phase != Phase.HandIn)
                && s.State.IsOpen
                && s.Step.Work is not StepWork.Automatic).ToList();
        if (needed.Count > 0)
            missing.Add(
                $"{(needed.Count == 1 ? "1 step is" : $"{needed.Count} steps are")} open: "
                    + $"{string.Join("; ", needed.Take(6).Select(s => s.Step.Title))}{(needed.Count > 6 ? "; …" : "")}.");
        if (part == SignOffPart.Coordinator && !signed.Contains(SignOffPart.Technician)) missing.Add("The technician has not signed off.");
        return missing;
    }
}
