using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline refresh</c> and <c>account</c>.</summary>
internal static class RefreshVerbs
{
    public static IEnumerable<Command> Create()
    {
        var key = new Argument<string>("key") { Description = "Short key: lower-case letters, digits and '-'." };
        var name = new Option<string>("--name") { Description = "Name that people read.", Required = true };

        var starts = new Option<DateOnly>("--starts") { Description = "First day, such as 2026-11-25.", Required = true };
        var days = new Option<int>("--days") { Description = "Length in days.", DefaultValueFactory = _ => 14 };
        var zone = new Option<string>("--zone") { Description = "IANA time zone.", DefaultValueFactory = _ => "UTC" };
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
        };

        var role = new Option<string>("--role") { Description = "coordinator, technician, auditor or person.", Required = true };
        var served = new Option<string[]>("--site")
        {
            Description = "For a technician: a site served; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var person = new Option<string?>("--person") { Description = "For a person: their key in the roster." };
        yield return new Command("account", "Accounts: set one.")
        {
            Call.Command("set", "Makes or changes an account; its password is read from YARD_NEW_PASSWORD.",
                "YARD_NEW_PASSWORD=… yardline account set noor --name 'Noor Haddad' --role technician --site 'North Quay'",
                [key, name, role, served, person],
                async (c, _, a, cancel) =>
                    (await c.PutAccountAsync(
                        a.GetValue(key)!,
                        new(
                            a.GetValue(name)!,
                            a.GetValue(role)!,
                            Surroundings.Here.Variable("YARD_NEW_PASSWORD") ?? "",
                            a.GetValue(served) ?? [],
                            a.GetValue(person)),
                        cancel)) is { IsOk: false } failed
                        ? Result<string>.Failed(failed.Problems)
                        : a.GetValue(key)!,
                k => Tables.Say($"Account {k} is set."), needsRefresh: false),
        };
    }
}
