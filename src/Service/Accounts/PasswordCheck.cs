using System.Net;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>
/// Whether somebody knows an account's password. Whether there is such an account shows neither in the answer nor in how long it takes.
/// </summary>
internal sealed class PasswordCheck(Passwords passwords, Guesses guesses, KnownDevices devices, RefusedSignIns refused)
{
    /// <summary>Asked of somebody who wants in.</summary>
    /// <param name="mark">What their device shows; null: nothing.</param>
    /// <returns>The account; <see cref="AccountLockedProblem"/>, <see cref="AccountWrongProblem"/> or
    /// <see cref="AccountDisabledProblem"/>.</returns>
    public Task<Result<AccountRow>> AsStrangerAsync(
        YardDb db, string name, string password, IPAddress? address, string? mark, CancellationToken cancel) =>
        AskAsync(db, name, password, (address, devices.Of(mark, name)), cancel);

    /// <summary>Asked of somebody who is signed in by it.</summary>
    /// <param name="session">Digest of the session: others do not count against it.</param>
    public Task<Result<AccountRow>> SignedInAsync(
        YardDb db, string name, string password, string session, CancellationToken cancel) =>
        AskAsync(db, name, password, (null, session), cancel);

    private async Task<Result<AccountRow>> AskAsync(
        YardDb db, string name, string password, (IPAddress? Address, string? Device) from, CancellationToken cancel)
    {
        var guess = await guesses.CountAsync(name, from.Address, from.Device, cancel);
        if (guess.Wait is { } wait)
        {
            refused.Add(RefusedSignIns.Unseen);
            return new AccountLockedProblem(Math.Max(1, (int)Math.Ceiling(wait.TotalMinutes)));
        }
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (!passwords.IsRight(account, password))
        {
            refused.Add(account is null ? null : account.Role == Roles.Person ? RefusedSignIns.People : account.Name);
            return new AccountWrongProblem();
        }
        await guesses.GiveBackAsync(guess, cancel);
        return account.DisabledAt is null ? account : new AccountDisabledProblem();
    }
}
