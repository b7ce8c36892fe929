using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>
/// A swap's parcel: <c>yardline swap report</c>, <c>landing</c>, <c>restore-part</c>, <c>purge</c>; and <c>yardline catalogue</c>.
/// </summary>
internal static class ParcelVerbs
{
    public static IEnumerable<Command> Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var file = new Option<string?>("--to") { Description = "Write it to a file; its ending says the form: .csv or .pdf." };
        var account = new Option<string[]>("--account")
        {
            AllowMultipleArgumentsPerToken = true,
            Description = "OLD=NEW: the files of account OLD land in the home of NEW, which must be there. Several may follow."
        };
        var folder = new Option<string[]>("--folder")
        {
            AllowMultipleArgumentsPerToken = true,
            Description = "FROM=TO: a folder of the parcel lands in another one. Several may follow."
        };
        var first = new Option<string[]>("--first")
        {
            AllowMultipleArgumentsPerToken = true,
            Description = "A folder or file that comes first. Several, in order."
        };
        var clash = new Option<string[]>("--on-clash")
        {
            AllowMultipleArgumentsPerToken = true,
            Description = "Where something else stands: beside, stay, newer or ours; FOLDER=RULE for one folder."
        };
        var original = new Option<bool>("--original") { Description = "All to its original places, beside what stands." };
        var only = new Option<string[]>("--only")
        {
            AllowMultipleArgumentsPerToken = true,
            Description = "Folder or file of the parcel. Several may follow.",
            Required = true
        };
        var confirm = new Option<string>("--confirm")
        {
            Description = "The name of the parcel once more: a purge cannot be taken back.",
            Required = true
        };

        yield return Call.Command<Reported>("report", "What came along, what did not and why, and which programs to install again.",
            "yardline swap report autumn-0012 --to ida.pdf", [swap, file], async (c, _, a, cancel) =>
        {
            if (a.GetValue(file) is { } path)
            {
                var form = Path.GetExtension(path).TrimStart('.').ToLowerInvariant();
                if (form is not ("csv" or "pdf")) return new ReportFormProblem(path);
                if (!(await c.ReportFileAsync(a.GetValue(swap)!, form, cancel)).TryGet(out var bytes, out var problem)) return problem;
                var written = await Written.ToAsync(path, bytes, cancel);
                return written.IsOk ? new Reported(null, written.Value) : written.Problem;
            }
            return (await c.ReportAsync(a.GetValue(swap)!, cancel)).TryGet(out var report, out var refused)
                ? new Reported(report, null)
                : refused;
        }, Show, needsRefresh: false);

        yield return Call.Command<LandingSeen>("landing",
            "Where the parcel lands on the new computer; with options, decides about it. 'yardline swap order look' counts before "
                + "anything is written.",
            "yardline swap landing autumn-0012 --account ida=imoreau --first ida/Desktop", [
            swap, account, folder, first, clash, original
        ], async (c, _, a, cancel) =>
        {
            if (!(await c.LandingAsync(a.GetValue(swap)!, cancel)).TryGet(out var before, out var problem)) return problem;
            if (a.GetValue(original)) return await c.PutLandingAsync(a.GetValue(swap)!, new([], [], [], "beside", []), cancel);
            if (new Option[] { account, folder, first, clash }.All(o => a.GetResult(o) is null)) return before;
            var (accounts, folders) = (Moves(a.GetValue(account)), Moves(a.GetValue(folder)));
            if (accounts is null || folders is null) return new LandingFormProblem();
            var rules = (a.GetValue(clash) ?? [])
                .Select(r => r.LastIndexOf('=') is > 0 and var at
                    ? (Folder: r[..at], Rule: r[(at + 1)..])
                    : (Folder: null, Rule: r)).ToList();
            var plan = before.Plan;
            return await c.PutLandingAsync(a.GetValue(swap)!, new(
                a.GetResult(account) is null ? plan.Accounts : accounts,
                a.GetResult(folder) is null ? plan.Folders : folders,
                a.GetResult(first) is null ? plan.First : a.GetValue(first)!,
                rules.LastOrDefault(r => r.Folder is null).Rule ?? plan.Clash,
                rules.Exists(r => r.Folder is not null)
                    ? [.. rules.Where(r => r.Folder is not null).Select(r => new LandingClash(r.Folder!, r.Rule))]
                    : plan.Clashes), cancel);
        }, Show, needsRefresh: false);

