using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Roster;

/// <summary>One thing wrong with a roster, with all that is needed to mend it.</summary>
/// <param name="Line">Line in the file; a row that runs over several lines is named by its first.</param>
/// <param name="Column">Head of the column; empty when the row as a whole is wrong.</param>
/// <param name="Value">What stands there.</param>
public sealed record RosterFault(int Line, string Column, string Value, string Reason, string Remedy)
    : Problem("roster.row", $"Roster line {Line}{(Column.Length > 0 ? $", column '{Column}'" : "")}{(Value.Length > 0 ? $", value '{Value}'" : "")}: {Reason} {Remedy}");

/// <summary>Reads a roster: CSV by RFC 4180 with a head; fields may also stand between semicolons or tabs. The whole file is checked and everything wrong is reported at once.</summary>
public static class RosterReader
{
    private const int MostRows = 100_000;
    private static readonly string[] Needed = ["person", "name", "site", "kind"];
    private static readonly string[] Known = [.. Needed, "mail", "department", "room", "old_tag", "old_model", "new_tag", "new_model", "receiver", "free"];

    /// <summary>The rows of a roster, or all of its faults.</summary>
    public static Result<IReadOnlyList<RosterRow>> Read(string csv)
    {
        if (csv.StartsWith('\uFEFF')) csv = csv[1..];
        var faults = new List<Problem>();
        var rows = new List<RosterRow>();
        if (csv.Contains('\uFFFD', StringComparison.Ordinal))
        {
            var line = csv[..csv.IndexOf('\uFFFD', StringComparison.Ordinal)].Count(c => c == '\n') + 1;
            return new RosterFault(line, "", "", "it is not UTF-8.", "Save the file as CSV in UTF-8.");
        }
        var dayFirst = RosterText.IsDayFirst(FreeFields(csv));
        using var text = new StringReader(csv);
        using var reader = new CsvReader(text, new CsvConfiguration(CultureInfo.InvariantCulture) { Delimiter = RosterText.DelimiterOf(csv).ToString(), TrimOptions = TrimOptions.Trim, BadDataFound = bad => faults.Add(new RosterFault(LineOf(bad.Context), "", Short(bad.RawRecord), "a quote stands inside a field that is not quoted.", "Put the whole field in quotes and double the quotes inside.")), MissingFieldFound = null, PrepareHeaderForMatch = h => RosterText.HeadOf(h.Header) });
        if (!reader.Read() || !reader.ReadHeader()) return new RosterFault(1, "", "", "the file is empty.", $"Its first line must name the columns: {string.Join(",", Known)}.");
        var heads = reader.HeaderRecord!.Select(RosterText.HeadOf).ToList();
        foreach (var missing in Needed.Except(heads)) faults.Add(new RosterFault(1, missing, "", "this column is missing.", $"The columns are {string.Join(", ", Known)}; person, name, site and kind must be there."));
        foreach (var unknown in heads.Except(Known)) faults.Add(new RosterFault(1, unknown, "", "this column is not known.", $"Leave it out, or use one of {string.Join(", ", Known)}."));
        foreach (var twice in heads.GroupBy(h => h).Where(g => g.Count() > 1)) faults.Add(new RosterFault(1, twice.Key, "", "this column stands twice.", "Keep one of them."));
        if (faults.Count > 0) return Result<IReadOnlyList<RosterRow>>.Failed(faults);

        while (reader.Read())
        {
            var line = LineOf(reader.Context);
            if (reader.Parser.Count == 1 && string.IsNullOrWhiteSpace(reader[0])) continue;
            if (rows.Count >= MostRows)
            {
                faults.Add(new RosterFault(line, "", "", $"there are more than {MostRows:#,0} rows.", "Split the roster into several files."));
                break;
            }
            if (reader.Parser.Count != heads.Count) faults.Add(new RosterFault(line, "", Short(reader.Parser.RawRecord), $"it has {reader.Parser.Count} fields, and the head has {heads.Count}.", "Look for a comma too many or too few."));
            else if (ReadRow(reader, line, dayFirst, faults) is { } row) rows.Add(row);
        }

        CheckTogether(rows, faults);
        return faults.Count > 0 ? Result<IReadOnlyList<RosterRow>>.Failed([.. faults.OfType<RosterFault>().OrderBy(f => f.Line)]) : rows;
    }

    private static IEnumerable<string> FreeFields(string csv)
    {
        using var text = new StringReader(csv);
        using var reader = new CsvReader(text, new CsvConfiguration(CultureInfo.InvariantCulture) { Delimiter = RosterText.DelimiterOf(csv).ToString(), BadDataFound = null, MissingFieldFound = null, PrepareHeaderForMatch = h => RosterText.HeadOf(h.Header) });
        if (!reader.Read() || !reader.ReadHeader()) yield break;
        for (var rows = 0; rows < MostRows && reader.Read(); rows++)
            if (reader.TryGetField<string>("free", out var free) && !string.IsNullOrWhiteSpace(free)) yield return free;
    }

    private static int LineOf(CsvContext context) => Math.Max(1, context.Parser!.RawRow - context.Parser.RawRecord.TrimEnd('\r', '\n').Count(c => c == '\n'));

    private static string Short(string text) => text.Trim() is { Length: > 60 } longer ? longer[..57] + "…" : text.Trim();

