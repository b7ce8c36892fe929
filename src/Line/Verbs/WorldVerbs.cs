using System.CommandLine;
using System.Globalization;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>
/// What a plan is made from: <c>yardline site</c>, <c>technician</c>, <c>way</c>, <c>closure</c>, <c>delivery</c>, <c>spare</c>,
/// <c>wave</c>, <c>depot</c>, <c>estimate</c>.
/// </summary>
internal static partial class WorldVerbs
{
    private static Argument<string> Key => new("key") { Description = "Key of the thing: short, without '/'." };

    private static Option<string> Name => new("--name") { Description = "Name that people read." };

    private static Option<string[]> Many(string name, string description, params string[] otherwise) =>
        new(name) { Description = description, AllowMultipleArgumentsPerToken = true, DefaultValueFactory = _ => otherwise };

    public static IEnumerable<Command> Create() =>
        [Site(), Technician(), Way(), Closure(), Delivery(), Spare(), Wave(), Depot(), Estimate()];

    private static bool Same(string key, string? other) => string.Equals(key, other, StringComparison.OrdinalIgnoreCase);

    private static Command List<T>(
        string what, string example, Func<WorldSeen, IReadOnlyList<T>> part, string[] heads, Func<T, string[]> row, params int[] right) =>
        Call.Command(
            "list",
            $"Lists {what}.",
            example,
            [],
            async (c, r, _, cancel) =>
                await c.WorldAsync(r, cancel) is var world && world.IsOk
                    ? Result<IReadOnlyList<T>>.Of(part(world.Value))
                    : Result<IReadOnlyList<T>>.Failed(world.Problems),
            all => Tables.Show(heads, all.Select(row), right));

    private static Option<string[]> Limit() =>
        Many(
            "--limit",
            "How much may be carried when, over all hands: '08:00-18:00 40' for at most 40 Mbit/s in these hours, '08:00-18:00 none' for "
                + "nothing, '200' for any time; repeat for more. Left out: no bound.");

