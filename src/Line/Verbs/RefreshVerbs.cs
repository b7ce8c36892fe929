using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline refresh</c>.</summary>
internal static class RefreshVerbs
{
    public static IEnumerable<Command> Create()
    {
        var key = new Argument<string>("key") { Description = "Short key: lower-case letters, digits and '-'." };
        var name = new Option<string>("--name") { Description = "Name that people read.", Required = true };

        var starts = new Option<DateOnly>("--starts") { Description = "First day, such as 2026-11-25.", Required = true };
        var days = new Option<int>("--days") { Description = "Length in days.", DefaultValueFactory = _ => 14 };
        var zone = new Option<string>("--zone") { Description = "IANA time zone.", DefaultValueFactory = _ => "UTC" };
        var second = new Argument<string>("on-or-off") { Description = "on or off." };
        second.AcceptOnlyFromAmong("on", "off");
        yield return new Command("refresh", "Refreshes: list them, make one.")
        {
            Call.Command("list", "Lists all refreshes.", "yardline refresh list", [], (c, _, _, cancel) => c.RefreshesAsync(cancel),
                all => Tables.Show(
                    ["Key", "Name", "Starts", "Days", "Swaps", "Ledger"],
                    all.Select(r => new[] { r.Key, r.Name, $"{r.Starts:yyyy-MM-dd}", $"{r.Days}", $"{r.Swaps}", r.Head.Split(':')[0] }),
                    3,
                    4,
                    5),
                needsRefresh: false),
            Call.Command("make", "Makes a refresh.",
                "yardline refresh make autumn --name 'Autumn at Kestrel Bay' --starts 2026-11-25 --zone Europe/London",
                [key, name, starts, days, zone],
                (c, _, a, cancel) => c.MakeRefreshAsync(
                    new(a.GetValue(key)!, a.GetValue(name)!, a.GetValue(zone)!, a.GetValue(starts), a.GetValue(days)), cancel),
                r => Tables.Say($"Refresh {r.Key} stands. Next: 'yardline roster take FILE.csv --refresh {r.Key}'; 'yardline refresh "
                    + $"set-up --refresh {r.Key}' says what else is missing."),
                needsRefresh: false),
            CreateSet(),
            Call.Command(
                "set-up",
                "What of a refresh is there and what is missing, in the order in which it is set up.",
                "yardline refresh set-up",
                [],
                (c, r, _, cancel) => c.SetUpAsync(r, cancel),
                ShowSetUp),
            Call.Command("second", "Whether whoever works in it shows a passkey, too: on or off.", "yardline refresh second on",
                [second],
                (c, refresh, a, cancel) => c.AskForSecondAsync(refresh, a.GetValue(second) == "on", cancel),
                r => Tables.Say(r.AsksSecond
                    ? $"Whoever works in {r.Key} shows a passkey, too."
                    : $"Whoever works in {r.Key} needs no passkey.")),
        };
    }

    private static Command CreateSet()
    {
        var name = new Option<string?>("--name") { Description = "Name that people read." };
        var starts = new Option<DateOnly?>("--starts") { Description = "First day; until a plan was made." };
        var days = new Option<int?>("--days") { Description = "Length in days." };
        var zone = new Option<string?>("--zone") { Description = "IANA time zone; until a plan was made." };
        return Call.Command<WasSet<RefreshSeen>>(
            "set", "Changes a refresh. What is left out stays as it is.", "yardline refresh set --days 21", [name, starts, days, zone],
            async (c, r, a, cancel) =>
            {
                if (!(await c.RefreshesAsync(cancel)).TryGet(out var all, out var refused)) return refused;
                if (all.FirstOrDefault(x => x.Key == r) is not { } was)
                    return new RefreshWhichProblem($"There is no refresh '{r}'.");
                var wanted = new RefreshWanted(
                    a.GetValue(name) ?? was.Name, a.GetValue(zone) ?? was.Zone, a.GetValue(starts) ?? was.Starts,
                    a.GetValue(days) ?? was.Days);
                return (await c.ChangeRefreshAsync(r, wanted, cancel)).TryGet(out var isNow, out var problem)
                    ? new WasSet<RefreshSeen>(was, isNow)
                    : problem;
            },
            set =>
            {
                Tables.Say($"Refresh {set.After.Key}: {set.After.Name}, {set.After.Starts:yyyy-MM-dd}, {set.After.Days} days, "
                    + $"{set.After.Zone}.");
                SetVerb.ShowChanges(set, typeof(RefreshWanted));
            });
    }

    private static void ShowSetUp(SetUpSeen setUp)
    {
        Tables.Show(
            ["", "", "How it stands"],
            setUp.Parts.Select(p => new[]
            {
                p.State switch { "there" => "✓", "wants" => "▲", _ => "○" },
                p.Key,
                p.Words,
            }));
        if (setUp.Parts.FirstOrDefault(p => p.State == "wants") is { } next)
            Tables.Say($"Next: {next.Key}. '{VerbOf(next.Key)}'");
    }

    private static string VerbOf(string part) => part switch
    {
        "people" => "yardline roster take FILE.csv --dry-run",
        "sites" => "yardline site set KEY --name NAME",
        "technicians" => "yardline technician set KEY --name NAME --site SITE",
        "depot" => "yardline depot set KEY --name NAME --address built-in",
        "hands" => "yardline hand code TAG",
        "accounts" => "yardline account set NAME --role technician --new-password-file FILE",
        "notices" => "yardline notice on",
        "plan" => "yardline plan make",
        _ => "yardline refresh set",
    };
}
