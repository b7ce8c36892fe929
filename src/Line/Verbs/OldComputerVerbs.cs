using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Old computers: <c>yardline old</c> and <c>pallet</c>.</summary>
internal static class OldComputerVerbs
{
    public static Command Create()
    {
        var tag = new Argument<string>("tag") { Description = "Asset tag of the old computer." };
        var find = new Argument<string?>("find")
        {
            Description = "Part of a tag, person, place, holder or pallet.",
            DefaultValueFactory = _ => null
        };
        var tags = new Argument<string[]>("tags") { Description = "Asset tags.", Arity = ArgumentArity.OneOrMore };
        var who = new Option<string?>("--by") { Description = "Who has them now; left out: you." };
        var place = new Option<string>("--at") { Description = "Where: a room, a shelf.", Required = true };
        var pallet = new Option<string>("--pallet") { Description = "Name of the pallet.", Required = true };
        var method = new Option<string>("--method") { Description = "How, such as 'three passes'.", Required = true };
        var evidence = new Option<string>("--evidence")
        {
            Description = "What proves it: number of a certificate, name of a report.",
            Required = true
        };
        var failed = new Option<bool>("--failed") { Description = "It could not be wiped." };
        var alone = new Option<bool>("--alone")
        {
            Description = "Though nobody but its own hand has verified what was carried from it; its paper says so."
        };
        var days = new Argument<int>("days") { Description = "Days after the last sign-off, 0 to 366." };
        return new Command("old", "Old computers: where each is, who has it, and its wipe.")
        {
            Call.Command(
                "list",
                "Old computers by tag.",
                "yardline old list shelf",
                [find],
                (c, r, a, cancel) => AllAsync(c, r, a.GetValue(find), cancel),
                all => Tables.Show(
                    ["Tag", "", "Where", "Person", "May be wiped", "Swap"],
                    all.Select(o => new[]
                    {
                        o.Tag,
                        Sign(o) + " " + o.State.Replace('-', ' '),
                        o.Words,
                        o.Name,
                        o.Wipe is { Result: "done" } ? "" : o.Missing.Count == 0 ? "now" : o.WipeFrom is { } from ? $"{from:d MMM}" : "",
                        o.Swap
                    }))),
            Call.Command(
                "show",
                "One old computer with all its moves.",
                "yardline old show KB-1180",
                [tag],
                (c, r, a, cancel) => c.OldComputerAsync(r, a.GetValue(tag)!, cancel),
                Show),
            Move("take", "Somebody has them in hand.", "yardline old take KB-1180", CustodyAct.Taken, tags, who),
            Move("put", "They lie somewhere.", "yardline old put KB-1180 --at 'Workshop, shelf 3'", CustodyAct.Placed, tags, place!),
            Move("load", "They are put on a pallet.", "yardline old load KB-1180 KB-1181 --pallet P-07", CustodyAct.Loaded, tags, pallet!),
            Move(
                "unload",
                "They are taken off their pallet.",
                "yardline old unload KB-1180 --at 'Workshop, bench'",
                CustodyAct.Unloaded,
                tags,
                place!),
            Call.Command(
                "hold",
                "Sets how many days old computers are held after the last sign-off.",
                "yardline old hold 21",
                [days],
                (c, r, a, cancel) => c.HoldOldComputersAsync(r, a.GetValue(days), cancel),
                r => Tables.Say($"Old computers of {r.Name} are held {r.OldHoldDays} days.")),
            Call.Command(
                "wipe",
                "Records a wipe; refused with reasons while any gate is closed.",
                "yardline old wipe KB-1180 --method 'three passes' --evidence 'report W-0117'",
                [tag, method, evidence, failed, alone],
                (c, r, a, cancel) => c.WipeAsync(
                    r,
                    a.GetValue(tag)!,
                    new(a.GetValue(method)!, a.GetValue(failed) ? "failed" : "done", a.GetValue(evidence)!, a.GetValue(alone)),
                    cancel),
                o => Tables.Say(o.Wipe!.Result == "done"
                    ? $"{o.Tag} is wiped: {o.Wipe.Method}; {o.Wipe.Evidence}."
                    : $"{o.Tag} could not be wiped; a follow-up is open.")),
        };
    }