    private static Command Site()
    {
        var (key, name) = (Key, Name);
        var benches = new Option<int>("--benches") { Description = "How many swaps at once.", DefaultValueFactory = _ => 2 };
        var rooms = Many("--room", "A room with benches of its own, such as 'Ticket hall:2'; repeat for more.");
        var opens = new Option<string>("--opens")
        {
            Description = "When visits may take place.",
            DefaultValueFactory = _ => "daily 07:00-19:00"
        };
        var limit = Limit();
        return new Command("site", "Sites: list them, set one.")
        {
            List(
                "sites, rooms and benches",
                "yardline site list",
                w => w.Sites,
                ["Key", "Name", "Benches", "Rooms", "Open", "Limits"],
                s => [
                    s.Key,
                    s.Name,
                    $"{s.Benches}",
                    string.Join(", ", s.Rooms.Select(r => $"{r.Name} {r.Benches}")),
                    s.Opens,
                    string.Join(", ", s.Limits)
                ],
                2),
            SetVerb.Create("Makes or changes a site.",
                "yardline site set 'North Quay' --name 'North Quay' --room 'Ticket hall:2' 'Harbour office:1'", [
                key, name, benches, rooms, opens, limit
            ], (w, a) => w.Sites.FirstOrDefault(s => Same(s.Key, a.GetValue(key))), async (c, r, a, was, cancel) =>
            {
                var isGiven = SetVerb.IsGiven(a, rooms);
                List<RoomSeen> parsed = isGiven ? [] : [.. was?.Rooms ?? []];
                foreach (var room in isGiven ? a.Or(rooms, default(IReadOnlyList<string>)) : [])
                {
                    if (room.LastIndexOf(':') is not (> 0 and var colon)
                        || !int.TryParse(room[(colon + 1)..], NumberStyles.None, CultureInfo.InvariantCulture, out var many))
                        return new SiteRoomProblem(room);
                    parsed.Add(new(room[..colon].Trim(), many));
                }
                return await c.PutSiteAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(
                        a.Must(name, was?.Name), SetVerb.IsGiven(a, benches) ? a.GetValue(benches) : was?.Benches ?? a.GetValue(benches),
                        parsed, a.Or(opens, was?.Opens) ?? a.GetValue(opens), a.Or(limit, was?.Limits)),
                    cancel);
            }, typeof(SiteWanted), s => Tables.Say($"{s.Name} has {s.Benches} benches and is open {s.Opens}.")),
            DropVerb.Create("site", "sites", w => w.Sites.Select(s => s.Key)),
        };
    }

    private static Command Technician()
    {
        var (key, name) = (Key, Name);
        var sites = new Option<string[]>("--site")
        {
            Description = "A site served; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var shifts = Many(
            "--shift",
            "Working time, such as 08:00-12:00, 'daily 08:00-12:00' or 'mon,wed 08:00-12:00'; the gap between two is a break.",
            "08:00-12:00",
            "12:45-16:30");
        var skills = Many("--skill", "What they know beyond a plain swap; repeat for more.");
        var away = Many("--away", "When they are away: 2026-11-25, 2026-11-25..2026-11-27, or with times; repeat for more.");
        var when = new Argument<string>("when")
        {
            Description = "2026-11-25, 2026-11-25..2026-11-27, or '2026-11-25 08:00..2026-11-25 12:00'."
        };
        var file = new Argument<string>("file") { Description = "CSV in any alphabet, or XLSX." };
        var dry = new Option<bool>("--dry-run") { Description = "Only show what would change." };
        return new Command("technician", "Technicians: list them, take a list, set one, say when one is away.")
        {
            List(
                "technicians",
                "yardline technician list",
                w => w.Technicians,
                ["Key", "Name", "Sites", "Shifts", "Skills", "Away"],
                t => [
                    t.Key, t.Name, string.Join(", ", t.Sites), string.Join(", ", t.Shifts), string.Join(", ", t.Skills),
                    string.Join(", ", t.Absences)
                ]),
            SetVerb.Create("Makes or changes a technician.",
                "yardline technician set noor --name 'Noor Haddad' --site 'North Quay' --shift 08:00-12:00 12:45-16:30 --skill tablets",
                [key, name, sites, shifts, skills, away],
                (w, a) => w.Technicians.FirstOrDefault(t => Same(t.Key, a.GetValue(key))),
                (c, r, a, was, cancel) => c.PutTechnicianAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(
                        a.Must(name, was?.Name), SetVerb.IsGiven(a, sites) || was is null ? a.Must(sites, null) : was.Sites,
                        a.Or(shifts, was?.Shifts), a.Or(skills, was?.Skills), a.Or(away, was?.Absences)),
                    cancel),
                typeof(TechnicianWanted),
                t => Tables.Say($"{t.Name} serves {string.Join(", ", t.Sites)}.")),
            Call.Command<TechniciansTaken>("take",
                "Takes a list of technicians: every row, or none if one is wrong. Columns: key, name, sites, skills, shifts, away; name "
                    + "alone must be there.",
                "yardline technician take technicians.xlsx --dry-run", [file, dry], async (c, r, a, cancel) =>
                File.Exists(a.GetValue(file))
                    ? await c.TakeTechniciansAsync(r, await File.ReadAllBytesAsync(a.GetValue(file)!, cancel), a.GetValue(dry), cancel)
                    : new TechnicianFileProblem(a.GetValue(file)), t =>
            {
                if (t.Technicians.Count > 0)
                    Tables.Show(
                        ["Key", "Name", "Sites", "Shifts", "Skills", "Away"],
                        t.Technicians.Select(x =>
                            new[]
                            {
                                x.Key,
                                x.Name,
                                string.Join(", ", x.Sites),
                                string.Join(", ", x.Shifts),
                                string.Join(", ", x.Skills),
                                string.Join(", ", x.Absences)
                            }));
                foreach (var bad in t.Rejected)
                    Tables.Say(
                        $"■ Line {bad.Line}{(bad.Column.Length > 0 ? $", {bad.Column}" : "")}"
                            + $"{(bad.Value.Length > 0 ? $" '{bad.Value}'" : "")}: {bad.Reason} {bad.Remedy}");
                Tables.Say(
                    $"{t.Added} {(t.DryRun ? "would be added" : "added")}, {t.Changed} {(t.DryRun ? "would change" : "changed")}, "
                        + $"{t.Same} the same.{(t.DryRun ? " Nothing was taken." : " Next: 'yardline plan make'.")}");
            }),
            Call.Command<TechnicianSeen>("away", "Says that a technician is away, beside what is known already.",
                "yardline technician away noor 2026-11-26", [key, when], async (c, r, a, cancel) =>
            {
                if (!(await c.TechniciansAsync(r, cancel)).TryGet(out var all, out var refused)) return refused;
                if (all.Find(t => t.Key == a.GetValue(key)) is not { } one)
                    return new TechnicianNotFoundProblem(a.GetValue(key), string.Join(", ", all.Select(t => t.Key)));
                return await c.PutTechnicianAsync(
                    r,
                    one.Key,
                    new(one.Name, one.Sites, one.Shifts, one.Skills, [.. one.Absences.Append(a.GetValue(when)!).Distinct()]),
                    cancel);
            }, t => Tables.Say(
                $"{t.Name} is away {string.Join(", ", t.Absences)}. Next: 'yardline plan make', then 'yardline plan compare'.")),
            RoundVerbs.CreateDayHandover(),
            DropVerb.Create("technician", "technicians", w => w.Technicians.Select(t => t.Key)),
        };
    }

    private static Command Way()
    {
        var from = new Argument<string>("from") { Description = "Key of a site." };
        var to = new Argument<string>("to") { Description = "Key of another site." };
        var minutes = new Argument<int>("minutes") { Description = "How long it takes, 0 to 1440; 0 takes the way out." };
        return new Command("way", "How long it takes between sites: list, set.")
        {
            List("ways between sites", "yardline way list", w => w.Ways, ["From", "To", "Minutes"], w => [w.From, w.To, $"{w.Minutes}"], 2),
            Call.Command(
                "set",
                "Sets the minutes between two sites, in both directions.",
                "yardline way set 'North Quay' 'Lantern Point' 25",
                [from, to, minutes],
                (c, r, a, cancel) => c.PutWayAsync(r, new(a.GetValue(from)!, a.GetValue(to)!, a.GetValue(minutes)), cancel),
                w => Tables.Say($"From {w.From} to {w.To} it takes {w.Minutes} minutes.")),
        };
    }

    private static Command Closure()
    {
        var (key, name) = (Key, Name);
        var site = new Option<string?>("--site") { Description = "Only at this site; empty: everywhere." };
        var at = new Option<string>("--at")
        {
            Description = "2026-12-24, 2026-12-24..2026-12-26, or '2026-12-24 12:00..2026-12-24 18:00'."
        };
        var file = new Argument<string>("file") { Description = "iCalendar file (.ics)." };
        return new Command("closure", "Holidays and black-outs: list them, set one, take a calendar.")
        {
            List(
                "holidays and black-outs",
                "yardline closure list",
                w => w.Closures,
                ["Key", "Name", "Site", "When"],
                c => [c.Key, c.Name, c.Site ?? "everywhere", c.At]),
            SetVerb.Create(
                "Makes or changes a holiday or black-out.",
                "yardline closure set stocktaking --name 'Stocktaking' --site Workshop --at 2026-11-27",
                [key, name, site, at],
                (w, a) => w.Closures.FirstOrDefault(x => Same(x.Key, a.GetValue(key))),
                (c, r, a, was, cancel) => c.PutClosureAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(a.Must(name, was?.Name), a.OrNone(site, was?.Site), a.Must(at, was?.At)),
                    cancel),
                typeof(ClosureWanted),
                c => Tables.Say($"{c.Name}: nothing takes place {(c.Site is null ? "anywhere" : $"at {c.Site}")} {c.At}.")),
            Call.Command<CalendarTaken>("calendar", "Takes the holidays of an iCalendar file; the same file again changes nothing.",
                "yardline closure calendar holidays.ics", [file, site],
                async (c, r, a, cancel) =>
                    File.Exists(a.GetValue(file))
                        ? await c.TakeCalendarAsync(r, await File.ReadAllBytesAsync(a.GetValue(file)!, cancel), a.GetValue(site), cancel)
                        : new CalendarFileProblem(a.GetValue(file)),
                t =>
            {
                Tables.Show(["Name", "When"], t.Closures.Select(c => new[] { c.Name, c.At }));
                Tables.Say($"{t.Taken} closures taken, {t.Outside} events lie outside the refresh.");
            }),
            DropVerb.Create("closure", "closures", w => w.Closures.Select(c => c.Key)),
        };
    }

    private static Command Delivery()
    {
        var (key, name) = (Key, Name);
        var arrives = new Option<string>("--arrives")
        {
            Description = "2026-11-30, or with the time from which its computers are at hand."
        };
        var tags = new Option<string[]>("--tag")
        {
            Description = "Tags of the new computers in it; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        return new Command("delivery", "Batches of new computers: list them, set one.")
        {
            List(
                "deliveries",
                "yardline delivery list",
                w => w.Deliveries,
                ["Key", "Name", "Arrives", "Computers", "Tags"],
                d => [d.Key, d.Name, d.Arrives, $"{d.Tags.Count}", string.Join(" ", d.Tags)],
                3),
            SetVerb.Create(
                "Makes or changes a batch of new computers. No swap comes before its computer.",
                "yardline delivery set second --name 'Second batch' --arrives '2026-11-26 10:00' --tag KB-2050 KB-2051",
                [key, name, arrives, tags],
                (w, a) => w.Deliveries.FirstOrDefault(x => Same(x.Key, a.GetValue(key))),
                (c, r, a, was, cancel) => c.PutDeliveryAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(
                        a.Must(name, was?.Name), a.Must(arrives, was?.Arrives),
                        SetVerb.IsGiven(a, tags) || was is null ? a.Must(tags, null) : was.Tags),
                    cancel),
                typeof(DeliveryWanted),
                d => Tables.Say($"{d.Name} brings {d.Tags.Count} computers on {d.Arrives}.")),
            DropVerb.Create("delivery", "deliveries", w => w.Deliveries.Select(d => d.Key)),
        };
    }

    private static Command Spare()
    {
        var tag = new Argument<string>("tag") { Description = "Its asset tag." };
        var site = new Option<string>("--site") { Description = "Where it lies." };
        var model = new Option<string?>("--model") { Description = "Its model; one of the same model is given out first." };
        var trouble = new Option<string?>("--trouble") { Description = "Why it cannot be given out; empty: it can." };
        return new Command("spare", "Spare computers: list them, set one, take one out.")
        {
            List(
                "spare computers",
                "yardline spare list",
                w => w.Spares,
                ["Tag", "Model", "Site", "Not given out because"],
                s => [s.Key, s.Model ?? "", s.Site, s.Trouble ?? ""]),
            SetVerb.Create(
                "Makes or changes a spare computer.",
                "yardline spare set KB-2099 --site 'North Quay' --model 'Gannet 14'",
                [tag, site, model, trouble],
                (w, a) => w.Spares.FirstOrDefault(x => Same(x.Key, a.GetValue(tag))),
                (c, r, a, was, cancel) => c.PutSpareAsync(
                    r,
                    was?.Key ?? a.GetValue(tag)!,
                    new(a.Must(site, was?.Site), a.OrNone(model, was?.Model), a.OrNone(trouble, was?.Trouble)),
                    cancel),
                typeof(SpareWanted),
                s => Tables.Say($"{s.Key} is a spare at {s.Site}{(s.Trouble is null ? "" : $", not given out: {s.Trouble}")}.")),
            DropVerb.Create("spare", "spares", w => w.Spares.Select(s => s.Key)),
        };
    }

    private static Command Wave()
    {
        var (key, name) = (Key, Name);
        var from = new Option<DateOnly?>("--from") { Description = "First day." };
        var until = new Option<DateOnly?>("--until") { Description = "Last day." };
        return new Command("wave", "Parts of a refresh that go together: list them, set one. 'swap edit --wave' puts swaps into one.")
        {
            List(
                "waves",
                "yardline wave list",
                w => w.Waves,
                ["Key", "Name", "From", "Until", "Swaps"],
                v => [v.Key, v.Name, $"{v.From:yyyy-MM-dd}", $"{v.Until:yyyy-MM-dd}", $"{v.Swaps}"],
                4),
            SetVerb.Create(
                "Makes or changes a wave.",
                "yardline wave set office --name 'Office' --from 2026-11-25 --until 2026-11-27",
                [key, name, from, until],
                (w, a) => w.Waves.FirstOrDefault(x => Same(x.Key, a.GetValue(key))),
                (c, r, a, was, cancel) => c.PutWaveAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(a.Must(name, was?.Name), a.MustDay(from, was?.From), a.MustDay(until, was?.Until)),
                    cancel),
                typeof(WaveWanted),
                v => Tables.Say($"{v.Name} goes from {v.From:yyyy-MM-dd} to {v.Until:yyyy-MM-dd}.")),
            DropVerb.Create("wave", "waves", w => w.Waves.Select(v => v.Key)),
        };
    }
}
