namespace YardRelay.Line.Helping;

/// <summary>Commands that belong together.</summary>
/// <param name="Title">When they are wanted.</param>
/// <param name="Nouns">Names below <c>yardline</c>, in the order in which they come up.</param>
internal sealed record Group(string Title, IReadOnlyList<string> Nouns)
{
    /// <summary>All commands, in the order of the work.</summary>
    public static readonly IReadOnlyList<Group> InOrderOfWork =
    [
        new("Sign in", ["sign-in", "whoami", "session", "sign-out", "help"]),
        new("Set up", [
            "refresh", "site", "technician", "way", "closure", "delivery", "spare", "wave", "depot", "places", "between", "catalogue",
            "estimate", "choosing", "checklist", "account", "staff-group"
        ]),
        new("People and plan", ["roster", "group", "plan", "notice", "person"]),
        new("Before a visit", ["ready", "hand", "swap", "snag"]),
        new("On the day", ["today", "round", "yard", "step", "detour"]),
        new("Afterwards", ["signoff", "follow-up", "old", "pallet", "report", "ledger"]),
    ];
}
