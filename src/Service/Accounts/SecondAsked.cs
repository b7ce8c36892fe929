using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>
/// Refreshes that ask whoever works in them for a passkey. Which they are is read again every few seconds and after each change here: most
/// services have none, and then no request asks for more.
/// </summary>
internal sealed class SecondAsked(IDbContextFactory<YardDb> records, TimeProvider time)
{
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(3);
    private volatile Read? _read;

    private sealed record Read(IReadOnlySet<string> Refreshes, long At);

    /// <summary>Reads them again at the next request.</summary>
    public void Forget() => _read = null;

    /// <summary>Why a caller who works here does not reach what a request names; null: they do, or it is nobody who works here.</summary>
    /// <param name="named">What it names, looked up only where somebody asks.</param>
    public async Task<SecondAskedProblem?> AgainstAsync(ClaimsPrincipal user, Lazy<Task<Named?>> named, CancellationToken cancel)
    {
        if (user.IsSecond() || !Roles.Policies[Roles.Reads].Contains(user.RoleOf())) return null;
        var asking = await AllAsync(cancel);
        return asking.Count > 0 && (await named.Value)?.Refresh is { } refresh && asking.Contains(refresh) ? new(refresh) : null;
    }

    private async Task<IReadOnlySet<string>> AllAsync(CancellationToken cancel)
    {
        if (_read is { } read && time.GetElapsedTime(read.At) < Believed) return read.Refreshes;
        await using var db = await records.CreateDbContextAsync(cancel);
        var all = (await db.Refreshes.AsNoTracking().Where(r => r.AsksSecond).Select(r => r.Key).ToListAsync(cancel)).ToHashSet();
        _read = new(all, time.GetTimestamp());
        return all;
    }
}
