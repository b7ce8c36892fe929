using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace YardRelay.Core.Roster;

/// <summary>
/// What spreadsheets really write: text in UTF-8, UTF-16 or Windows-1252, commas, semicolons or tabs, dates in three orders.
/// </summary>
public static partial class RosterText
{
    private static readonly UTF8Encoding Utf8 = new(false, throwOnInvalidBytes: true);

    /// <summary>
    /// The text of a file: by its byte-order mark; else UTF-8 where it is well formed; else Windows-1252, in which every byte is a
    /// character.
    /// </summary>
    public static string Decode(ReadOnlySpan<byte> file)
    {
        if (file.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xFE])) return Encoding.Unicode.GetString(file[2..]);
        if (file.StartsWith((ReadOnlySpan<byte>)[0xFE, 0xFF])) return Encoding.BigEndianUnicode.GetString(file[2..]);
        if (file.StartsWith((ReadOnlySpan<byte>)[0xEF, 0xBB, 0xBF])) file = file[3..];
        try
        {
            return Utf8.GetString(file);
        }
        catch (DecoderFallbackException)
        {
            return CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(file);
        }
    }

    /// <summary>What stands between the fields: of comma, semicolon and tab the one that the head has most of, outside quotes.</summary>
    public static char DelimiterOf(string csv)
    {
        var counts = new Dictionary<char, int> { [','] = 0, [';'] = 0, ['\t'] = 0 };
        var quoted = false;
        foreach (var c in csv)
        {
            if (c == '"') quoted = !quoted;
            else if (quoted) continue;
            else if (c is '\n' or '\r' && counts.Values.Any(n => n > 0)) break;
            else if (counts.TryGetValue(c, out var n)) counts[c] = n + 1;
        }
        return counts.MaxBy(c => c.Value).Key;
    }

    /// <summary>Whether dates with '/' have the day first, from all of them together: one number above 12 tells.</summary>
    /// <returns>Null when none of them tells, or when they tell different things.</returns>
    public static bool? IsDayFirst(IEnumerable<string> fields)
    {
        var (day, month) = (false, false);
        foreach (Match date in fields.SelectMany(f => SlashDate().Matches(f)))
        {
            day |= int.Parse(date.Groups[1].Value, CultureInfo.InvariantCulture) > 12;
            month |= int.Parse(date.Groups[2].Value, CultureInfo.InvariantCulture) > 12;
        }
        return day == month ? null : day;
    }

    /// <summary>Reads <c>2026-11-25</c>, <c>25.11.2026</c>, or with '/' in the order of the file.</summary>
    /// <param name="dayFirst">The order of the file; null: dates with '/' cannot be told.</param>
    public static DateOnly? DateOf(string text, bool? dayFirst)
    {
        string[] forms = ["yyyy-MM-dd", "d.M.yyyy", .. dayFirst switch { true => new[] { "d/M/yyyy" }, false => ["M/d/yyyy"], null => [] }];
        return DateOnly.TryParseExact(text, forms, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
    }

    [GeneratedRegex(@"\b(\d{1,2})/(\d{1,2})/\d{4}\b")]
    private static partial Regex SlashDate();
}
