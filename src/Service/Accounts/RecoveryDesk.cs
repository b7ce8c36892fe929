using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>Codes on paper that stand in for a passkey that is lost, each once.</summary>
internal sealed class RecoveryDesk(Ended ended)
{
    private const int Many = 10;
    private const int Parts = 3;
    private const int PartLength = 4;

    // Without those that look like others, and without vowels, so that no code is a word. Twelve of them are 52 bits.
    private const string Letters = "BCDFGHJKMNPQRTVWXZ23456789";

    /// <summary>Gives an account new codes; those of before count no more. Kept with the caller's transaction.</summary>
    public async Task<IReadOnlyList<string>> RenewAsync(YardDb db, string account, CancellationToken cancel)
    {
        await EndAsync(db, account, cancel);
        var codes = Enumerable.Range(0, Many).Select(_ => string.Join('-', Enumerable.Range(0, Parts)
            .Select(_ => RandomNumberGenerator.GetString(Letters, PartLength)))).ToList();
        db.Recoveries.AddRange(codes.Select(c => new RecoveryRow { Sha256 = DigestOf(account, c), Account = account }));
        await db.SaveChangesAsync(cancel);
        return codes;
    }

    /// <summary>Takes all of an account away.</summary>
    public async Task EndAsync(YardDb db, string account, CancellationToken cancel)
    {
        var before = await db.Recoveries.AsNoTracking().Where(r => r.Account == account).Select(r => r.Sha256).ToListAsync(cancel);
        ended.Add(EndedKind.Recovery, [.. before.Select(b => (b, DateTimeOffset.MaxValue))]);
        await db.Recoveries.Where(r => r.Account == account).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Uses a code up; null: it is none of the account's.</summary>
    /// <returns>How many are left.</returns>
    public async Task<int?> UseAsync(YardDb db, AccountRow account, string code, CancellationToken cancel)
    {
        var digest = DigestOf(account.Name, code);
        if (!await db.Recoveries.AnyAsync(r => r.Sha256 == digest, cancel)) return null;
        ended.Add(EndedKind.Recovery, [(digest, DateTimeOffset.MaxValue)]);
        // Of two who show it at once, one gets in.
        return await db.Recoveries.Where(r => r.Sha256 == digest).ExecuteDeleteAsync(cancel) == 1
            ? await db.Recoveries.CountAsync(r => r.Account == account.Name, cancel)
            : null;
    }

    // However it is typed from paper.
    private static string DigestOf(string account, string code) => TokenAuthentication.Digest(
        $"recovery {account} {new string([.. code.ToUpperInvariant().Where(char.IsAsciiLetterOrDigit).Take(100)])}");
}
