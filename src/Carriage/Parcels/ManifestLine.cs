using System.Text;
using YardRelay.Carriage.Depots;

namespace YardRelay.Carriage.Parcels;

/// <summary>A line of a BagIt manifest: digest, two spaces, path with CR, LF and '%' percent-encoded (RFC 8493, section 2.1.3).</summary>
internal readonly record struct ManifestLine(string Sha256, DepotPath Path)
{
    public string Text => $"{Sha256}  {Encoded(Path.Text)}\n";

    private static string Encoded(string path) =>
        path.Replace("%", "%25", StringComparison.Ordinal)
            .Replace("\r", "%0D", StringComparison.Ordinal)
            .Replace("\n", "%0A", StringComparison.Ordinal);

    public static ManifestLine? TryParse(ReadOnlySpan<byte> line)
    {
        if (line.Length < 67 || line[64] is not ((byte)' ' or (byte)'\t')) return null;
        var digest = Encoding.ASCII.GetString(line[..64]).ToLowerInvariant();
        if (!digest.All(char.IsAsciiHexDigitLower)) return null;
        var text = Encoding.UTF8.GetString(line[65..].TrimStart(" \t*"u8));
        text = text.Replace("%0D", "\r", StringComparison.OrdinalIgnoreCase)
            .Replace("%0A", "\n", StringComparison.OrdinalIgnoreCase)
            .Replace("%25", "%", StringComparison.Ordinal);
        return DepotPath.TryParse(text) is { IsRoot: false } path ? new(digest, path) : null;
    }
}
