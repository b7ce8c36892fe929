using System.Reflection;
using YamlDotNet.Core;
using YamlDotNet.RepresentationModel;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>All rules by which places are known.</summary>
public sealed class PlaceRules
{
    private const int MostRules = 2000;
    private const int MostParts = 100_000;
    private static readonly Lazy<PlaceRules> Shipped = new(() => Parse(StandardText).Value);

    private PlaceRules(IReadOnlyList<PlaceRule> all) => All = all;

    /// <summary>The rules, in their order; of two that match one folder the earlier counts.</summary>
    public IReadOnlyList<PlaceRule> All { get; }

    /// <summary>The rules that ship with the product.</summary>
    public static PlaceRules Standard => Shipped.Value;

    /// <summary>The same as text, with its comments: a start for rules of one's own.</summary>
    public static string StandardText
    {
        get
        {
            using var reader = new StreamReader(Assembly.GetExecutingAssembly().GetManifestResourceStream("YardRelay.Core.places.yaml")!);
            return reader.ReadToEnd();
        }
    }

    /// <summary>These rules, with others before them; one with the same key takes the place of ours.</summary>
    public PlaceRules With(PlaceRules others) => new([.. others.All, .. All.Where(r => others.All.All(o => o.Key != r.Key))]);

    /// <summary>Reads rules, and says everything that is wrong with them at once.</summary>
    public static Result<PlaceRules> Read(string yaml)
    {
        try
        {
            return YamlBounds.Passed(yaml, MostParts) is { } passed ? new PlacesFormProblem(passed.Line, passed.What) : Parse(yaml);
        }
        catch (YamlException broken)
        {
            return new PlacesFormProblem(broken.Start.Line, broken.Message);
        }
    }

    private static Result<PlaceRules> Parse(string yaml)
    {
        List<Place> places;
        try
        {
            // Node by node, not by reflection: a survey of a home with many files is over in half a second, and reads this first.
            var stream = new YamlStream();
            stream.Load(new StringReader(yaml));
            if (stream.Documents.Count == 0
                || Entries(stream.Documents[0].RootNode) is not { } file
                || file.GetValueOrDefault("version") is not YamlScalarNode { Value: "1" })
                return new PlacesVersionProblem();
            foreach (var (key, node) in file)
                if (key is not ("version" or "places"))
                    throw new YamlException(node.Start, node.End, $"'{key}' is not known here. Use version and places.");
            places = [.. Items(file.GetValueOrDefault("places")).Take(MostRules + 1).Select(Place.From)];
        }
        catch (YamlException broken)
        {
            return new PlacesFormProblem(broken.Start.Line, broken.InnerException?.Message ?? broken.Message);
        }
        if (places.Count > MostRules) return new PlacesManyProblem(MostRules);
        var (rules, wrong) = (new List<PlaceRule>(), new List<Problem>());
        foreach (var (i, place) in places.Index())
        {
            void Bad(string what) =>
                wrong.Add(new PlacesRuleProblem(i + 1, place.Key is { Length: > 0 } key ? $" '{key}'" : "", what));
            if (place.Key is not { Length: > 0 and <= 60 }) Bad("it has no 'key', or one longer than 60 characters.");
            else if (rules.Any(r => r.Key == place.Key)) Bad("another rule has this key. Give each its own.");
            if (place.Name is not { Length: > 0 and <= 120 }) Bad("it has no 'name', or one longer than 120 characters.");
            if (!Enum.TryParse<PlaceKind>(place.Kind, ignoreCase: true, out var kind)
                || kind == PlaceKind.Unusual
                || int.TryParse(place.Kind, out _))
                Bad($"'{place.Kind}' is no kind of place. Use folder, browser, mail, settings, library, cloud or clutter.");
            var paths = new Dictionary<HomePlatform, IReadOnlyList<PlacePattern>>();
            List<PlacePattern> Patterns(List<string> texts)
            {
                var patterns = new List<PlacePattern>();
                foreach (var text in texts)
                    if (PlacePattern.Parse(text).TryGet(out var pattern, out var problem)) patterns.Add(pattern);
                    else Bad(problem.Message);
                return patterns;
            }
            var anywhere = Patterns(place.Anywhere);
            foreach (var (platform, texts) in new[]
            {
                (HomePlatform.Linux, place.Linux), (HomePlatform.Windows, place.Windows), (HomePlatform.Mac, place.Mac)
            })
                if ((List<PlacePattern>)[.. anywhere, .. Patterns(texts)] is { Count: > 0 } all) paths[platform] = all;
            if (paths.Count == 0) Bad("it has no path. Give 'linux', 'windows', 'mac', or 'anywhere' for all three.");
            foreach (var lacking in LacksOf(kind, place)) Bad(lacking);
            rules.Add(new(
                place.Key ?? "", kind, place.Name ?? "", paths, place.Marks, place.Files, place.Needs, place.Whose, place.Of,
                place.KeptThere?.Trim()));
        }
        return wrong.Count > 0 ? Result<PlaceRules>.Failed(wrong) : new PlaceRules(rules);
    }

