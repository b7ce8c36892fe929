using System.Text.Encodings.Web;
using System.Text.Json;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Carrying.CarryLists;

/// <summary>A decision about a folder or file and all that is in it.</summary>
/// <param name="Path">Below what is carried, with '/' between parts; bytes that are no text as <c>%XX</c>.</param>
/// <param name="Carries">Whether it comes along.</param>
/// <param name="Reason">Why it stays; empty where it comes along.</param>
/// <param name="By">Who decided; empty: a rule.</param>
public sealed record CarryRule(string Path, bool Carries, string Reason, string By);

/// <summary>Files of a name that stay behind wherever they lie, but not inside of what is carried whole.</summary>
/// <param name="Names">May hold <c>*</c> and <c>?</c>; letters count the same in either case.</param>
public sealed record NamesLeftOut(string Names, string Reason)
{
    internal NamePattern Pattern { get; } = new(Names);
}

/// <summary>What a carry list says of one path.</summary>
public enum CarryVerdict
{
    /// <summary>It comes along.</summary>
    Carry,

    /// <summary>It stays, but something in it comes along: the folder itself comes, too.</summary>
    Through,

    /// <summary>It stays, with all that is in it.</summary>
    Leave,
}

/// <summary>
/// What comes along, what stays and why, and what comes first. Made by <see cref="Create"/> only, so it never contradicts itself.
/// Everything that no rule names comes along, unless it names all that does.
/// </summary>
public sealed class CarryList
{
    private const int MostRules = 10_000;
    private const int MostParts = 400_000;

