using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Core.Roster;

/// <summary>A row of a list of technicians.</summary>
/// <param name="Sites">Sites served; empty: all of them.</param>
public sealed record TechnicianLine(
    int Line, string Key, string Name, IReadOnlyList<string> Sites, IReadOnlyList<string> Skills, IReadOnlyList<ShiftRule> Shifts,
    IReadOnlyList<LocalSpan> Absences);

/// <summary>Reads a list of technicians from a spreadsheet: one row each, several of a thing with ';' between.</summary>
public static class TechnicianTable
{
    /// <summary>All columns; <c>name</c> alone must be there.</summary>
    public static readonly IReadOnlyList<string> Columns = ["key", "name", "sites", "skills", "shifts", "away"];

    private static readonly string[] UsualShifts = ["08:00-12:00", "12:45-16:30"];

    private static readonly Dictionary<string, string[]> Called = new(StringComparer.Ordinal)
    {
        ["key"] = ["id", "login", "user", "username", "short", "initials", "kuerzel"],
        ["name"] = ["technician", "full_name", "display_name", "person"],
        ["sites"] = ["site", "location", "locations", "serves", "building", "buildings", "standort"],
        ["skills"] = ["skill", "knows", "qualifications"],
        ["shifts"] = ["shift", "hours", "working_hours", "works", "working_time"],
        ["away"] = ["absences", "absence", "absent", "holidays", "leave", "vacation"],
    };

    /// <summary>Reads it, and says everything that is wrong with it.</summary>
    public static (IReadOnlyList<TechnicianLine> Lines, IReadOnlyList<RosterFault> Faults) Read(RosterTable table)
    {
        if (table.Heads.Count == 0)
            return ([], [new(1, "", "", "the file is empty.", $"Its first line must name the columns: {string.Join(", ", Columns)}.")]);
        var faults = table.Faults.ToList();
        var at = new Dictionary<string, int>();
        for (var i = 0; i < table.Heads.Count; i++)
        {
            var form = RosterColumns.Form(table.Heads[i]);
            if ((Columns.Contains(form) ? form : Called.FirstOrDefault(c => c.Value.Contains(form)).Key) is { } column
                && !at.TryAdd(column, i))
                faults.Add(new(1, table.Heads[i], "", $"another column is read as '{column}' already.", "Keep one of them."));
        }
        if (!at.ContainsKey("name"))
            faults.Add(new(
                1, "name", "", "this column is missing.", $"A list of technicians has {string.Join(", ", Columns)}; name must be there."));
        var lines = new List<TechnicianLine>();
        foreach (var row in at.ContainsKey("name") ? table.Rows : [])
        {
            var before = faults.Count;
            string Cell(string column) => at.TryGetValue(column, out var i) ? row.Cells[i].Trim() : "";
            List<string> Many(string column) =>
                [.. Cell(column).Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Distinct()];
            void Say(string column, string value, string reason, string remedy) =>
                faults.Add(new(row.Line, column, RosterTable.Short(value), reason, remedy));
            var name = Cell("name");
            if (name.Length is 0 or > 100 || name.Any(char.IsControl))
                Say("name", name, "it is empty, or longer than 100 characters.", "Fill it in.");
            var key = Cell("key") is { Length: > 0 } given ? given : KeyOf(name);
            if (key.Length is 0 or > 60 || key.Any(c => char.IsControl(c) || c is '/' or '"'))
                Say("key", key, "a key has 1 to 60 characters, without '/' and quotes.", "Use the sign-in name.");
            if (lines.FirstOrDefault(l => l.Key == key) is { } twice)
                Say("key", key, $"line {twice.Line} has this key already.", "Give each technician a key of their own.");
            var shifts = ShiftRule.ParseAll(name, Many("shifts") is { Count: > 0 } some ? some : UsualShifts);
            foreach (var problem in shifts.Problems)
                Say(
                    "shifts",
                    Cell("shifts"),
                    problem.Message,
                    "Write 08:00-12:00, 'daily 08:00-12:00' or 'mon,wed 08:00-12:00', several with ';' between.");
            var absences = Many("away").ConvertAll(LocalSpan.Parse);
            foreach (var problem in absences.SelectMany(a => a.Problems))
                Say("away", Cell("away"), problem.Message, "Write 2026-11-25 or 2026-11-25..2026-11-27, several with ';' between.");
            if (faults.Count == before)
                lines.Add(new(row.Line, key, name, Many("sites"), Many("skills"), shifts.Value, absences.ConvertAll(a => a.Value)));
        }
        return (lines, [.. faults.OrderBy(f => f.Line)]);
    }

    /// <summary><c>noor-haddad</c> for Noor Haddad.</summary>
    private static string KeyOf(string name) => string.Join('-', name.ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries));
}
