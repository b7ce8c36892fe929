using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>The world of a refresh: <c>yardline refresh</c>, <c>site</c>, <c>technician</c>, <c>depot</c>, <c>account</c>.</summary>
internal static class WorldVerbs
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
                all => Tables.Show(["Key", "Name", "Starts", "Days", "Swaps", "Ledger"], all.Select(r => new[] { r.Key, r.Name, $"{r.Starts:yyyy-MM-dd}", $"{r.Days}", $"{r.Swaps}", r.Head.Split(':')[0] }), 3, 4, 5), needsRefresh: false),
            Call.Command("make", "Makes a refresh.", "yardline refresh make autumn --name 'Autumn at Kestrel Bay' --starts 2026-11-25 --zone Europe/London", [key, name, starts, days, zone],
                (c, _, a, cancel) => c.MakeRefreshAsync(new(a.GetValue(key)!, a.GetValue(name)!, a.GetValue(zone)!, a.GetValue(starts), a.GetValue(days)), cancel), r => Tables.Say($"Refresh {r.Key} stands. Next: 'yardline roster take FILE.csv --refresh {r.Key}'."), needsRefresh: false),
        };

        var benches = new Option<int>("--benches") { Description = "How many swaps at once.", DefaultValueFactory = _ => 2 };
        yield return new Command("site", "Sites: list them, set one.")
        {
            Call.Command("list", "Lists sites and benches.", "yardline site list", [], (c, r, _, cancel) => c.SitesAsync(r, cancel), all => Tables.Show(["Key", "Name", "Benches"], all.Select(s => new[] { s.Key, s.Name, $"{s.Benches}" }), 2)),
            Call.Command("set", "Makes or changes a site.", "yardline site set 'North Quay' --name 'North Quay' --benches 3", [key, name, benches], (c, r, a, cancel) => c.PutSiteAsync(r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(benches)), cancel), s => Tables.Say($"{s.Name} has {s.Benches} benches.")),
        };

        var sites = new Option<string[]>("--site") { Description = "A site served; repeat for more.", Required = true, AllowMultipleArgumentsPerToken = true };
        var shifts = new Option<string[]>("--shift") { Description = "Working time on each working day, such as 08:00-12:00; repeat for more.", AllowMultipleArgumentsPerToken = true, DefaultValueFactory = _ => ["08:00-12:00", "12:45-16:30"] };
        yield return new Command("technician", "Technicians: list them, set one.")
        {
            Call.Command("list", "Lists technicians.", "yardline technician list", [], (c, r, _, cancel) => c.TechniciansAsync(r, cancel), all => Tables.Show(["Key", "Name", "Sites", "Shifts"], all.Select(t => new[] { t.Key, t.Name, string.Join(", ", t.Sites), string.Join(", ", t.Shifts) }))),
            Call.Command("set", "Makes or changes a technician.", "yardline technician set noor --name 'Noor Haddad' --site 'North Quay' --shift 08:00-12:00 --shift 12:45-16:30", [key, name, sites, shifts], (c, r, a, cancel) => c.PutTechnicianAsync(r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(sites)!, a.GetValue(shifts)!), cancel), t => Tables.Say($"{t.Name} serves {string.Join(", ", t.Sites)}.")),
        };

        var address = new Option<string>("--address") { Description = "file:///path or http(s)://host/path, without a password.", Required = true };
        yield return new Command("depot", "Depots: list them, set one.")
        {
            Call.Command("list", "Lists depots and what lies in them.", "yardline depot list", [], (c, r, _, cancel) => c.DepotsAsync(r, cancel), all => Tables.Show(["Key", "Name", "Address", "Parcels", "Size"], all.Select(d => new[] { d.Key, d.Name, d.Address, $"{d.Parcels}", Core.Carrying.ByteText.Of(d.Bytes) }), 3, 4)),
            Call.Command("set", "Makes or changes a depot.", "yardline depot set cloud --name 'Cloud share' --address http://127.0.0.1:8421/", [key, name, address], (c, r, a, cancel) => c.PutDepotAsync(r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(address)!), cancel), d => Tables.Say($"{d.Name} is {d.Address}.")),
        };

        var role = new Option<string>("--role") { Description = "coordinator, technician, auditor or person.", Required = true };
        var served = new Option<string[]>("--site") { Description = "For a technician: a site served; repeat for more.", AllowMultipleArgumentsPerToken = true };
        var person = new Option<string?>("--person") { Description = "For a person: their key in the roster." };
        yield return new Command("account", "Accounts: set one.")
        {
            Call.Command("set", "Makes or changes an account; its password is read from YARD_NEW_PASSWORD.", "YARD_NEW_PASSWORD=… yardline account set noor --name 'Noor Haddad' --role technician --site 'North Quay'", [key, name, role, served, person],
                async (c, _, a, cancel) => (await c.PutAccountAsync(a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(role)!, Environment.GetEnvironmentVariable("YARD_NEW_PASSWORD") ?? "", a.GetValue(served) ?? [], a.GetValue(person)), cancel)) is { IsOk: false } failed ? Result<string>.Failed(failed.Problems) : a.GetValue(key)!,
                k => Tables.Say($"Account {k} is set."), needsRefresh: false),
        };
    }
}
