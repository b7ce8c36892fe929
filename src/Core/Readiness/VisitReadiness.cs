using YardRelay.Core.Checklists;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Readiness;

/// <summary>How ready a visit is.</summary>
public enum ReadyState
{
    /// <summary>It cannot take place as it is booked.</summary>
    Cannot,

    /// <summary>Something is missing that can still be done.</summary>
    CanStill,

    /// <summary>Nothing is missing but what stands in nobody's way yet.</summary>
    Nearly,

    /// <summary>Nothing is missing.</summary>
    Ready,

    /// <summary>It has begun, or is over.</summary>
    Begun,
}

/// <summary>What is known of a visit's preparation.</summary>
/// <param name="Start">When it begins; null: it has no time.</param>
public sealed record VisitFacts(SwapKind Kind, DateTimeOffset? Start)
{
    /// <summary>The computer was swapped, or more.</summary>
    public bool IsBegun { get; init; }

    /// <summary>Why no plan found a time; null: one did, or none was made.</summary>
    public string? LeftOutBecause { get; init; }

    /// <summary>What failed and was not made good, in words; null: nothing.</summary>
    public string? Failure { get; init; }

    /// <summary>Why the person will not hear of their time; null: they know it, or a mail comes before.</summary>
    public string? UntoldBecause { get; init; }

    /// <summary>The person's mail address; null: nobody knows it.</summary>
    public string? Mail { get; init; }

    /// <summary>The technician's name where they are away then; null: they are there.</summary>
    public string? AwayTechnician { get; init; }

    /// <summary>Tag of the old computer; null: there is none, or its disk died.</summary>
    public string? OldTag { get; init; }

    /// <summary>Tag of the new computer; null: not named.</summary>
    public string? NewTag { get; init; }

    /// <summary>The batch that the new computer comes in; null: it is there.</summary>
    public Batch? Delivery { get; init; }

    /// <summary>Tag of a spare that could take the new computer's place; null: none.</summary>
    public string? Spare { get; init; }

    /// <summary>Whether a hand is enrolled at the old computer.</summary>
    public bool HasHand { get; init; }

    /// <summary>When that hand was last heard of; null: not since it enrolled.</summary>
    public DateTimeOffset? HandHeardAt { get; init; }

    /// <summary>Whether the old computer was surveyed.</summary>
    public bool IsSurveyed { get; init; }

    /// <summary>Whether something of it is staged, or is being staged.</summary>
    public bool IsStaging { get; init; }

    /// <summary>Whether there is a depot to stage in.</summary>
    public bool HasDepot { get; init; }

    /// <summary>Name of its depot where that is full; null: there is room, or nobody knows.</summary>
    public string? FullDepot { get; init; }

    /// <summary>Snags that nobody has ended.</summary>
    public int OpenSnags { get; init; }

    /// <summary>Whether a bench preparation of the new computer is still ahead and before the visit.</summary>
    public bool HasPreparationAhead { get; init; }

    /// <summary>Its checklist.</summary>
    public IReadOnlyList<StepNow> Steps { get; init; } = [];

    /// <summary>A batch of new computers.</summary>
    public sealed record Batch(string Name, DateTimeOffset Arrives);
}

/// <summary>How ready a visit is, and what is missing, the gravest first.</summary>
public sealed record VisitReadiness(ReadyState State, IReadOnlyList<Lack> Lacks)
{
    // A computer that is switched off over night is no news; one that was off for a whole day is.
    private static readonly TimeSpan SilentAfter = TimeSpan.FromHours(24);

    /// <summary>The readiness of a visit, from its facts.</summary>
    public static VisitReadiness Of(VisitFacts facts, DateTimeOffset now)
    {
        if (facts.IsBegun) return new(ReadyState.Begun, []);
        List<Lack> lacks = [.. OfBooking(facts), .. OfPeople(facts), .. OfComputers(facts), .. OfFiles(facts, now), .. OfSteps(facts)];
        return new(StateOf(lacks), [.. lacks.OrderBy(l => l.IsFinal ? 0 : l.IsMinor ? 2 : 1)]);
    }

    private static ReadyState StateOf(List<Lack> lacks) =>
        lacks.Exists(l => l.IsFinal) ? ReadyState.Cannot
            : lacks.Exists(l => !l.IsMinor) ? ReadyState.CanStill
            : lacks.Count > 0 ? ReadyState.Nearly
            : ReadyState.Ready;

    private static IEnumerable<Lack> OfBooking(VisitFacts f)
    {
        if (f.Start is null) yield return new Lack.NoTime(f.LeftOutBecause ?? "No plan was made since it came in.");
        if (f.Failure is { } words) yield return new Lack.Failed(words);
        if (f.AwayTechnician is { } away) yield return new Lack.TechnicianAway(away);
    }

    private static IEnumerable<Lack> OfPeople(VisitFacts f)
    {
        if (f.Start is null) yield break;
        if (f.UntoldBecause is { } why)
            yield return new Lack.NotTold(why, f.Mail, f.Steps.FirstOrDefault(s => s.Step.Marks == Station.Told)?.Step.Key);
        // Whoever does not know of it has not been asked yet.
        else if (Open(f, s => s.Step.IsByPerson) is { Count: > 0 } asked)
            yield return new Lack.NoAnswer(asked.Count, asked[0].Step.Title);
    }

    private static IEnumerable<Lack> OfComputers(VisitFacts f)
    {
        if (!f.Kind.NeedsNew()) yield break;
        if (f.NewTag is not { } tag) yield return new Lack.NoNewComputer(f.Spare);
        else if (f.Delivery is { } batch && f.Start is { } start && batch.Arrives > start)
            yield return new Lack.NotDelivered(tag, batch.Name, batch.Arrives, f.Spare);
    }

    private static IEnumerable<Lack> OfFiles(VisitFacts f, DateTimeOffset now)
    {
        if (f.OpenSnags > 0) yield return new Lack.FilesOpen(f.OpenSnags);
        if (!f.Kind.Stages() || f.OldTag is not { } tag || f.IsStaging) yield break;
        if (!f.HasDepot) yield return new Lack.NoDepot();
        else if (f.FullDepot is { } full) yield return new Lack.DepotFull(full);
        // Without a hand nothing else about its files is worth a word.
        if (!f.HasHand) yield return new Lack.NoHand(tag);
        else if (!(now - f.HandHeardAt < SilentAfter)) yield return new Lack.SilentHand(tag, f.HandHeardAt);
        else yield return new Lack.NotStaged(f.IsSurveyed);
    }

    private static IEnumerable<Lack> OfSteps(VisitFacts f)
    {
        if (!f.HasPreparationAhead
            && Open(f, s => !s.Step.IsByPerson && s.Step.Marks != Station.Told && s.Step.Work is not StepWork.Automatic)
                is { Count: > 0 } open)
            yield return new Lack.StepsOpen(open.Count, open[0].Step.Title);
    }

    private static List<StepNow> Open(VisitFacts f, Func<StepNow, bool> which) =>
        [.. f.Steps.Where(s => s.Step.Phase == Phase.Before && s.State.IsOpen && which(s))];
}
