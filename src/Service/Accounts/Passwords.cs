using System.Diagnostics.CodeAnalysis;
using Microsoft.AspNetCore.Identity;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Passwords of accounts, kept so that each guess costs its time.</summary>
internal sealed class Passwords(IPasswordHasher<AccountRow> hasher)
{
    // Checked where the name is unknown, so that the answer takes as long as for a known one.
    private readonly string _nobodys = hasher.HashPassword(null!, Guid.NewGuid().ToString());

    /// <summary>Whether a text can be a password.</summary>
    public static bool CanBeOne(string text) => text.Length is >= 8 and <= 200;

    /// <summary>Gives an account another password.</summary>
    public void Keep(AccountRow account, string password) => account.Password = hasher.HashPassword(account, password);

    /// <summary>Whether it is the account's password; never where there is no such account.</summary>
    public bool IsRight([NotNullWhen(true)] AccountRow? account, string password)
    {
        var isRight = hasher.VerifyHashedPassword(account!, account?.Password ?? _nobodys, password) != PasswordVerificationResult.Failed;
        return account is not null && isRight;
    }
}
