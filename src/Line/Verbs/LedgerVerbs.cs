using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ledger;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline ledger</c>.</summary>
internal static class LedgerVerbs
{
    public static IEnumerable<Command> Create()
    {
        var head = new Option<string?>("--head") { Description = "A head kept outside, NUMBER:SHA256, to show a tail that was cut off." };
        yield return new Command("ledger", "The history of a refresh.")
        {
            Call.Command<string>("check", "Reads the whole ledger and finds a changed, missing, reordered or cut-off entry.",
                "yardline ledger check --head 812:9f3c…", [head], async (c, r, a, cancel) =>
            {
                LedgerHead? kept = null;
                if (a.GetValue(head) is { } text && (kept = LedgerHead.TryParse(text)) is null)
                    return new LedgerHeadProblem(text);
                if (!(await AllAsync(c, r, cancel)).TryGet(out var entries, out var problem)) return problem;
                var faults = LedgerChain.Check(entries.Select(e => new LedgerEntry(e.Number, e.Json, e.Sha256)), kept);
                if (faults.Count > 0)
                    return Result<string>.Failed([.. faults.Select(f =>
                        new LedgerFault(f.Number, f.What))]) is { } failed
                        ? new Refused("ledger.fault", failed.Problem.Message, 0, failed.Problems)
                        : default;
                return entries.Count == 0 ? LedgerHead.Empty.ToString() : new LedgerHead(entries[^1].Number, entries[^1].Sha256).ToString();
            }, kept => Tables.Say($"The ledger is whole. Keep its head somewhere else:\n{kept}")),
            Call.Command(
                "show",
                "Shows the history.",
                "yardline ledger show",
                [],
                (c, r, _, cancel) => AllAsync(c, r, cancel),
                all => Tables.Show(["Number", "What"], all.Select(e => new[] { $"{e.Number}", e.Words }), 0)),
        };
    }

    /// <summary>All entries of a refresh's ledger.</summary>
    public static Task<Result<List<LedgerEntrySeen>>> AllAsync(YardClient client, string refresh, CancellationToken cancel) =>
        Pages.AllAsync(cursor => client.LedgerAsync(refresh, cursor, cancel));
}