    private static RosterRow? ReadRow(CsvReader reader, int line, bool? dayFirst, List<Problem> faults)
    {
        var before = faults.Count;
        void Say(string column, string value, string reason, string remedy) => faults.Add(new RosterFault(line, column, Short(value), reason, remedy));
        string? Field(string column) => reader.TryGetField<string>(column, out var value) && !string.IsNullOrWhiteSpace(value) ? value.Trim() : null;
        string Must(string column)
        {
            var value = Field(column);
            if (value is null) Say(column, "", "it is empty.", "Fill it in.");
            else if (value.Length > 200) Say(column, value, "it is longer than 200 characters.", "Shorten it.");
            else if (value.Any(char.IsControl)) Say(column, value, "it holds a control character.", "Take it out.");
            return value ?? "";
        }

        var (person, name, site) = (Must("person"), Must("name"), Must("site"));
        var kindText = Field("kind") ?? "renew";
        if (!Enum.TryParse<SwapKind>(kindText, ignoreCase: true, out var kind) || int.TryParse(kindText, out _)) Say("kind", kindText, "this kind of swap is not known.", "Use renew, second, reimage, rescue, leave or issue.");
        if (person.Contains('/', StringComparison.Ordinal)) Say("person", person, "a key may hold no '/'.", "Use the personnel number or the sign-in name.");
        var (old, fresh, receiver, mail) = (Field("old_tag"), Field("new_tag"), Field("receiver"), Field("mail"));
        if (mail is not null && (mail.IndexOf('@', StringComparison.Ordinal) is < 1 || mail.EndsWith('@') || mail.Contains(' ', StringComparison.Ordinal))) Say("mail", mail, "this is not a mail address.", "Use name@host, or leave it empty.");
        foreach (var (column, tag) in new[] { ("old_tag", old), ("new_tag", fresh) })
            if (tag is not null && !tag.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.')) Say(column, tag, "a tag has letters, digits, '-', '_' and '.' only.", "Use the tag as it is printed on the computer.");
        if (faults.Count == before)
        {
            if (kind.NeedsOld() && old is null) Say("old_tag", "", $"a swap of kind {kindText} needs an old computer.", "Fill in its tag, or choose another kind.");
            if (kind.NeedsNew() && fresh is null) Say("new_tag", "", $"a swap of kind {kindText} needs a new computer.", "Fill in its tag, or choose another kind.");
            if (kind == SwapKind.Issue && old is not null) Say("old_tag", old, "a swap of kind issue has no old computer.", "Leave it empty, or use renew or second.");
            if (kind == SwapKind.Leave && fresh is not null) Say("new_tag", fresh, "a swap of kind leave has no new computer.", "Leave it empty, or use renew.");
            if (kind == SwapKind.Leave && receiver is null) Say("receiver", "", "a swap of kind leave must say who receives the data.", "Fill in the key of that person.");
            if (kind != SwapKind.Reimage && old is not null && old == fresh) Say("new_tag", fresh, "old and new computer have the same tag.", "Correct one of them, or use the kind reimage.");
        }
        var free = new List<FreeTime>();
        foreach (var part in (Field("free") ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (part.Split(' ', 2, StringSplitOptions.TrimEntries) is [var date, var hours] && hours.Split('-', StringSplitOptions.TrimEntries) is [var begin, var end]
                && RosterText.DateOf(date, dayFirst) is { } day && TimeOnly.TryParseExact(begin, "H:mm", out var from) && TimeOnly.TryParseExact(end, "H:mm", out var until) && from < until) free.Add(new(day, from, until));
            else if (part.Contains('/', StringComparison.Ordinal) && dayFirst is null) Say("free", part, "nothing in the file tells whether day or month comes first.", "Write dates as 2026-11-25.");
            else Say("free", part, "this is not a free time.", "Write 2026-11-25 08:00-12:00, several with ';' between, or leave it empty.");
        }
        return faults.Count > before ? null : new(line, person, name, mail, Field("department"), site, Field("room"), kind, old, Field("old_model"), fresh, Field("new_model"), receiver, free);
    }

    private static void CheckTogether(List<RosterRow> rows, List<Problem> faults)
    {
        var swaps = new Dictionary<string, int>(StringComparer.Ordinal);
        var tags = new Dictionary<string, (int Line, string Column)>(StringComparer.OrdinalIgnoreCase);
        var people = new Dictionary<string, RosterRow>(StringComparer.Ordinal);
        foreach (var row in rows)
        {
            if (!swaps.TryAdd(row.Key, row.Line)) faults.Add(new RosterFault(row.Line, "person", row.Person, $"line {swaps[row.Key]} has the same person and computer.", "Keep one of the two lines."));
            else
                foreach (var (column, tag) in new[] { ("old_tag", row.OldTag), ("new_tag", row.Kind == SwapKind.Reimage ? null : row.NewTag) })
                    if (tag is not null && !tags.TryAdd(tag, (row.Line, column))) faults.Add(new RosterFault(row.Line, column, tag, $"line {tags[tag].Line} has this computer already, as {tags[tag].Column}.", "Each computer belongs to one swap. Correct one of the two lines."));
            if (people.TryGetValue(row.Person, out var other) && other.Name != row.Name) faults.Add(new RosterFault(row.Line, "name", row.Name, $"line {other.Line} calls person {row.Person} '{other.Name}'.", "Write the name alike, or correct the key."));
            people.TryAdd(row.Person, row);
        }
    }
}
