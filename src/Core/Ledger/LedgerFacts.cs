using System.Text.Json.Nodes;

namespace YardRelay.Core.Ledger;

/// <summary>A signed part of a swap, as records or ledger have it.</summary>
/// <param name="Sha256">Digest of what was signed; null: it was erased.</param>
public sealed record SignedPart(string Swap, string Part, string? Sha256);

/// <summary>What the records say that somebody must have decided; each must stand in the ledger, too.</summary>
/// <param name="Waived">Ids of snags that were waived, with their swaps.</param>
/// <param name="Signed">Parts that are signed off.</param>
/// <param name="RestoreSkipped">Swaps of which it was decided that nothing is restored.</param>
/// <param name="Wiped">Swaps whose old computer is wiped.</param>
/// <param name="Erased">Swaps whose person was erased: what was signed for them is gone with them.</param>
public sealed record DecidedRecords(
    IReadOnlyList<(string Snag, string Swap)> Waived, IReadOnlyList<SignedPart> Signed, IReadOnlyList<string> RestoreSkipped,
    IReadOnlyList<string> Wiped, IReadOnlySet<string> Erased);

/// <summary>Compares records with the facts that a ledger holds.</summary>
public static class LedgerFacts
{
    private static readonly string[] PartOrder = ["technician", "person", "coordinator"];

    /// <summary>Finds what was decided in the records alone, and signatures that the ledger holds and the records do not.</summary>
    /// <returns>Faults; of a record without an entry, the number is 0.</returns>
    public static IReadOnlyList<LedgerFault> Check(IEnumerable<LedgerEntry> entries, DecidedRecords records)
    {
        var waived = new HashSet<string>();
        var signed = new Dictionary<(string Swap, string Part), (string Sha256, long Number)>();
        var (skipped, wiped) = (new HashSet<string>(), new HashSet<string>());
        foreach (var entry in entries)
        {
            if (entry.Read() is not { } json || (string?)json["kind"] is not { } kind) continue;
            var data = json["data"];
            var (swap, part, snag) = (TextOf(data, "swap"), TextOf(data, "part"), TextOf(data, "snag"));
            switch (kind)
            {
                case "snag.waived" or "snag.source":
                    waived.Add(snag);
                    break;
                case "swap.signed-off":
                    signed[(swap, part)] = (TextOf(data, "sha256"), entry.Number);
                    break;
                case "swap.reopened":
                    // What rests on a part is void with it.
                    foreach (var after in PartOrder.SkipWhile(p => p != part)) signed.Remove((swap, after));
                    break;
                case "restore.skipped":
                    skipped.Add(swap);
                    break;
                case "restore.skip-taken-back":
                    skipped.Remove(swap);
                    break;
                case "computer.wiped":
                    wiped.Add(swap);
                    break;
            }
        }
        List<LedgerFault> faults =
        [
            .. records.Waived.Where(w => !waived.Contains(w.Snag))
                .Select(w => Without($"snag {w.Snag} of swap {w.Swap} is waived")),
            .. records.RestoreSkipped.Where(s => !skipped.Contains(s)).Select(s => Without($"of swap {s} nothing is to be restored")),
            .. records.Wiped.Where(s => !wiped.Contains(s)).Select(s => Without($"the old computer of swap {s} is wiped")),
        ];
        foreach (var record in records.Signed)
        {
            if (!signed.Remove((record.Swap, record.Part), out var entry))
                faults.Add(Without($"swap {record.Swap} is signed off as {record.Part}"));
            else if (record.Sha256 is { } digest && digest != entry.Sha256)
                faults.Add(new(
                    entry.Number, $"what swap {record.Swap} was signed off with as {record.Part} is not what the records show."));
        }
        faults.AddRange(signed.Where(s => !records.Erased.Contains(s.Key.Swap)).Select(s => new LedgerFault(
            s.Value.Number, $"swap {s.Key.Swap} was signed off as {s.Key.Part}, and the records do not have it.")));
        return faults;
    }

    private static string TextOf(JsonNode? data, string name) => (string?)data?[name] ?? "";

    private static LedgerFault Without(string what) => new(0, $"in the records, {what}, and no entry says so.");
}
