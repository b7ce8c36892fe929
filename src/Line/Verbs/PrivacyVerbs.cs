using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>What is kept about people: <c>yardline person kept</c>, <c>export</c>, <c>erase</c>, <c>keep</c>.</summary>
internal static class PrivacyVerbs
{
    private static readonly Dictionary<string, string> Kinds = new(StringComparer.Ordinal)
    {
        ["person"] = "name, address, department, language",
        ["appointments"] = "appointments",
        ["computers"] = "computers",
        ["inventory"] = "what was found on the computer, and decided about it",
        ["folders"] = "names and sums of folders",
        ["snags"] = "files that could not be moved as they should",
        ["steps"] = "steps of the checklist, with what was answered",
        ["photos"] = "photos",
        ["sign-offs"] = "sign-offs, with what was seen",
        ["words"] = "questions, follow-ups and notes",
        ["notices"] = "notices that were sent",
        ["links"] = "personal links",
        ["history"] = "entries of the history",
    };

    public static IEnumerable<Command> Create(Argument<string> swap)
    {
        var to = new Option<string?>("--to") { Description = "File to write; left out: SWAP-person.zip here." };
        var reason = new Option<string>("--reason") { Description = "Why, without a name: it stays in the ledger.", Required = true };
        var names = new Argument<string>("names") { Description = "shown, or asked: only where the person allows it on their own page." };
        names.AcceptOnlyFromAmong("shown", "asked");
        var days = new Argument<string>("days") { Description = "1 to 3660, or 'until-asked'." };
        days.Validators.Add(r =>
        {
            if (r.GetValueOrDefault<string>() is { } text and not "until-asked"
                && (!int.TryParse(text, out var number) || number is < 1 or > 3660))
                r.AddError($"'{text}' is no number of days. Write 1 to 3660, or until-asked.");
        });
        yield return Call.Command<KeptSeen>(
            "kept",
            "What is kept about the person of a swap, and whether it can be erased.",
            "yardline person kept autumn-0012",
            [swap],
            (c, _, a, cancel) => c.KeptAsync(a.GetValue(swap)!, cancel),
            Show,
            needsRefresh: false);
        yield return Call.Command("export", "Writes all that is kept about the person of a swap into a ZIP: person.json, and the photos.",
            "yardline person export autumn-0012", [swap, to], async (c, _, a, cancel) =>
        {
            if (!(await c.ExportPersonAsync(a.GetValue(swap)!, cancel)).TryGet(out var zip, out var refused))
                return Result<string>.Failed([refused]);
            var path = a.GetValue(to) ?? $"{a.GetValue(swap)}-person.zip";
            // For nobody else on this computer either.
            await using (var file = new FileStream(path, new FileStreamOptions
            {
                Mode = FileMode.Create,
                Access = FileAccess.Write,
                UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite
            }))
                await file.WriteAsync(zip, cancel);
            return Result<string>.Of(path);
        }, path => Tables.Say($"Written to {path}. It holds all that is known of a person: give it to them alone."), needsRefresh: false);
        yield return Call.Command<KeptSeen>(
            "erase",
            "Erases what is kept about the person of a swap. Numbers and computers stay, and the ledger's chain stays whole.",
            "yardline person erase autumn-0012 --reason 'asked for on 3 December'",
            [swap, reason],
            (c, _, a, cancel) => c.ErasePersonAsync(a.GetValue(swap)!, a.GetValue(reason)!, cancel),
            Show,
            needsRefresh: false);
        yield return Call.Command<KeepingRules>(
            "keep",
            "Says how many days after the last of a person's swaps is closed what is kept about them is erased by itself.",
            "yardline person keep 90",
            [days],
            (c, r, a, cancel) =>
                ChangeAsync(c, r, k => k with { Days = int.TryParse(a.GetValue(days), out var number) ? number : null }, cancel),
            Say);
        yield return Call.Command<KeepingRules>(
            "names",
            "Says whether technicians see the names of people's files that did not come along, or only where the person allows it.",
            "yardline person names asked",
            [names],
            (c, r, a, cancel) => ChangeAsync(c, r, k => k with { AsksForNames = a.GetValue(names) == "asked" }, cancel),
            Say);
    }

    private static async Task<Result<KeepingRules>> ChangeAsync(
        YardClient client, string refresh, Func<KeepingRules, KeepingRules> change, CancellationToken cancel) =>
        (await client.KeepingAsync(refresh, cancel)).TryGet(out var rules, out var refused)
            ? await client.SetKeepingAsync(refresh, change(rules), cancel)
            : refused;

    private static void Say(KeepingRules rules)
    {
        Tables.Say(rules.Days is { } number
            ? $"What is kept about people is erased {number} days after the last of their swaps is closed."
            : "What is kept about people stays until somebody asks.");
        Tables.Say(rules.AsksForNames
            ? "Names of files that did not come along are shown to technicians only where the person allows it."
            : "Names of files that did not come along are shown to technicians.");
    }

    private static void Show(KeptSeen kept)
    {
        if (kept.ErasedAt is { } at)
        {
            Tables.Say($"Erased on {at.OnClock():d MMM yyyy}. Swaps: {string.Join(", ", kept.Swaps)}.");
            return;
        }
        Tables.Say($"{kept.Name}, {string.Join(", ", kept.Swaps)}:");
        Tables.Show(["What", "How many"], kept.Parts.Select(p => new[] { Kinds.GetValueOrDefault(p.Kind, p.Kind), $"{p.Count:N0}" }), 1);
        if (kept.Missing.Count > 0) Tables.Say($"It cannot be erased yet:\n{string.Join('\n', kept.Missing.Select(m => $"  ○ {m}"))}");
        else
            Tables.Say(kept.ErasesOn is { } day
                ? $"It is erased by itself on {day:d MMM yyyy}, or with 'yardline person erase'."
                : "It can be erased with 'yardline person erase'.");
    }
}
