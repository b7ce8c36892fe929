using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>A swap's parcel: <c>yardline swap report</c>, <c>landing</c>, <c>restore-part</c>, <c>purge</c>; and <c>yardline catalogue</c>.</summary>
internal static class ParcelVerbs
{
    public static IEnumerable<Command> Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var file = new Option<string?>("--to") { Description = "Write it to a file; its ending says the form: .csv or .pdf." };
        var account = new Option<string[]>("--account") { AllowMultipleArgumentsPerToken = true, Description = "OLD=NEW: the files of account OLD land in the home of NEW, which must be there. Several may follow." };
        var folder = new Option<string[]>("--folder") { AllowMultipleArgumentsPerToken = true, Description = "FROM=TO: a folder of the parcel lands in another one. Several may follow." };
        var first = new Option<string[]>("--first") { AllowMultipleArgumentsPerToken = true, Description = "A folder or file that comes first. Several, in order." };
        var clash = new Option<string[]>("--on-clash") { AllowMultipleArgumentsPerToken = true, Description = "Where something else stands: beside, stay, newer or ours; FOLDER=RULE for one folder." };
        var original = new Option<bool>("--original") { Description = "All to its original places, beside what stands." };
        var only = new Option<string[]>("--only") { AllowMultipleArgumentsPerToken = true, Description = "Folder or file of the parcel. Several may follow.", Required = true };
        var confirm = new Option<string>("--confirm") { Description = "The name of the parcel once more: a purge cannot be taken back.", Required = true };

        yield return Call.Command<Reported>("report", "What came along, what did not and why, and which programs to install again.", "yardline swap report autumn-0012 --to ida.pdf", [swap, file], async (c, _, a, cancel) =>
        {
            if (a.GetValue(file) is { } path)
            {
                var form = Path.GetExtension(path).TrimStart('.').ToLowerInvariant();
                if (form is not ("csv" or "pdf")) return new Problem("report.form", $"'{path}' ends in neither .csv nor .pdf.");
                if (!(await c.ReportFileAsync(a.GetValue(swap)!, form, cancel)).TryGet(out var bytes, out var problem)) return problem;
                var written = await Written.ToAsync(path, bytes, cancel);
                return written.IsOk ? new Reported(null, written.Value) : written.Problem;
            }
            return (await c.ReportAsync(a.GetValue(swap)!, cancel)).TryGet(out var report, out var refused) ? new Reported(report, null) : refused;
        }, Show, needsRefresh: false);

        yield return Call.Command<LandingSeen>("landing", "Where the parcel lands on the new computer; with options, decides about it. 'yardline swap order look' counts before anything is written.", "yardline swap landing autumn-0012 --account ida=imoreau --first ida/Desktop", [swap, account, folder, first, clash, original], async (c, _, a, cancel) =>
        {
            if (!(await c.LandingAsync(a.GetValue(swap)!, cancel)).TryGet(out var before, out var problem)) return problem;
            if (a.GetValue(original)) return await c.PutLandingAsync(a.GetValue(swap)!, new([], [], [], "beside", []), cancel);
            if (new Option[] { account, folder, first, clash }.All(o => a.GetResult(o) is null)) return before;
            var (accounts, folders) = (Moves(a.GetValue(account)), Moves(a.GetValue(folder)));
            if (accounts is null || folders is null) return new Problem("landing.form", "Write --account OLD=NEW and --folder FROM=TO.");
            var rules = (a.GetValue(clash) ?? []).Select(r => r.LastIndexOf('=') is > 0 and var at ? (Folder: r[..at], Rule: r[(at + 1)..]) : (Folder: null, Rule: r)).ToList();
            var plan = before.Plan;
            return await c.PutLandingAsync(a.GetValue(swap)!, new(
                a.GetResult(account) is null ? plan.Accounts : accounts, a.GetResult(folder) is null ? plan.Folders : folders, a.GetResult(first) is null ? plan.First : a.GetValue(first)!,
                rules.LastOrDefault(r => r.Folder is null).Rule ?? plan.Clash, rules.Exists(r => r.Folder is not null) ? [.. rules.Where(r => r.Folder is not null).Select(r => new LandingClash(r.Folder!, r.Rule))] : plan.Clashes), cancel);
        }, Show, needsRefresh: false);

