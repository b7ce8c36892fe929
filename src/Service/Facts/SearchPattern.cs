namespace YardRelay.Service.Facts;

/// <summary>Patterns for what people type into a search field.</summary>
internal static class SearchPattern
{
    /// <summary>A pattern for what contains a text, in small letters; to be used with <c>\</c> as escape.</summary>
    public static string Like(string text) =>
        "%"
            + text.Trim().ToLowerInvariant()
                .Replace("\\", "\\\\", StringComparison.Ordinal)
                .Replace("%", "\\%", StringComparison.Ordinal)
                .Replace("_", "\\_", StringComparison.Ordinal)
            + "%";
}
