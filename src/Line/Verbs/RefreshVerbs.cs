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
                r => Tables.Say($"Refresh {r.Key} stands. Next: 'yardline roster take FILE.csv --refresh {r.Key}'."),
                needsRefresh: false),
            Call.Command("second", "Whether whoever works in it shows a passkey, too: on or off.", "yardline refresh second on",
                [second],
                (c, refresh, a, cancel) => c.AskForSecondAsync(refresh, a.GetValue(second) == "on", cancel),
                r => Tables.Say(r.AsksSecond
                    ? $"Whoever works in {r.Key} shows a passkey, too."
                    : $"Whoever works in {r.Key} needs no passkey.")),
        };
    }
}