    /// <summary>Why something stays that nobody named, where a list names all that comes along.</summary>
    public const string NotChosen = "not among what was chosen to come along";
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping
    };
    private readonly Dictionary<string, CarryRule> _rules;

    private CarryList(
        IReadOnlyList<CarryRule> rules, IReadOnlyList<NamesLeftOut> names, IReadOnlyList<string> whole, IReadOnlyList<string> first,
        bool isOnlyThese = false)
    {
        (Rules, Names, Whole, First, IsOnlyThese) = (rules, names, whole, first, isOnlyThese);
        _rules = rules.ToDictionary(r => r.Path);
    }

    /// <summary>Nothing stays.</summary>
    public static CarryList Everything { get; } = new([], [], [], []);

    /// <summary>Decisions about paths; the deepest that holds a path counts.</summary>
    public IReadOnlyList<CarryRule> Rules { get; }

    /// <summary>Files that stay by their names.</summary>
    public IReadOnlyList<NamesLeftOut> Names { get; }

    /// <summary>Folders that belong together: carried whole or not at all.</summary>
    public IReadOnlyList<string> Whole { get; }

    /// <summary>Paths that come first, in this order.</summary>
    public IReadOnlyList<string> First { get; }

    /// <summary>What no rule names stays: only what some rule carries comes along.</summary>
    public bool IsOnlyThese { get; }

    /// <summary>Whether everything comes along.</summary>
    public bool IsEverything => !IsOnlyThese && Rules.All(r => r.Carries) && Names.Count == 0;

    /// <summary>This list where nothing comes along but these folders or files, and of them what the list does not leave out.</summary>
    /// <param name="paths">Below what is carried; at least one.</param>
    public Result<CarryList> Only(IReadOnlyList<string> paths)
    {
        if (paths.Count == 0) return new CarryListRuleProblem("only", "it names nothing, so nothing would come along.");
        var carries = paths.Distinct().Where(p => Rules.All(r => r.Path != p)).Select(p => new CarryRule(p, true, "", ""));
        var made = Create([.. Rules, .. carries], Names, Whole, First);
        return made.TryGet(out var list, out _) ? new CarryList(list.Rules, Names, Whole, First, isOnlyThese: true) : made;
    }

    /// <summary>Makes a list, or says all that is wrong with it.</summary>
    public static Result<CarryList> Create(
        IReadOnlyList<CarryRule> rules, IReadOnlyList<NamesLeftOut> names, IReadOnlyList<string> whole, IReadOnlyList<string> first)
    {
        var wrong = new List<Problem>();
        void Bad(string path, string what) => wrong.Add(new CarryListRuleProblem(path, what));
        if (rules.Count + names.Count + whole.Count + first.Count > MostRules)
            return new CarryListManyProblem(MostRules);
        foreach (var path in rules.Select(r => r.Path).Concat(whole).Concat(first).Distinct())
            if (path.Length is 0 or > 4096 || path.Split('/').Any(p => p is "" or "." or "..") || path.Any(char.IsControl))
                Bad(
                    path,
                    "this is no path. Write it from where carrying begins, such as Documents/Old, without '.', '..' or a '/' at either "
                        + "end.");
        foreach (var twice in rules.GroupBy(r => r.Path).Where(g => g.Count() > 1)) Bad(twice.Key, "two lines decide about it. Keep one.");
        foreach (var rule in rules.Where(r => !r.Carries && string.IsNullOrWhiteSpace(r.Reason)))
            Bad(rule.Path, "it stays without a reason. Say why; it is kept with the account.");
        foreach (var rule in rules)
            if (whole.FirstOrDefault(w => rule.Path.StartsWith(w + "/", StringComparison.Ordinal)) is { } unit)
                Bad(rule.Path, $"it is a part of '{unit}', which is carried whole or not at all. Decide about '{unit}'.");
        foreach (var name in names)
        {
            if (name.Names.Length is 0 or > 255 || name.Names.Contains('/') || name.Names is "*" or "**")
                Bad(name.Names, "this is no name of files. Write a name with * in it, such as *.tmp.");
            if (string.IsNullOrWhiteSpace(name.Reason)) Bad(name.Names, "it stays without a reason. Say why.");
        }
        return wrong.Count > 0
            ? Result<CarryList>.Failed(wrong)
            : new CarryList(rules, names, [.. whole.Distinct()], [.. first.Distinct()]);
    }

    /// <summary>
    /// What rules say of a computer before anybody decided: folders of clutter stay, and clouds' folders of which something proves that all
    /// of it is there; libraries are whole. What is clutter or a cloud's by its name alone comes along: a name proves too little.
    /// </summary>
    public static CarryList Of(ComputerFound found)
    {
        var left = found.Places.Where(p => p.IsLeftOut)
            .Select(p => new CarryRule(
                p.At,
                false,
                p.Kind == PlaceKind.Cloud ? InCloud(p.Name, p.Whose, p.KeptThere!) : $"{p.Name}: {p.Proof}",
                ""))
            .DistinctBy(r => r.Path).ToList();
        return new(left, [], [.. found.Places.Where(p => p.Kind == PlaceKind.Library).Select(p => p.At).Distinct()], []);
    }

    internal static string InCloud(string name, string? whose, string proof) => $"in a cloud already ({name}, of the {whose}): {proof}";

    /// <summary>This list with what a person decided, which counts before the rules.</summary>
    public Result<CarryList> With(IReadOnlyList<CarryRule> decided, IReadOnlyList<string> first) =>
        Kept(Create(
            [
                .. decided,
                .. Rules.Where(r =>
                    decided.All(d => d.Path != r.Path && (d.Carries || !r.Path.StartsWith(d.Path + "/", StringComparison.Ordinal))))
            ],
            Names,
            Whole,
            first));

    private Result<CarryList> Kept(Result<CarryList> made) =>
        IsOnlyThese && made.TryGet(out var list, out _) ? new CarryList(list.Rules, list.Names, list.Whole, list.First, true) : made;

    /// <summary>The rule that decides about a path; null: none does, and it comes along.</summary>
    public CarryRule? RuleOf(string path)
    {
        if (_rules.Count == 0) return null;
        for (var at = path; ;)
        {
            if (_rules.TryGetValue(at, out var rule)) return rule;
            if (at.LastIndexOf('/') is not (> 0 and var slash)) return null;
            at = at[..slash];
        }
    }

    /// <summary>What is to be done with a path.</summary>
    /// <param name="because">Why it stays; null: it does not.</param>
    public CarryVerdict Of(string path, bool isFolder, out string? because)
    {
        because = null;
        var rule = RuleOf(path);
        if (rule is { Carries: false } || (rule is null && IsOnlyThese))
        {
            if (isFolder && Rules.Any(r => r.Carries && r.Path.StartsWith(path + "/", StringComparison.Ordinal)))
                return CarryVerdict.Through;
            because = rule?.Reason ?? NotChosen;
            return CarryVerdict.Leave;
        }
        if (isFolder || Names.Count == 0) return CarryVerdict.Carry;
        var name = path[(path.LastIndexOf('/') + 1)..];
        foreach (var names in Names)
        {
            if (!names.Pattern.Matches(name, tellsCase: false)) continue;
            if (Whole.Any(w => path.StartsWith(w + "/", StringComparison.Ordinal)) || _rules.GetValueOrDefault(path) is { Carries: true })
                return CarryVerdict.Carry;
            because = names.Reason;
            return CarryVerdict.Leave;
        }
        return CarryVerdict.Carry;
    }

    /// <summary>As JSON, which is YAML, too: what <see cref="Read"/> takes.</summary>
    public string Write() =>
        JsonSerializer.Serialize(
            new
            {
                version = 1,
                leaveOut = Rules.Where(r => !r.Carries).Select(r => new { path = r.Path, reason = r.Reason, by = r.By }),
                carry = Rules.Where(r => r.Carries).Select(r => new { path = r.Path, by = r.By }),
                names = Names,
                whole = Whole,
                first = First,
                onlyThese = IsOnlyThese
            },
            Json);

    /// <summary>Reads a list as YAML or JSON; docs/formats.md has the form.</summary>
    public static Result<CarryList> Read(string yaml)
    {
        try
        {
            if (YamlBounds.Passed(yaml, MostParts) is { } passed) return new CarryListFormProblem(passed.Line, passed.What);
            var file = new DeserializerBuilder().WithNamingConvention(CamelCaseNamingConvention.Instance).Build().Deserialize<File?>(yaml);
            if (file is null || file.Version != 1) return new CarryListVersionProblem();
            var made = Create(
                [
                    .. file.LeaveOut.Select(l => new CarryRule(l.Path ?? "", false, l.Reason ?? "", l.By ?? "")),
                    .. file.Carry.Select(c => new CarryRule(c.Path ?? "", true, "", c.By ?? ""))
                ],
                [.. file.Names.Select(n => new NamesLeftOut(n.Names ?? "", n.Reason ?? ""))], file.Whole, file.First);
            return file.OnlyThese && made.TryGet(out var list, out _) ? list.Only([.. file.Carry.Select(c => c.Path ?? "")]) : made;
        }
        catch (YamlException broken)
        {
            return new CarryListFormProblem(broken.Start.Line, broken.InnerException?.Message ?? broken.Message);
        }
    }

    private sealed class File
    {
        public int Version { get; set; }

        public List<Line> LeaveOut { get; set; } = [];

        public List<Line> Carry { get; set; } = [];

        public List<Line> Names { get; set; } = [];

        public List<string> Whole { get; set; } = [];

        public List<string> First { get; set; } = [];

        public bool OnlyThese { get; set; }
    }

    private sealed class Line
    {
        public string? Path { get; set; }

        public string? Names { get; set; }

        public string? Reason { get; set; }

        public string? By { get; set; }
    }
}
