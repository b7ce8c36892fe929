using System.Text.RegularExpressions;

namespace YardRelay.Line.Shown;

/// <summary>
/// A table that fits a terminal: words are shortened, columns that are less needed go, and what somebody would copy (ids, tags, times,
/// figures) is never cut.
/// </summary>
/// <param name="Columns">Which columns stay.</param>
/// <param name="Rows">Their cells.</param>
/// <param name="LeftOut">Heads of those that do not.</param>
internal sealed partial record TableFit(IReadOnlyList<int> Columns, IReadOnlyList<string[]> Rows, IReadOnlyList<string> LeftOut)
{
    private const int LeastWords = 12;

    // Two cells of margin and one of rule for each column.
    private const int Around = 3;

    /// <param name="width">Columns of the terminal.</param>
    public static TableFit Of(IReadOnlyList<string> heads, IReadOnlyList<string[]> rows, int width)
    {
        var widths = heads.Select((h, i) => rows.Select(r => r[i].Length).Append(h.Length).Max()).ToArray();
        var isWords = heads.Select((_, i) => rows.Any(r => !IsWhole().IsMatch(r[i]))).ToArray();
        var kept = Enumerable.Range(0, heads.Count).ToList();
        // The first column says what a row is about; what is mostly empty says least.
        int LeastNeeded()
        {
            var rest = kept.Skip(1).ToList();
            int[] found =
            [
                rest.FindLastIndex(i => rows.Count(r => r[i].Length == 0) * 5 >= rows.Count * 4),
                rest.FindLastIndex(i => isWords[i] && !IsName().IsMatch(heads[i])),
                rest.FindLastIndex(i => !IsName().IsMatch(heads[i])),
                rest.Count - 1,
            ];
            return rest[found.First(i => i >= 0)];
        }

        int? WidestWords() => kept.Where(i => isWords[i] && widths[i] > Math.Max(LeastWords, heads[i].Length))
            .Select(i => (int?)i)
            .MaxBy(i => widths[i!.Value]);

        int Needed() => kept.Sum(i => widths[i] + Around) + 1;
        // The widest words give first, then columns go.
        while (Needed() > width && WidestWords() is { } widest) widths[widest]--;
        while (Needed() > width && kept.Count > 1) kept.Remove(LeastNeeded());
        return new(
            kept,
            [.. rows.Select(r => kept.Select(i => r[i].Length > widths[i] ? r[i][..(widths[i] - 1)] + "…" : r[i]).ToArray())],
            [.. heads.Where((h, i) => h.Length > 0 && !kept.Contains(i))]);
    }

    /// <summary>One word; a day, a time of day, or both; a figure with its unit.</summary>
    [GeneratedRegex(
        @"^(\S*|((Mon|Tue|Wed|Thu|Fri|Sat|Sun) )?(\d{1,2} [A-Z][a-z]{2}|\d{4}-\d{2}-\d{2})( \d{4})?(,? \d{1,2}:\d{2}( to \d{1,2}:\d{2})?)?"
            + @"|[\d.,]+ \S{1,7})$")]
    private static partial Regex IsWhole();

    /// <summary>Heads of columns that say which thing a row is about.</summary>
    [GeneratedRegex("^(Swap|Id|Key|Tag|Name|Person)$")]
    private static partial Regex IsName();
}
