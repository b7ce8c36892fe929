using YardRelay.Core.FollowUps;

namespace YardRelay.Core.Custody;

/// <summary>Whether a stranger who has the disk can read it.</summary>
public enum DiskSecrecy
{
    /// <summary>Nobody knows.</summary>
    Unknown,

    /// <summary>It is encrypted, and cannot be read without its key.</summary>
    Encrypted,

    /// <summary>It can be read by whoever has it.</summary>
    Plain,
}

/// <summary>Somebody must be told, or something done, because a computer is missing.</summary>
/// <param name="Words">What, to whom, in a sentence.</param>
/// <param name="Within">How long there is, from when it is known that the computer is missing.</param>
/// <param name="Holds">What waits until it is done.</param>
public sealed record Telling(string Words, TimeSpan Within, FollowUpHold Holds);

/// <summary>A computer that was lost or stolen.</summary>
/// <param name="How"><see cref="CustodyAct.Lost"/> or <see cref="CustodyAct.Stolen"/>.</param>
/// <param name="Person">Name of whoever's files were on it.</param>
/// <param name="IsWiped">It was wiped before, with a good result: nobody's files are on it.</param>
/// <param name="Depots">Names of the depots whose opening words its hand was given.</param>
public sealed record MissingComputer(
    string Tag, CustodyAct How, string Person, DiskSecrecy Disk, bool IsWiped, IReadOnlyList<string> Depots)
{
    /// <summary>
    /// How long there is to notify whoever supervises the keeping of personal data, where somebody is at risk: 72 hours from when it is
    /// known (Regulation (EU) 2016/679, article 33, 1).
    /// </summary>
    public static readonly TimeSpan ToNotify = TimeSpan.FromHours(72);

    private static readonly TimeSpan AtOnce = TimeSpan.FromHours(4);
    private static readonly TimeSpan OneDay = TimeSpan.FromHours(24);

    private bool IsStolen => How == CustodyAct.Stolen;

    /// <summary>What must be told to whom, and done, the most urgent first.</summary>
    public IReadOnlyList<Telling> Tellings()
    {
        var all = new List<Telling>();
        if (!IsWiped)
        {
            all.Add(Disk == DiskSecrecy.Encrypted
                ? new($"Have {Tag} locked out wherever {Person} was signed in on it.", OneDay, FollowUpHold.Nothing)
                : new(
                    $"Have {Person} signed out everywhere, and every password changed that {Tag} knew: {DiskWords}.",
                    AtOnce, FollowUpHold.SignOff));
            all.AddRange(Depots.Select(depot => new Telling(
                $"Change what opens the depot {depot}: the hand at {Tag} was given it.", AtOnce, FollowUpHold.SignOff)));
        }
        all.Add(IsStolen
            ? new($"Report the theft of {Tag} to the police, and write the number of the report down here.", OneDay, FollowUpHold.Nothing)
            : new($"Ask for {Tag} where it was last, and where lost things are brought.", OneDay, FollowUpHold.Nothing));
        if (!IsWiped)
            all.Add(new(
                $"Tell whoever answers for personal data that {Tag} of {Person} is {How.ToString().ToLowerInvariant()}: {DiskWords}. Where "
                    + $"somebody is at risk, the authority must hear of it within {ToNotify.TotalHours:0} hours.",
                OneDay,
                FollowUpHold.SignOff));
        all.Add(new($"Tell whom {Tag} belongs to, or who insures it.", ToNotify, FollowUpHold.Nothing));
        return all;
    }

    private string DiskWords => Disk switch
    {
        DiskSecrecy.Encrypted => "its disk is encrypted",
        DiskSecrecy.Plain => "its disk is not encrypted, and can be read by whoever has it",
        _ => "nobody knows whether its disk is encrypted, so it counts as readable",
    };
}
