namespace YardRelay.Service.Facts;

/// <summary>Patterns for what people type into a search field.</summary>
internal static class SearchPattern
{
    /// <summary>A pattern for what contains a text, in small letters; to be used with <c>\</c> as escape.</summary>
    public static string Like(string text) => "%" + Escaped(text.Trim()) + "%";

    /// <summary>A pattern for what begins with a text, in small letters.</summary>
    public static string Beginning(string text) => Escaped(text) + "%";

    private static string Escaped(string text) =>
        text.ToLowerInvariant()
            .Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);
}
