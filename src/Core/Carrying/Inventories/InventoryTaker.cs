namespace YardRelay.Core.Carrying.Inventories;

/// <summary>
/// Sorts what a walk meets into places: told of each folder and file in the order of the walk, a folder before what is in it, it remembers
/// sums only.
/// Each file counts in exactly one place. The deepest place wins, but nothing is taken out of a library, a cloud's folder or clutter: these
/// are one whole.
/// </summary>
public sealed class InventoryTaker
{
    // Of a whole disk: what the system put there is not a person's.
    private static readonly HashSet<string> Systems = new(StringComparer.OrdinalIgnoreCase)
    {
        "bin", "boot", "dev", "etc", "lib", "lib32", "lib64", "libx32", "lost+found", "proc", "root", "run", "sbin", "snap", "sys", "tmp",
        "usr", "var",
        "Windows", "Program Files", "Program Files (x86)", "ProgramData", "Recovery", "PerfLogs", "$Recycle.Bin",
        "System Volume Information", "System", "Applications", "Library", "private", "cores",
    };

    private readonly Dictionary<string, Home> _homes;
    private readonly Dictionary<Home, IReadOnlyDictionary<string, string>> _folders;
    private readonly Dictionary<HomePlatform, (PlaceRule[] Folders, PlaceRule[] Files)> _rules;
    private readonly List<Frame> _stack = [];
    private readonly List<PlaceFound> _found = [];

    /// <param name="homes">See <see cref="Homes.Find"/>.</param>
    /// <param name="folders">The folders people use in a home; see <see cref="UserFolders"/>.</param>
    public InventoryTaker(IReadOnlyList<Home> homes, Func<Home, IReadOnlyDictionary<string, string>> folders, PlaceRules rules)
    {
        _homes = homes.ToDictionary(h => h.Path);
        _folders = homes.ToDictionary(h => h, folders);
        _rules = Enum.GetValues<HomePlatform>().ToDictionary(p => p, p =>
            (
                rules.All.Where(r => !r.Files && r.Paths.ContainsKey(p)).ToArray(),
                rules.All.Where(r => r.Files && r.Paths.ContainsKey(p)).ToArray()));
        _stack.Add(new("", "", null, InHome(""), [], this));
    }

    /// <summary>The system whose customs most homes follow; null: there is no home.</summary>
    public HomePlatform? Platform => _homes.Count == 0 ? null : _homes.Values.GroupBy(h => h.Platform).MaxBy(g => g.Count())!.Key;

    /// <summary>A folder is entered.</summary>
    /// <param name="depth">1 for what lies directly in what is looked at.</param>
    public void Enter(string name, int depth)
    {
        Leave(depth);
        var parent = _stack[^1];
        parent.Saw(name);
        var path = parent.Path.Length == 0 ? name : $"{parent.Path}/{name}";
        var home = InHome(path);
        string[] parts = home is not null ? [] : parent.Home is null ? [name] : [.. parent.Parts, name];
        _stack.Add(new(name, path, parent, home ?? parent.Home, parts, this));
    }

    /// <summary>A file is met, or a link or anything else that is no folder.</summary>
    /// <param name="depth">As for a folder.</param>
    /// <param name="byNameOnly">Whether its content is not on this disk.</param>
    public void File(string name, int depth, long bytes, bool byNameOnly, DateTimeOffset modified)
    {
        Leave(depth);
        var frame = _stack[^1];
        frame.Saw(name);
        var sum = frame.Own;
        if (frame.FileRule(name) is { } rule) sum = frame.OfFiles(rule);
        sum.Add(bytes, byNameOnly, modified);
    }

    /// <summary>Ends the walk.</summary>
    /// <returns>All places, by account, kind and path; empty ones left out.</returns>
    public IReadOnlyList<PlaceFound> Finish()
    {
        Leave(0);
        return [.. _found.Where(p => p.Files.Files > 0)
            .OrderBy(p => p.Account, StringComparer.Ordinal)
            .ThenBy(p => p.Kind)
            .ThenBy(p => p.Path, StringComparer.Ordinal)];
    }

    private Home? InHome(string path) => _homes.GetValueOrDefault(path);

    /// <summary>Whether a folder directly on a disk is what the system put there.</summary>
    internal static bool IsOfTheSystem(string name) => Systems.Contains(name);

    /// <summary>How a place was known, in a few words.</summary>
    /// <param name="mark">The name that lies in it; null: its path alone told.</param>
    internal static string ProofOf(string? mark, PlacePattern by) =>
        mark is not null ? $"'{mark}' lies in it" : $"its path is '{by.Text}'";

    internal static bool TellsCase(HomePlatform platform) => platform == HomePlatform.Linux;

    private void Leave(int depth)
    {
        while (_stack.Count > depth)
        {
            var frame = _stack[^1];
            _stack.RemoveAt(_stack.Count - 1);
            frame.Close(_found);
        }
    }

    private sealed class Sum
    {
        public Amount Files, ByNameOnly;
        public DateTimeOffset? Newest;

        public void Add(long bytes, bool byNameOnly, DateTimeOffset modified)
        {
            Files += Amount.File(bytes);
            if (byNameOnly) ByNameOnly += Amount.File(bytes);
            if (Newest is null || modified > Newest) Newest = modified;
        }

        public void Add(Amount files, Amount byNameOnly, DateTimeOffset? newest)
        {
            (Files, ByNameOnly) = (Files + files, ByNameOnly + byNameOnly);
            if (newest is { } at && (Newest is null || at > Newest)) Newest = at;
        }
    }

