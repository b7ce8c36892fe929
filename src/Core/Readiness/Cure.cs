using YardRelay.Core.Ids;

namespace YardRelay.Core.Readiness;

/// <summary>What somebody can do about a lack.</summary>
public enum CureKind
{
    /// <summary>Say that the person was told.</summary>
    Told,

    /// <summary>Pass the visit to another technician.</summary>
    HandOver,

    /// <summary>Give a spare in place of the new computer.</summary>
    Give,

    /// <summary>Find another time.</summary>
    AnotherTime,

    /// <summary>Look at the swap and decide there.</summary>
    Decide,

    /// <summary>Let the hand look at the old computer.</summary>
    Survey,

    /// <summary>Let the hand make its first trip.</summary>
    Trip,

    /// <summary>Make a code, to enrol a hand.</summary>
    Code,

    /// <summary>See to the depots.</summary>
    Depot,
}

/// <summary>One cure: what its button says, and the command that does the same.</summary>
/// <param name="Of">What it is about, where that is not only the swap: a tag, or the key of a step.</param>
public sealed record Cure(CureKind Kind, string Words, string Command, string? Of = null)
{
    /// <summary>The cures of a lack, the best first.</summary>
    public static IReadOnlyList<Cure> For(Lack lack, SwapId swap) => lack switch
    {
        Lack.NoTime => [new(CureKind.AnotherTime, "See why", $"yardline plan why {swap}")],
        Lack.NotDelivered { Spare: { } spare } =>
            [Give(swap, spare), Anew],
        Lack.NotDelivered => [Anew],
        Lack.NoNewComputer { Spare: { } spare } => [Give(swap, spare)],
        Lack.NotTold { Step: { } step } => [new(CureKind.Told, "I told them", $"yardline step set {swap} {step}", step)],
        Lack.NotTold or Lack.SilentHand or Lack.NoNewComputer or Lack.Failed or Lack.FilesOpen or Lack.StepsOpen or Lack.NoAnswer =>
            [new(CureKind.Decide, "Open swap", $"yardline swap show {swap}")],
        Lack.TechnicianAway => [new(CureKind.HandOver, "Hand over", $"yardline swap hand-over {swap} --to KEY --note TEXT --dry-run")],
        Lack.NoHand { Tag: var tag } => [new(CureKind.Code, "Make a code", $"yardline hand code {tag}", tag)],
        Lack.NoDepot or Lack.DepotFull => [new(CureKind.Depot, "See depots", "yardline depot list")],
        Lack.NotStaged { IsSurveyed: true } => [new(CureKind.Trip, "Stage now", $"yardline swap order first-trip {swap}")],
        Lack.NotStaged => [new(CureKind.Survey, "Survey now", $"yardline swap order survey {swap}")],
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    private static readonly Cure Anew = new(CureKind.AnotherTime, "Another time", "yardline plan make");

    private static Cure Give(SwapId swap, string spare) =>
        new(CureKind.Give, $"Give {spare}", $"yardline detour wrong {swap} {spare}", spare);
}
