using System.Collections.Concurrent;
using System.CommandLine;
using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Extensions.Logging;
using Microsoft.IdentityModel.JsonWebTokens;
using Microsoft.IdentityModel.Tokens;

namespace YardRelay.Stand.Identities;

/// <summary>
/// <c>yardstand identity</c>: a simulated identity provider of an organisation (OpenID Connect, code flow with PKCE). Whoever is chosen on
/// its page is signed in; there are no passwords.
/// </summary>
internal static class IdentityCommand
{
    private static readonly TimeSpan Lives = TimeSpan.FromMinutes(5);

    /// <summary>What the provider says wrongly, to see who believes it.</summary>
    private enum Lie
    {
        None,
        Nonce,
        Issuer,
        Audience,
        Expired,
        Unsigned,
        OtherKey,
    }

    /// <summary>Who can sign in, and what is said of them.</summary>
    private sealed record Registered(
        IReadOnlyList<string> People, IReadOnlyList<string> Unverified, ILookup<string, string> Groups, IReadOnlyList<string> WithSecond,
        IReadOnlyDictionary<string, Lie> Lies);

    private sealed record Given(string Mail, string Client, string Redirect, string? Nonce, string? Challenge, DateTimeOffset Until);

    public static Command Create()
    {
        var port = new Option<int>("--port") { Description = "Port on 127.0.0.1.", Required = true };
        var person = new Option<string[]>("--person")
        {
            Description = "Mail address of somebody who can sign in; repeat for more.",
            Required = true,
            AllowMultipleArgumentsPerToken = true
        };
        var unverified = new Option<string[]>("--unverified")
        {
            Description = "One whose address the organisation has not verified; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var group = new Option<string[]>("--group")
        {
            Description = "MAIL=GROUP: a group that somebody is in; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var second = new Option<string[]>("--second")
        {
            Description = "Mail address of somebody who signs in with a second factor; repeat for more.",
            AllowMultipleArgumentsPerToken = true
        };
        var lie = new Option<string[]>("--lie")
        {
            Description = "MAIL=LIE: what is said wrongly of somebody: nonce, issuer, audience, expired, unsigned or otherKey.",
            AllowMultipleArgumentsPerToken = true
        };
        var client = new Option<string>("--client")
        {
            Description = "Name of the program that may ask; its secret is in YARD_IDENTITY_SECRET.",
            DefaultValueFactory = _ => "yard-relay"
        };
        var command = new Command(
            "identity",
            "Signs people in by OpenID Connect: a page to choose who one is, and nothing behind it.\n\nExample:\n  yardstand identity "
                + "--port 8426 --person ana.petrov@kestrelbay.example")
            {
                port, person, unverified, group, second, lie, client
            };
        command.SetAction((args, cancel) => ServeAsync(
            args.GetValue(port),
            args.GetValue(client)!,
            new(
                [.. args.GetValue(person)!, .. args.GetValue(unverified) ?? []],
                [.. args.GetValue(unverified) ?? []],
                (args.GetValue(group) ?? []).Select(g => g.Split('=', 2)).ToLookup(g => g[0], g => g[^1]),
                [.. args.GetValue(second) ?? []],
                (args.GetValue(lie) ?? []).Select(l => l.Split('=', 2))
                    .ToDictionary(l => l[0], l => Enum.Parse<Lie>(l[^1], ignoreCase: true))),
            cancel));
        return command;
    }

    private static async Task<int> ServeAsync(int port, string client, Registered registered, CancellationToken cancel)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.Listen(IPAddress.Loopback, port));
        await using var app = builder.Build();
        using var rsa = RSA.Create(2048);
        var secret = Environment.GetEnvironmentVariable("YARD_IDENTITY_SECRET") ?? "";
        Map(app, $"http://127.0.0.1:{port}", client, secret, registered, new RsaSecurityKey(rsa) { KeyId = "one" });
        await app.StartAsync(cancel);
        Console.Out.WriteLine($"identity provider at http://127.0.0.1:{port}");
        try
        {
            await Task.Delay(Timeout.Infinite, cancel);
        }
        catch (OperationCanceledException)
        {
            await app.StopAsync(CancellationToken.None);
        }
        return 0;
    }

