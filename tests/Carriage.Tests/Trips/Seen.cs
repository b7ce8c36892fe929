using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>All that must come back of a tree, as text that can be compared.</summary>
internal static class Seen
{
    /// <summary>Each name with its kind, mode, time, number of names, attributes and content.</summary>
    public static string Of(TreeRoot root)
    {
        var lines = new StringBuilder();
        using var open = root.Open();
        lines.Append(CultureInfo.InvariantCulture, $"{Dress(open, open.Facts())}\n");
        Add(open, "", lines);
        return lines.ToString();
    }

    /// <summary>Each path with what it is: the content of a file, the target of a link, or that it is a folder.</summary>
    public static Dictionary<string, string> Contents(TreeRoot root)
    {
        var all = new Dictionary<string, string>(StringComparer.Ordinal);
        using var open = root.Open();
        Add(open, "", all);
        return all;
    }

    private static void Add(OpenFolder folder, string at, Dictionary<string, string> all)
    {
        foreach (var name in folder.Names())
        {
            var facts = folder.TryFacts(name, out _)!.Value;
            var path = at + Encoding.UTF8.GetString(name);
            if (facts.Kind == NodeKind.Folder)
            {
                all[path] = "folder";
                using var inside = folder.OpenFolderAt(name);
                Add(inside, path + "/", all);
            }
            else if (facts.Kind == NodeKind.Link) all[path] = $"-> {Encoding.UTF8.GetString(folder.ReadLink(name))}";
            else
            {
                using var file = folder.OpenFileAt(name, FileUse.Read);
                using var content = new FileReadStream(file, facts.Bytes, leaveOpen: true);
                all[path] = string.Create(CultureInfo.InvariantCulture, $"{facts.Bytes} {Hash(content)}");
            }
        }
    }

    private static void Add(OpenFolder folder, string at, StringBuilder lines)
    {
        foreach (var name in folder.Names().OrderBy(Convert.ToHexString))
        {
            var facts = folder.TryFacts(name, out _)!.Value;
            var path = at + Encoding.UTF8.GetString(name);
            lines.Append(path).Append(' ').Append(facts.Kind);
            if (facts.Kind == NodeKind.Link)
                lines.Append(CultureInfo.InvariantCulture, $" {facts.Modified} -> {Encoding.UTF8.GetString(folder.ReadLink(name))}\n");
            else if (facts.Kind == NodeKind.File)
            {
                using var file = folder.OpenFileAt(name, FileUse.Read);
                using var content = new FileReadStream(file, facts.Bytes, leaveOpen: true);
                lines.Append(CultureInfo.InvariantCulture, $" {facts.Links} {facts.Bytes} {Hash(content)}{Dress(file, facts)}\n");
            }
            else
            {
                using var inside = folder.OpenFolderAt(name);
                lines.Append(CultureInfo.InvariantCulture, $"{Dress(inside, facts)}\n");
                Add(inside, path + "/", lines);
            }
        }
    }

    private static string Hash(Stream content) => Convert.ToHexStringLower(SHA256.HashData(content))[..12];

    private static string Dress(OpenNode node, NodeFacts facts) =>
        $" {Convert.ToString(facts.Mode, 8)} {facts.Modified}"
            + string.Concat((node.Attributes() ?? []).Select(a => $" {a.Key}={Convert.ToHexString(a.Value)}"));
}