    /// <summary>What a rule says too little or too much of for its kind.</summary>
    private static IEnumerable<string> LacksOf(PlaceKind kind, Place place)
    {
        if (kind == PlaceKind.Cloud && place.Whose is not ("person" or "organisation" or "team"))
            yield return "a cloud says 'whose' it is: person, organisation or team.";
        if (kind == PlaceKind.Library && place.Of is null or "") yield return "a library says what it is a library 'of', such as photos.";
        if (place.KeptThere is { } proof && (kind != PlaceKind.Cloud || proof.Trim().Length is 0 or > 200))
            yield return "'keptThere' is for a cloud, and says in at most 200 characters who saw that all of it is there.";
    }

    private static Dictionary<string, YamlNode> Entries(YamlNode node) => node is YamlMappingNode map
        ? map.Children.ToDictionary(c => Text(c.Key), c => c.Value)
        : throw new YamlException(node.Start, node.End, "Names with values are expected here.");

    private static IEnumerable<YamlNode> Items(YamlNode? node) => node switch
    {
        null or YamlScalarNode { Value: null or "" or "~" or "null" } => [],
        YamlSequenceNode list => list.Children,
        _ => throw new YamlException(node.Start, node.End, "A list is expected here."),
    };

    private static string Text(YamlNode node) =>
        node is YamlScalarNode { Value: { } text } ? text : throw new YamlException(node.Start, node.End, "A text is expected here.");

    /// <summary>A rule as it stands in the file.</summary>
    private sealed class Place
    {
        public string? Key { get; private set; }

        public string? Kind { get; private set; }

        public string? Name { get; private set; }

        public List<string> Anywhere { get; private set; } = [];

        public List<string> Linux { get; private set; } = [];

        public List<string> Windows { get; private set; } = [];

        public List<string> Mac { get; private set; } = [];

        public List<string> Marks { get; private set; } = [];

        public bool Files { get; private set; }

        public string? Needs { get; private set; }

        public string? Whose { get; private set; }

        public string? Of { get; private set; }

        public string? KeptThere { get; private set; }

        /// <exception cref="YamlException">It has what no rule has.</exception>
        public static Place From(YamlNode rule)
        {
            var place = new Place();
            foreach (var (key, node) in Entries(rule))
            {
                List<string> Texts() => [.. Items(node).Select(Text)];
                switch (key)
                {
                    case "key": place.Key = Text(node); break;
                    case "kind": place.Kind = Text(node); break;
                    case "name": place.Name = Text(node); break;
                    case "anywhere": place.Anywhere = Texts(); break;
                    case "linux": place.Linux = Texts(); break;
                    case "windows": place.Windows = Texts(); break;
                    case "mac": place.Mac = Texts(); break;
                    case "marks": place.Marks = Texts(); break;
                    case "files":
                        place.Files = bool.TryParse(Text(node), out var files)
                            ? files
                            : throw new YamlException(node.Start, node.End, "'files' is true or false.");
                        break;
                    case "needs": place.Needs = Text(node); break;
                    case "whose": place.Whose = Text(node); break;
                    case "of": place.Of = Text(node); break;
                    case "keptThere": place.KeptThere = Text(node); break;
                    default:
                        throw new YamlException(
                            node.Start,
                            node.End,
                            $"'{key}' is not known here. Use key, kind, name, anywhere, linux, windows, mac, marks, files, needs, whose, "
                                + "of or keptThere.");
                }
            }
            return place;
        }
    }
}
