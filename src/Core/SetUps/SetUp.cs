namespace YardRelay.Core.SetUps;

/// <summary>How a part of a refresh's set-up stands.</summary>
public enum PartState
{
    /// <summary>It is there.</summary>
    There,

    /// <summary>Something is wrong with it, or it is wanted next.</summary>
    Wants,

    /// <summary>It is not there yet, and nothing waits for it.</summary>
    Open,
}

/// <summary>A part of the set-up.</summary>
/// <param name="Key">days, people, sites, technicians, depot, hands, accounts, notices or plan.</param>
/// <param name="Words">What is there, or what is missing and what it is for.</param>
public sealed record SetUpPart(string Key, PartState State, string Words);

/// <summary>A depot, as far as the set-up asks.</summary>
/// <param name="WasTried">Whether the service or a hand has worked with it.</param>
/// <param name="Trouble">What was wrong with it then; null: nothing.</param>
public sealed record DepotFacts(string Name, bool WasTried, string? Trouble);

/// <summary>What is known of a refresh's set-up.</summary>
public sealed record SetUpFacts(string Zone, DateOnly Starts, int Days)
{
    /// <summary>Its people.</summary>
    public int People { get; init; }

    /// <summary>Its swaps, without those that are called off.</summary>
    public int Swaps { get; init; }

    /// <summary>Names of its sites.</summary>
    public IReadOnlyList<string> Sites { get; init; } = [];

    /// <summary>Sites at which something is to be done and no technician is.</summary>
    public IReadOnlyList<string> Unserved { get; init; } = [];

    /// <summary>Its technicians.</summary>
    public int Technicians { get; init; }

    /// <summary>Names of technicians who have no account.</summary>
    public IReadOnlyList<string> WithoutAccount { get; init; } = [];

    /// <summary>Its depots.</summary>
    public IReadOnlyList<DepotFacts> Depots { get; init; } = [];

    /// <summary>Old computers from which files are to be carried.</summary>
    public int Computers { get; init; }

    /// <summary>How many of them have a hand.</summary>
    public int Hands { get; init; }

    /// <summary>Accounts that can work in it.</summary>
    public int Accounts { get; init; }

    /// <summary>Whether the service has a mail server.</summary>
    public bool CanSend { get; init; }

    /// <summary>Whether people are told by mail.</summary>
    public bool Tells { get; init; }

    /// <summary>People without a mail address.</summary>
    public int WithoutMail { get; init; }

    /// <summary>Swaps that have a time.</summary>
    public int Booked { get; init; }

    /// <summary>Whether a draft waits to be published.</summary>
    public bool HasDraft { get; init; }
}

/// <summary>What of a refresh is there and what is missing, in the order in which people set it up.</summary>
/// <param name="Unplannable">Why no first plan can be made yet; null: it can.</param>
public sealed record SetUp(IReadOnlyList<SetUpPart> Parts, string? Unplannable)
{
    private const int MostNamed = 4;

    /// <summary>The set-up of a refresh, from its facts.</summary>
    public static SetUp Of(SetUpFacts f)
    {
        var unplannable = f.Swaps == 0 ? "as soon as people are there" : f.Technicians == 0 ? "as soon as one technician is there" : null;
        SetUpPart[] parts =
        [
            new("days", PartState.There, $"{f.Starts:d MMM yyyy} to {f.Starts.AddDays(f.Days - 1):d MMM yyyy}, {f.Zone}"),
            f.Swaps == 0
                ? new(
                    "people", PartState.Open,
                    "Nobody yet. A spreadsheet is enough: in each row a name, a site, and the tags of the old and the new computer.")
                : new("people", PartState.There, $"{Of(f.People, "person", "people")} with {Of(f.Swaps, "swap", "swaps")}"),
            f.Sites.Count == 0
                ? new("sites", PartState.Open, "They come with the list of people, and can be set beforehand.")
                : new("sites", PartState.There, $"{Of(f.Sites.Count, "site", "sites")}: {Named(f.Sites)}"),
            Technicians(f),
            Depot(f),
            Hands(f),
            Accounts(f),
            Notices(f),
            Plan(f, unplannable),
        ];
        return new(WithNext(parts), unplannable);
    }

