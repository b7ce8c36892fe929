using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Ledger;
using YardRelay.Records;

namespace YardRelay.Service.Keeping;

/// <summary>What is entered of something that happened to the whole service.</summary>
/// <param name="Kind">What happened, stable: <c>area.what</c>.</param>
/// <param name="Words">For people.</param>
/// <param name="Data">Ids and amounts; no names.</param>
/// <param name="By">Who did it; null: whoever is signed in.</param>
internal sealed record ServiceNote(string Kind, string Words, JsonObject? Data = null, Doer? By = null);

/// <summary>
/// The chain of what is of the whole service: who came in, who was refused, what became of accounts. Who does something and the entry that
/// says so are kept together, or neither is.
/// </summary>
internal sealed class ServiceLedger(LedgerSigner signer, TimeProvider time, IHttpContextAccessor http)
{
    /// <summary>Does something to the service's own records, and enters it.</summary>
    /// <param name="work">Says what to enter; null: nothing, and then nothing is kept.</param>
    public async Task EnterAsync(YardDb db, Func<Task<ServiceNote?>> work, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await work() is not { } note) return;
        var row = await LockAsync(db, cancel);
        var head = LedgerPen.Append(
            db, row.Key, new(row.LedgerNumber, row.LedgerSha256), time.GetUtcNow(), note.By ?? Doer.Of(http.HttpContext?.User),
            new(note.Kind, null, note.Words, note.Data));
        (row.LedgerNumber, row.LedgerSha256, row.LedgerSignature) = (head.Number, head.Sha256, signer.Sign(row.Key, head));
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>The chain's row, which nobody else changes until this is kept.</summary>
    private static async Task<ServiceRow> LockAsync(YardDb db, CancellationToken cancel)
    {
        var (key, none) = (ServiceRow.OfAll, LedgerHead.Empty.Sha256);
        await db.Database.ExecuteSqlAsync(
            $"""
             INSERT INTO "Services" ("Key", "LedgerNumber", "LedgerSha256") VALUES ({key}, 0, {none}) ON CONFLICT ("Key") DO NOTHING
             """,
            cancel);
        return db.IsPostgres
            ? await db.Services.FromSql($"""SELECT * FROM "Services" WHERE "Key" = {key} FOR UPDATE""").SingleAsync(cancel)
            : await db.Services.SingleAsync(r => r.Key == key, cancel);
    }
}
