using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Files.Names;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>Whom an organisation vouches for.</summary>
/// <param name="Issuer">The identity provider.</param>
/// <param name="Subject">Who it is there, for good; neither a name nor an address, which others may get later.</param>
/// <param name="UserName">A name for a new account; null: none that counts.</param>
/// <param name="Shown">A name for people; null: none.</param>
/// <param name="IsSecond">The provider saw a second factor (<c>mfa</c>, RFC 8176).</param>
internal sealed record Vouched(
    string Issuer, string Subject, string? UserName, string? Shown, IReadOnlyList<string> Groups, bool IsSecond)
{
    private const int MostGroups = 2000;

    /// <summary>What a token says that was looked at already; null: not who it is.</summary>
    /// <param name="groups">The claim that names groups.</param>
    public static Vouched? Of(ClaimsPrincipal token, string groups)
    {
        if (token.FindFirst("sub") is not { Value.Length: > 0 and <= 255 } subject) return null;
        // An address that nobody verified could be anybody's: it is not even good for a name.
        var mail = token.FindFirstValue("email_verified") == "true" ? token.FindFirstValue("email") : null;
        return new(
            token.FindFirstValue("iss") ?? subject.Issuer, subject.Value,
            token.FindFirstValue("preferred_username") ?? mail, token.FindFirstValue("name"),
            [.. token.FindAll(groups).Select(c => c.Value).Distinct().Take(MostGroups)],
            token.FindAll("amr").Any(c => c.Value == "mfa"));
    }
}

/// <summary>
/// Accounts of those for whom the organisation vouches: each is bound to who they are there, and may what their groups open here, as it
/// stands when they sign in. An account that somebody made here is never taken over.
/// </summary>
internal sealed class StaffDesk(Ended ended, ServiceLedger ledger)
{
    private const int MostName = 40;
    private const int MostShown = 60;
    private const int Tries = 5;
    private static readonly string[] Strongest = [Roles.Coordinator, Roles.Technician, Roles.Auditor];

    /// <summary>Whom the service's ledger tells of where the identity provider says who comes in.</summary>
    private static readonly Doer Provider = new("the identity provider", null);

    /// <summary>Their account as it stands now, made if they come for the first time.</summary>
    /// <returns>The account; <see cref="NoGroupProblem"/> or <see cref="AccountDisabledProblem"/>.</returns>
    public async Task<Result<AccountRow>> AccountOfAsync(YardDb db, Vouched who, CancellationToken cancel)
    {
        for (var tries = 1; ; tries++)
        {
            try
            {
                return await OnceAsync(db, who, cancel);
            }
            catch (DbUpdateException) when (tries < Tries)
            {
                // Two came for the first time at once: one was first, or took the name.
                db.ChangeTracker.Clear();
            }
        }
    }

    private async Task<Result<AccountRow>> OnceAsync(YardDb db, Vouched who, CancellationToken cancel)
    {
        var known = await db.Accounts.FirstOrDefaultAsync(a => a.Issuer == who.Issuer && a.Subject == who.Subject, cancel);
        if (known is { DisabledAt: not null }) return new AccountDisabledProblem();
        var groups = await db.StaffGroups.AsNoTracking().Where(g => who.Groups.Contains(g.Name)).ToListAsync(cancel);
        if (known is not null) return await KeepAsync(db, known, groups, Provider, cancel) ? known : new NoGroupProblem();
        if (MayOf(groups) is not { } may) return new NoGroupProblem();
        var account = await NewAsync(db, who, may, cancel);
        await ledger.EnterAsync(db, async () =>
        {
            ended.Add(EndedKind.AccountAgain, [(account.Name, DateTimeOffset.MaxValue)]);
            Take(account, may, groups);
            db.Accounts.Add(account);
            await db.SaveChangesAsync(cancel);
            return new(
                "account.made",
                $"{AccountDesk.NameOf(account)} is made by their groups: {AccountDesk.WordsOf(account)}",
                new() { ["role"] = account.Role },
                Provider);
        }, cancel);
        return account;
    }

    /// <summary>What groups open has changed: whoever came in by one may what they open now, from the next request on.</summary>
    /// <param name="group">The group.</param>
    public async Task ChangedAsync(YardDb db, string group, CancellationToken cancel)
    {
        foreach (var account in (await db.Accounts.Where(a => a.Subject != null).ToListAsync(cancel)).Where(a => a.Groups.Contains(group)))
        {
            var groups = await db.StaffGroups.AsNoTracking().Where(g => account.Groups.Contains(g.Name)).ToListAsync(cancel);
            await KeepAsync(db, account, groups, null, cancel);
        }
    }

