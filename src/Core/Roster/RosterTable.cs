using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace YardRelay.Core.Roster;

/// <summary>A row of a table, as text.</summary>
/// <param name="Line">Line in the file, or row of the sheet, from 1.</param>
public sealed record RosterTableRow(int Line, IReadOnlyList<string> Cells);

/// <summary>A table of a spreadsheet before anybody knows what its columns mean.</summary>
/// <param name="Rows">As many cells as there are heads in each; rows without anything are left out.</param>
/// <param name="Faults">What could not be read as a table; these rows are not among <paramref name="Rows"/>.</param>
public sealed record RosterTable(IReadOnlyList<string> Heads, IReadOnlyList<RosterTableRow> Rows, IReadOnlyList<RosterFault> Faults)
{
    /// <summary>The most rows that are taken at once.</summary>
    public const int MostRows = 100_000;

    /// <summary>Columns that a file has at most.</summary>
    public const int MostColumns = 200;

    /// <summary>Reads CSV by RFC 4180 with a head; fields may also stand between semicolons or tabs.</summary>
    /// <param name="csv">See <see cref="RosterText.Decode"/>.</param>
    public static RosterTable OfCsv(string csv)
    {
        if (csv.StartsWith('\uFEFF')) csv = csv[1..];
        var (faults, rows) = (new List<RosterFault>(), new List<RosterTableRow>());
        if (csv.Contains('\uFFFD', StringComparison.Ordinal))
        {
            var line = csv[..csv.IndexOf('\uFFFD', StringComparison.Ordinal)].Count(c => c == '\n') + 1;
            return new([], [], [new(line, "", "", "it is not UTF-8.", "Save the file as CSV in UTF-8.")]);
        }
        using var text = new StringReader(csv);
        using var reader = new CsvReader(text, new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = RosterText.DelimiterOf(csv).ToString(),
            TrimOptions = TrimOptions.Trim,
            BadDataFound = bad => faults.Add(new(
                LineOf(bad.Context),
                "",
                Short(bad.RawRecord),
                "a quote stands inside a field that is not quoted.",
                "Put the whole field in quotes and double the quotes inside.")),
            MissingFieldFound = null,
        });
        if (!reader.Read() || !reader.ReadHeader()) return Empty;
        var heads = reader.HeaderRecord!.Select(h => h.Trim()).ToList();
        if (heads.Count > MostColumns)
            return new([], [], [new(1, "", "", $"there are more than {MostColumns} columns.", "Save only the columns of the roster.")]);
        while (reader.Read())
        {
            var line = LineOf(reader.Context);
            if (reader.Parser.Count == 1 && string.IsNullOrWhiteSpace(reader[0])) continue;
            if (rows.Count >= MostRows)
            {
                faults.Add(TooMany(line));
                break;
            }
            if (reader.Parser.Count != heads.Count)
                faults.Add(new(
                    line,
                    "",
                    Short(reader.Parser.RawRecord),
                    $"it has {reader.Parser.Count} fields, and the head has {heads.Count}.",
                    "Look for a comma too many or too few."));
            else rows.Add(new(line, reader.Parser.Record!));
        }
        return new(heads, rows, faults);
    }

    /// <summary>A file without anything in it.</summary>
    public static RosterTable Empty { get; } = new([], [], [new(
        1, "", "", "the file is empty.", $"Its first line must name the columns: {string.Join(",", RosterColumns.All)}.")]);

    /// <summary>The fault of a file that has more than <see cref="MostRows"/>.</summary>
    public static RosterFault TooMany(int line) =>
        new(line, "", "", $"there are more than {MostRows:#,0} rows.", "Split the roster into several files.");

    private static int LineOf(CsvContext context) =>
        Math.Max(1, context.Parser!.RawRow - context.Parser.RawRecord.TrimEnd('\r', '\n').Count(c => c == '\n'));

    internal static string Short(string text) => text.Trim() is { Length: > 60 } longer ? longer[..57] + "…" : text.Trim();
}
