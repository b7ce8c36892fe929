namespace YardRelay.Core.Carrying.Sources;

/// <summary>What a person said of a source that did not look like the one before.</summary>
public enum SourceVerdict
{
    /// <summary>It is the same; it moved, was copied, or an earlier state was put back.</summary>
    Same,

    /// <summary>What is gone was deleted by whoever owns it.</summary>
    Deleted,
}

/// <summary>A named person's answer to a doubt. It removes nothing from a parcel, and holds for what they saw and no more.</summary>
/// <param name="Unlike">How many files were not as before when they said so.</param>
/// <param name="By">Who.</param>
/// <param name="Because">Their reason.</param>
public sealed record SourceAnswer(SourceVerdict Verdict, long Unlike, string By, string Because)
{
    /// <summary>Whether it answers this doubt: what is gone is deleted or not, and is no more than they saw.</summary>
    public bool Settles(SourceDoubt doubt) => doubt.Unlike <= Unlike && Answers(Verdict, doubt.Kind);

    /// <summary>Whether that is an answer at all: of what is gone altogether, only that it was deleted.</summary>
    public static bool Answers(SourceVerdict verdict, DoubtKind doubt) =>
        verdict == SourceVerdict.Deleted || doubt is DoubtKind.OtherFiles or DoubtKind.WentBack;
}
