using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>Bearer tokens of command line and hands: 256 random bits, of which only the digest is kept.</summary>
internal sealed class TokenAuthentication(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory logger,
    UrlEncoder encoder,
    IDbContextFactory<YardDb> records,
    TimeProvider time)
    : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    public const string SchemeName = "token";

    private const int MostVersion = 40;
    private static readonly object Refusal = new();

    public static string New() => "yr_" + Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    public static string Digest(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        var header = Request.Headers.Authorization.ToString();
        if (!header.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase)) return AuthenticateResult.NoResult();
        var digest = Digest(header[7..].Trim());
        await using var db = await records.CreateDbContextAsync(Context.RequestAborted);
        var token = await db.Tokens.AsNoTracking().FirstOrDefaultAsync(t => t.Sha256 == digest, Context.RequestAborted);
        if (token is null || token.IsBrowser || token.Expires < time.GetUtcNow())
            return AuthenticateResult.Fail("The token is not known or has expired. Sign in again.");
        if (token.Hand is { } handId)
        {
            var hand = await db.Hands.AsNoTracking().FirstOrDefaultAsync(h => h.Id == handId, Context.RequestAborted);
            if (hand is not { ReplacedAt: null })
            {
                Context.Items[Refusal] = new HandEndedProblem(hand?.WithdrawnBy);
                return AuthenticateResult.Fail("This hand was replaced or withdrawn.");
            }
            await HearAsync(db, hand);
            return Success([
                new(ClaimTypes.Name, hand.Id), new(ClaimTypes.Role, Roles.Hand), new("tag", hand.Tag), new("refresh", hand.Refresh),
                new("shown", $"hand at {hand.Tag}")
            ]);
        }
        return await Sessions.AccountOfAsync(db, token, time.GetUtcNow(), Context.RequestAborted) is { } account
            ? Success(AccountClaims.Of(account, token))
            : AuthenticateResult.Fail("The token has ended, or its account is gone or disabled. Sign in again.");
    }

    /// <summary>Says why, where more is known than that nobody is signed in.</summary>
    protected override Task HandleChallengeAsync(AuthenticationProperties properties) =>
        Context.Items[Refusal] is Problem why ? why.ToHttp().ExecuteAsync(Context) : base.HandleChallengeAsync(properties);

    /// <summary>Notes that a hand was heard of, and which version it is; once a minute is enough.</summary>
    private async Task HearAsync(YardDb db, HandRow hand)
    {
        var now = time.GetUtcNow();
        var said = Request.Headers[HandProtocol.VersionHeader].ToString();
        var version = said.Length is > 0 and <= MostVersion ? said : null;
        if (now - hand.SeenAt < TimeSpan.FromMinutes(1) && version == hand.Version) return;
        await db.Hands.Where(h => h.Id == hand.Id).ExecuteUpdateAsync(
            u => u.SetProperty(h => h.SeenAt, now).SetProperty(h => h.Version, version), Context.RequestAborted);
    }

    private static AuthenticateResult Success(IEnumerable<Claim> claims) =>
        AuthenticateResult.Success(new(new ClaimsPrincipal(new ClaimsIdentity(claims, SchemeName)), SchemeName));
}
