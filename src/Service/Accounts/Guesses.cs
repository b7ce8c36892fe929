using System.Net;
using System.Net.Sockets;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>
/// How often somebody tried a password: counted in the database before it is looked at, in one statement, so that of many tries at once
/// none slips through. Names that do not exist are counted like others.
/// </summary>
internal sealed class Guesses(IDbContextFactory<YardDb> records, TimeProvider time)
{
    private const int MostByAccount = 10;
    private const int MostByAddress = 60;
    private const int BytesOfANetwork = 8;

    /// <summary>How long tries are counted together.</summary>
    public static readonly TimeSpan Window = TimeSpan.FromMinutes(15);

    /// <summary>Counts one try.</summary>
    /// <param name="name">Name of the account that was tried.</param>
    /// <param name="address">Who tries; null: nobody knows.</param>
    /// <param name="device">A device from which somebody was signed in by this account before: what others guess does not count against it.
    /// Null: any other.</param>
    public async Task<Guess> CountAsync(string name, IPAddress? address, string? device, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        (string Of, int Most)[] counters = device is not null
            ? [($"device {device} {name}", MostByAccount)]
            : [($"address {NetworkOf(address)}", MostByAddress), ($"account {name}", MostByAccount)];
        var taken = new List<string>();
        foreach (var (of, most) in counters)
        {
            // What people type for a name may be a password.
            var digest = TokenAuthentication.Digest(of);
            var row = await CountAsync(db, digest, cancel);
            if (row.Count > most)
            {
                await GiveBackAsync(db, taken, cancel);
                return new([], DateTimeOffset.FromUnixTimeSeconds(row.Since) + Window - time.GetUtcNow());
            }
            taken.Add(digest);
        }
        return new(taken, null);
    }

    /// <summary>Whether something comes for the first time; what may come once only lives no longer than tries are counted.</summary>
    public async Task<bool> IsFirstAsync(string what, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        return (await CountAsync(db, TokenAuthentication.Digest("once " + what), cancel)).Count == 1;
    }

    /// <summary>It was right, and no guess.</summary>
    public async Task GiveBackAsync(Guess guess, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        await GiveBackAsync(db, guess.Counted, cancel);
    }

    private static Task<int> GiveBackAsync(YardDb db, IReadOnlyList<string> counted, CancellationToken cancel) =>
        counted.Count == 0
            ? Task.FromResult(0)
            : db.Guesses.Where(g => counted.Contains(g.Of)).ExecuteUpdateAsync(u => u.SetProperty(g => g.Count, g => g.Count - 1), cancel);

    private async Task<GuessRow> CountAsync(YardDb db, string of, CancellationToken cancel)
    {
        var now = time.GetUtcNow().ToUnixTimeSeconds();
        var over = now - (long)Window.TotalSeconds;
        var row = (await db.Guesses.FromSql(
            $"""
             INSERT INTO "Guesses" ("Of", "Count", "Since") VALUES ({of}, 1, {now})
             ON CONFLICT ("Of") DO UPDATE SET
                 "Count" = CASE WHEN "Guesses"."Since" < {over} THEN 1 ELSE "Guesses"."Count" + 1 END,
                 "Since" = CASE WHEN "Guesses"."Since" < {over} THEN {now} ELSE "Guesses"."Since" END
             RETURNING "Of", "Count", "Since"
             """).AsNoTracking().ToListAsync(cancel))[0];
        // Whoever begins to count takes away what nobody counts any more.
        if (row.Count == 1) await db.Guesses.Where(g => g.Since < over).ExecuteDeleteAsync(cancel);
        return row;
    }

    /// <summary>One computer of the old kind of addresses, one network of the new: whoever has one of its addresses has all.</summary>
    private static string NetworkOf(IPAddress? address)
    {
        if (address is { IsIPv4MappedToIPv6: true }) address = address.MapToIPv4();
        return address?.AddressFamily == AddressFamily.InterNetworkV6
            ? Convert.ToHexString(address.GetAddressBytes()[..BytesOfANetwork])
            : $"{address}";
    }
}

/// <summary>One try at a password.</summary>
/// <param name="Counted">Where it was counted.</param>
/// <param name="Wait">It is not looked at; the next one is after so long. Null: it is.</param>
internal sealed record Guess(IReadOnlyList<string> Counted, TimeSpan? Wait);
