using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Planning;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Roster;

/// <summary>One thing wrong with a roster, with all that is needed to mend it.</summary>
/// <param name="Line">Line in the file; a row that runs over several lines is named by its first.</param>
/// <param name="Column">Head of the column; empty when the row as a whole is wrong.</param>
/// <param name="Value">What stands there.</param>
public sealed record RosterFault(int Line, string Column, string Value, string Reason, string Remedy)
    : Problem(
        "roster.row",
        $"Roster line {Line}{(Column.Length > 0 ? $", column '{Column}'" : "")}{(Value.Length > 0 ? $", value '{Value}'" : "")}: {Reason} "
            + $"{Remedy}")
{
    /// <summary>All lines that this one mistake spoils; null: its own alone.</summary>
    public IReadOnlyList<int>? Lines { get; init; }
}

/// <summary>What was read from a table.</summary>
/// <param name="Rows">The good rows.</param>
/// <param name="Faults">Everything that is wrong, by line.</param>
/// <param name="Columns">What each column was read as.</param>
public sealed record RosterReading(IReadOnlyList<RosterRow> Rows, IReadOnlyList<RosterFault> Faults, IReadOnlyList<MatchedColumn> Columns);

/// <summary>Reads a roster. The whole table is checked and everything wrong is reported at once.</summary>
public static class RosterReader
{
    private const int TooOften = 5;

    /// <summary>The rows of a roster in CSV, or all of its faults.</summary>
    public static Result<IReadOnlyList<RosterRow>> Read(string csv)
    {
        var reading = Read(RosterTable.OfCsv(csv), new Dictionary<string, string>());
        return reading.Faults.Count > 0
            ? Result<IReadOnlyList<RosterRow>>.Failed(reading.Faults)
            : Result<IReadOnlyList<RosterRow>>.Of(reading.Rows);
    }

    /// <summary>Reads a table.</summary>
    /// <param name="kept">Columns matched by hand, as <see cref="RosterColumns.Match"/> takes them.</param>
    /// <param name="seen">Told after each row how many were read.</param>
    public static RosterReading Read(RosterTable table, IReadOnlyDictionary<string, string> kept, Action<int>? seen = null)
    {
        var columns = RosterColumns.Match(table.Heads, kept);
        if (table.Heads.Count == 0) return new([], table.Faults, columns);
        var faults = new List<Problem>();
        var at = columns.Select((c, i) => (c.Column, i)).Where(c => c.Column.Length > 0).ToDictionary(c => c.Column, c => c.i);
        foreach (var missing in RosterColumns.Needed.Where(n => !at.ContainsKey(n)))
            faults.Add(new RosterFault(
                1,
                missing,
                "",
                "this column is missing.",
                $"Say which column of the file it is, or add it. A roster has {string.Join(", ", RosterColumns.All)}; name and site "
                    + $"must be there."));
        foreach (var twice in table.Heads.GroupBy(RosterColumns.Form).Where(g => g.Count() > 1 && RosterColumns.All.Contains(g.Key)))
            faults.Add(new RosterFault(1, twice.Key, "", "this column stands twice.", "Keep one of them."));
        if (faults.Count > 0) return new([], [.. faults.OfType<RosterFault>()], columns);

        string? Cell(RosterTableRow row, string column) =>
            at.TryGetValue(column, out var i) && row.Cells[i].Trim() is { Length: > 0 } value ? value : null;
        var dayFirst = RosterText.IsDayFirst(table.Rows.SelectMany(r =>
            new[] { Cell(r, "free"), Cell(r, "preferred"), Cell(r, "closes") }).OfType<string>());
        var rows = new List<RosterRow>();
        for (var i = 0; i < table.Rows.Count; i++)
        {
            var row = table.Rows[i];
            if (ReadRow(column => Cell(row, column), at.ContainsKey("person"), row.Line, dayFirst, faults) is { } read) rows.Add(read);
            seen?.Invoke(i + 1);
        }
        CheckTogether(rows, faults);
        return new(
            [.. rows.Except(Bad(rows, faults))], [.. table.Faults.Concat(faults.OfType<RosterFault>()).OrderBy(f => f.Line)], columns);
    }

