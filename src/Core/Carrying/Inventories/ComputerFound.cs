namespace YardRelay.Core.Carrying.Inventories;

/// <summary>A place that was found, with all that lies in it and in no place deeper down.</summary>
/// <param name="Account">Whose home; empty: the home that was looked at, or outside of all homes.</param>
/// <param name="Home">Where that home lies below what was looked at; empty: it is the home itself.</param>
/// <param name="Rule">Key of the rule that knew it; empty for folders people use and for unusual places.</param>
/// <param name="Path">The folder below the home; empty where it is about files in several folders, or directly in the home.</param>
/// <param name="ByNameOnly">Of the files, those that are there by name only: their content is in the cloud.</param>
/// <param name="Newest">When the newest file in it was changed; null: there is none.</param>
/// <param name="Needs">What it needs on the new computer.</param>
/// <param name="Whose">Of a cloud: person, organisation or team.</param>
/// <param name="Of">Of a library: its kind.</param>
/// <param name="Proof">How it was known: the marker that lies there, or the path that the rule names.</param>
/// <param name="KeptThere">Of a cloud: what proves that all of it is there, as its rule says; null: nothing does.</param>
public sealed record PlaceFound(
    string Account, string Home, PlaceKind Kind, string Rule, string Name, string Path, Amount Files, Amount ByNameOnly,
    DateTimeOffset? Newest,
    string? Needs = null, string? Whose = null, string? Of = null, string? Proof = null,
    string? KeptThere = null)
{
    /// <summary>Its path below what was looked at.</summary>
    public string At => Home.Length == 0 ? Path : Path.Length == 0 ? Home : $"{Home}/{Path}";

    /// <summary>
    /// Whether it stays behind unless somebody decides otherwise: a folder of clutter, a cloud's folder of which something proves that all
    /// of it is there. A single file is not given up for its name, and no cloud's folder for its own.
    /// </summary>
    public bool IsLeftOut => Path.Length > 0 && (Kind == PlaceKind.Clutter || (Kind == PlaceKind.Cloud && KeptThere is not null));
}

/// <summary>A program on a computer.</summary>
/// <param name="Source">Which of the platform's records tells of it.</param>
public sealed record ProgramFound(string Name, string Version, string Source);

/// <summary>A program that runs, and how many files below the homes it has open.</summary>
public sealed record RunningFound(string Program, int OpenFiles);

/// <summary>What a computer holds: totals of places, never names of files.</summary>
/// <param name="Platform">The system whose customs its homes follow; null: there is no home.</param>
public sealed record ComputerFound(
    IReadOnlyList<PlaceFound> Places, IReadOnlyList<ProgramFound> Programs, IReadOnlyList<RunningFound> Running,
    HomePlatform? Platform = null)
{
    /// <summary>Everything in the places together: each file that was seen, once.</summary>
    public Amount Total => Places.Aggregate(Amount.None, (sum, p) => sum + p.Files);

    /// <summary>What a technician has to know before anything is carried, in whole sentences.</summary>
    /// <param name="now">For what counts as recent.</param>
    public IReadOnlyList<string> Remarks(DateTimeOffset now)
    {
        var remarks = new List<string>();
        foreach (var twice in Places.Where(p => p.Kind == PlaceKind.Library).GroupBy(p => (p.Account, p.Of)).Where(g => g.Count() > 1))
            remarks.Add(
                $"There are {twice.Count()} libraries of {twice.Key.Of}{In(twice.Key.Account)}: "
                    + $"{string.Join(", ", twice.Select(p => $"{p.Name} in {p.Path}"))}. Ask which one is used; only one of each kind is "
                    + $"opened on the new computer.");
        foreach (var cloud in Places.Where(p => p.Kind == PlaceKind.Cloud && p.Files.Files > 0))
        {
            var (looks, they, them) = cloud.Files.Files == 1 ? ("looks", "it comes", "it") : ("look", "they come", "them");
            remarks.Add(
                $"{ByteText.Files(cloud.Files.Files)} ({ByteText.Of(cloud.Files.Bytes)}) in {cloud.Path}{In(cloud.Account)} "
                    + (cloud.KeptThere is { } proof
                        ? $"{(cloud.Files.Files == 1 ? "is" : "are")} in a cloud already ({cloud.Name}, of the {cloud.Whose}: {proof}), "
                            + "and left out unless somebody decides otherwise."
                        : $"{looks} like a cloud's ({cloud.Name}, of the {cloud.Whose}), and nothing proves that the cloud has {them}: "
                            + $"{they} along. Leave the folder out once somebody has seen {them} there.")
                    + (cloud.ByNameOnly.Files > 0
                        ? $" {cloud.ByNameOnly.Files:#,0} of them {(cloud.ByNameOnly.Files == 1 ? "has" : "have")} a length "
                            + "and no content on this disk."
                        : ""));
        }
        foreach (var odd in Places.Where(p => p.Kind == PlaceKind.Unusual && p.Newest > now.AddDays(-RecentDays)))
            remarks.Add(
                $"{ByteText.Files(odd.Files.Files)} ({ByteText.Of(odd.Files.Bytes)}) "
                    + $"{(odd.Path.Length == 0 ? "directly in the home" : $"in {odd.Path}")}{In(odd.Account)} are outside the usual "
                    + $"folders, last changed {odd.Newest:yyyy-MM-dd}. Worth asking about.");
        foreach (var open in Running.Where(r => r.OpenFiles > 0))
            remarks.Add($"{open.Program} has {ByteText.Files(open.OpenFiles)} open. Close it before the closing trip.");
        return remarks;

        static string In(string account) => account.Length == 0 ? "" : $" of {account}";
    }

    private const int RecentDays = 366;
}
