using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using YardRelay.Files;

namespace YardRelay.Peers;

/// <summary>All that stands in a folder, as text that can be compared, whatever system it lies on.</summary>
public static class SeenTree
{
    /// <summary>Each name in order with its kind; of a file how many names it has and its digest, of a link where it points to.</summary>
    public static string Of(OpenFolder folder)
    {
        var lines = new StringBuilder();
        foreach (var name in folder.Names().OrderBy(Convert.ToHexString))
        {
            var facts = folder.TryFacts(name, out _)!.Value;
            lines.Append(CultureInfo.InvariantCulture, $"{Encoding.UTF8.GetString(name)} {facts.Kind}");
            if (facts.Kind == NodeKind.Link) lines.Append(" -> ").Append(Encoding.UTF8.GetString(folder.ReadLink(name)));
            if (facts.Kind == NodeKind.File)
                lines.Append(CultureInfo.InvariantCulture, $" {facts.Links} {DigestOf(folder, name, facts.Bytes)}");
            lines.Append('\n');
            if (facts.Kind != NodeKind.Folder) continue;
            using var inside = folder.OpenFolderAt(name);
            foreach (var line in Of(inside).Split('\n', StringSplitOptions.RemoveEmptyEntries))
                lines.Append("  ").Append(line).Append('\n');
        }
        return lines.ToString();
    }

    private static string DigestOf(OpenFolder folder, byte[] name, long bytes)
    {
        using var content = new FileReadStream(folder.OpenFileAt(name, FileUse.Read), bytes);
        return Convert.ToHexStringLower(SHA256.HashData(content));
    }
}