        yield return Call.Command("restore-part", "Restores single folders or files once more, as often as asked while the parcel is held.",
            "yardline swap restore-part autumn-0012 --only 'Documents/Tide tables'", [swap, only], (c, _, a, cancel) =>
            c.GiveOrderAsync(
                a.GetValue(swap)!,
                new OrderWanted("part-restore", a.GetValue(only)),
                cancel), o => Tables.Say($"Ordered at {o.Tag}."), needsRefresh: false);
        var reason = new Option<string>("--reason") { Description = "Why.", Required = true };
        yield return Call.Command("skip-restore",
            "Decides that nothing is restored, by you and with a reason; a look must have set the parcel against the new computer before.",
            "yardline swap skip-restore autumn-0012 --reason 'Both computers share one home on the server'", [swap, reason],
            (c, _, a, cancel) =>
            c.SkipRestoreAsync(
                a.GetValue(swap)!, new(a.GetValue(reason)!), cancel), s =>
                    Tables.Say($"Nothing is restored, decided by {s.By}: {s.Reason}"),
                needsRefresh: false);
        var filled = new Argument<string>("folder")
        {
            Description = "The folder as it lies in the swap's depot, such as 'Old shares/Ida'."
        };
        yield return Call.Command("adopt",
            "Takes a folder in the depot that somebody filled by hand in as the swap's parcel, and sets it against the old computer.",
            "yardline swap adopt autumn-0012 'Old shares/Ida'", [swap, filled], (c, _, a, cancel) =>
            c.GiveOrderAsync(
                a.GetValue(swap)!,
                new OrderWanted("adopt", Folder: a.GetValue(filled)),
                cancel), o => Tables.Say($"Ordered at {o.Tag}. The next trip keeps what is the same and brings what is missing."),
                needsRefresh: false);
        var find = new Argument<string>("find") { Description = "Part of a tag, a name or a swap." };
        yield return Call.Command("lost", "Finds lost computers with something staged, over all refreshes; those seen last first.",
            "yardline swap lost KB-1187", [find], (c, _, a, cancel) => c.LostComputersAsync(a.GetValue(find)!, cancel), all =>
        {
            if (all.Count == 0) Tables.Say("Nothing was staged from such a computer.");
            else
                Tables.Show(
                    ["Swap", "Person", "Tag", "Model", "Site", "Last seen", "Last trip", "Files", "Size", "Can serve"],
                    all.Select(l => new[]
                    {
                        l.Swap,
                        l.Name,
                        l.Tag ?? "",
                        l.Model ?? "",
                        l.Site,
                        $"{l.LastSeen?.OnClock():yyyy-MM-dd HH:mm}",
                        l.LastTripAt is { } last ? $"{last.OnClock():yyyy-MM-dd HH:mm}" : "broke off",
                        $"{l.Staged.Files:#,0}",
                        ByteText.Of(l.Staged.Bytes),
                        l.Refusal is { } why ? $"no: {why}" : l.OpenSnags > 0 ? $"yes, {l.OpenSnags} snags open" : "yes"
                    }),
                    7,
                    8);
        }, needsRefresh: false);
        var from = new Option<string>("--from")
        {
            Description = "The swap of the lost computer, as 'swap lost' finds it.",
            Required = true
        };
        var lostTag = new Option<string>("--tag") { Description = "Asset tag of the lost computer, once more.", Required = true };
        yield return Call.Command("rescue", "Lets what was staged of a lost computer serve a rescue.",
            "yardline swap rescue autumn-0071 --from autumn-0012 --tag KB-1187", [swap, from, lostTag], (c, _, a, cancel) =>
            c.PutRescueAsync(
                a.GetValue(swap)!,
                new(a.GetValue(from)!, a.GetValue(lostTag)!),
                cancel), r => Tables.Say($"The parcel of {r.From} {r.Name} serves it. {r.Words}"), needsRefresh: false);
        var person = new Option<string>("--person") { Description = "Key of the person in the roster.", Required = true };
        var theirs = new Option<string?>("--tag") { Description = "Asset tag of that person's computer." };
        yield return Call.Command("receiver", "Names who receives the parcel of a leave, and at which computer.",
            "yardline swap receiver autumn-0031 --person k44 --tag KB-2044", [swap, person, theirs], (c, _, a, cancel) =>
            c.PutReceiverAsync(a.GetValue(swap)!, new(a.GetValue(person)!, a.GetValue(theirs)), cancel), r => Tables.Say(
                $"{r.Name} receives it{(r.Tag is null ? "" : $", at {r.Tag}")}.{(r.AcceptedAt is null ? " Not accepted yet." : "")}"),
            needsRefresh: false);
        yield return Call.Command("accept-parcel",
            "Accepts the parcel of a leave: for yourself, or as you heard it from the person who receives it.",
            "yardline swap accept-parcel autumn-0031", [swap], (c, _, a, cancel) =>
            c.AcceptParcelAsync(a.GetValue(swap)!, cancel), r => Tables.Say($"{r.Name} accepts it, written down by {r.AcceptedBy}."),
            needsRefresh: false);
        yield return Call.Command("purge", "Removes a parcel from its depot, once its hold is over.",
            "yardline swap purge autumn-0012 --confirm 'autumn/Ida-Moreau 0012'", [swap, confirm], (c, _, a, cancel) =>
            c.GiveOrderAsync(
                a.GetValue(swap)!,
                new OrderWanted("purge", null, a.GetValue(confirm)),
                cancel), o => Tables.Say($"Ordered at {o.Tag}; the hand proves by listing that nothing is left."), needsRefresh: false);
    }

    /// <summary><c>yardline catalogue</c></summary>
    public static Command CreateCatalogue()
    {
        var key = new Argument<string>("key") { Description = "Key of the line." };
        var program = new Option<string>("--program")
        {
            Description = "Name of the program on old computers, with * for anything."
        };
        var offer = new Option<string>("--offer") { Description = "What is installed on the new computer." };
        var where = new Option<string?>("--where") { Description = "Where to get it." };
        var bound = new Option<bool>("--licence-bound") { Description = "Its licence is given back on the old computer first." };
        return new Command("catalogue", "What the organisation offers for the programs of old computers.")
        {
            Call.Command("list", "Lists the catalogue.", "yardline catalogue list", [], (c, r, _, cancel) => c.CatalogueAsync(r, cancel),
                all =>
                Tables.Show(
                    ["Key", "Program", "Offer", "Where", "Licence"],
                    all.Select(l => new[] { l.Key, l.Program, l.Offer, l.Where ?? "", l.IsLicenceBound ? "bound" : "" }))),
            SetVerb.Create("Makes or changes a line.",
                "yardline catalogue set berth --program 'Berth Planner*' --offer 'Berth Planner 7' --where 'program shop'",
                [key, program, offer, where, bound],
                (w, a) => w.Catalogue.FirstOrDefault(x => string.Equals(x.Key, a.GetValue(key), StringComparison.OrdinalIgnoreCase)),
                (c, r, a, was, cancel) => c.PutCatalogueAsync(
                    r,
                    was?.Key ?? a.GetValue(key)!,
                    new(
                        a.Must(program, was?.Program), a.Must(offer, was?.Offer), a.OrNone(where, was?.Where),
                        SetVerb.IsGiven(a, bound) ? a.GetValue(bound) : was?.IsLicenceBound ?? false),
                    cancel), typeof(CatalogueWanted), l => Tables.Say($"For {l.Program} the catalogue offers {l.Offer}.")),
            DropVerb.Create(
                "catalogue", "catalogue", w => w.Catalogue.Select(l => l.Key), "Takes a line out.", "berth", "Taken out.",
                "line of the catalogue"),
        };
    }

    private sealed record Reported(ParcelReport? Report, string? File);

    private static List<LandingMove>? Moves(IReadOnlyList<string>? texts)
    {
        var moves = (texts ?? []).Select(t =>
            t.Split('=', 2) is [{ Length: > 0 } from, { Length: > 0 } to] ? new LandingMove(from, to) : null).ToList();
        return moves.Contains(null) ? null : [.. moves.OfType<LandingMove>()];
    }

    private static void Show(Reported reported)
    {
        if (reported.File is { } file)
        {
            Tables.Say($"Written to {file}.");
            return;
        }
        var r = reported.Report!;
        Tables.Say($"{r.Name}, {r.Swap}: {r.OldTag ?? "–"} → {r.NewTag ?? "–"}");
        Tables.Say(r.Words);
        Tables.Show(
            ["Folder", "Old computer", "Size", "In the depot", "New computer", "Stayed", "Open"],
            r.Account.Append(r.Total).Select(f =>
                new[]
                {
                    f.Folder,
                    Count(f.Old.Files),
                    ByteText.Of(f.Old.Bytes),
                    Count(f.InDepot.Files),
                    f.OnNew is { } on ? Count(on.Files) : "",
                    Count(f.LeftOut.Files + f.Waived.Files + f.WaivedAtNew.Files),
                    Count(f.Open.Files + f.OpenAtNew.Files)
                }),
            1,
            2,
            3,
            4,
            5,
            6);
        foreach (var s in r.Stayed)
            Tables.Say(
                $"○ stayed: {(s.Files is { } files ? $"{ByteText.Files(files.Files)}, {ByteText.Of(files.Bytes)}: " : "")}{s.Reason} ("
                    + $"{s.By ?? "by a rule"})");
        foreach (var s in r.Waived) Tables.Say($"– given up: {Visible.Line(s.Path)}: {s.EndReason} ({s.EndedBy})");
        foreach (var s in r.Open) Tables.Say($"■ open: {Visible.Line(s.Path)}: {Visible.Line(s.Reason)}");
        if (r.Programs.Count > 0)
            Tables.Show(
                ["Program", "On the new computer", "Where to get it"],
                r.Programs.Select(p =>
                    new[]
                    {
                        $"{p.Name} {p.Version}".TrimEnd(),
                        p.Offer is null ? "not in the catalogue" : p.IsLicenceBound ? $"{p.Offer}; sign out on the old one first" : p.Offer,
                        p.Where ?? ""
                    }));
        if (r.Hold is { } hold)
            Tables.Say(hold.PurgedAt is { } at
                ? $"Purged on {at.OnClock():d MMM yyyy}."
                : hold.Missing.Count == 0
                ? "Its hold is over: it may be purged."
                : $"Not to be purged yet. {string.Join(' ', hold.Missing)}{(hold.Alarm is { } alarm ? $" ■ {alarm}" : "")}");
    }

    private static void Show(LandingSeen landing)
    {
        var plan = landing.Plan;
        if (plan.Accounts.Count + plan.Folders.Count == 0) Tables.Say("Everything lands in its original place.");
        else
            Tables.Show(
                ["Lands", "In"],
                plan.Accounts.Select(m => new[] { $"account {m.From}", $"home of {m.To}" })
                    .Concat(plan.Folders.Select(m => new[] { m.From, m.To })));
        if (plan.First.Count > 0) Tables.Say($"First: {string.Join(", ", plan.First)}.");
        Tables.Say(
            $"A clash: {plan.Clash}{string.Concat(plan.Clashes.Select(c => $"; in {c.Folder}: {c.Rule}"))}."
                + $"{(landing.By is { } by ? $" Decided by {by}, {landing.At?.OnClock():ddd d MMM HH:mm}." : "")}");
        if (landing.Foreseen is not { } f) return;
        Tables.Show(
            ["Folder", "Lands in", "New", "Stands already", "Beside", "Replaces", "Stays"],
            f.Folders.Select(o =>
                new[]
                {
                    o.Folder,
                    o.To,
                    Count(o.New.Files),
                    Count(o.Stands.Files),
                    Count(o.Beside.Files),
                    Count(o.Replaced.Files),
                    Count(o.Stayed.Files)
                }),
            2,
            3,
            4,
            5,
            6);
        foreach (var missing in f.NotInParcel) Tables.Say($"■ not in the parcel: {missing}");
        Tables.Say(
            $"Looked at {f.At.OnClock():ddd d MMM HH:mm}; it needs {ByteText.Of(f.NeedsBytes)}"
                + $"{(f.FreeBytes is { } free ? $", {ByteText.Of(free)} are free" : "")}.");
    }

    private static string Count(long number) => number == 0 ? "" : $"{number:#,0}";
}