    private sealed class Frame
    {
        private readonly string _name;
        private readonly Frame? _parent;
        private readonly List<(PlaceRule Rule, PlacePattern By)> _candidates = [];
        private readonly Dictionary<PlaceRule, Sum> _files = [];
        private readonly List<PlaceFound> _inner = [];
        private readonly List<(PlaceRule Rule, NamePattern Name)> _marks = [], _fileRules = [];
        private readonly bool _tellsCase;
        private string? _saw;

        public Frame(string name, string path, Frame? parent, Home? home, string[] parts, InventoryTaker taker)
        {
            (_name, Path, _parent, Home, Parts) = (name, path, parent, home, parts);
            if (home is not null)
            {
                _tellsCase = TellsCase(home.Platform);
                foreach (var rule in taker._rules[home.Platform].Files)
                    foreach (var pattern in rule.Paths[home.Platform])
                        if (pattern.NameIn(parts, _tellsCase) is { } meant) _fileRules.Add((rule, meant));
            }
            if (home is not null && parts.Length > 0)
            {
                foreach (var rule in taker._rules[home.Platform].Folders)
                {
                    if (rule.Paths[home.Platform].FirstOrDefault(p => p.Matches(parts, _tellsCase)) is not { } by) continue;
                    _candidates.Add((rule, by));
                    if (rule.Marks.Count == 0) break;
                }
                Known = taker._folders[home].GetValueOrDefault(parts.Length == 1 ? name : string.Join('/', parts));
            }
            foreach (var (rule, _) in _candidates)
                foreach (var mark in rule.MarkNames) _marks.Add((rule, mark));
            IsHome = home is not null && parts.Length == 0;
        }

        public string Path { get; }

        public Home? Home { get; }

        public string[] Parts { get; }

        public bool IsHome { get; }

        /// <summary>Which of the folders people use this one is.</summary>
        public string? Known { get; }

        public Sum Own { get; } = new();

        private readonly HashSet<PlaceRule> _marked = new(ReferenceEqualityComparer.Instance);

        public void Saw(string name)
        {
            foreach (var (rule, mark) in _marks)
                if (mark.Matches(name, tellsCase: false) && _marked.Add(rule)) _saw ??= name;
        }

        public PlaceRule? FileRule(string name)
        {
            foreach (var (rule, meant) in _fileRules)
                if (meant.Matches(name, _tellsCase)) return rule;
            return null;
        }

        public Sum OfFiles(PlaceRule rule) => _files.TryGetValue(rule, out var sum) ? sum : _files[rule] = new();

        public void Close(List<PlaceFound> found)
        {
            var (account, home) = (Home?.Account ?? "", Home?.Path ?? "");
            var at = string.Join('/', Parts);
            var (rule, by) = _candidates.FirstOrDefault(c => c.Rule.Marks.Count == 0 || _marked.Contains(c.Rule));
            if (rule is { Kind: PlaceKind.Library or PlaceKind.Cloud or PlaceKind.Clutter })
            {
                foreach (var sum in _files.Values) Own.Add(sum.Files, sum.ByNameOnly, sum.Newest);
                foreach (var place in _inner) Own.Add(place.Files, place.ByNameOnly, place.Newest);
                _files.Clear();
                _inner.Clear();
            }
            if (rule is not null)
                Put(new(
                    account, home, rule.Kind, rule.Key, rule.Name, at, Own.Files, Own.ByNameOnly, Own.Newest, rule.Needs, rule.Whose,
                    rule.Of, ProofOf(rule.Marks.Count > 0 ? _saw : null, by), rule.KeptThere));
            else if (Known is not null) Put(new(account, home, PlaceKind.Folder, "", Known, at, Own.Files, Own.ByNameOnly, Own.Newest));
            else if (Home is not null && Parts.Length == 1)
            {
                if (IsHidden)
                    Put(new(
                        account, home, PlaceKind.Settings, "other-settings", "Other settings", at, Own.Files, Own.ByNameOnly, Own.Newest,
                        "the same program"));
                else Put(new(account, home, PlaceKind.Unusual, "", "Other folder", at, Own.Files, Own.ByNameOnly, Own.Newest));
            }
            else if (IsHome)
                Put(new(account, home, PlaceKind.Unusual, "", "Beside the folders", "", Own.Files, Own.ByNameOnly, Own.Newest));
            else if (Home is null && (_parent is null || _parent._parent is null))
            {
                if (Systems.Contains(_name))
                    Put(new("", "", PlaceKind.Clutter, "system", "The system's own", Path, Own.Files, Own.ByNameOnly, Own.Newest));
                else Put(new("", "", PlaceKind.Unusual, "", "Outside the homes", Path, Own.Files, Own.ByNameOnly, Own.Newest));
            }
            else _parent!.Own.Add(Own.Files, Own.ByNameOnly, Own.Newest);

            if (_parent is null || IsHome)
            {
                found.AddRange(_inner);
                found.AddRange(_files.Select(f => new PlaceFound(
                    account, home, f.Key.Kind, f.Key.Key, f.Key.Name, "", f.Value.Files, f.Value.ByNameOnly, f.Value.Newest, f.Key.Needs,
                    f.Key.Whose, f.Key.Of, "by their names")));
                return;
            }
            _parent._inner.AddRange(_inner);
            foreach (var (of, sum) in _files) _parent.OfFiles(of).Add(sum.Files, sum.ByNameOnly, sum.Newest);
        }

        private bool IsHidden =>
            _name.StartsWith('.')
                || Home!.Platform == HomePlatform.Windows && _name == "AppData"
                || Home.Platform == HomePlatform.Mac && _name == "Library"
                || _name == "snap";

        private void Put(PlaceFound place) => _inner.Add(place);
    }
}
