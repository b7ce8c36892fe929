using System.Reflection;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>All rules by which places are known.</summary>
public sealed class PlaceRules
{
    private const int MostRules = 2000;
    private static readonly Lazy<PlaceRules> Shipped = new(() => Read(StandardText).Value);

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
        File? file;
        try
        {
            file = new DeserializerBuilder().WithNamingConvention(CamelCaseNamingConvention.Instance).Build().Deserialize<File?>(yaml);
        }
        catch (YamlException broken)
        {
            return new Problem("places.form", $"The rules cannot be read: line {broken.Start.Line}: {broken.InnerException?.Message ?? broken.Message}");
        }
        if (file is null || file.Version != 1) return new Problem("places.version", "Rules for places begin with 'version: 1'.");
        if (file.Places.Count > MostRules) return new Problem("places.many", $"There are {file.Places.Count} rules. At most {MostRules} are taken.");
        var (rules, wrong) = (new List<PlaceRule>(), new List<Problem>());
        foreach (var (i, place) in file.Places.Index())
        {
            void Bad(string what) => wrong.Add(new("places.rule", $"Rule {i + 1}{(place.Key is { Length: > 0 } key ? $" '{key}'" : "")}: {what}"));
            if (place.Key is not { Length: > 0 and <= 60 }) Bad("it has no 'key', or one longer than 60 characters.");
            else if (rules.Any(r => r.Key == place.Key)) Bad("another rule has this key. Give each its own.");
            if (place.Name is not { Length: > 0 and <= 120 }) Bad("it has no 'name', or one longer than 120 characters.");
            if (!Enum.TryParse<PlaceKind>(place.Kind, ignoreCase: true, out var kind) || kind == PlaceKind.Unusual || int.TryParse(place.Kind, out _)) Bad($"'{place.Kind}' is no kind of place. Use folder, browser, mail, settings, library, cloud or clutter.");
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
            foreach (var (platform, texts) in new[] { (HomePlatform.Linux, place.Linux), (HomePlatform.Windows, place.Windows), (HomePlatform.Mac, place.Mac) })
                if ((List<PlacePattern>)[.. anywhere, .. Patterns(texts)] is { Count: > 0 } all) paths[platform] = all;
            if (paths.Count == 0) Bad("it has no path. Give 'linux', 'windows', 'mac', or 'anywhere' for all three.");
            if (kind == PlaceKind.Cloud && place.Whose is not ("person" or "organisation" or "team")) Bad("a cloud says 'whose' it is: person, organisation or team.");
            if (kind == PlaceKind.Library && place.Of is null or "") Bad("a library says what it is a library 'of', such as photos.");
            rules.Add(new(place.Key ?? "", kind, place.Name ?? "", paths, place.Marks, place.Files, place.Needs, place.Whose, place.Of));
        }
        return wrong.Count > 0 ? Result<PlaceRules>.Failed(wrong) : new PlaceRules(rules);
    }

    private sealed class File
    {
        public int Version { get; set; }

        public List<Place> Places { get; set; } = [];
    }

    private sealed class Place
    {
        public string? Key { get; set; }

        public string? Kind { get; set; }

        public string? Name { get; set; }

        public List<string> Anywhere { get; set; } = [];

        public List<string> Linux { get; set; } = [];

        public List<string> Windows { get; set; } = [];

        public List<string> Mac { get; set; } = [];

        public List<string> Marks { get; set; } = [];

        public bool Files { get; set; }

        public string? Needs { get; set; }

        public string? Whose { get; set; }

        public string? Of { get; set; }
    }
}
