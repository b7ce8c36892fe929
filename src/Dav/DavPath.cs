using System.Text;

namespace YardRelay.Dav;

/// <summary>A path in a share: decoded parts. Never leaves the share.</summary>
internal sealed record DavPath
{
    private DavPath(string[] parts, bool asFolder) => (Parts, AsFolder) = (parts, asFolder);

    public static readonly DavPath Root = new([], true);

    public string[] Parts { get; }

    /// <summary>The request named it with a slash at its end.</summary>
    public bool AsFolder { get; }

    /// <summary>Identity: decoded, '/' between.</summary>
    public string Key => string.Join('/', Parts);

    /// <summary>As the system takes it: UTF-8, '/' between.</summary>
    public byte[] Bytes => Encoding.UTF8.GetBytes(Key);

    /// <summary>Its last name, as the system takes it.</summary>
    public byte[] NameBytes => Encoding.UTF8.GetBytes(Parts[^1]);

    public bool IsRoot => Parts.Length == 0;

    public DavPath Parent => new(Parts[..^1], true);

    public DavPath Child(string name, bool folder) => new([.. Parts, name], folder);

    /// <summary>Reads the raw, still encoded path of a request; null when it leaves the share or is malformed.</summary>
    public static DavPath? TryParse(string raw, string prefix)
    {
        var query = raw.IndexOf('?', StringComparison.Ordinal);
        var path = query < 0 ? raw : raw[..query];
        if (path.Contains('#', StringComparison.Ordinal)) return null;
        if (prefix.Length > 0 && path != prefix && !path.StartsWith(prefix + "/", StringComparison.Ordinal)) return null;
        path = path[prefix.Length..];
        var parts = new List<string>();
        foreach (var part in path.Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            var name = Uri.UnescapeDataString(part);
            if (name is "." or ".." || name.Contains('/', StringComparison.Ordinal) || name.Contains('\0', StringComparison.Ordinal))
                return null;
            parts.Add(name);
        }
        return new([.. parts], path.EndsWith('/') || path.Length == 0);
    }

    /// <summary>Encoded for an href.</summary>
    public string Href(string prefix, bool folder) =>
        prefix + "/" + string.Join('/', Parts.Select(Uri.EscapeDataString)) + (folder && Parts.Length > 0 ? "/" : "");

    public bool Equals(DavPath? other) => other is not null && Key == other.Key;

    public override int GetHashCode() => Key.GetHashCode(StringComparison.Ordinal);
}
