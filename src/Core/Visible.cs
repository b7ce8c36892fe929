using System.Globalization;
using System.Text;

namespace YardRelay.Core;

/// <summary>
/// Texts of others, such as names of files, as people see them: nothing in them moves the cursor, paints, turns the direction of what
/// stands beside it, or begins a line of its own. What would is written as its number, <c>\u001B</c>, as JSON does.
/// </summary>
public static class Visible
{
    // Marks that turn the direction of text, part lines, or take no room (Unicode Standard, 23.2 and 23.8).
    private const string Marks =
        "\u061C\u200B\u200E\u200F\u2028\u2029\u202A\u202B\u202C\u202D\u202E\u2060\u2066\u2067\u2068\u2069\uFEFF";

    /// <summary>Whether all of a text is seen as it is.</summary>
    public static bool IsPlain(string text) => text.All(c => IsPlain(c, linesStay: false));

    /// <summary>A text within a line.</summary>
    public static string Line(string text) => Of(text, linesStay: false);

    /// <summary>A writer to a terminal: lines and tabs stay as they are.</summary>
    public static TextWriter On(TextWriter terminal) => new Writer(terminal);

    private static string Of(string text, bool linesStay)
    {
        var first = 0;
        while (first < text.Length && IsPlain(text[first], linesStay)) first++;
        if (first == text.Length) return text;
        var shown = new StringBuilder(text, 0, first, text.Length + 16);
        foreach (var c in text.AsSpan(first))
            if (IsPlain(c, linesStay)) shown.Append(c);
            else shown.Append(CultureInfo.InvariantCulture, $"\\u{(int)c:X4}");
        return shown.ToString();
    }

    private static bool IsPlain(char c, bool linesStay) =>
        char.IsControl(c) ? linesStay && (c is '\n' or '\r' or '\t') : !Marks.Contains(c, StringComparison.Ordinal);

    private sealed class Writer(TextWriter terminal) : TextWriter(terminal.FormatProvider)
    {
        public override Encoding Encoding => terminal.Encoding;

        public override void Write(char value) => terminal.Write(Of(value.ToString(), linesStay: true));

        public override void Write(string? value)
        {
            if (value is not null) terminal.Write(Of(value, linesStay: true));
        }

        public override void Write(char[] buffer, int index, int count) => Write(new string(buffer, index, count));

        public override void Flush() => terminal.Flush();
    }
}
