using System.Text.RegularExpressions;
using YardRelay.Peers;

namespace YardRelay.Form.Tests;

/// <summary>The pages about the code name what is there.</summary>
public sealed partial class MapTests
{
    [GeneratedRegex(@"`((?:src|Core|Service|Contracts|Carriage|Client|Hand|Line|Records|console|tests|docs)/[\w/.*-]+)`")]
    private static partial Regex Named();

    private static bool IsThere(string path)
    {
        var at = path.StartsWith("src/", StringComparison.Ordinal) || path is ['c', 'o', 'n', ..] or ['t', ..] or ['d', ..]
            ? path
            : "src/" + path;
        var (folder, name) = (Path.Combine(Run.Root, Path.GetDirectoryName(at)!), Path.GetFileName(at));
        return Directory.Exists(folder) && (name.Length == 0 || Directory.EnumerateFileSystemEntries(folder, name).Any());
    }

    [Fact]
    public void The_map_names_only_what_is_there_and_every_part()
    {
        var map = File.ReadAllText(Path.Combine(Run.Root, "docs/map.md")).Replace("/NAME", "/", StringComparison.Ordinal);
        var named = Named().Matches(map).Select(m => m.Groups[1].Value).ToList();
        named.Count.ShouldBeGreaterThan(30);
        named.Where(n => !IsThere(n)).ShouldBeEmpty();
        foreach (var part in Directory.GetDirectories(Path.Combine(Run.Root, "src")).Select(Path.GetFileName))
            map.ShouldContain(part!.Split('.')[0]);
    }

    [Fact]
    public void A_page_about_a_part_is_read_at_one_sitting()
    {
        foreach (var page in Directory.GetFiles(Path.Combine(Run.Root, "docs/architecture"), "*.md"))
            File.ReadAllText(page).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length.ShouldBeLessThan(1200, page);
    }
}
