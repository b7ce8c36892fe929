using System.CommandLine;
using System.Globalization;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ledger;
using YardRelay.Line.Shown;
using CoreFault = YardRelay.Core.Ledger.LedgerFault;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline ledger</c>.</summary>
internal static class LedgerVerbs
{
    /// <summary>What somebody kept outside, to compare a ledger with.</summary>
    private sealed record Kept(LedgerHead? Head, string? Key, IReadOnlyList<KeptHead> Heads, int Unread);

    /// <summary>A ledger that is whole.</summary>
    private sealed record Whole(LedgerHead Head, string Key, int Compared, int Unread);

    public static IEnumerable<Command> Create()
    {
        var head = new Option<string?>("--head") { Description = "A head kept outside, NUMBER:SHA256, to show a tail that was cut off." };
        var key = new Option<string?>("--key")
        {
            Description = "The key that signs it, kept outside, to show one that is not the service's."
        };
        var heads = new Option<string?>("--heads") { Description = "A file of heads that the service kept, one a line." };
        var ofService = new Option<bool>("--service") { Description = "That of the service: sign-ins, accounts, refusals." };
        var since = new Option<DateOnly?>("--since") { Description = "From this day on, such as 2026-12-01." };
        var until = new Option<DateOnly?>("--until") { Description = "Up to and with this day." };
        var swap = new Option<string?>("--swap") { Description = "Id of a swap: only what is about it." };
        var by = new Option<string?>("--by") { Description = "Part of a name: only what they did." };
        yield return new Command("ledger", "The history of a refresh, or of the service.")
        {
            Call.Command<Whole>(
                "check",
                "Reads the whole ledger: finds a changed, missing, reordered or cut-off entry, words that are not its own, a head that the "
                    + "service's key did not sign, and records that no entry accounts for.",
                "yardline ledger check --head 812:9f3c…",
                [head, key, heads, ofService],
                async (c, r, a, cancel) =>
                {
                    var kept = KeptOf(a.GetValue(head), a.GetValue(key), a.GetValue(heads));
                    return kept.TryGet(out var outside, out var problem)
                        ? await CheckAsync(c, a.GetValue(ofService) ? null : r, outside, cancel)
                        : problem;
                },
                whole => Tables.Say(
                    $"The ledger is whole{Compared(whole)}. Keep its "
                        + $"head and the key that signs it somewhere else:\n{whole.Head}\n{whole.Key}")),
            Call.Command(
                "show",
                "Shows the history: when, who, what.",
                "yardline ledger show --since 2026-12-01 --swap autumn-0012",
                [ofService, since, until, swap, by],
                (c, r, a, cancel) => AllAsync(
                    c, a.GetValue(ofService) ? null : r, cancel,
                    new(a.GetValue(since), a.GetValue(until), a.GetValue(swap), a.GetValue(by))),
                all => Tables.Show(
                    ["Number", "When", "Who", "What"],
                    all.Select(e => new[]
                    {
                        $"{e.Number}",
                        e.At.OnClock().ToString("d MMM HH:mm", CultureInfo.InvariantCulture),
                        e.By,
                        e.Words,
                    }),
                    0)),
        };
    }

    private static string Compared(Whole whole) =>
        whole.Compared == 0
            ? ""
            : $", and as {(whole.Compared == 1 ? "the head has it that was" : $"{whole.Compared} heads have it that were")} kept"
                + (whole.Unread == 0 ? ""
                    : whole.Unread == 1 ? " (1 line of the file is none)"
                    : $" ({whole.Unread} lines of the file are none)");

    private static Result<Kept> KeptOf(string? head, string? key, string? file)
    {
        LedgerHead? kept = null;
        if (head is not null && (kept = LedgerHead.TryParse(head)) is null) return new LedgerHeadProblem(head);
        if (file is null) return new Kept(kept, key, [], 0);
        try
        {
            var lines = File.ReadLines(file).Where(l => l.Trim().Length > 0).ToList();
            // A line broke off where the computer did; a file of other things has none that can be read.
            var heads = lines.Select(KeptHead.TryParse).OfType<KeptHead>().ToList();
            return heads.Count == 0
                ? new LedgerHeadsProblem(file, "no line of it is a head.")
                : new Kept(kept, key, heads, lines.Count - heads.Count);
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return new LedgerHeadsProblem(file, gone.Message);
        }
    }

    // What can be looked at from here is looked at here: a service that lies would say that all is well.
    private static async Task<Result<Whole>> CheckAsync(YardClient client, string? refresh, Kept kept, CancellationToken cancel)
    {
        if (!(await client.CheckLedgerAsync(refresh, cancel)).TryGet(out var said, out var problem)) return problem;
        if (!(await AllAsync(client, refresh, cancel)).TryGet(out var shown, out problem)) return problem;
        var entries = shown.ConvertAll(e => new LedgerEntry(e.Number, e.Json, e.Sha256));
        var newest = entries.Count == 0 ? LedgerHead.Empty : new(entries[^1].Number, entries[^1].Sha256);
        var fingerprint = LedgerSeal.FingerprintOf(said.PublicKey);
        var heads = kept.Heads.Where(h => h.Chain == said.Chain).ToList();
        List<CoreFault> faults =
        [
            .. LedgerChain.Check(entries, kept.Head),
            .. heads.SelectMany(h => LedgerChain.Check(entries, h.Head)),
            .. LedgerWords.Check(entries.Zip(shown, (e, seen) => new ToldEntry(e, seen.Words, seen.By, seen.Account, seen.Salt))),
            .. said.Faults.Select(f => new CoreFault(f.Number, f.What)),
            .. heads.Where(h => h.Key != fingerprint || !LedgerSeal.Holds(h.Chain, h.Head, h.Signature, said.PublicKey))
                .Select(h => new CoreFault(h.Head.Number, "the head that was kept of it was signed by another key.")),
        ];
        var counted = new LedgerHead(said.Number, said.Sha256);
        faults.AddRange(LedgerChain.Check(entries, counted));
        if (said.Number > 0
            && (said.Signature is not { } signature || !LedgerSeal.Holds(said.Chain, counted, signature, said.PublicKey)))
            faults.Add(new(said.Number, "it is the newest entry, and the service's key did not sign it."));
        // Written to meanwhile, it is longer than it was when the service read it.
        if (said.Number > newest.Number) faults.Add(new(said.Number, "the service counts it, and does not show it."));
        if (kept.Key is { } key && key != fingerprint)
            faults.Add(new(newest.Number, $"the service signs with the key {fingerprint}, and the one that was kept is {key}."));
        if (faults.Count == 0) return new Whole(newest, fingerprint, heads.Count, kept.Unread);
        List<Problem> all = [.. faults.Distinct().OrderBy(f => f.Number).Select(f => new LedgerFault(f.Number, f.What))];
        return new Refused("ledger.fault", all[0].Message, 0, all);
    }

    /// <summary>All entries of a ledger.</summary>
    /// <param name="refresh">Null: the service's own.</param>
    public static Task<Result<List<LedgerEntrySeen>>> AllAsync(
        YardClient client, string? refresh, CancellationToken cancel, LedgerAsked? asked = null) =>
        Pages.AllAsync(cursor => client.LedgerAsync(refresh, cursor, cancel, asked));
}