    // OpenID Connect Discovery 1.0 and Core 1.0, as far as the code flow goes; PKCE is RFC 7636.
    private static void Map(
        WebApplication app, string issuer, string client, string secret, Registered registered, RsaSecurityKey key)
    {
        var given = new ConcurrentDictionary<string, Given>();
        app.MapGet("/.well-known/openid-configuration", () => Results.Json(new Dictionary<string, object>
        {
            ["issuer"] = issuer,
            ["authorization_endpoint"] = issuer + "/authorize",
            ["token_endpoint"] = issuer + "/token",
            ["jwks_uri"] = issuer + "/keys",
            ["response_types_supported"] = new[] { "code" },
            ["subject_types_supported"] = new[] { "public" },
            ["id_token_signing_alg_values_supported"] = new[] { "RS256" },
        }));
        app.MapGet("/keys", () =>
        {
            var open = key.Rsa.ExportParameters(false);
            return Results.Json(new
            {
                keys = new[]
                {
                    new
                    {
                        kty = "RSA",
                        use = "sig",
                        alg = "RS256",
                        kid = key.KeyId,
                        n = Base64UrlEncoder.Encode(open.Modulus),
                        e = Base64UrlEncoder.Encode(open.Exponent)
                    }
                }
            });
        });
        app.MapGet("/authorize", (HttpRequest request) =>
        {
            var asked = request.Query;
            if (asked["client_id"] != client
                || asked["response_type"] != "code"
                || !Uri.TryCreate(asked["redirect_uri"], UriKind.Absolute, out _))
                return Results.BadRequest("This program is not known here.");
            var again = QueryString.Create(asked.ToDictionary(a => a.Key, a => (string?)a.Value.ToString()));
            var buttons = registered.People.Select(m =>
                $"<li><a href=\"{WebUtility.HtmlEncode("/as" + again.Add("mail", m))}\">{WebUtility.HtmlEncode(m)}</a></li>");
            return Results.Content(
                $"<!doctype html><html lang=\"en\"><title>Sign in</title><h1>Who are you?</h1><ul>{string.Concat(buttons)}</ul>",
                "text/html; charset=utf-8");
        });
        app.MapGet("/as", (HttpRequest request) =>
        {
            var asked = request.Query;
            var code = Base64UrlEncoder.Encode(RandomNumberGenerator.GetBytes(24));
            given[code] = new(
                asked["mail"].ToString(), asked["client_id"].ToString(), asked["redirect_uri"].ToString(), asked["nonce"],
                asked["code_challenge"], DateTimeOffset.UtcNow + Lives);
            return Results.Redirect(QueryHelpers.AddQueryString(
                asked["redirect_uri"].ToString(), new Dictionary<string, string?> { ["code"] = code, ["state"] = asked["state"] }));
        });
        app.MapPost("/token", async (HttpRequest request) =>
        {
            var form = await request.ReadFormAsync();
            // A code is good once.
            if (!given.TryRemove(form["code"].ToString(), out var who)
                || who.Until < DateTimeOffset.UtcNow
                || form["client_id"] != who.Client
                || form["client_secret"] != secret
                || form["redirect_uri"] != who.Redirect
                || (who.Challenge is not null
                    && who.Challenge != Base64UrlEncoder.Encode(SHA256.HashData(Encoding.ASCII.GetBytes(form[
                        "code_verifier"].ToString())))))
                return Results.Json(new { error = "invalid_grant" }, statusCode: 400);
            return Results.Json(new
            {
                access_token = Base64UrlEncoder.Encode(RandomNumberGenerator.GetBytes(24)),
                token_type = "Bearer",
                expires_in = (int)Lives.TotalSeconds,
                id_token = TokenOf(who, issuer, registered, key)
            });
        });
    }

    private static string TokenOf(Given who, string issuer, Registered registered, RsaSecurityKey key)
    {
        var (mail, lie) = (who.Mail, registered.Lies.GetValueOrDefault(who.Mail));
        var user = mail.Split('@')[0];
        var claims = new Dictionary<string, object>
        {
            ["sub"] = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(mail))),
            ["email"] = mail,
            ["email_verified"] = !registered.Unverified.Contains(mail),
            ["preferred_username"] = user,
            ["name"] = CultureInfo.InvariantCulture.TextInfo.ToTitleCase(user.Replace('.', ' ')),
            ["groups"] = registered.Groups[mail].ToArray()
        };
        if (registered.WithSecond.Contains(mail)) claims["amr"] = new[] { "pwd", "mfa" };
        if (who.Nonce is not null) claims["nonce"] = lie == Lie.Nonce ? "another" : who.Nonce;
        using var other = RSA.Create(2048);
        var signs = lie == Lie.OtherKey ? new RsaSecurityKey(other) { KeyId = key.KeyId } : key;
        // Two hours back, so that no clock that is a little wrong hides it.
        var now = DateTime.UtcNow - (lie == Lie.Expired ? TimeSpan.FromHours(2) : TimeSpan.Zero);
        return new JsonWebTokenHandler().CreateToken(new SecurityTokenDescriptor
        {
            Issuer = lie == Lie.Issuer ? "https://login.evil.example" : issuer,
            Audience = lie == Lie.Audience ? "another-program" : who.Client,
            IssuedAt = now,
            NotBefore = now,
            Expires = now + Lives,
            Claims = claims,
            SigningCredentials = lie == Lie.Unsigned ? null : new(signs, SecurityAlgorithms.RsaSha256)
        });
    }
}
