using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>
/// Sign-ins that were refused, gathered before they are entered: however many there are, they are one entry every few minutes. What was
/// typed for a name that no account has may be a password, and is told of nobody.
/// </summary>
internal sealed class RefusedSignIns(
    IDbContextFactory<YardDb> records, ServiceLedger ledger, TimeProvider time, ILogger<RefusedSignIns> log) : BackgroundService
{
    private const int MostNamed = 20;

    /// <summary>How long they are gathered.</summary>
    public static readonly TimeSpan Every = TimeSpan.FromMinutes(5);

    private ConcurrentDictionary<string, long> _counts = new();

    /// <summary>What accounts of people are counted under, who may want all erased that names them.</summary>
    public const string People = "people";

    /// <summary>What those are counted under whom the organisation vouches for, and who are let in nowhere.</summary>
    public const string ByOrganisation = "somebody of the organisation";

    /// <summary>
    /// What is turned away without a look, since too many had been tried, is counted under: for whom is not looked at either.
    /// </summary>
    public const string Unseen = "?";

    /// <summary>Counts one.</summary>
    /// <param name="account">Name of the account; null: there is none of that name.</param>
    public void Add(string? account) => _counts.AddOrUpdate(account ?? "", 1, (_, n) => n + 1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, time);
        try
        {
            while (await timer.WaitForNextTickAsync(stoppingToken)) await EnterAsync(CancellationToken.None);
        }
        catch (OperationCanceledException)
        {
            // What was gathered until the service stops is entered with it.
            await EnterAsync(CancellationToken.None);
        }
    }

    /// <summary>Enters what was gathered.</summary>
    public async Task EnterAsync(CancellationToken cancel)
    {
        if (_counts.IsEmpty) return;
        var counts = Interlocked.Exchange(ref _counts, new());
        try
        {
            await using var db = await records.CreateDbContextAsync(cancel);
            await ledger.EnterAsync(db, () => Task.FromResult<ServiceNote?>(NoteOf(counts)), cancel);
        }
        catch (Exception broke) when (broke is not OperationCanceledException)
        {
            foreach (var (name, count) in counts) _counts.AddOrUpdate(name, count, (_, n) => n + count);
            log.LogError(broke, "Refused sign-ins could not be entered; tried again in {Minutes} min", Every.TotalMinutes);
        }
    }

    private static ServiceNote NoteOf(IReadOnlyDictionary<string, long> counts)
    {
        var (all, unknown, unseen) = (counts.Values.Sum(), counts.GetValueOrDefault(""), counts.GetValueOrDefault(Unseen));
        var named = counts.Where(c => c.Key is not ("" or Unseen)).OrderByDescending(c => c.Value).ToList();
        List<string> parts = [.. named.Take(MostNamed).Select(c => $"{c.Value} as {c.Key}")];
        if (named.Count > MostNamed) parts.Add($"{named.Skip(MostNamed).Sum(c => c.Value)} as others");
        if (unknown > 0) parts.Add($"{unknown} under names that no account has");
        if (unseen > 0) parts.Add($"{unseen} without a look, after too many others");
        return new(
            "sign-in.refused",
            $"{(all == 1 ? "1 sign-in was" : $"{all} sign-ins were")} refused within {Every.TotalMinutes:0} minutes: "
                + string.Join(", ", parts),
            new() { ["all"] = all, ["unknown"] = unknown },
            Doer.System);
    }
}
