namespace YardRelay.Core.Carrying.Inventories;

/// <summary>
/// Says of each folder, as a walk enters it, whether it stays behind by the rules for places: the same folders for the same reasons that an
/// <see cref="InventoryTaker"/> finds in the same tree, but before what is in them is met. For walks that go into a folder before the next.
/// </summary>
public sealed class Customs
{
    private readonly Dictionary<string, Home> _homes;
    private readonly Dictionary<HomePlatform, (PlaceRule Rule, PlacePattern[] Paths)[]> _rules;
    private readonly bool[] _firsts = new bool[256];
    private readonly bool[] _lasts = new bool[256];

    /// <param name="homes">See <see cref="Homes.Find"/>.</param>
    public Customs(IReadOnlyList<Home> homes, PlaceRules rules)
    {
        _homes = homes.ToDictionary(h => h.Path);
        _rules = Enum.GetValues<HomePlatform>().ToDictionary(
            p => p, p => rules.All.Where(r => !r.Files && r.Paths.ContainsKey(p)).Select(r => (r, r.Paths[p].ToArray())).ToArray());
        foreach (var mark in rules.All.SelectMany(r => r.Marks))
        {
            See(_firsts, mark[0]);
            See(_lasts, mark[^1]);
        }
        Top = new(null, "", _homes.GetValueOrDefault(""), [], false, null);

        // A pattern that begins or ends with any letter says nothing of it.
        static void See(bool[] letters, char letter)
        {
            if (letter is '*' or '?' || letter > 127) Array.Fill(letters, true);
            else (letters[char.ToLowerInvariant(letter)], letters[char.ToUpperInvariant(letter)]) = (true, true);
        }
    }

    /// <summary>What is walked.</summary>
    public Place Top { get; }

    /// <summary>Whether a name can be one by which a place is known; most are not, and need not be told.</summary>
    /// <param name="name">As bytes.</param>
    public bool IsOfInterest(ReadOnlySpan<byte> name) => name.Length > 0 && _firsts[name[0]] && _lasts[name[^1]];

    /// <summary>A folder is entered.</summary>
    /// <param name="within">The folder in which it stands.</param>
    /// <param name="inside">The names directly in it, at least those of interest.</param>
    public Place Enter(Place within, string name, IEnumerable<string> inside)
    {
        var path = within.Path.Length == 0 ? name : $"{within.Path}/{name}";
        var stands = _homes.GetValueOrDefault(path);
        var home = stands ?? within.Home;
        string[] parts = stands is not null ? [] : within.Home is null ? [name] : [.. within.Parts, name];
        if (within.IsWhole && stands is null) return new(within, path, home, parts, true, within.Because);
        if (home is null)
            return within.Within is null && InventoryTaker.IsOfTheSystem(name)
                ? new(within, path, null, parts, true, "The system's own: ")
                : new(within, path, null, parts, false, null);
        if (parts.Length == 0 || RuleOf(home, parts, inside) is not { } by) return new(within, path, home, parts, false, null);
        var (rule, mark, pattern) = by;
        var because = rule switch
        {
            { Kind: PlaceKind.Clutter } => $"{rule.Name}: {InventoryTaker.ProofOf(mark, pattern)}",
            { Kind: PlaceKind.Cloud, KeptThere: { } seen } => CarryLists.CarryList.InCloud(rule.Name, rule.Whose, seen),
            _ => null
        };
        var isWhole = rule.Kind is PlaceKind.Library or PlaceKind.Cloud or PlaceKind.Clutter;
        return new(within, path, home, parts, isWhole, because);
    }

    private (PlaceRule Rule, string? Mark, PlacePattern By)? RuleOf(Home home, string[] parts, IEnumerable<string> inside)
    {
        var tellsCase = InventoryTaker.TellsCase(home.Platform);
        // Asked of every folder of a walk: most match none of some hundred patterns.
        foreach (var (rule, paths) in _rules[home.Platform])
        {
            if (Array.Find(paths, p => p.Matches(parts, tellsCase)) is not { } by) continue;
            if (rule.Marks.Count == 0) return (rule, null, by);
            var mark = inside.FirstOrDefault(n => rule.MarkNames.Any(m => m.Matches(n, tellsCase: false)));
            if (mark is not null) return (rule, mark, by);
        }
        return null;
    }

    /// <summary>A folder of a walk.</summary>
    public sealed class Place
    {
        internal Place(Place? within, string path, Home? home, string[] parts, bool isWhole, string? because) =>
            (Within, Path, Home, Parts, IsWhole, Because) = (within, path, home, parts, isWhole, because);

        /// <summary>Why it stays, with all that is in it; null: it does not.</summary>
        public string? Because { get; }

        internal Place? Within { get; }

        internal string Path { get; }

        internal Home? Home { get; }

        internal string[] Parts { get; }

        internal bool IsWhole { get; }
    }
}
