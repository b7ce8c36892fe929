namespace YardRelay.Core.Ids;

/// <summary>Key of a step within a checklist, such as <c>mail</c>.</summary>
public readonly record struct StepKey : IParsable<StepKey>
{
    /// <summary>Most characters of one.</summary>
    public const int MostCharacters = 200;

    private readonly string? _text;

    private StepKey(string text) => _text = text;

    /// <summary>As it is written.</summary>
    public string Text => _text ?? "";

    /// <summary>
    /// What can be one by its form: 1 to <see cref="MostCharacters"/> characters that can be seen. Whether there is such a thing, records
    /// tell.
    /// </summary>
    public static bool TryParse(
        [System.Diagnostics.CodeAnalysis.NotNullWhen(true)] string? s, IFormatProvider? provider, out StepKey result)
    {
        var fits = s is { Length: > 0 and <= MostCharacters } && !s.Any(char.IsControl);
        result = fits ? new(s!) : default;
        return fits;
    }

    /// <summary>The same for a text that is known to be one.</summary>
    /// <exception cref="FormatException">It cannot be one.</exception>
    public static StepKey Parse(string s, IFormatProvider? provider = null) =>
        TryParse(s, provider, out var parsed) ? parsed : throw new FormatException($"'{s}' cannot be one.");

    /// <summary>Every one is a text; not every text is one.</summary>
    public static implicit operator string(StepKey id) => id.Text;

    /// <inheritdoc/>
    public override string ToString() => Text;
}
