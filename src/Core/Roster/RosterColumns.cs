namespace YardRelay.Core.Roster;

/// <summary>What a column of a file is read as.</summary>
/// <param name="Head">As the file has it.</param>
/// <param name="Column">Column of the roster; empty: it is left out.</param>
/// <param name="By">name: it is called so; hand: somebody matched it; guess: it is called something like it; none: nothing fits.</param>
public sealed record MatchedColumn(string Head, string Column, string By);

/// <summary>The columns of a roster, and what people call them.</summary>
public static class RosterColumns
{
    /// <summary>
    /// Columns without which there is no roster; <c>kind</c> may be missing, then every row is a renewal, and <c>person</c>, then people
    /// are told apart by mail and name (<see cref="RosterPeople"/>).
    /// </summary>
    public static readonly IReadOnlyList<string> Needed = ["name", "site"];

    /// <summary>All columns, in the order of the template.</summary>
    public static readonly IReadOnlyList<string> All = [
        "person", "name", "mail", "department", "role", "site", "room", "kind", "old_tag", "old_model", "old_platform", "new_tag",
        "new_model", "new_platform", "receiver", "closes", "accounts", "free", "preferred", "wave"
    ];

    private static readonly Dictionary<string, string[]> Called = new(StringComparer.Ordinal)
    {
        ["person"] = [
            "personnel_number", "personnel_no", "staff_number", "staff_no", "staff_id", "employee_number", "employee_id", "employee_no",
            "person_id", "user_id", "user", "username", "login", "id", "personalnummer"
        ],
        ["name"] = ["full_name", "display_name", "person_name", "employee", "employee_name", "staff_name", "mitarbeiter"],
        ["mail"] = ["email", "e_mail", "mail_address", "email_address", "e_mail_address"],
        ["department"] = ["dept", "team", "unit", "abteilung", "group"],
        ["role"] = ["job", "job_title", "title", "position", "function", "funktion"],
        ["site"] = ["location", "building", "office", "campus", "standort", "place"],
        ["room"] = ["desk", "room_number", "seat", "raum"],
        ["kind"] = ["type", "swap", "swap_kind", "swap_type", "action", "art"],
        ["old_tag"] = [
            "old_asset_tag", "old_asset", "old_computer", "asset_tag", "asset", "current_tag", "current_computer", "inventory_number",
            "old_inventory_number", "serial", "old_serial", "tag"
        ],
        ["old_model"] = ["model", "current_model", "old_computer_model"],
        ["old_platform"] = ["old_os", "old_system", "os", "operating_system", "platform", "betriebssystem"],
        ["new_tag"] = [
            "new_asset_tag", "new_asset", "new_computer", "replacement_tag", "replacement", "new_inventory_number", "new_serial"
        ],
        ["new_model"] = ["replacement_model", "new_computer_model"],
        ["new_platform"] = ["new_os", "new_system", "replacement_platform"],
        ["receiver"] = ["data_to", "receives_data", "successor", "data_receiver"],
        ["closes"] = ["account_closes", "last_day", "leaves_on", "leaving_date", "end_date"],
        ["accounts"] = ["other_accounts", "shared_with", "profiles", "accounts_on_it"],
        ["free"] = ["availability", "available", "free_times", "when_free"],
        ["preferred"] = ["prefers", "preferred_times", "wish", "wishes"],
        ["wave"] = ["batch", "phase", "tranche"],
    };

    /// <summary>A head in the form in which columns are compared: <c>Old tag</c> is <c>old_tag</c>.</summary>
    public static string Form(string head) =>
        string.Join(
            '_', head.ToLowerInvariant().Split([' ', '-', '_', '.', '/', '#', '(', ')', ':'], StringSplitOptions.RemoveEmptyEntries));

    /// <summary>Matches the heads of a file: by hand first, then by name, then by guess; no column twice.</summary>
    /// <param name="kept">Head in the form of <see cref="Form"/> to column, as somebody matched it; an empty column: left out.</param>
    public static IReadOnlyList<MatchedColumn> Match(IReadOnlyList<string> heads, IReadOnlyDictionary<string, string> kept)
    {
        var matched = new MatchedColumn?[heads.Count];
        var taken = new HashSet<string>();
        void Pass(string by, Func<string, string?> column)
        {
            for (var i = 0; i < heads.Count; i++)
                if (matched[i] is null && column(Form(heads[i])) is { } to && (to.Length == 0 || taken.Add(to)))
                    matched[i] = new(heads[i], to, by);
        }
        Pass("hand", kept.GetValueOrDefault);
        Pass("name", form => All.Contains(form) ? form : null);
        Pass("guess", form => Called.FirstOrDefault(c => c.Value.Contains(form)).Key);
        return [.. heads.Select((head, i) => matched[i] ?? new(head, "", "none"))];
    }
}
