using System.Collections.Concurrent;
using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Live;

/// <summary>
/// Whether streams may still go on: each is one request, and its account may be another by now. All streams of a session in a refresh are
/// told what one of them has asked a moment ago: where something happens, all of them wake at once.
/// </summary>
internal sealed class StreamRights(IDbContextFactory<YardDb> records, TimeProvider time)
{
    /// <summary>How often a stream is asked for: as often as its heart beats where nothing happens.</summary>
    public static readonly TimeSpan Beat = TimeSpan.FromSeconds(5);

    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(4);
    private const int Most = 10_000;
    private readonly ConcurrentDictionary<(string Session, string Refresh), Asked> _asked = new();

    private sealed record Asked(Lazy<Task<Held?>> Held, long At);

    /// <summary>What an account has that a stream stands on.</summary>
    private sealed record Held(IReadOnlySet<string> Sites);

    /// <summary>That of one stream, which has just been let in.</summary>
    public Right Of(ClaimsPrincipal user, string refresh) => new(this, user, refresh, time);

    /// <summary>That of one stream.</summary>
    internal sealed class Right(StreamRights of, ClaimsPrincipal user, string refresh, TimeProvider time)
    {
        private long _asked = time.GetTimestamp();

        /// <summary>Whether it may go on: asked every few seconds at most.</summary>
        public async Task<bool> StillAsync()
        {
            if (time.GetElapsedTime(_asked) < Beat) return true;
            _asked = time.GetTimestamp();
            return await of.MayAsync(user, refresh);
        }
    }

    private async Task<bool> MayAsync(ClaimsPrincipal user, string refresh)
    {
        if (user.SessionOf() is not { Length: > 0 } session) return false;
        var key = (session, refresh);
        if (!_asked.TryGetValue(key, out var asked) || time.GetElapsedTime(asked.At) > Believed)
        {
            if (_asked.Count > Most) _asked.Clear();
            asked = new(new(() => AskAsync(session, refresh)), time.GetTimestamp());
            _asked[key] = asked;
        }
        // Which sites it shows was settled when it began.
        return await asked.Held.Value is { } held && held.Sites.SetEquals(user.SitesOf());
    }

    private async Task<Held?> AskAsync(string session, string refresh)
    {
        await using var db = await records.CreateDbContextAsync(CancellationToken.None);
        return await db.Tokens.AsNoTracking().FirstOrDefaultAsync(t => t.Sha256 == session) is { } row
            && await Sessions.AccountOfAsync(db, row, time.GetUtcNow(), CancellationToken.None) is { } account
            && (row.IsSecond || !await db.Refreshes.AnyAsync(r => r.Key == refresh && r.AsksSecond))
            && Roles.Policies[Roles.Reads].Contains(account.Role)
            && (account.Refreshes.Count == 0 || account.Refreshes.Contains(refresh))
            ? new(account.Sites.ToHashSet())
            : null;
    }
}
