using System.Buffers.Text;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Accounts and their passkeys as the framework's Web Authentication asks for them; who an account is, and changes it, is said
/// elsewhere.</summary>
internal sealed class PasskeyStore(YardDb db) : IUserPasskeyStore<AccountRow>
{
    /// <summary>A credential's id as the records have it.</summary>
    public static string IdOf(byte[] credential) => Base64Url.EncodeToString(credential);

    public async Task<IList<UserPasskeyInfo>> GetPasskeysAsync(AccountRow user, CancellationToken cancellationToken) =>
        [
            .. (await db.Passkeys.AsNoTracking().Where(p => p.Account == user.Name).OrderBy(p => p.MadeAt).ToListAsync(cancellationToken))
                .Select(InfoOf)
        ];

    public async Task<UserPasskeyInfo?> FindPasskeyAsync(AccountRow user, byte[] credentialId, CancellationToken cancellationToken)
    {
        var id = IdOf(credentialId);
        return await db.Passkeys.AsNoTracking().FirstOrDefaultAsync(p => p.Id == id && p.Account == user.Name, cancellationToken) is { } row
            ? InfoOf(row)
            : null;
    }

    public async Task<AccountRow?> FindByPasskeyIdAsync(byte[] credentialId, CancellationToken cancellationToken)
    {
        var id = IdOf(credentialId);
        return await db.Accounts.AsNoTracking()
            .FirstOrDefaultAsync(a => db.Passkeys.Any(p => p.Id == id && p.Account == a.Name), cancellationToken);
    }

    public Task<AccountRow?> FindByIdAsync(string userId, CancellationToken cancellationToken) =>
        db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == userId, cancellationToken);

    public Task<AccountRow?> FindByNameAsync(string normalizedUserName, CancellationToken cancellationToken) =>
        FindByIdAsync(normalizedUserName, cancellationToken);

    public Task<string> GetUserIdAsync(AccountRow user, CancellationToken cancellationToken) => Task.FromResult(user.Name);

    public Task<string?> GetUserNameAsync(AccountRow user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.Name);

    public Task<string?> GetNormalizedUserNameAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult<string?>(user.Name);

    public Task AddOrUpdatePasskeyAsync(AccountRow user, UserPasskeyInfo passkey, CancellationToken cancellationToken) => NotHere();

    public Task RemovePasskeyAsync(AccountRow user, byte[] credentialId, CancellationToken cancellationToken) => NotHere();

    public Task SetUserNameAsync(AccountRow user, string? userName, CancellationToken cancellationToken) => NotHere();

    public Task SetNormalizedUserNameAsync(AccountRow user, string? normalizedName, CancellationToken cancellationToken) => NotHere();

    public async Task<IdentityResult> CreateAsync(AccountRow user, CancellationToken cancellationToken)
    {
        await NotHere();
        return IdentityResult.Failed();
    }

    public Task<IdentityResult> UpdateAsync(AccountRow user, CancellationToken cancellationToken) => CreateAsync(user, cancellationToken);

    public Task<IdentityResult> DeleteAsync(AccountRow user, CancellationToken cancellationToken) => CreateAsync(user, cancellationToken);

    public void Dispose()
    {
        // The records are the request's.
    }

    private static UserPasskeyInfo InfoOf(PasskeyRow row) => new(
        Base64Url.DecodeFromChars(row.Id), row.PublicKey, row.MadeAt, (uint)row.SignCount, [.. row.Transports], row.IsUserVerified,
        row.IsBackupEligible, row.IsBackedUp, [], [])
    {
        Name = row.Name
    };

    private static Task NotHere() => throw new NotSupportedException("Accounts are changed by their desk, which enters it.");
}