        yield return Call.Command("restore-part", "Restores single folders or files once more, as often as asked while the parcel is held.", "yardline swap restore-part autumn-0012 --only 'Documents/Tide tables'", [swap, only], (c, _, a, cancel) =>
            c.GiveOrderAsync(a.GetValue(swap)!, new OrderWanted("part-restore", a.GetValue(only)), cancel), o => Tables.Say($"Ordered at {o.Tag}."), needsRefresh: false);
        yield return Call.Command("purge", "Removes a parcel from its depot, once its hold is over.", "yardline swap purge autumn-0012 --confirm 'autumn/Ida-Moreau 0012'", [swap, confirm], (c, _, a, cancel) =>
            c.GiveOrderAsync(a.GetValue(swap)!, new OrderWanted("purge", null, a.GetValue(confirm)), cancel), o => Tables.Say($"Ordered at {o.Tag}; the hand proves by listing that nothing is left."), needsRefresh: false);
    }

    /// <summary><c>yardline catalogue</c></summary>
    public static Command CreateCatalogue()
    {
        var key = new Argument<string>("key") { Description = "Key of the line." };
        var program = new Option<string>("--program") { Description = "Name of the program on old computers, with * for anything.", Required = true };
        var offer = new Option<string>("--offer") { Description = "What is installed on the new computer.", Required = true };
        var where = new Option<string?>("--where") { Description = "Where to get it." };
        var bound = new Option<bool>("--licence-bound") { Description = "Its licence is given back on the old computer first." };
        return new Command("catalogue", "What the organisation offers for the programs of old computers.")
        {
            Call.Command("list", "Lists the catalogue.", "yardline catalogue list", [], (c, r, _, cancel) => c.CatalogueAsync(r, cancel), all =>
                Tables.Show(["Key", "Program", "Offer", "Where", "Licence"], all.Select(l => new[] { l.Key, l.Program, l.Offer, l.Where ?? "", l.IsLicenceBound ? "bound" : "" }))),
            Call.Command("set", "Makes or changes a line.", "yardline catalogue set berth --program 'Berth Planner*' --offer 'Berth Planner 7' --where 'program shop'", [key, program, offer, where, bound], (c, r, a, cancel) =>
                c.PutCatalogueAsync(r, a.GetValue(key)!, new(a.GetValue(program)!, a.GetValue(offer)!, a.GetValue(where), a.GetValue(bound)), cancel), l => Tables.Say($"For {l.Program} the catalogue offers {l.Offer}.")),
            Call.Command("drop", "Takes a line out.", "yardline catalogue drop berth", [key], (c, r, a, cancel) => c.DropAsync(r, "catalogue", a.GetValue(key)!, cancel), _ => Tables.Say("Taken out.")),
        };
    }

    private sealed record Reported(ParcelReport? Report, string? File);

    private static List<LandingMove>? Moves(IReadOnlyList<string>? texts)
    {
        var moves = (texts ?? []).Select(t => t.Split('=', 2) is [{ Length: > 0 } from, { Length: > 0 } to] ? new LandingMove(from, to) : null).ToList();
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
        Tables.Show(["Folder", "Old computer", "Size", "In the depot", "New computer", "Stayed", "Open"], r.Account.Append(r.Total).Select(f => new[] { f.Folder, Count(f.Old.Files), ByteText.Of(f.Old.Bytes), Count(f.InDepot.Files), f.OnNew is { } on ? Count(on.Files) : "", Count(f.LeftOut.Files + f.Waived.Files + f.WaivedAtNew.Files), Count(f.Open.Files + f.OpenAtNew.Files) }), 1, 2, 3, 4, 5, 6);
        foreach (var s in r.Stayed) Tables.Say($"○ stayed: {(s.Files is { } files ? $"{ByteText.Files(files.Files)}, {ByteText.Of(files.Bytes)}: " : "")}{s.Reason} ({s.By ?? "by a rule"})");
        foreach (var s in r.Waived) Tables.Say($"– given up: {s.Path}: {s.EndReason} ({s.EndedBy})");
        foreach (var s in r.Open) Tables.Say($"■ open: {s.Path}: {s.Reason}");
        if (r.Programs.Count > 0) Tables.Show(["Program", "On the new computer", "Where to get it"], r.Programs.Select(p => new[] { $"{p.Name} {p.Version}".TrimEnd(), p.Offer is null ? "not in the catalogue" : p.IsLicenceBound ? $"{p.Offer}; sign out on the old one first" : p.Offer, p.Where ?? "" }));
        if (r.Hold is { } hold) Tables.Say(hold.PurgedAt is { } at ? $"Purged on {at.LocalDateTime:d MMM yyyy}." : hold.Missing.Count == 0 ? "Its hold is over: it may be purged." : $"Not to be purged yet. {string.Join(' ', hold.Missing)}{(hold.Alarm is { } alarm ? $" ■ {alarm}" : "")}");
    }

    private static void Show(LandingSeen landing)
    {
        var plan = landing.Plan;
        if (plan.Accounts.Count + plan.Folders.Count == 0) Tables.Say("Everything lands in its original place.");
        else Tables.Show(["Lands", "In"], plan.Accounts.Select(m => new[] { $"account {m.From}", $"home of {m.To}" }).Concat(plan.Folders.Select(m => new[] { m.From, m.To })));
        if (plan.First.Count > 0) Tables.Say($"First: {string.Join(", ", plan.First)}.");
        Tables.Say($"A clash: {plan.Clash}{string.Concat(plan.Clashes.Select(c => $"; in {c.Folder}: {c.Rule}"))}.{(landing.By is { } by ? $" Decided by {by}, {landing.At?.LocalDateTime:ddd d MMM HH:mm}." : "")}");
        if (landing.Foreseen is not { } f) return;
        Tables.Show(["Folder", "Lands in", "New", "Stands already", "Beside", "Replaces", "Stays"], f.Folders.Select(o => new[] { o.Folder, o.To, Count(o.New.Files), Count(o.Stands.Files), Count(o.Beside.Files), Count(o.Replaced.Files), Count(o.Stayed.Files) }), 2, 3, 4, 5, 6);
        foreach (var missing in f.NotInParcel) Tables.Say($"■ not in the parcel: {missing}");
        Tables.Say($"Looked at {f.At.LocalDateTime:ddd d MMM HH:mm}; it needs {ByteText.Of(f.NeedsBytes)}{(f.FreeBytes is { } free ? $", {ByteText.Of(free)} are free" : "")}.");
    }

    private static string Count(long number) => number == 0 ? "" : $"{number:#,0}";
}
