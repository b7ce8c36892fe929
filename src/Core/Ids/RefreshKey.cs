namespace YardRelay.Core.Ids;

/// <summary>Key of a refresh, such as <c>autumn</c>.</summary>
public readonly record struct RefreshKey : IParsable<RefreshKey>
{
    /// <summary>Most characters of one.</summary>
    public const int MostCharacters = IdForm.MostCharacters;

    private readonly string? _text;

    private RefreshKey(string text) => _text = text;

    /// <summary>As it is written.</summary>
    public string Text => _text ?? "";

    /// <summary>
    /// What can be one by its form: 1 to <see cref="MostCharacters"/> characters that can be seen. Whether there is such a thing, records
    /// tell.
    /// </summary>
    public static bool TryParse(
        [System.Diagnostics.CodeAnalysis.NotNullWhen(true)] string? s, IFormatProvider? provider, out RefreshKey result)
    {
        result = IdForm.Fits(s) ? new(s) : default;
        return result._text is not null;
    }

    /// <summary>The same for a text that is known to be one.</summary>
    /// <exception cref="FormatException">It cannot be one.</exception>
    public static RefreshKey Parse(string s, IFormatProvider? provider = null) => IdForm.Parse<RefreshKey>(s, provider);

    /// <summary>Every one is a text; not every text is one.</summary>
    public static implicit operator string(RefreshKey id) => id.Text;

    /// <inheritdoc/>
    public override string ToString() => Text;
}
