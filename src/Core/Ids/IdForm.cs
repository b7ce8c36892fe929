using System.Diagnostics.CodeAnalysis;

namespace YardRelay.Core.Ids;

/// <summary>What texts can be ids, for all kinds of them.</summary>
internal static class IdForm
{
    public const int MostCharacters = 200;

    public static bool Fits([NotNullWhen(true)] string? text) =>
        text is { Length: > 0 and <= MostCharacters } && !text.Any(char.IsControl);

    public static T Parse<T>(string text, IFormatProvider? provider) where T : IParsable<T> =>
        T.TryParse(text, provider, out var parsed) ? parsed : throw new FormatException($"'{text}' cannot be one.");
}
