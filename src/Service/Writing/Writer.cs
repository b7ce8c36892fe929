using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using YardRelay.Core;
using YardRelay.Core.Ledger;
using YardRelay.Records;
using YardRelay.Service.Keeping;
using YardRelay.Service.Live;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Writing;

/// <summary>One change of a refresh under way: its records, and the ledger that grows with them.</summary>
internal sealed class Change(YardDb db, RefreshRow refresh, DateTimeOffset now, Doer by)
{
    public YardDb Db => db;

    public RefreshRow Refresh => refresh;

    public DateTimeOffset Now => now;

    /// <summary>Tags of computers whose hands have an order to take once this is committed.</summary>
    public HashSet<string> HandsToWake { get; } = [];

    /// <summary>Shown name of who does it.</summary>
    public string By => by.Shown;

    /// <summary>Something changed that a plan could feel.</summary>
    public void WorldChanged() => refresh.WorldVersion++;

    /// <summary>Appends a ledger entry.</summary>
    /// <param name="kind">What happened, stable: <c>area.what</c>.</param>
    /// <param name="words">For people; kept beside the chain, with only its salted digest inside.</param>
    /// <param name="data">Ids and amounts; no names.</param>
    public void Note(string kind, string? swap, string words, JsonObject? data = null)
    {
        var head = LedgerPen.Append(
            db, refresh.Key, new(refresh.LedgerNumber, refresh.LedgerSha256), now, by, new(kind, swap, words, data));
        (refresh.LedgerNumber, refresh.LedgerSha256) = (head.Number, head.Sha256);
    }
}

/// <summary>Changes a refresh: record, ledger and the answer for repeats in one transaction; then tells the live streams.</summary>
internal sealed class Writer(
    IDbContextFactory<YardDb> records, EventHub hub, TimeProvider time, IHttpContextAccessor http, IOptions<JsonOptions> json,
    KeptAnswers answers, LedgerSigner signer)
{
    private const int MostTries = 5;

    /// <summary>Changes a refresh that is there.</summary>
    /// <param name="by">Who does it, where that is not whoever is signed in.</param>
    public Task<Result<T>> WriteAsync<T>(
        string refresh, Func<Change, Task<Result<T>>> work, CancellationToken cancel, string? by = null) =>
        WriteAsync(refresh, null, work, by, cancel);

    /// <summary>Changes a refresh, and makes it first where it is not there: both or neither. A new one has an empty ledger.</summary>
    public Task<Result<T>> WriteNewAsync<T>(
        string refresh, Func<RefreshRow> make, Func<Change, Task<Result<T>>> work, CancellationToken cancel) =>
        WriteAsync(refresh, make, work, null, cancel);

    private async Task<Result<T>> WriteAsync<T>(
        string refresh, Func<RefreshRow>? make, Func<Change, Task<Result<T>>> work, string? by, CancellationToken cancel)
    {
        var context = http.HttpContext;
        var doer = by is not null
            ? new Doer(by, null)
            : Doer.Of(context?.User);
        var repeat = context?.Items[Repeat.Item] as Repeat;
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                await using var db = await records.CreateDbContextAsync(cancel);
                await using var transaction = await db.Database.BeginTransactionAsync(cancel);
                var row = await db.LockRefreshAsync(refresh, cancel);
                if (row is null && make is not null)
                {
                    // Another process may do the same at this moment; then this fails, and the next try finds the other's.
                    row = make();
                    db.Refreshes.Add(row);
                    await db.SaveChangesAsync(cancel);
                }
                if (row is null) return ServiceProblem.NotFound("refresh", refresh);
                // Looked at again under the lock: the same request may have come in twice at once.
                if (repeat is not null
                    && await db.Answers.AsNoTracking()
                        .FirstOrDefaultAsync(a => a.Account == repeat.Account && a.Key == repeat.Key, cancel) is { } answered)
                    throw new RepeatedException(answered);
                var before = row.LedgerNumber;
                var change = new Change(db, row, time.GetUtcNow(), doer);
                var result = await work(change);
                if (!result.IsOk) return result;
                if (repeat is not null)
                    db.Answers.Add(new()
                    {
                        Account = repeat.Account,
                        Key = repeat.Key,
                        Request = repeat.Request,
                        Status = 200,
                        Body = answers.Seal(JsonSerializer.Serialize(result.Value, json.Value.SerializerOptions), repeat.IsSecret),
                        At = time.GetUtcNow()
                    });
                if (row.LedgerNumber != before)
                    row.LedgerSignature = signer.Sign(refresh, new(row.LedgerNumber, row.LedgerSha256));
                await db.SaveChangesAsync(cancel);
                await transaction.CommitAsync(cancel);
                if (row.LedgerNumber != before) await hub.LedgerGrewAsync(refresh);
                foreach (var tag in change.HandsToWake) await hub.OrderWaitsAsync(refresh, tag);
                return result;
            }
            catch (DbUpdateException clash)
                when (attempt < MostTries && clash is DbUpdateConcurrencyException
                    || (clash.InnerException is Npgsql.PostgresException { SqlState: "40001" or "40P01" or "23505" }
                        && attempt < MostTries))
            {
                // Another process was faster; read again and decide anew.
            }
        }
    }
}
