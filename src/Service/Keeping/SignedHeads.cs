using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Ledger;
using YardRelay.Records;

namespace YardRelay.Service.Keeping;

/// <summary>The heads of all ledgers and their signatures.</summary>
internal static class SignedHeads
{
    /// <summary>
    /// Signs what an earlier version left unsigned, once: when the service's own ledger begins. And what another key signed, where somebody
    /// said that the key is a new one. Both are entered.
    /// </summary>
    /// <param name="anew">The service's key is a new one.</param>
    public static async Task PrepareAsync(YardDb db, LedgerSigner signer, ServiceLedger ledger, bool anew, CancellationToken cancel)
    {
        var isCounted = await db.Services.AnyAsync(cancel);
        var newest = await db.Ledger.AsNoTracking()
            .Where(l => l.Refresh == ServiceRow.OfAll)
            .OrderByDescending(l => l.Number)
            .FirstOrDefaultAsync(cancel);
        if (!isCounted && newest is not null) await RecountAsync(db, ledger, newest, cancel);
        var begins = !isCounted && newest is null;
        if (!begins && !anew) return;
        await ledger.EnterAsync(db, async () =>
        {
            var signed = 0;
            foreach (var refresh in await db.Refreshes.Where(r => r.LedgerNumber > 0).ToListAsync(cancel))
            {
                var head = new LedgerHead(refresh.LedgerNumber, refresh.LedgerSha256);
                if (refresh.LedgerSignature is { } there && LedgerSeal.Holds(refresh.Key, head, there, signer.PublicKey)) continue;
                refresh.LedgerSignature = signer.Sign(refresh.Key, head);
                signed++;
            }
            var words = signed == 1
                ? "it signed the ledger of 1 refresh as it stood"
                : $"it signed the ledgers of {signed} refreshes as they stood";
            var (key, data) = (LedgerSeal.FingerprintOf(signer.PublicKey), new System.Text.Json.Nodes.JsonObject { ["signed"] = signed });
            return begins
                ? new(
                    "service.began",
                    $"The service's own ledger begins, with the key {key}{(signed == 0 ? "" : $"; {words}")}",
                    data,
                    Doer.System)
                : signed > 0
                ? new("key.anew", $"The service has a new key, {key}; {words}", data, Doer.System)
                : null;
        }, cancel);
    }

    /// <summary>Somebody took the count of the service's own ledger away: it goes on from what is there, and that is entered.</summary>
    private static Task RecountAsync(YardDb db, ServiceLedger ledger, LedgerRow newest, CancellationToken cancel) =>
        ledger.EnterAsync(db, async () =>
        {
            db.Services.Add(new() { Key = ServiceRow.OfAll, LedgerNumber = newest.Number, LedgerSha256 = newest.Sha256 });
            await db.SaveChangesAsync(cancel);
            return new(
                "service.recounted",
                $"What counted the service's own ledger was gone; it goes on after entry {newest.Number}, the newest that was there",
                By: Doer.System);
        }, cancel);

    /// <summary>The heads as they stand, to be kept outside; ledgers without an entry have none.</summary>
    public static async Task<List<KeptHead>> ReadAsync(YardDb db, LedgerSigner signer, DateTimeOffset now, CancellationToken cancel)
    {
        var key = LedgerSeal.FingerprintOf(signer.PublicKey);
        var all = await db.Refreshes.AsNoTracking()
            .Where(r => r.LedgerNumber > 0)
            .OrderBy(r => r.Key)
            .Select(r => new { r.Key, r.LedgerNumber, r.LedgerSha256, r.LedgerSignature })
            .ToListAsync(cancel);
        all.AddRange(await db.Services.AsNoTracking()
            .Select(r => new { r.Key, r.LedgerNumber, r.LedgerSha256, r.LedgerSignature })
            .ToListAsync(cancel));
        return all.ConvertAll(r => new KeptHead(now, r.Key, new(r.LedgerNumber, r.LedgerSha256), key, r.LedgerSignature ?? "unsigned"));
    }
}