    /// <summary>Where nothing is wrong, the first that is missing is what is wanted.</summary>
    private static IReadOnlyList<SetUpPart> WithNext(SetUpPart[] parts)
    {
        var next = Array.Exists(parts, p => p.State == PartState.Wants) ? -1 : Array.FindIndex(parts, p => p.State == PartState.Open);
        return [.. parts.Select((p, i) => i == next ? p with { State = PartState.Wants } : p)];
    }

    private static SetUpPart Technicians(SetUpFacts f) =>
        f.Technicians == 0
            ? new("technicians", PartState.Open, "Who does the swaps. One is enough for a first plan.")
            : f.Unserved.Count > 0
            ? new("technicians", PartState.Wants, $"{f.Technicians}, and nobody who comes to {Named(f.Unserved)}")
            : new("technicians", PartState.There, $"{Of(f.Technicians, "technician", "technicians")}, and every site has one");

    private static SetUpPart Depot(SetUpFacts f)
    {
        if (f.Depots.Count == 0)
            return new("depot", PartState.Open, "Where files lie on their way: this service's own room, a folder, a share, a cloud.");
        if (f.Depots.FirstOrDefault(d => d.Trouble is not null) is { Trouble: { } trouble } bad)
            return new("depot", PartState.Wants, $"{bad.Name}: {trouble}");
        return f.Depots.FirstOrDefault(d => !d.WasTried) is { } untried
            ? new("depot", PartState.Wants, $"{untried.Name} was not tried yet: nobody knows whether it can be used")
            : new("depot", PartState.There, $"{Named([.. f.Depots.Select(d => d.Name)])}, tried and usable");
    }

    private static SetUpPart Hands(SetUpFacts f) =>
        f.Computers == 0
            ? new("hands", PartState.Open, "A small program at each old and new computer. It carries the files.")
            : f.Hands == 0
            ? new(
                "hands", PartState.Open, $"A small program at each computer, which carries the files: none of {f.Computers} has one yet.")
            : new("hands", f.Hands < f.Computers ? PartState.Open : PartState.There, $"{f.Hands} of {f.Computers} old computers have one");

    private static SetUpPart Accounts(SetUpFacts f) =>
        f.Accounts <= 1
            ? new("accounts", PartState.Open, "You are the only one who can sign in.")
            : f.WithoutAccount.Count > 0
            ? new("accounts", PartState.Open, $"{f.Accounts} can sign in; {Named(f.WithoutAccount)} cannot yet")
            : new("accounts", PartState.There, $"{f.Accounts} can sign in, every technician among them");

    private static SetUpPart Notices(SetUpFacts f) =>
        !f.CanSend
            ? new("notices", PartState.Open, "People are not told by mail: the service has no mail server. Whoever runs it can set one.")
            : !f.Tells
            ? new("notices", PartState.Open, "People are not told by mail yet. Switch it on when the first plan is right.")
            : new(
                "notices", PartState.There,
                f.WithoutMail == 0 ? "People are told by mail" : $"People are told by mail; {Of(f.WithoutMail, "has", "have")} no address");

    private static SetUpPart Plan(SetUpFacts f, string? unplannable) =>
        f.Booked > 0
            ? new("plan", PartState.There, $"{f.Booked} of {Of(f.Swaps, "swap has", "swaps have")} a time")
            : f.HasDraft
            ? new("plan", PartState.Open, "A draft waits to be looked at and published.")
            : new("plan", PartState.Open, unplannable is null ? "All is there for a first one." : $"Can be made {unplannable}.");

    private static string Of(int count, string one, string many) => count == 1 ? $"1 {one}" : $"{count:#,0} {many}";

    private static string Named(IReadOnlyList<string> names) => names.Count <= MostNamed
        ? string.Join(", ", names)
        : $"{string.Join(", ", names.Take(MostNamed - 1))} and {names.Count - MostNamed + 1} more";
}
