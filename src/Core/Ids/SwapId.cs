namespace YardRelay.Core.Ids;

/// <summary>Id of a swap, such as <c>autumn-0012</c>: its refresh's key, '-' and a number.</summary>
public readonly record struct SwapId : IParsable<SwapId>
{
    /// <summary>Most characters of one.</summary>
    public const int MostCharacters = IdForm.MostCharacters;

    private readonly string? _text;

    private SwapId(string text) => _text = text;

    /// <summary>As it is written.</summary>
    public string Text => _text ?? "";

    /// <summary>The refresh that the swap belongs to: what stands before the last '-'.</summary>
    public RefreshKey Refresh =>
        RefreshKey.TryParse(Text.LastIndexOf('-') is > 0 and var dash ? Text[..dash] : "", null, out var key) ? key : default;

    /// <summary>
    /// What can be one by its form: 1 to <see cref="MostCharacters"/> characters that can be seen. Whether there is such a thing, records
    /// tell.
    /// </summary>
    public static bool TryParse([System.Diagnostics.CodeAnalysis.NotNullWhen(true)] string? s, IFormatProvider? provider, out SwapId result)
    {
        result = IdForm.Fits(s) ? new(s) : default;
        return result._text is not null;
    }

    /// <summary>The same for a text that is known to be one.</summary>
    /// <exception cref="FormatException">It cannot be one.</exception>
    public static SwapId Parse(string s, IFormatProvider? provider = null) => IdForm.Parse<SwapId>(s, provider);

    /// <summary>Every one is a text; not every text is one.</summary>
    public static implicit operator string(SwapId id) => id.Text;

    /// <inheritdoc/>
    public override string ToString() => Text;
}
