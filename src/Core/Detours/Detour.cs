using YardRelay.Core.Custody;

namespace YardRelay.Core.Detours;

/// <summary>What can go otherwise than planned on the day of a swap.</summary>
public enum DetourKind
{
    /// <summary>The person was not there at the time that was promised.</summary>
    NoShow,

    /// <summary>The person comes later that day.</summary>
    Late,

    /// <summary>The person does not come any more: has left, or is away beyond the refresh.</summary>
    PersonGone,

    /// <summary>Another new computer was delivered than the one that was planned.</summary>
    WrongComputer,

    /// <summary>The new computer does not work.</summary>
    DeadOnArrival,

    /// <summary>The old computer's disk died; what was carried before is what there is.</summary>
    OldDiskDied,

    /// <summary>The swap does not take place, or not to its end.</summary>
    CalledOff,

    /// <summary>A swap that was called off takes place after all.</summary>
    Resumed,

    /// <summary>The old computer was stolen.</summary>
    Stolen,

    /// <summary>The old computer was lost: nobody knows where it is.</summary>
    Lost,

    /// <summary>The old computer was lost or stolen, and is here again.</summary>
    Found,

    /// <summary>The person wants all of it later, and said so in time.</summary>
    Later,

    /// <summary>Somebody else came to the desk, who has an appointment of their own.</summary>
    WrongPerson,

    /// <summary>The person misses files after the swap.</summary>
    FilesMissed,
}

/// <summary>How a swap stands when something goes otherwise.</summary>
/// <param name="Start">Of its appointment; null: it has none.</param>
/// <param name="IsOver">Nothing of it is ahead.</param>
/// <param name="IsSigned">The technician has signed; what was done is frozen.</param>
/// <param name="HasParcel">A trip ended, or a first one has begun the parcel.</param>
/// <param name="OldGone">How the old computer left, for good or because it is missing; null: it is there.</param>
public sealed record DetourFacts(
    string Name, DateTimeOffset? Start, bool IsOver, bool IsCalledOff, bool IsSwapped, bool IsRestored, bool IsSigned, bool HasParcel,
    string? OldTag, string? NewTag, bool OldDied, CustodyAct? OldGone = null);

/// <summary>Which detour a swap can take as its facts stand.</summary>
public static class DetourRule
{
    /// <summary>Why it cannot be; null: it can.</summary>
    /// <param name="now">When it is said.</param>
    public static Problem? Refusal(DetourKind kind, DetourFacts facts, DateTimeOffset now)
    {
        if (OfComputer(kind, facts) is { } said) return said.Refused;
        if (facts.IsCalledOff != (kind == DetourKind.Resumed))
            return No(facts.IsCalledOff
                ? $"the swap of {facts.Name} is called off. Resume it first."
                : $"the swap of {facts.Name} is not called off.");
        if (facts.IsOver && kind is not DetourKind.Resumed) return No($"the swap of {facts.Name} is over.");
        return kind switch
        {
            DetourKind.NoShow or DetourKind.Late when facts.Start is null => No($"{facts.Name} has no appointment."),
            DetourKind.NoShow or DetourKind.Late when facts.IsSwapped =>
                No($"the computer of {facts.Name} is swapped already, so somebody was there."),
            DetourKind.NoShow when facts.Start > now =>
                No($"the appointment of {facts.Name} has not begun. Whoever says beforehand that they cannot come is given another time "
                    + $"on the planning board."),
            DetourKind.DeadOnArrival when facts.NewTag is null => No($"the swap of {facts.Name} has no new computer."),
            DetourKind.WrongComputer or DetourKind.DeadOnArrival when facts.IsSigned =>
                No($"what was done for {facts.Name} is signed off. Open the technician's sign-off again first, with the reason."),
            DetourKind.OldDiskDied when facts.OldTag is null => No($"the swap of {facts.Name} has no old computer."),
            DetourKind.OldDiskDied when facts.OldDied => No("that is noted already."),
            DetourKind.OldDiskDied when !facts.HasParcel =>
                No($"no trip of {facts.OldTag} is known to have begun, so there is nothing to go on from. Look for another copy and adopt "
                    + "it, or decide with the person that nothing is restored."),
            DetourKind.OldDiskDied when facts.IsRestored => No($"all files of {facts.Name} are on the new computer already."),
            DetourKind.Later when facts.IsSwapped =>
                No($"the computer of {facts.Name} is swapped already. What is left to do waits where it is."),
            DetourKind.WrongPerson when facts.Start is null => No($"{facts.Name} has no appointment."),
            DetourKind.WrongPerson when facts.IsSwapped =>
                No($"the computer of {facts.Name} is swapped already. What was done for somebody else is taken back step by step."),
            _ => null,
        };
    }

    private sealed record Said(Problem? Refused);

    /// <summary>What can happen to a computer or its files however its swap stands; null: the kind is none of these.</summary>
    private static Said? OfComputer(DetourKind kind, DetourFacts facts) => kind switch
    {
        DetourKind.Stolen or DetourKind.Lost or DetourKind.Found when facts.OldTag is null =>
            new(No($"the swap of {facts.Name} has no old computer.")),
        DetourKind.Stolen or DetourKind.Lost when facts.OldGone is { } gone =>
            new(No(gone.IsMissing() ? "that is noted already." : $"{facts.OldTag} has left for good.")),
        DetourKind.Found when facts.OldGone?.IsMissing() != true => new(No($"nobody has said that {facts.OldTag} is missing.")),
        DetourKind.FilesMissed when !facts.IsSwapped && !facts.IsRestored && !(facts.IsCalledOff && facts.HasParcel) =>
            new(No($"the swap of {facts.Name} has not come so far that files could be missed.")),
        DetourKind.FilesMissed when facts.OldTag is null && !facts.HasParcel =>
            new(No($"the swap of {facts.Name} has no old computer, and nothing was carried.")),
        DetourKind.Stolen or DetourKind.Lost or DetourKind.Found or DetourKind.FilesMissed => new((Problem?)null),
        _ => null,
    };

    /// <summary>The detours that are open to a swap, in the order in which they are offered.</summary>
    public static IReadOnlyList<DetourKind> Open(DetourFacts facts, DateTimeOffset now) =>
        [.. Enum.GetValues<DetourKind>().Where(k => Refusal(k, facts, now) is null)];

    private static Problem No(string because) => new DetourNotNowProblem(because);
}
