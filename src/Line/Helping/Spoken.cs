using System.CommandLine;
using System.CommandLine.Parsing;
using YardRelay.Line.Connections;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Helping;

/// <summary>
/// What was typed, as it is meant: <c>-</c> in place of several ids reads them from the input, and a number in place of a swap's id is the
/// swap of that number in the refresh that is meant.
/// </summary>
internal static class Spoken
{
    /// <summary>As many ids at most are read from the input.</summary>
    public const int MostRead = 10_000;

    /// <param name="args">As typed.</param>
    /// <param name="parsed">The same, parsed.</param>
    /// <param name="refresh">The option that names the refresh.</param>
    public static IReadOnlyList<string> Meant(IReadOnlyList<string> args, ParseResult parsed, Option<string?> refresh)
    {
        var named = parsed.CommandResult.Children.OfType<ArgumentResult>().ToList();
        var fromInput = named.Where(a => a.Argument.Arity.MaximumNumberOfValues > 1)
            .SelectMany(a => a.Tokens)
            .Where(t => t.Value == "-")
            .ToHashSet(ReferenceEqualityComparer.Instance);
        var ofSwaps = named.Where(a => a.Argument.Name is "swap" or "swaps" or "other-swap").ToList();
        var numbers = ofSwaps.SelectMany(a => a.Tokens).Where(t => IsNumber(t.Value)).ToHashSet(ReferenceEqualityComparer.Instance);
        if (fromInput.Count + numbers.Count == 0) return args;
        var key = ofSwaps.Count == 0 ? null : parsed.GetValue(refresh) ?? Connection.Read()?.Refresh;
        return [.. parsed.Tokens.SelectMany(t =>
            fromInput.Contains(t) ? FromInput(key)
            : key is not null && numbers.Contains(t) ? [Id(key, t.Value)]
            : [t.Value])];
    }

    private static bool IsNumber(string text) => text.Length is > 0 and <= 6 && text.All(char.IsAsciiDigit);

    private static string Id(string refresh, string number) => $"{refresh}-{number.TrimStart('0').PadLeft(4, '0')}";

    private static IEnumerable<string> FromInput(string? refresh) =>
        Surroundings.Here.ReadWords(MostRead).Select(w => refresh is not null && IsNumber(w) ? Id(refresh, w) : w);
}