    /// <summary>Lets an account may what groups open; false: nothing, and whoever is in is signed out.</summary>
    /// <param name="by">Who says so; null: whoever is signed in.</param>
    private async Task<bool> KeepAsync(
        YardDb db, AccountRow account, IReadOnlyList<StaffGroupRow> groups, Doer? by, CancellationToken cancel)
    {
        var may = MayOf(groups);
        await ledger.EnterAsync(db, async () =>
        {
            if (may is null)
            {
                if (account.Groups.Count == 0) return null;
                account.Groups = [];
                await Sessions.KeepAndEndAllAsync(db, ended, account.Name, null, cancel);
                return new(
                    "account.signed-out",
                    $"None of the groups of {AccountDesk.NameOf(account)} opens anything any more; signed out everywhere",
                    By: by);
            }
            if (!Take(account, may, groups)) return null;
            await db.SaveChangesAsync(cancel);
            return new(
                "account.changed",
                $"{AccountDesk.NameOf(account)} is changed by their groups: {AccountDesk.WordsOf(account)}",
                new() { ["role"] = account.Role },
                by);
        }, cancel);
        return may is not null;
    }

    /// <returns>Whether that is anything else than it was.</returns>
    private static bool Take(AccountRow account, StaffGroupRow may, IReadOnlyList<StaffGroupRow> groups)
    {
        List<string> names = [.. groups.Select(g => g.Name).Order(StringComparer.Ordinal)];
        var isOther = account.Role != may.Role
            || !account.Sites.SequenceEqual(may.Sites)
            || !account.Refreshes.SequenceEqual(may.Refreshes)
            || !account.Groups.SequenceEqual(names);
        (account.Role, account.Sites, account.Refreshes, account.Groups) = (may.Role, [.. may.Sites], [.. may.Refreshes], names);
        return isOther;
    }

    /// <summary>What all groups together open; null: nothing.</summary>
    internal static StaffGroupRow? MayOf(IReadOnlyCollection<StaffGroupRow> groups)
    {
        if (Strongest.FirstOrDefault(r => groups.Any(g => g.Role == r)) is not { } role) return null;
        var ofRole = groups.Where(g => g.Role == role).ToList();
        return new()
        {
            Name = "",
            Role = role,
            Sites = role == Roles.Technician ? [.. ofRole.SelectMany(g => g.Sites).Distinct().Order(StringComparer.Ordinal)] : [],
            Refreshes = ofRole.Exists(g => g.Refreshes.Count == 0)
                ? []
                : [.. ofRole.SelectMany(g => g.Refreshes).Distinct().Order(StringComparer.Ordinal)]
        };
    }

    private static async Task<AccountRow> NewAsync(YardDb db, Vouched who, StaffGroupRow may, CancellationToken cancel)
    {
        var taken = (await db.Accounts.AsNoTracking().Select(a => new { a.Name, a.Shown }).ToListAsync(cancel))
            .SelectMany(a => new[] { NameFold.Of(a.Name), NameFold.Of(a.Shown) })
            .Append(NameFold.Of(Doer.System.Shown))
            .ToHashSet();
        var begin = new string([
            .. (who.UserName ?? "").Split('@')[0].ToLowerInvariant().Where(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '_')
                .Take(MostName)
        ]);
        if (begin.Length == 0) begin = "staff-" + TokenAuthentication.Digest(who.Subject)[..8];
        var name = Enumerable.Range(1, int.MaxValue)
            .Select(i => i == 1 ? begin : $"{begin}-{i}")
            .First(n => !taken.Contains(NameFold.Of(n)));
        var shown = new string([.. (who.Shown ?? name).Trim().Where(c => !char.IsControl(c)).Take(MostShown)]);
        if (!Visible.IsPlain(shown)) shown = name;
        // Nobody takes the name of somebody else who works here.
        if (shown.Length == 0 || taken.Contains(NameFold.Of(shown))) shown = shown.Length == 0 ? name : $"{shown} ({name})";
        return new()
        {
            Name = name,
            Shown = shown,
            Role = may.Role,
            Password = "",
            Sites = [],
            Issuer = who.Issuer,
            Subject = who.Subject
        };
    }
}
