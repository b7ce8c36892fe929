using System.Diagnostics.CodeAnalysis;
using Microsoft.AspNetCore.Identity;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Passwords of accounts, kept so that each guess costs its time.</summary>
internal sealed class Passwords(IPasswordHasher<AccountRow> hasher)
{
    // Checked where the name is unknown, so that the answer takes as long as for a known one.
    private readonly string _nobodys = hasher.HashPassword(null!, Guid.NewGuid().ToString());

    private const int Fewest = 12;
    private const int Most = 200;

    /// <summary>Why a text cannot be the password of an account; null: it can.</summary>
    public static Problem? Against(string text, string account) =>
        text.Length is < Fewest or > Most ? new PasswordLengthProblem(Fewest, Most)
        : CommonPasswords.Has(text, account) ? new PasswordCommonProblem()
        : null;

    /// <summary>Gives an account another password.</summary>
    public void Keep(AccountRow account, string password) => account.Password = hasher.HashPassword(account, password);

    /// <summary>Whether it is the account's password; never where there is no such account.</summary>
    public bool IsRight([NotNullWhen(true)] AccountRow? account, string password)
    {
        var isRight = hasher.VerifyHashedPassword(account!, account?.Password ?? _nobodys, password) != PasswordVerificationResult.Failed;
        return account is not null && isRight;
    }
}