    /// <summary><c>yardline pallet</c></summary>
    public static Command CreatePallets()
    {
        var pallet = new Argument<string>("pallet") { Description = "Name of the pallet." };
        var file = new Option<string?>("--to-file") { Description = "File to write it to; left out: it is printed." };
        var how = new Option<string>("--as") { Description = "How it leaves.", Required = true };
        how.AcceptOnlyFromAmong("returned", "donated", "disposed");
        var to = new Option<string>("--to") { Description = "To whom.", Required = true };
        return new Command("pallet", "Pallets of old computers: list them, print one's list, send one off.")
        {
            Call.Command(
                "list",
                "Pallets.",
                "yardline pallet list",
                [],
                (c, r, _, cancel) => c.PalletsAsync(r, cancel),
                all => Tables.Show(
                    ["Pallet", "Computers", "Wiped", "Left", "Since"],
                    all.Select(p => new[]
                    {
                        p.Name,
                        $"{p.Computers}",
                        p.Wiped == 0 ? "" : $"{p.Wiped}",
                        p.Gone == 0 ? "" : $"{p.Gone}",
                        p.Since is { } at ? $"{at.OnClock():ddd d MMM HH:mm}" : ""
                    }),
                    1,
                    2,
                    3)),
            Call.Command<string>("print", "The list of a pallet as CSV.", "yardline pallet print P-07 --to-file p-07.csv", [pallet, file],
                async (c, r, a, cancel) =>
            {
                if (!(await c.PalletListAsync(r, a.GetValue(pallet)!, cancel)).TryGet(out var csv, out var problem)) return problem;
                if (a.GetValue(file) is not { } path) return System.Text.Encoding.UTF8.GetString(csv).TrimStart('\uFEFF').TrimEnd();
                await File.WriteAllBytesAsync(path, csv, cancel);
                return $"Written to {path}.";
            }, Tables.Say),
            Call.Command(
                "send",
                "A pallet leaves for good with all that is on it.",
                "yardline pallet send P-07 --as returned --to 'the leasing company'",
                [pallet, how, to],
                (c, r, a, cancel) => c.SendPalletAsync(
                    r, a.GetValue(pallet)!, new(Enum.Parse<CustodyAct>(a.GetValue(how)!, ignoreCase: true), a.GetValue(to)!), cancel),
                p => Tables.Say($"Pallet {p.Name} has left with {p.Computers} computers.")),
        };
    }

    private static Command Move(string name, string what, string example, CustodyAct act, Argument<string[]> tags, Option<string?> where) =>
        Call.Command<List<OldComputerSeen>>(name, what, example, [tags, where], async (c, r, a, cancel) =>
        {
            var done = new List<OldComputerSeen>();
            foreach (var tag in a.GetValue(tags)!)
            {
                if (!(await c.MoveOldComputerAsync(r, tag, new(Guid.NewGuid().ToString(), act, a.GetValue(where)), cancel))
                    .TryGet(out var moved, out var problem))
                    return done.Count == 0
                        ? problem
                        : problem with { Message = $"{string.Join(", ", done.Select(d => d.Tag))}: done. {problem.Message}" };
                done.Add(moved);
            }
            return done;
        }, done =>
        {
            foreach (var o in done) Tables.Say($"{o.Tag} of {o.Name}: {o.Words}.");
        });

    private static Task<Result<List<OldComputerSeen>>> AllAsync(
        YardClient client, string refresh, string? find, CancellationToken cancel) =>
        Pages.AllAsync(cursor => client.OldComputersAsync(refresh, find, null, null, cursor, cancel));

    private static string Sign(OldComputerSeen o) => o.State switch
    {
        "wiped" or "gone" => "✓",
        "may-be-wiped" => "▲",
        "wipe-failed" or "missing" => "■",
        _ => "○"
    };

    private static void Show(OldComputerHistory seen)
    {
        var o = seen.Computer;
        Tables.Say($"{o.Tag}  {o.Model}  of {o.Name} ({o.Swap}), {o.Site}\n{Sign(o)} {o.State.Replace('-', ' ')}: {o.Words}");
        if (o.Wipe is { } wipe)
            Tables.Say(
                $"{(wipe.Result == "done" ? "Wiped" : "Could not be wiped")} by {wipe.By} {wipe.At.OnClock():d MMM HH:mm}: "
                    + $"{wipe.Method}; {wipe.Evidence}");
        else Tables.Say(o.Missing.Count == 0 ? "It may be wiped now." : $"It must not be wiped: {string.Join(' ', o.Missing)}");
        if (seen.Moves.Count > 0)
            Tables.Show(
                ["When", "", "Where", "By"],
                seen.Moves.Select(m =>
                    new[] { $"{m.At.OnClock():ddd d MMM HH:mm}", m.Act.ToString().ToLowerInvariant(), m.Where, m.By }));
    }
}
