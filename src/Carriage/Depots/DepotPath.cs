namespace YardRelay.Carriage.Depots;

/// <summary>
/// A relative path in a depot: parts of UTF-8 text with '/' between; never empty parts, '.' or '..', never absolute. Ordered by its UTF-8
/// bytes.
/// </summary>
public readonly record struct DepotPath : IComparable<DepotPath>
{
    private readonly string? _text;

    private DepotPath(string text) => _text = text;

    /// <summary>The depot's own root.</summary>
    public static readonly DepotPath Root = new("");

    /// <summary>The path as text; empty for the root.</summary>
    public string Text => _text ?? "";

    /// <summary>Whether this is the root.</summary>
    public bool IsRoot => Text.Length == 0;

    /// <summary>Last part; empty for the root.</summary>
    public string Name => Text[(Text.LastIndexOf('/') + 1)..];

    /// <summary>All but the last part.</summary>
    public DepotPath Parent => new(Text[..Math.Max(0, Text.LastIndexOf('/'))]);

    /// <summary>Reads a path; null where it would leave its folder or is not in the form above.</summary>
    public static DepotPath? TryParse(string? text)
    {
        if (text is null || text.Length == 0) return text is null ? null : Root;
        if (text.Contains('\0', StringComparison.Ordinal)) return null;
        foreach (var range in text.AsSpan().Split('/'))
            if (text.AsSpan()[range] is "" or "." or "..") return null;
        return new(text);
    }

    /// <summary>A path known to be well formed.</summary>
    /// <exception cref="ArgumentException">It is not.</exception>
    public static DepotPath Of(string text) =>
        TryParse(text) ?? throw new ArgumentException($"'{text}' is not a relative path.", nameof(text));

    /// <summary>One part below this path. The name is trusted to be a single part.</summary>
    public static DepotPath operator /(DepotPath folder, string name) =>
        new(folder.IsRoot ? name : name.Length == 0 ? folder.Text : folder.Text + "/" + name);

    /// <summary>A relative path below this path.</summary>
    public DepotPath Join(DepotPath below) => this / below.Text;

    /// <summary>This path as seen from <paramref name="folder"/>, which holds it.</summary>
    public DepotPath Below(DepotPath folder) =>
        folder.IsRoot ? this : new(Text.Length == folder.Text.Length ? "" : Text[(folder.Text.Length + 1)..]);

    /// <summary>Whether this path lies in <paramref name="folder"/> or is it.</summary>
    public bool IsIn(DepotPath folder) =>
        folder.IsRoot
            || Text == folder.Text
            || (Text.Length > folder.Text.Length
                && Text[folder.Text.Length] == '/'
                && Text.StartsWith(folder.Text, StringComparison.Ordinal));

    /// <inheritdoc/>
    public int CompareTo(DepotPath other) => CompareUtf8(Text, other.Text);

    /// <summary>Compares as the UTF-8 bytes would: UTF-16 order differs only where surrogates meet characters from U+E000 on.</summary>
    internal static int CompareUtf8(ReadOnlySpan<char> a, ReadOnlySpan<char> b)
    {
        var same = a.CommonPrefixLength(b);
        if (same == a.Length || same == b.Length) return a.Length.CompareTo(b.Length);
        int Rank(char c) => c >= 0xE000 ? c - 0x800 : c >= 0xD800 ? c + 0x2000 : c;
        return Rank(a[same]).CompareTo(Rank(b[same]));
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}
