using System.CommandLine;
using System.Globalization;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>
/// What a plan is made from: <c>yardline site</c>, <c>technician</c>, <c>way</c>, <c>closure</c>, <c>delivery</c>, <c>spare</c>,
/// <c>wave</c>, <c>depot</c>, <c>estimate</c>.
/// </summary>
internal static class WorldVerbs
{
    private static Argument<string> Key => new("key") { Description = "Key of the thing: short, without '/'." };

    private static Option<string> Name => new("--name") { Description = "Name that people read.", Required = true };

    private static Option<string[]> Many(string name, string description, params string[] otherwise) =>
        new(name) { Description = description, AllowMultipleArgumentsPerToken = true, DefaultValueFactory = _ => otherwise };

    public static IEnumerable<Command> Create() =>
        [Site(), Technician(), Way(), Closure(), Delivery(), Spare(), Wave(), Depot(), Estimate()];

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
            Call.Command("set", "Makes or changes a site.",
                "yardline site set 'North Quay' --name 'North Quay' --room 'Ticket hall:2' 'Harbour office:1'", [
                key, name, benches, rooms, opens, limit
            ], async (c, r, a, cancel) =>
            {
                var parsed = new List<RoomSeen>();
                foreach (var room in a.GetValue(rooms)!)
                {
                    if (room.LastIndexOf(':') is not (> 0 and var colon)
                        || !int.TryParse(room[(colon + 1)..], NumberStyles.None, CultureInfo.InvariantCulture, out var many))
                        return new SiteRoomProblem(room);
                    parsed.Add(new(room[..colon].Trim(), many));
                }
                return await c.PutSiteAsync(
                    r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(benches), parsed, a.GetValue(opens), a.GetValue(limit)), cancel);
            }, s => Tables.Say($"{s.Name} has {s.Benches} benches and is open {s.Opens}.")),
            DropVerb.Create("site", "sites", w => w.Sites.Select(s => s.Key)),
        };
    }

    private static Command Technician()
    {
        var (key, name) = (Key, Name);
        var sites = new Option<string[]>("--site")
        {
            Description = "A site served; repeat for more.",
            Required = true,
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
            Call.Command("set", "Makes or changes a technician.",
                "yardline technician set noor --name 'Noor Haddad' --site 'North Quay' --shift 08:00-12:00 12:45-16:30 --skill tablets",
                [key, name, sites, shifts, skills, away],
                (c, r, a, cancel) => c.PutTechnicianAsync(
                    r,
                    a.GetValue(key)!,
                    new(a.GetValue(name)!, a.GetValue(sites)!, a.GetValue(shifts)!, a.GetValue(skills), a.GetValue(away)),
                    cancel),
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
        var site = new Option<string?>("--site") { Description = "Only at this site; left out: everywhere." };
        var at = new Option<string>("--at")
        {
            Description = "2026-12-24, 2026-12-24..2026-12-26, or '2026-12-24 12:00..2026-12-24 18:00'.",
            Required = true
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
            Call.Command(
                "set",
                "Makes or changes a holiday or black-out.",
                "yardline closure set stocktaking --name 'Stocktaking' --site Workshop --at 2026-11-27",
                [key, name, site, at],
                (c, r, a, cancel) =>
                    c.PutClosureAsync(r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(site), a.GetValue(at)!), cancel),
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
            Description = "2026-11-30, or with the time from which its computers are at hand.",
            Required = true
        };
        var tags = new Option<string[]>("--tag")
        {
            Description = "Tags of the new computers in it; repeat for more.",
            Required = true,
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
            Call.Command(
                "set",
                "Makes or changes a batch of new computers. No swap comes before its computer.",
                "yardline delivery set second --name 'Second batch' --arrives '2026-11-26 10:00' --tag KB-2050 KB-2051",
                [key, name, arrives, tags],
                (c, r, a, cancel) =>
                    c.PutDeliveryAsync(r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(arrives)!, a.GetValue(tags)!), cancel),
                d => Tables.Say($"{d.Name} brings {d.Tags.Count} computers on {d.Arrives}.")),
            DropVerb.Create("delivery", "deliveries", w => w.Deliveries.Select(d => d.Key)),
        };
    }

    private static Command Spare()
    {
        var tag = new Argument<string>("tag") { Description = "Its asset tag." };
        var site = new Option<string>("--site") { Description = "Where it lies.", Required = true };
        var model = new Option<string?>("--model") { Description = "Its model; one of the same model is given out first." };
        var trouble = new Option<string?>("--trouble") { Description = "Why it cannot be given out; left out: it can." };
        return new Command("spare", "Spare computers: list them, set one, take one out.")
        {
            List(
                "spare computers",
                "yardline spare list",
                w => w.Spares,
                ["Tag", "Model", "Site", "Not given out because"],
                s => [s.Key, s.Model ?? "", s.Site, s.Trouble ?? ""]),
            Call.Command(
                "set",
                "Makes or changes a spare computer.",
                "yardline spare set KB-2099 --site 'North Quay' --model 'Gannet 14'",
                [tag, site, model, trouble],
                (c, r, a, cancel) =>
                    c.PutSpareAsync(r, a.GetValue(tag)!, new(a.GetValue(site)!, a.GetValue(model), a.GetValue(trouble)), cancel),
                s => Tables.Say($"{s.Key} is a spare at {s.Site}{(s.Trouble is null ? "" : $", not given out: {s.Trouble}")}.")),
            DropVerb.Create("spare", "spares", w => w.Spares.Select(s => s.Key)),
        };
    }

    private static Command Wave()
    {
        var (key, name) = (Key, Name);
        var from = new Option<DateOnly>("--from") { Description = "First day.", Required = true };
        var until = new Option<DateOnly>("--until") { Description = "Last day.", Required = true };
        return new Command("wave", "Parts of a refresh that go together: list them, set one. 'swap edit --wave' puts swaps into one.")
        {
            List(
                "waves",
                "yardline wave list",
                w => w.Waves,
                ["Key", "Name", "From", "Until", "Swaps"],
                v => [v.Key, v.Name, $"{v.From:yyyy-MM-dd}", $"{v.Until:yyyy-MM-dd}", $"{v.Swaps}"],
                4),
            Call.Command(
                "set",
                "Makes or changes a wave.",
                "yardline wave set office --name 'Office' --from 2026-11-25 --until 2026-11-27",
                [key, name, from, until],
                (c, r, a, cancel) =>
                    c.PutWaveAsync(r, a.GetValue(key)!, new(a.GetValue(name)!, a.GetValue(from), a.GetValue(until)), cancel),
                v => Tables.Say($"{v.Name} goes from {v.From:yyyy-MM-dd} to {v.Until:yyyy-MM-dd}.")),
            DropVerb.Create("wave", "waves", w => w.Waves.Select(v => v.Key)),
        };
    }

    private static Command Depot()
    {
        var (key, name) = (Key, Name);
        var address = new Option<string>("--address")
        {
            Description =
                "file:///path, http(s)://host/path or sftp://user@host/path, without a password; or built-in for the one of the service.",
            Required = true
        };
        var capacity = new Option<double?>("--room-gb") { Description = "How much may lie there at once, in GB; left out: no bound." };
        var daily = new Option<double?>("--daily-gb") { Description = "What the link brings in a day, in GB; left out: no bound." };
        var hold = new Option<int?>("--hold-days") { Description = "How long a parcel lies after its swap; left out: 14." };
        var ends = new Option<DateOnly?>("--ends") { Description = "The day on which the depot deletes by itself; left out: it does not." };
        var sealTo = new Option<string[]>("--seal-to")
        {
            Description = "Recipient (age1…) that new parcels in it are sealed to; repeat for more. Left out: parcels are open."
        };
        var copyTo = new Option<string?>("--copy-to")
        {
            Description =
                "Key of a depot on another disk that keeps a second copy of each parcel, brought up and read back after each verify. Left "
                    + "out: none does."
        };
        var limit = Limit();
        var user = new Option<string?>("--user")
        {
            Description =
                "Name that hands sign in with. What opens a depot is kept encrypted, given to a hand with an order only, and never shown "
                    + "again."
        };
        var password = new Option<string?>("--password-file")
        {
            Description = "File whose first line is the password, or the passphrase of the key; '-' reads it from the input."
        };
        var privateKey = new Option<string?>("--key-file") { Description = "File of a private key, for an SSH server." };
        foreach (var file in new[] { password, privateKey })
            file.Validators.Add(r =>
            {
                if (r.GetValueOrDefault<string?>() is { } named and not "-" && !File.Exists(named))
                    r.AddError($"There is no file '{named}'.");
            });
        var hostKey = new Option<string?>("--host-key")
        {
            Description = "The SSH server's own key as SHA256:…, as ssh-keygen -lf shows it."
        };
        var forget = new Option<bool>("--forget-access")
        {
            Description = "Keeps nothing that opens it any more; hands take it from their environment."
        };
        long? Bytes(double? gigabytes) => gigabytes is { } g ? (long)(g * 1e9) : null;
        return new Command("depot", "Depots: list them, set one.")
        {
            List("depots and what lies in them", "yardline depot list", w => w.Depots, [
                "Key", "Name", "Address", "Parcels", "Size", "Promised", "Room", "Per day", "Rate", "Limits", "Ends", "Sealed",
                "Second copy", "Opened by", "Health"
            ],
                d => [
                    d.Key, d.Name, d.Address, $"{d.Parcels}", ByteText.Of(d.Bytes), d.PromisedBytes > 0 ? ByteText.Of(d.PromisedBytes) : "",
                    d.CapacityBytes is { } room ? ByteText.Of(room) : d.FreeBytes is { } free ? $"{ByteText.Of(free)} free" : "",
                    d.DailyBytes is { } day ? ByteText.Of(day) : "",
                    $"{ByteText.Of((long)d.BytesPerSecond)}/s {(d.Observed == 0 ? "assumed" : $"seen in {d.Observed}")}",
                    string.Join(", ", d.Limits), $"{d.EndsOn:yyyy-MM-dd}", d.SealTo.Count > 0 ? $"to {d.SealTo.Count}" : "",
                    d.CopyTo is { } copy ? $"in {copy}" : "", d.Address == "built-in" ? "an order" : d.OpenedBy ?? "",
                    d.Trouble is { } trouble
                        ? $"■ {trouble}"
                        : d.HeardAt is { } heard
                        ? $"✓ {heard.LocalDateTime:d MMM HH:mm}"
                        : "not used yet"
                ],
                3,
                4,
                5,
                6,
                7),
            Call.Command(
                "set",
                "Makes or changes a depot.",
                "yardline depot set cloud --name 'Cloud share' --address http://127.0.0.1:8421/ --room-gb 500 --daily-gb 120",
                [key, name, address, capacity, daily, hold, ends, sealTo, copyTo, limit, user, password, privateKey, hostKey, forget],
                (c, r, a, cancel) => c.PutDepotAsync(
                    r,
                    a.GetValue(key)!,
                    new(
                        a.GetValue(name)!, a.GetValue(address)!, Bytes(a.GetValue(capacity)), Bytes(a.GetValue(daily)), a.GetValue(hold),
                        a.GetValue(ends), a.GetValue(sealTo), a.GetValue(limit), AccessOf(a), a.GetValue(copyTo)),
                    cancel),
                d => Tables.Say($"{d.Name} is {d.Address}{(d.OpenedBy is null ? "" : $", opened by {d.OpenedBy}")}.")),
        };

        DepotAccessWanted? AccessOf(ParseResult a)
        {
            if (a.GetValue(forget)) return new();
            var (name, secret, key, host) = (a.GetValue(user), a.GetValue(password), a.GetValue(privateKey), a.GetValue(hostKey));
            if (name is null && secret is null && key is null && host is null) return null;
            return new(
                name,
                secret is null
                    ? null
                    : (secret == "-" ? Surroundings.Here.ReadLine() : File.ReadLines(secret).FirstOrDefault())?.TrimEnd('\r'),
                key is null ? null : File.ReadAllText(key),
                host);
        }
    }

    private static Command Estimate()
    {
        var scope = new Argument<string>("scope") { Description = "swap, model or kind." };
        var of = new Argument<string>("of") { Description = "Id of a swap, model of new computer, or kind." };
        Option<int?> Minutes(string name, string what) => new(name) { Description = what };
        var (before, alone, after) = (
            Minutes("--before", "Minutes of the first hands-on part."),
            Minutes("--unattended", "Minutes of the unattended part."),
            Minutes("--after", "Minutes of the last hands-on part."));
        var (bench, updates, gap) = (
            Minutes("--bench", "Minutes of hands-on bench preparation, days before: an appointment of its own."),
            Minutes("--bench-unattended", "Minutes that the bench preparation then runs by itself."),
            Minutes("--bench-gap", "Minutes from its end to the visit at the least."));
        var site = new Option<string?>("--bench-site") { Description = "Where the bench stands; left out: at the swap's site." };
        var swap = new Argument<string>("swap") { Description = "Id of a swap." };
        var wave = new Option<string?>("--wave") { Description = "Only the swaps of this wave." };
        return new Command("estimate", "How long swaps take: show, override; which way to carry.")
        {
            List(
                "overrides",
                "yardline estimate list",
                w => w.Estimates,
                ["Scope", "Of", "Before", "Unattended", "After", "Bench"],
                e => [
                    e.Scope.ToString().ToLowerInvariant(),
                    e.Of,
                    $"{e.BeforeMinutes}",
                    $"{e.UnattendedMinutes}",
                    $"{e.AfterMinutes}",
                    e.Bench is { } b ? $"{b.HandsOnMinutes}+{b.UnattendedMinutes} min{(b.Site is null ? "" : $" at {b.Site}")}" : ""
                ],
                2,
                3,
                4),
            Call.Command(
                "show",
                "Shows how long a swap takes, from what that follows, and the ways to carry compared.",
                "yardline estimate show autumn-0001",
                [swap],
                (c, _, a, cancel) => c.EstimateAsync(a.GetValue(swap)!, cancel),
                Show,
                needsRefresh: false),
            Call.Command(
                "set",
                "Sets what is known better than the estimate.",
                "yardline estimate set model 'Gannet 14' --unattended 60 --bench 20 --bench-unattended 90 --bench-site Workshop",
                [scope, of, before, alone, after, bench, updates, gap, site],
                (c, r, a, cancel) => c.PutEstimateAsync(
                    r,
                    a.GetValue(scope)!,
                    a.GetValue(of)!,
                    new(
                        a.GetValue(before),
                        a.GetValue(alone),
                        a.GetValue(after),
                        a.GetValue(bench) is { } hands
                            ? new(a.GetValue(site), hands, a.GetValue(updates) ?? 0, a.GetValue(gap) ?? 0)
                            : null),
                    cancel),
                e => Tables.Say($"Set for {e.Scope.ToString().ToLowerInvariant()} {e.Of}.")),
            Call.Command(
                "real",
                "How long swaps really took, by kind and by model, from the times of their steps.",
                "yardline estimate real",
                [],
                (c, r, _, cancel) => c.RealLengthsAsync(r, cancel),
                all => Tables.Show(
                    ["Scope", "Of", "Swaps", "Before", "Unattended", "After", "Set"],
                    all.Select(l => new[]
                    {
                        l.Scope.ToString().ToLowerInvariant(),
                        l.Of,
                        $"{l.Swaps}",
                        $"{l.BeforeMinutes}",
                        $"{l.UnattendedMinutes}",
                        $"{l.AfterMinutes}",
                        l.Rule is { } rule ? $"{rule.BeforeMinutes}/{rule.UnattendedMinutes}/{rule.AfterMinutes}" : ""
                    }),
                    2,
                    3,
                    4,
                    5)),
            Call.Command(
                "ways",
                "Compares the ways to carry: disk, cable, share, cloud.",
                "yardline estimate ways --wave office",
                [wave],
                (c, r, a, cancel) => c.WaysToCarryAsync(r, a.GetValue(wave), cancel),
                w => ShowWays(w.Ways, $"{w.Swaps} swaps, {ByteText.Of(w.Bytes)} in all.")),
            DropVerb.Create(
                "estimate",
                "estimates",
                w => w.Estimates.Select(e => $"{e.Scope.ToString().ToLowerInvariant()}/{e.Of}"),
                "Goes back to the estimate; the key is scope/of.",
                "'model/Gannet 14'",
                "Estimated again."),
        };
    }

    private static void Show(EstimateSeen seen)
    {
        var e = seen.Estimate;
        Tables.Show(["Rests on", "", "Minutes"], e.Inputs.Select(i => new[] { i.What, i.Amount, $"{i.Minutes}" }), 2);
        Tables.Say(
            $"{seen.Swap}: {e.BeforeMinutes} min hands-on, {e.UnattendedMinutes} unattended, {e.AfterMinutes} hands-on, from "
                + $"{(e.Basis == "inventory" ? "the inventory" : "a typical size, as it is not surveyed yet")}.");
        if (e.LeadDays > 0) Tables.Say($"Staging takes about {e.FirstTripMinutes} min and must begin {e.LeadDays} days before.");
        if (e.Preparation is { } bench)
            Tables.Say(
                $"Bench preparation before it: {bench.HandsOnMinutes} min hands-on, {bench.UnattendedMinutes} unattended"
                    + $"{(bench.Site is null ? "" : $", at {bench.Site}")}.");
        ShowWays(seen.Ways, null);
    }

    private static void ShowWays(IReadOnlyList<Core.Planning.Worlds.WayToCarry> ways, string? words)
    {
        Tables.Show(
            ["Way", "Ahead", "At the visit", "Hands-on", "Room", "Fits", "Risk"],
            ways.Select(w =>
                new[]
                {
                    w.Way,
                    $"{w.AheadMinutes} min",
                    $"{w.VisitMinutes} min",
                    $"{w.HandsOnMinutes} min",
                    ByteText.Of(w.RoomBytes),
                    w.Fits ? "yes" : "no",
                    w.Risk
                }),
            1,
            2,
            3,
            4);
        if (words is not null) Tables.Say(words);
    }
}
