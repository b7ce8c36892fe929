namespace YardRelay.Core.Readiness;

/// <summary>What a visit lacks to take place as it is booked. Each kind has just what its sentence needs.</summary>
public abstract record Lack
{
    private Lack()
    {
    }

    /// <summary>No plan has found a time.</summary>
    public sealed record NoTime(string Because) : Lack;

    /// <summary>The new computer is in a batch that comes after the visit has begun.</summary>
    /// <param name="Spare">Tag of one of the same model that is free at the site; null: there is none.</param>
    public sealed record NotDelivered(string Tag, string Delivery, DateTimeOffset Arrives, string? Spare) : Lack;

    /// <summary>Nobody has said which computer is the new one.</summary>
    /// <param name="Spare">Tag of a free one at the site; null: there is none.</param>
    public sealed record NoNewComputer(string? Spare) : Lack;

    /// <summary>Something failed, and nothing has made it good.</summary>
    public sealed record Failed(string What) : Lack;

    /// <summary>The technician is away then.</summary>
    public sealed record TechnicianAway(string Technician) : Lack;

    /// <summary>The person does not know their time, and no mail will tell them before.</summary>
    /// <param name="Why">Why no mail does.</param>
    /// <param name="Mail">Their address, for whoever tells them; null: nobody knows it.</param>
    /// <param name="Step">Key of the step that says they were told; null: their checklist has none.</param>
    public sealed record NotTold(string Why, string? Mail, string? Step) : Lack;

    /// <summary>The person has not done what they were asked to.</summary>
    /// <param name="Open">How many steps of theirs are open, at least 1.</param>
    /// <param name="First">The first of them.</param>
    public sealed record NoAnswer(int Open, string First) : Lack;

    /// <summary>Nobody could carry: no hand is enrolled at the old computer.</summary>
    public sealed record NoHand(string Tag) : Lack;

    /// <summary>The hand at the old computer was not heard of for long.</summary>
    /// <param name="HeardAt">When it last was; null: not since it enrolled.</param>
    public sealed record SilentHand(string Tag, DateTimeOffset? HeardAt) : Lack;

    /// <summary>There is no place to stage in.</summary>
    public sealed record NoDepot : Lack;

    /// <summary>What was promised to the depot does not fit.</summary>
    public sealed record DepotFull(string Depot) : Lack;

    /// <summary>Nothing was staged yet.</summary>
    /// <param name="IsSurveyed">Whether it is known what there is.</param>
    public sealed record NotStaged(bool IsSurveyed) : Lack;

    /// <summary>Files wait for a decision.</summary>
    /// <param name="Open">How many snags, at least 1.</param>
    public sealed record FilesOpen(int Open) : Lack;

    /// <summary>Steps that come before the visit are open, and no bench preparation is planned in which they would be done.</summary>
    /// <param name="Open">How many, at least 1.</param>
    /// <param name="First">The first of them.</param>
    public sealed record StepsOpen(int Open, string First) : Lack;

    /// <summary>Whether the visit cannot take place as it is booked, whatever is done until then.</summary>
    public bool IsFinal => this is NoTime or NotDelivered;

    /// <summary>Whether it stands in nobody's way yet: people answer late, and steps are done when the technician is there.</summary>
    public bool IsMinor => this is NoAnswer or StepsOpen;

    /// <summary>How many things are open; null: it is one.</summary>
    public int? Count => this switch
    {
        NoAnswer lack => lack.Open,
        FilesOpen lack => lack.Open,
        StepsOpen lack => lack.Open,
        _ => null,
    };

    /// <summary>Name of the kind for programs, such as <c>not-told</c>.</summary>
    public string Kind => this switch
    {
        NoTime => "no-time",
        NotDelivered => "not-delivered",
        NoNewComputer => "no-new-computer",
        Failed => "failed",
        TechnicianAway => "technician-away",
        NotTold => "not-told",
        NoAnswer => "no-answer",
        NoHand => "no-hand",
        SilentHand => "silent-hand",
        NoDepot => "no-depot",
        DepotFull => "depot-full",
        NotStaged => "not-staged",
        FilesOpen => "files-open",
        StepsOpen => "steps-open",
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    /// <summary>In a sentence.</summary>
    /// <param name="clock">An instant as the clocks of the refresh show it, such as <c>Tue 1 Dec 12:00</c>.</param>
    public string Words(Func<DateTimeOffset, string> clock) => this switch
    {
        NoTime lack => $"No time was found. {lack.Because}",
        NotDelivered lack => $"{lack.Tag} is in {lack.Delivery}, which comes {clock(lack.Arrives)}."
            + (lack.Spare is null ? "" : $" {lack.Spare}, of the same model, is free at the site."),
        NoNewComputer lack => "Nobody has said which computer is the new one."
            + (lack.Spare is null ? "" : $" {lack.Spare} is free at the site."),
        Failed lack => $"{lack.What.TrimEnd('.')}.",
        TechnicianAway lack => $"{lack.Technician} is away then.",
        NotTold lack => $"Not told of this time: {lack.Why.TrimEnd('.')}.{(lack.Mail is null ? "" : $" {lack.Mail}.")}",
        NoAnswer lack => lack.Open == 1
            ? $"No answer yet: {lack.First}."
            : $"No answer yet to {lack.Open} questions, first: {lack.First}.",
        NoHand lack => $"No hand is enrolled at {lack.Tag}: nothing can be carried from it.",
        SilentHand lack => lack.HeardAt is { } heard
            ? $"The hand at {lack.Tag} was last heard {clock(heard)}: is the computer on?"
            : $"The hand at {lack.Tag} was never heard since it enrolled: is the computer on?",
        NoDepot => "There is no depot to stage in.",
        DepotFull lack => $"{lack.Depot} has no room for all that is promised to it.",
        NotStaged lack => lack.IsSurveyed ? "Nothing is staged yet." : "The old computer was not surveyed yet, and nothing is staged.",
        FilesOpen lack => lack.Open == 1 ? "1 snag waits for a decision." : $"{lack.Open} snags wait for a decision.",
        StepsOpen lack => lack.Open == 1
            ? $"1 step before the visit is open: {lack.First}."
            : $"{lack.Open} steps before the visit are open, first: {lack.First}.",
        _ => throw new System.Diagnostics.UnreachableException(),
    };
}
