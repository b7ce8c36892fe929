using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;

namespace YardRelay.Service.Accounts;

/// <summary>
/// Devices from which somebody was signed in before: a mark that the device keeps, sealed by the service, says by which accounts. It lets
/// nobody in; others who guess at a password do not keep such a device out.
/// </summary>
internal sealed class KnownDevices(IDataProtectionProvider protection, TimeProvider time)
{
    /// <summary>Where a browser keeps its mark.</summary>
    public const string Cookie = "yardrelay-device";

    private const int MostAccounts = 8;
    private const int MostLength = 4000;
    private static readonly TimeSpan Lives = TimeSpan.FromDays(180);
    private readonly IDataProtector _seal = protection.CreateProtector("known device");

    private sealed record Mark(string Id, IReadOnlyList<string> Accounts, DateTimeOffset At);

    /// <summary>The device that shows a mark, if somebody was signed in from it by an account; null: it is strange to it.</summary>
    public string? Of(string? mark, string account) =>
        Read(mark) is { } read && read.Accounts.Contains(account) && time.GetUtcNow() - read.At < Lives ? read.Id : null;

    /// <summary>The mark that a device keeps from now on.</summary>
    /// <param name="mark">The one that it showed; null: none.</param>
    /// <param name="account">By which somebody was signed in from it.</param>
    public string With(string? mark, string account)
    {
        var before = Read(mark);
        return _seal.Protect(JsonSerializer.Serialize(new Mark(
            before?.Id ?? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
            [account, .. (before?.Accounts ?? []).Where(a => a != account).Take(MostAccounts - 1)],
            time.GetUtcNow())));
    }

    /// <summary>Gives a browser its mark.</summary>
    public void Give(HttpContext context, string account) => context.Response.Cookies.Append(
        Cookie,
        With(context.Request.Cookies[Cookie], account),
        new()
        {
            Path = "/api/sessions",
            HttpOnly = true,
            Secure = context.Request.IsHttps,
            SameSite = SameSiteMode.Strict,
            MaxAge = Lives
        });

    private Mark? Read(string? text)
    {
        if (text is not { Length: > 0 and <= MostLength }) return null;
        try
        {
            return JsonSerializer.Deserialize<Mark>(_seal.Unprotect(text));
        }
        catch (Exception strange) when (strange is CryptographicException or JsonException)
        {
            return null;
        }
    }
}