    private static IEnumerable<RosterRow> Bad(List<RosterRow> rows, List<Problem> faults)
    {
        var lines = faults.OfType<RosterFault>().SelectMany(f => f.Lines ?? [f.Line]).ToHashSet();
        return rows.Where(r => lines.Contains(r.Line));
    }

    private static RosterRow? ReadRow(Func<string, string?> Field, bool hasKeys, int line, bool? dayFirst, List<Problem> faults)
    {
        var before = faults.Count;
        void Say(string column, string value, string reason, string remedy) =>
            faults.Add(new RosterFault(line, column, RosterTable.Short(value), reason, remedy));
        string Must(string column)
        {
            var value = Field(column);
            if (value is null) Say(column, "", "it is empty.", "Fill it in.");
            else if (value.Length > 200) Say(column, value, "it is longer than 200 characters.", "Shorten it.");
            else if (!Visible.IsPlain(value)) Say(column, Visible.Line(value), "it holds a character that cannot be seen.", "Take it out.");
            return value ?? "";
        }

        var (person, name, site) = (hasKeys ? Must("person") : "", Must("name"), Must("site"));
        var kindText = Field("kind") ?? "renew";
        if (!Enum.TryParse<SwapKind>(kindText, ignoreCase: true, out var kind) || int.TryParse(kindText, out _))
            Say("kind", kindText, "this kind of swap is not known.", "Use renew, second, reimage, rescue, leave or issue.");
        if (person.Contains('/', StringComparison.Ordinal))
            Say("person", person, "a key may hold no '/'.", "Use the personnel number or the sign-in name.");
        var (old, fresh, receiver, mail) = (Field("old_tag"), Field("new_tag"), Field("receiver"), Field("mail"));
        if (mail is not null
            && (mail.IndexOf('@', StringComparison.Ordinal) is < 1 || mail.EndsWith('@') || mail.Contains(' ', StringComparison.Ordinal)))
            Say("mail", mail, "this is not a mail address.", "Use name@host, or leave it empty.");
        foreach (var (column, tag) in new[] { ("old_tag", old), ("new_tag", fresh) })
            if (tag is not null && !tag.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.'))
                Say(column, tag, "a tag has letters, digits, '-', '_' and '.' only.", "Use the tag as it is printed on the computer.");
        if (faults.Count == before)
        {
            if (kind.NeedsOld() && old is null)
                Say("old_tag", "", $"a swap of kind {kindText} needs an old computer.", "Fill in its tag, or choose another kind.");
            if (kind.NeedsNew() && fresh is null)
                Say("new_tag", "", $"a swap of kind {kindText} needs a new computer.", "Fill in its tag, or choose another kind.");
            if (kind == SwapKind.Issue && old is not null)
                Say("old_tag", old, "a swap of kind issue has no old computer.", "Leave it empty, or use renew or second.");
            if (kind == SwapKind.Leave && fresh is not null)
                Say("new_tag", fresh, "a swap of kind leave has no new computer.", "Leave it empty, or use renew.");
            if (kind == SwapKind.Leave && receiver is null)
                Say("receiver", "", "a swap of kind leave must say who receives the data.", "Fill in the key of that person.");
            if (kind != SwapKind.Leave && Field("closes") is { } closing)
                Say(
                    "closes",
                    closing,
                    $"only a swap of kind leave closes an account, and this is {kindText}.",
                    "Leave it empty, or use the kind leave.");
            if (kind != SwapKind.Reimage && old is not null && old == fresh)
                Say("new_tag", fresh, "old and new computer have the same tag.", "Correct one of them, or use the kind reimage.");
        }
        DateOnly? closes = null;
        if (Field("closes") is { } last)
        {
            closes = RosterText.DateOf(last, dayFirst);
            if (closes is null) Say("closes", last, "this is not a date.", "Write 2026-11-25.");
        }
        HomePlatform? Platform(string column)
        {
            if (Field(column) is not { } text) return null;
            HomePlatform? platform = text.ToLowerInvariant() switch
            {
                var t when t.StartsWith("win", StringComparison.Ordinal) => HomePlatform.Windows,
                var t when t.StartsWith("mac", StringComparison.Ordinal) || t is "os x" => HomePlatform.Mac,
                var t when t.Contains("linux", StringComparison.Ordinal) => HomePlatform.Linux,
                _ => null
            };
            if (platform is null) Say(column, text, "this system is not known.", "Use linux, windows or mac, or leave it empty.");
            return platform;
        }

        var (role, oldPlatform, newPlatform) = (Field("role"), Platform("old_platform"), Platform("new_platform"));
        if (role?.Length > 200) Say("role", role, "it is longer than 200 characters.", "Shorten it.");
        var accounts = (Field("accounts") ?? "")
            .Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Distinct().ToList();
        var (free, preferred) = (Times("free"), Times("preferred"));
        return faults.Count > before
            ? null
            : new(
                line, person, name, mail, Field("department"), site, Field("room"), kind, old, Field("old_model"), fresh,
                Field("new_model"), receiver, closes, accounts, free, preferred, Field("wave"), role, oldPlatform, newPlatform);

        List<FreeTime> Times(string column)
        {
            var times = new List<FreeTime>();
            foreach (var part in (Field(column) ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
            {
                if (part.Split(' ', 2, StringSplitOptions.TrimEntries) is [var date, var hours]
                    && hours.Split('-', StringSplitOptions.TrimEntries) is [var begin, var end]
                    && RosterText.DateOf(date, dayFirst) is { } day
                        && TimeOnly.TryParseExact(begin, "H:mm", out var from)
                        && TimeOnly.TryParseExact(end, "H:mm", out var until)
                        && from < until)
                    times.Add(new(day, from, until));
                else if (part.Contains('/', StringComparison.Ordinal) && dayFirst is null)
                    Say(column, part, "nothing in the file tells whether day or month comes first.", "Write dates as 2026-11-25.");
                else
                    Say(
                        column,
                        part,
                        "this is not a free time.",
                        "Write 2026-11-25 08:00-12:00, several with ';' between, or leave it empty.");
            }
            return times;
        }
    }

    private static void CheckTogether(List<RosterRow> rows, List<Problem> faults)
    {
        // One tag in half of the rows is one mistake, not thousands.
        var tags = rows.SelectMany(r =>
            new[]
            {
                (Column: "old_tag", Tag: r.OldTag, Row: r), (Column: "new_tag", Tag: r.Kind == SwapKind.Reimage ? null : r.NewTag, Row: r)
            })
            .Where(t => t.Tag is not null)
            .GroupBy(t => t.Tag!, StringComparer.OrdinalIgnoreCase)
            .Where(g => g.Count() > 1);
        var often = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var same in tags.Where(g => g.Count() > TooOften))
        {
            often.Add(same.Key);
            faults.Add(new RosterFault(
                same.First().Row.Line, same.First().Column, same.Key, $"{same.Count()} rows have this tag.",
                "Each computer has a tag of its own. Look whether the right column was matched.")
            {
                Lines = [.. same.Select(s => s.Row.Line)]
            });
        }
        var swaps = new Dictionary<string, int>(StringComparer.Ordinal);
        var first = new Dictionary<string, (int Line, string Column)>(StringComparer.OrdinalIgnoreCase);
        var people = new Dictionary<string, RosterRow>(StringComparer.Ordinal);
        foreach (var row in rows)
        {
            // Where the file has no keys, people are told apart once it is known who is there.
            if (row.Person.Length > 0 && !swaps.TryAdd(row.Key, row.Line))
                faults.Add(new RosterFault(
                    row.Line,
                    "person",
                    row.Person,
                    $"line {swaps[row.Key]} has the same person and computer.",
                    "Keep one of the two lines."));
            else
                foreach (var (column, tag) in new[]
                {
                    ("old_tag", row.OldTag), ("new_tag", row.Kind == SwapKind.Reimage ? null : row.NewTag)
                })
                    if (tag is not null && !often.Contains(tag) && !first.TryAdd(tag, (row.Line, column)))
                        faults.Add(new RosterFault(
                            row.Line,
                            column,
                            tag,
                            $"line {first[tag].Line} has this computer already, as {first[tag].Column}.",
                            "Each computer belongs to one swap. Correct one of the two lines; others who use it belong into the column "
                                + "'accounts'."));
            if (row.Person.Length > 0 && people.TryGetValue(row.Person, out var other) && other.Name != row.Name)
                faults.Add(new RosterFault(
                    row.Line,
                    "name",
                    row.Name,
                    $"line {other.Line} calls person {row.Person} '{other.Name}'.",
                    "Write the name alike, or correct the key."));
            people.TryAdd(row.Person, row);
        }
    }
}
