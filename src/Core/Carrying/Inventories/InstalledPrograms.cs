using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>Which programs a platform's own records tell of. Pure: texts go in.</summary>
public static partial class InstalledPrograms
{
    private const int MostTold = 5000;

    // What comes along by itself with something else is nothing to install again.
    private static readonly HashSet<string> Parts = new(StringComparer.Ordinal)
    {
        "libs", "libdevel", "oldlibs", "debug", "doc", "localization", "kernel", "introspection", "python", "perl", "ruby", "java", "fonts",
        "devel", "rust", "golang", "javascript"
    };

    /// <summary>
    /// Debian and its relatives: <c>/var/lib/dpkg/status</c> (deb-control(5)); libraries and the like left out, and what is required or
    /// important on every such system.
    /// </summary>
    public static IReadOnlyList<ProgramFound> OfDpkg(string status)
    {
        var found = new List<ProgramFound>();
        foreach (var paragraph in status.Split("\n\n", StringSplitOptions.RemoveEmptyEntries))
        {
            var fields = paragraph.Split('\n')
                .Where(l => l.Length > 0 && l[0] != ' ')
                .Select(l => l.Split(':', 2))
                .Where(f => f.Length == 2)
                .GroupBy(f => f[0])
                .ToDictionary(g => g.Key, g => g.First()[1].Trim());
            if (fields.GetValueOrDefault("Status") != "install ok installed"
                || fields.GetValueOrDefault("Essential") == "yes"
                || fields.GetValueOrDefault("Priority") is "required" or "important" or "standard")
                continue;
            if (Parts.Contains(fields.GetValueOrDefault("Section", "").Split('/')[^1])) continue;
            if (fields.TryGetValue("Package", out var name)) found.Add(new(name, fields.GetValueOrDefault("Version", ""), "dpkg"));
        }
        return Told(found);
    }

    [GeneratedRegex("""^\[(?<key>.*\\Uninstall\\[^\\\]]+)\]\s*$""", RegexOptions.IgnoreCase)]
    private static partial Regex UninstallKey();

    [GeneratedRegex("^\"(?<name>[^\"]+)\"=(\"(?<text>.*)\"|dword:(?<number>[0-9a-fA-F]{1,8}))\\s*$")]
    private static partial Regex RegistryValue();

    /// <summary>Windows: an export (.reg) of the registry's <c>…\CurrentVersion\Uninstall</c> keys; system components left out.</summary>
    public static IReadOnlyList<ProgramFound> OfRegistry(string export)
    {
        var (found, values, within) = (new List<ProgramFound>(), new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase), false);
        foreach (var line in export.Split('\n').Append("["))
        {
            if (line.StartsWith('['))
            {
                if (within
                    && values.TryGetValue("DisplayName", out var name)
                    && values.GetValueOrDefault("SystemComponent") != "1"
                    && !values.ContainsKey("ParentKeyName"))
                    found.Add(new(name, values.GetValueOrDefault("DisplayVersion", ""), "registry"));
                values.Clear();
                within = UninstallKey().IsMatch(line);
            }
            else if (within && RegistryValue().Match(line.TrimEnd('\r')) is { Success: true } value)
                values[value.Groups["name"].Value] = value.Groups["number"] is { Success: true } number
                    ? Convert.ToInt64(number.Value, 16).ToString(System.Globalization.CultureInfo.InvariantCulture)
                    : value.Groups["text"].Value.Replace("\\\"", "\"", StringComparison.Ordinal)
                        .Replace("\\\\", "\\", StringComparison.Ordinal);
        }
        return Told(found);
    }

    /// <summary>macOS: an application's <c>Contents/Info.plist</c> in its XML form; null where it tells no name.</summary>
    public static ProgramFound? OfInfoPlist(string plist)
    {
        try
        {
            using var reader = XmlReader.Create(new StringReader(plist), new()
            {
                DtdProcessing = DtdProcessing.Ignore,
                MaxCharactersInDocument = 4 << 20
            });
            var values = XDocument.Load(reader).Root?.Element("dict")?.Elements("key").Where(k =>
                k.ElementsAfterSelf().FirstOrDefault()?.Name == "string")
                .GroupBy(k => k.Value)
                .ToDictionary(g => g.Key, g => ((XElement)g.First().ElementsAfterSelf().First()).Value)
                ?? [];
            return (values.GetValueOrDefault("CFBundleDisplayName") ?? values.GetValueOrDefault("CFBundleName")) is { } name
                ? new(name, values.GetValueOrDefault("CFBundleShortVersionString", ""), "application")
                : null;
        }
        catch (XmlException)
        {
            return null;
        }
    }

    private static IReadOnlyList<ProgramFound> Told(List<ProgramFound> found) =>
        [.. found.DistinctBy(p => (p.Name, p.Version)).OrderBy(p => p.Name, StringComparer.OrdinalIgnoreCase).Take(MostTold)];
}
