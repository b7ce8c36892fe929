namespace YardRelay.Core.Ids;

/// <summary>Asset tag of a computer, such as <c>KB-1042</c>: what stands on its label.</summary>
public readonly record struct Tag : IParsable<Tag>
{
    /// <summary>Most characters of one.</summary>
    public const int MostCharacters = IdForm.MostCharacters;

    private readonly string? _text;

    private Tag(string text) => _text = text;

    /// <summary>As it is written.</summary>
    public string Text => _text ?? "";

    /// <summary>
    /// What can be one by its form: 1 to <see cref="MostCharacters"/> characters that can be seen. Whether there is such a thing, records
    /// tell.
    /// </summary>
    public static bool TryParse([System.Diagnostics.CodeAnalysis.NotNullWhen(true)] string? s, IFormatProvider? provider, out Tag result)
    {
        result = IdForm.Fits(s) ? new(s) : default;
        return result._text is not null;
    }

    /// <summary>The same for a text that is known to be one.</summary>
    /// <exception cref="FormatException">It cannot be one.</exception>
    public static Tag Parse(string s, IFormatProvider? provider = null) => IdForm.Parse<Tag>(s, provider);

    /// <summary>Every one is a text; not every text is one.</summary>
    public static implicit operator string(Tag id) => id.Text;

    /// <inheritdoc/>
    public override string ToString() => Text;
}
