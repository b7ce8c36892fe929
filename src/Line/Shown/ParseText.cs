using System.CommandLine;
using System.CommandLine.Parsing;

namespace YardRelay.Line.Shown;

/// <summary>What is wrong with a value on the command line, in words: what was given, where, and what is taken there.</summary>
internal static class ParseText
{
    /// <summary>The error in our own words where its value is of another kind than is taken; else as the parser says it.</summary>
    public static string Of(ParseError error)
    {
        var (where, type) = error.SymbolResult switch
        {
            OptionResult { Option: var option } => (option.Name, option.ValueType),
            ArgumentResult { Argument: var argument, Parent: OptionResult { Option: var option } } => (option.Name, argument.ValueType),
            ArgumentResult { Argument: var argument } => ($"'{argument.Name}'", argument.ValueType),
            _ => ("", typeof(string)),
        };
        if (!error.Message.Contains("expected type", StringComparison.Ordinal) || Takes(type) is not { } takes) return error.Message;
        var given = error.SymbolResult?.Tokens.FirstOrDefault()?.Value;
        return $"{where} takes {takes}{(given is null ? "" : $", not '{given}'")}.";
    }

    private static string? Takes(Type type)
    {
        type = Nullable.GetUnderlyingType(type) ?? type;
        if (type.IsArray) type = type.GetElementType()!;
        return type switch
        {
            { IsEnum: true } => string.Join(", ", Enum.GetNames(type).Select(n => char.ToLowerInvariant(n[0]) + n[1..])) is var names
                && names.LastIndexOf(", ", StringComparison.Ordinal) is > 0 and var last
                    ? $"{names[..last]} or {names[(last + 2)..]}"
                    : null,
            _ when type == typeof(int) || type == typeof(long) => "a whole number, such as 4",
            _ when type == typeof(double) || type == typeof(decimal) => "a number, such as 2.5",
            _ when type == typeof(DateOnly) => "a day, such as 2026-11-26",
            _ when type == typeof(bool) => "true or false",
            _ => null,
        };
    }
}
