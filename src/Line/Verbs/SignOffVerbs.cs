using System.CommandLine;
using System.Text;
using System.Text.Json.Nodes;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline swap sign-off</c> and <c>signoff</c>.</summary>
internal static class SignOffVerbs
{
    private static readonly Argument<string> Swap = new("swap") { Description = "Id of the swap, such as autumn-0012." };

    private static Option<SignOffPart> Part() =>
        new("--as") { Description = "technician, person or coordinator.", DefaultValueFactory = _ => SignOffPart.Technician };

    /// <summary><c>yardline swap sign-off</c></summary>
    public static Command CreateForSwap()
    {
        var part = Part();
        var name = new Option<string?>("--name") { Description = "Of the person's sign-off: their name, as they write it on your device." };
        return Call.Command<SignOffSeen>("sign-off", "Signs a part off; says what is missing when it cannot be.",
            "yardline swap sign-off autumn-0012 --as person --name 'Ida Bergström'", [Swap, part, name], async (c, _, a, cancel) =>
        {
            // What is signed is what stands at the moment of this look, and nothing that changes behind it.
            if (!(await c.SwapAsync(a.GetValue(Swap)!, cancel)).TryGet(out var seen, out var problem)) return problem;
            return await c.SignOffAsync(
                a.GetValue(Swap)!,
                new(a.GetValue(part), seen.SignOffs.First(s => s.Part == a.GetValue(part)).Facts, a.GetValue(name)),
                cancel);
        }, s => Tables.Say($"Signed off as {s.Part.ToString().ToLowerInvariant()} by {s.By}.\n{s.Statement}\nPaper: {s.Sha256}"),
        needsRefresh: false);
    }

    public static Command Create()
    {
        var (part, reopened) = (Part(), Part());
        var to = new Option<string?>("--to") { Description = "File to write it to; left out: it is printed." };
        var file = new Argument<string>("file") { Description = "What 'yardline signoff show' wrote." };
        var reason = new Option<string>("--reason") { Description = "Why what was signed is opened again; it stays.", Required = true };
        return new Command("signoff", "What was signed: show it, prove that it was not changed, open it again.")
        {
            Call.Command<string>("show", "Shows what was signed, as the signer saw it, as JSON.",
                "yardline signoff show autumn-0012 --as technician --to signed.json", [Swap, part, to], async (c, _, a, cancel) =>
            {
                if (!(await c.SignOffPaperAsync(a.GetValue(Swap)!, a.GetValue(part), cancel)).TryGet(out var paper, out var problem))
                    return problem;
                if (a.GetValue(to) is not { } path) return Encoding.UTF8.GetString(paper);
                await File.WriteAllBytesAsync(path, paper, cancel);
                return $"Written to {path}.";
            }, Tables.Say, needsRefresh: false),
            Call.Command<string>("check",
                "Proves that a sign-off is what was signed: its digest must stand in the ledger, and the ledger must be whole.",
                "yardline signoff check signed.json", [file], async (c, _, a, cancel) =>
            {
                var path = a.GetValue(file)!;
                if (!File.Exists(path)) return new SignOffFileProblem(path);
                if (!SignOffPaper.Read(await File.ReadAllTextAsync(path, cancel)).TryGet(out var paper, out var wrong)) return wrong;
                if (!(await LedgerVerbs.AllAsync(c, paper.Refresh, cancel)).TryGet(out var entries, out var problem)) return problem;
                if (LedgerChain.Check(entries.Select(e => new LedgerEntry(e.Number, e.Json, e.Sha256)), null) is [var fault, ..])
                    return new LedgerBroken(fault.Number, fault.What);
                var mine = entries.Select(e => (e.Number, Entry: JsonNode.Parse(e.Json)!))
                    .Where(e => (string?)e.Entry["data"]?["swap"] == paper.Swap).ToList();
                var signed = mine.Find(e =>
                    (string?)e.Entry["kind"] == "swap.signed-off" && (string?)e.Entry["data"]!["sha256"] == paper.Sha256);
                if (signed.Entry is null)
                    return new SignOffChangedProblem(paper.Refresh, paper.Swap, paper.Sha256);
                var opened = mine.Find(e =>
                    (string?)e.Entry["kind"] == "swap.reopened"
                        && e.Entry["data"]!["void"] is JsonArray voided
                        && voided.Any(v => (string?)v == paper.Sha256));
                return $"Not changed: {paper.By} signed {paper.Swap} as {paper.Part.ToString().ToLowerInvariant()} at {paper.At}; entry "
                    + $"{signed.Number} of the ledger has its digest, and the ledger is whole."
                    + (opened.Entry is null ? "" : $"\nIt is void since entry {opened.Number}: what was signed was opened again.");
            }, Tables.Say, needsRefresh: false),
            Call.Command<string>("print",
                "Writes the whole swap to paper, as PDF: what was signed and by whom, with the digests that the ledger holds.",
                "yardline signoff print autumn-0012 --to ida.pdf", [Swap, to], async (c, _, a, cancel) =>
            {
                if (!(await c.SwapPdfAsync(a.GetValue(Swap)!, cancel)).TryGet(out var pdf, out var problem)) return problem;
                var path = a.GetValue(to) ?? $"{a.GetValue(Swap)}.pdf";
                await File.WriteAllBytesAsync(path, pdf, cancel);
                return $"Written to {path}.";
            }, Tables.Say, needsRefresh: false),
            Call.Command<SwapSeen>("reopen", "Opens a signed part again; signatures that rest on it are void, too.",
                "yardline signoff reopen autumn-0012 --reason \"wrong printer\"", [Swap, reopened, reason],
                (c, _, a, cancel) => c.ReopenAsync(a.GetValue(Swap)!, a.GetValue(reopened), a.GetValue(reason)!, cancel),
                seen => Tables.Say(
                    $"{seen.Swap.Name}: open again. "
                        + $"{string.Join(
                            " ",
                            seen.SignOffs.Where(s => s.By is null)
                                .Select(s => $"Not signed as {s.Part.ToString().ToLowerInvariant()}."))}"),
                needsRefresh: false),
        };
    }
}
