namespace YardRelay.Core.Carrying.Landings;

/// <summary>What restore does where something else stands already.</summary>
public enum ClashRule
{
    /// <summary>Both are kept: ours under another name beside it.</summary>
    Beside,

    /// <summary>What stands, stays; ours is not restored.</summary>
    Stay,

    /// <summary>The one that was changed last.</summary>
    Newer,

    /// <summary>Ours takes the place of what stands.</summary>
    Ours,
}

/// <summary>A folder of the parcel that lands elsewhere.</summary>
/// <param name="From">Its path in the parcel.</param>
/// <param name="To">Its path on the new computer, below where is restored to.</param>
/// <param name="MustStand">Whether it must be there already, as the home of an account must.</param>
public sealed record Landing(string From, string To, bool MustStand = false);

/// <summary>A clash rule for a folder and all in it.</summary>
public sealed record FolderClash(string Folder, ClashRule Rule);

/// <summary>
/// Where each part of a parcel goes on the new computer, what happens on a clash, what comes first and what at all. Made by
/// <see cref="Create"/> only.
/// </summary>
public sealed class LandingPlan
{
    private readonly Dictionary<string, Landing> _moves;

    private LandingPlan(
        IReadOnlyList<Landing> moves, IReadOnlyList<string> only, IReadOnlyList<string> first, ClashRule clash,
        IReadOnlyList<FolderClash> clashes)
    {
        (Moves, Only, First, Clash, Clashes) = (moves, only, first, clash, clashes);
        _moves = moves.ToDictionary(m => m.From);
    }

    /// <summary>All of it, to its original places, beside what stands.</summary>
    public static LandingPlan Original { get; } = new([], [], [], ClashRule.Beside, []);

    /// <summary>Folders that land elsewhere; of two that hold a path the deeper counts.</summary>
    public IReadOnlyList<Landing> Moves { get; }

    /// <summary>What alone is restored; empty: everything.</summary>
    public IReadOnlyList<string> Only { get; }

    /// <summary>What is restored first, in this order.</summary>
    public IReadOnlyList<string> First { get; }

    /// <summary>The clash rule where no folder has its own.</summary>
    public ClashRule Clash { get; }

    /// <summary>Clash rules of folders; the deepest counts.</summary>
    public IReadOnlyList<FolderClash> Clashes { get; }

    /// <summary>How many rounds a restore makes: one for each of <see cref="First"/>, and one for the rest.</summary>
    public int Rounds => First.Count + 1;

    /// <summary>Makes a plan, or says all that is wrong with it.</summary>
    public static Result<LandingPlan> Create(
        IReadOnlyList<Landing> moves, IReadOnlyList<string> only, IReadOnlyList<string> first, ClashRule clash,
        IReadOnlyList<FolderClash> clashes)
    {
        var wrong = new List<Problem>();
        void Bad(string what) => wrong.Add(new LandingPlanProblem(what));
        foreach (var path in moves.SelectMany(m => new[] { m.From, m.To })
            .Concat(only)
            .Concat(first)
            .Concat(clashes.Select(c => c.Folder)).Distinct())
            if (path.Length is 0 or > 4096 || path.Split('/').Any(p => p is "" or "." or "..") || path.Any(char.IsControl))
                Bad($"'{path}' is no path in a parcel or below the target. Write it like Documents/Old, without '.', '..' or a '/' at "
                    + $"either end.");
        foreach (var twice in moves.GroupBy(m => m.From).Where(g => g.Count() > 1))
            Bad($"'{twice.Key}' lands in {twice.Count()} places: {string.Join(", ", twice.Select(m => m.To))}. Keep one.");
        foreach (var twice in moves.GroupBy(m => m.To).Where(g => g.Count() > 1))
            Bad($"{string.Join(" and ", twice.Select(m => $"'{m.From}'"))} would land in one folder, '{twice.Key}'. Give each its own.");
        foreach (var twice in clashes.GroupBy(c => c.Folder).Where(g => g.Count() > 1))
            Bad($"'{twice.Key}' has {twice.Count()} clash rules. Keep one.");
        for (var i = 0; i < first.Count; i++)
            if (first.Take(i).FirstOrDefault(f => Holds(f, first[i])) is { } before)
                Bad($"'{first[i]}' comes first as a part of '{before}' already. Name it before '{before}', or leave it out.");
        return wrong.Count > 0 ? Result<LandingPlan>.Failed(wrong) : new LandingPlan(moves, only, first, clash, clashes);
    }

    /// <summary>Whether a path is restored at all.</summary>
    public bool Wants(string path) => Only.Count == 0 || Only.Any(o => Holds(o, path));

    /// <summary>Whether a name is dealt with in a round. A folder is, too, where something in it may be.</summary>
    public bool IsIn(int round, string path, bool isFolder)
    {
        if (!Wants(path) && !(isFolder && Only.Any(o => Holds(path, o)))) return false;
        if (First.Count == 0 || RoundOf(path) == round) return true;
        return isFolder && round < First.Count && Holds(path, First[round]);
    }

    /// <summary>Where a folder lands, where it is one of <see cref="Moves"/>; null: where it was.</summary>
    public Landing? MoveOf(string folder) => _moves.GetValueOrDefault(folder);

    /// <summary>The path on the new computer.</summary>
    public string TargetOf(string path)
    {
        for (var at = path; ;)
        {
            if (_moves.TryGetValue(at, out var move)) return move.To + path[at.Length..];
            if (at.LastIndexOf('/') is not (> 0 and var slash)) return path;
            at = at[..slash];
        }
    }

    /// <summary>What happens to a path on a clash.</summary>
    public ClashRule ClashOf(string path) =>
        Clashes.Count == 0 ? Clash : Clashes.Where(c => Holds(c.Folder, path)).MaxBy(c => c.Folder.Length)?.Rule ?? Clash;

    /// <summary>Everything that the plan names by its path in the parcel.</summary>
    public IEnumerable<string> Named =>
        Moves.Select(m => m.From).Concat(Only).Concat(First).Concat(Clashes.Select(c => c.Folder)).Distinct();

    /// <summary>Takes out of <paramref name="missing"/> whatever a path of the parcel shows to be there.</summary>
    public static void Found(HashSet<string> missing, string path)
    {
        if (missing.Count > 0) missing.RemoveWhere(named => Holds(named, path));
    }

    private int RoundOf(string path)
    {
        for (var i = 0; i < First.Count; i++)
            if (Holds(First[i], path)) return i;
        return First.Count;
    }

    private static bool Holds(string folder, string path) =>
        path.StartsWith(folder, StringComparison.Ordinal) && (path.Length == folder.Length || path[folder.Length] == '/');
}
