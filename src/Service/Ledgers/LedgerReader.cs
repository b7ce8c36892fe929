using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Ledgers;

/// <summary>Checks a ledger and what the records say against it; read as one moment has it, an entry at a time.</summary>
internal sealed class LedgerReader(YardDb db, LedgerSigner signer)
{
    private const int MostFaults = 200;

    /// <summary>That of a refresh, with its records; null: there is no such refresh.</summary>
    public async Task<LedgerChecked?> CheckAsync(string refresh, CancellationToken cancel)
    {
        await using var moment = await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row) return null;
        var records = await DecidedAsync(refresh, cancel);
        return Checked(
            refresh, new(row.LedgerNumber, row.LedgerSha256), row.LedgerSignature,
            LedgerFacts.Check(Entries(refresh).Select(EntryOf), records));
    }

    /// <summary>That of the service.</summary>
    public async Task<LedgerChecked> CheckServiceAsync(CancellationToken cancel)
    {
        await using var moment = await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        var row = await db.Services.AsNoTracking().FirstOrDefaultAsync(r => r.Key == ServiceRow.OfAll, cancel);
        return Checked(
            ServiceRow.OfAll, row is null ? LedgerHead.Empty : new(row.LedgerNumber, row.LedgerSha256), row?.LedgerSignature, []);
    }

    private LedgerChecked Checked(string chain, LedgerHead head, string? signature, IReadOnlyList<LedgerFault> records)
    {
        List<LedgerFault> faults =
        [
            .. LedgerChain.Check(Entries(chain).Select(EntryOf), head),
            .. LedgerWords.Check(Entries(chain).Select(l => new ToldEntry(EntryOf(l), l.Words, l.By, l.Account, l.Salt))),
            .. Beside(chain),
            .. records
        ];
        // Who puts the count back would else hide what comes after it, or that nothing is signed.
        var newest = db.Ledger.Where(l => l.Refresh == chain).Max(l => (long?)l.Number) ?? 0;
        if (newest > head.Number)
            faults.Add(new(head.Number + 1, $"it comes after entry {head.Number}, which is the newest that is counted."));
        if (newest > 0 && (signature is null || !LedgerSeal.Holds(chain, head, signature, signer.PublicKey)))
            faults.Add(new(newest, "it is the newest entry, and the service's key did not sign it."));
        return new(
            chain, head.Number, head.Sha256, signature, signer.PublicKey,
            [.. faults.OrderBy(f => f.Number).Take(MostFaults).Select(f => new LedgerFaultSeen(f.Number, f.What))]);
    }

    /// <summary>What lists go by is copied out of the entries: it must be what they say.</summary>
    private IEnumerable<LedgerFault> Beside(string chain) =>
        from row in Entries(chain)
        let entry = EntryOf(row).Read()
        where entry is not null
            && ((string?)entry["kind"] != row.Kind
                || (string?)entry["data"]?["swap"] != row.Swap
                || (string?)entry["refresh"] != chain
                || (DateTimeOffset?)entry["at"] != row.At)
        select new LedgerFault(row.Number, "what it is, when, or of which swap is told differently beside it.");

    private IEnumerable<LedgerRow> Entries(string chain) =>
        db.Ledger.AsNoTracking().Where(l => l.Refresh == chain).OrderBy(l => l.Number).AsEnumerable();

    private static LedgerEntry EntryOf(LedgerRow row) => new(row.Number, row.Json, row.Sha256);

    private async Task<DecidedRecords> DecidedAsync(string refresh, CancellationToken cancel)
    {
        var swaps = db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh);
        var waived = await db.Snags.AsNoTracking()
            .Where(n => n.Refresh == refresh && n.End == "waived")
            .Select(n => new { n.Id, n.Swap })
            .ToListAsync(cancel);
        var signed = await db.SignOffs.AsNoTracking()
            .Where(s => swaps.Any(w => w.Id == s.Swap))
            .Select(s => new { s.Swap, s.Part, s.Saw })
            .ToListAsync(cancel);
        return new(
            waived.ConvertAll(n => (n.Id, n.Swap)),
            signed.ConvertAll(s => new SignedPart(
                s.Swap, s.Part.ToString().ToLowerInvariant(), s.Saw.Length == 0 ? null : LedgerChain.Digest(s.Saw))),
            await swaps.Where(s => s.RestoreSkippedAt != null).Select(s => s.Id).ToListAsync(cancel),
            await db.OldComputers.AsNoTracking()
                .Where(c => c.Refresh == refresh && c.WipeResult == "done")
                .Select(c => c.Swap)
                .ToListAsync(cancel),
            (await swaps.Where(s => db.People.Any(p => p.Refresh == refresh && p.Key == s.Person && p.ErasedAt != null))
                .Select(s => s.Id)
                .ToListAsync(cancel)).ToHashSet());
    }
}
