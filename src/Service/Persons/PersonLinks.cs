using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Persons;

/// <summary>
/// Personal links: 256 random bits behind <c>#</c>, which no browser sends, logs or hands on. The first device that opens one is bound to
/// it by a cookie;
/// on any other the same link opens nothing.
/// </summary>
internal static class PersonLinks
{
    public const string Scheme = "person";
    public const string Cookie = "yardrelay-person";

    /// <summary>A link that goes to the address on record, through nobody's hands.</summary>
    public const string ByMail = "mail";

    /// <summary>No link at all: the organisation said who it is.</summary>
    public const string ByOrganisation = "organisation";

    /// <summary>A link that somebody hands over, who could open it themselves.</summary>
    public const string OnPaper = "paper";

    /// <summary>How long a link lives without being asked for anew.</summary>
    public static readonly TimeSpan Lives = TimeSpan.FromDays(60);

    private static readonly TimeSpan SeenEvery = TimeSpan.FromMinutes(5);

    /// <summary>Makes a link; the secret is nowhere but in what is returned.</summary>
    /// <param name="way"><see cref="ByMail"/> or <see cref="OnPaper"/>.</param>
    public static (string Secret, LinkRow Row) Make(SwapRow swap, string way, string by, DateTimeOffset now)
    {
        var secret = Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).Replace('+', '-').Replace('/', '_').TrimEnd('=');
        return (secret, new()
        {
            Sha256 = TokenAuthentication.Digest(secret),
            Refresh = swap.Refresh,
            Swap = swap.Id,
            MadeBy = by,
            Way = way,
            MadeAt = now,
            Expires = now + Lives
        });
    }

    public static string Address(string service, string secret) => $"{service.TrimEnd('/')}/my#{secret}";

    /// <summary>Why a link opens nothing; null: it may.</summary>
    public static string? Refusal(LinkRow? link, DateTimeOffset now) => link switch
    {
        null => "unknown",
        { WithdrawnAt: not null } => "withdrawn",
        _ when link.Expires < now => "expired",
        _ => null,
    };

    /// <summary>Who acts by a link: the person, and where it went through somebody's hands, by whose.</summary>
    public static string ActsAs(LinkRow link, SwapRow swap) =>
        link.Way != OnPaper ? swap.Name : $"{swap.Name} (by a link that {link.MadeBy} handed over)";

    public static ClaimsPrincipal UserOf(LinkRow link, SwapRow swap) =>
        new(new ClaimsIdentity(
            [
                new(ClaimTypes.Name, $"person:{swap.Refresh}/{swap.Person}"),
                new(ClaimTypes.Role, Roles.Person),
                new("shown", ActsAs(link, swap)),
                new("person", swap.Person),
                new("swap", swap.Id),
                new("link", link.Sha256)
            ],
            Scheme));

    /// <summary>Counts a try with a link that opens nothing.</summary>
    public static async Task CountAsync(YardDb db, string cause, DateTimeOffset now, CancellationToken cancel)
    {
        var day = DateOnly.FromDateTime(now.UtcDateTime);
        Task<int> AddAsync() =>
            db.LinkRefusals.Where(r => r.Day == day && r.Cause == cause)
                .ExecuteUpdateAsync(s => s.SetProperty(r => r.Count, r => r.Count + 1), cancel);
        if (await AddAsync() > 0) return;
        db.LinkRefusals.Add(new() { Day = day, Cause = cause, Count = 1 });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException)
        {
            // Somebody else counted the first one of the day at the same moment.
            db.ChangeTracker.Clear();
            await AddAsync();
        }
    }

    /// <summary>A cookie counts as long as its link does.</summary>
    public static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        var cancel = context.HttpContext.RequestAborted;
        var (db, now) = (
            context.HttpContext.RequestServices.GetRequiredService<YardDb>(),
            context.HttpContext.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow());
        var sha256 = context.Principal?.FindFirstValue("link") ?? "";
        var link = await db.Links.AsNoTracking().FirstOrDefaultAsync(l => l.Sha256 == sha256, cancel);
        if (Refusal(link, now) is not null) context.RejectPrincipal();
        else if (link!.SeenAt is not { } seen || now - seen > SeenEvery)
            await db.Links.Where(l => l.Sha256 == sha256).ExecuteUpdateAsync(s => s.SetProperty(l => l.SeenAt, now), cancel);
    }
}
