using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>The work behind <see cref="AskingEndpoints"/>.</summary>
internal static class AskingHandlers
{
    private const string Letters = "BCDFGHJKLMNPQRSTVWXZ";
    private const int MostLabel = 100;
    private const int MostOpen = 1000;
    private static readonly TimeSpan Lives = TimeSpan.FromMinutes(10);

    internal static async Task<Results<Ok<Asking>, ProblemHttpResult>> AskAsync(
        AskingWanted wanted, YardDb db, Guesses guesses, HttpContext context, TimeProvider time, CancellationToken cancel)
    {
        if (wanted.Label.Trim() is not { Length: > 0 and <= MostLabel } label || !Visible.IsPlain(label))
            return new AskingLabelProblem().ToHttp();
        var (now, from) = (time.GetUtcNow(), context.Connection.RemoteIpAddress);
        // Whoever asks again and again is slowed like whoever guesses.
        if ((await guesses.CountAsync($"asking {from}", from, null, cancel)).Wait is { } wait)
            return new AccountLockedProblem(Math.Max(1, (int)Math.Ceiling(wait.TotalMinutes))).ToHttp();
        await db.Askings.Where(a => a.Expires < now).ExecuteDeleteAsync(cancel);
        if (await db.Askings.CountAsync(cancel) >= MostOpen) return new AccountLockedProblem((int)Lives.TotalMinutes).ToHttp();
        var secret = TokenAuthentication.New();
        var row = new AskingRow
        {
            Sha256 = TokenAuthentication.Digest(secret),
            Code = $"{Part()}-{Part()}",
            Label = label,
            From = from is { IsIPv4MappedToIPv6: true } mapped ? $"{mapped.MapToIPv4()}" : from?.ToString(),
            MadeAt = now,
            Expires = now + Lives
        };
        db.Askings.Add(row);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Asking(row.Code, secret, $"/let-in/{row.Code}", row.Expires));
    }

    private static string Part() => RandomNumberGenerator.GetString(Letters, Askings.PartLength);

    internal static async Task<Results<Ok<AskingSeen>, ProblemHttpResult>> SeeAsync(
        string code, YardDb db, Askings askings, HttpContext context, CancellationToken cancel)
    {
        var found = await askings.FindAsync(db, code, context, cancel);
        return found is null ? new AskingOverProblem().ToHttp() : TypedResults.Ok(
            new AskingSeen(found.Code, found.Label, found.From, found.MadeAt));
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> LetInAsync(
        string code, YardDb db, Askings askings, HttpContext context, CancellationToken cancel)
    {
        if (await askings.FindAsync(db, code, context, cancel) is not { } found)
            return new AskingOverProblem().ToHttp();
        var session = context.User.SessionOf();
        // Nobody lets in what another has let in meanwhile.
        return await db.Askings.Where(a => a.Sha256 == found.Sha256 && a.LetInBy == null)
            .ExecuteUpdateAsync(u => u.SetProperty(a => a.LetInBy, session), cancel) == 1
            ? TypedResults.NoContent()
            : new AskingOverProblem().ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> RefuseAsync(
        string code, YardDb db, Askings askings, HttpContext context, CancellationToken cancel)
    {
        if (await askings.FindAsync(db, code, context, cancel) is not { } found)
            return new AskingOverProblem().ToHttp();
        await db.Askings.Where(a => a.Sha256 == found.Sha256).ExecuteDeleteAsync(cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<Ok<TokenMade>, Accepted, ProblemHttpResult>> FetchAsync(
        AskingFetch wanted, YardDb db, SignInDesk desk, TimeProvider time, CancellationToken cancel)
    {
        var (digest, now) = (TokenAuthentication.Digest(wanted.Secret), time.GetUtcNow());
        if (await db.Askings.AsNoTracking().FirstOrDefaultAsync(a => a.Sha256 == digest && a.Expires > now, cancel) is not { } asking)
            return new AskingOverProblem().ToHttp();
        if (asking.LetInBy is not { } session) return TypedResults.Accepted((string?)null);
        // Fetched once, and only while whoever let it in is signed in themselves.
        if (await db.Askings.Where(a => a.Sha256 == digest).ExecuteDeleteAsync(cancel) != 1) return new AskingOverProblem().ToHttp();
        if (await db.Tokens.AsNoTracking().FirstOrDefaultAsync(t => t.Sha256 == session, cancel) is not { } row
            || await Sessions.AccountOfAsync(db, row, now, cancel) is not { } account)
            return new AskingOverProblem().ToHttp();
        return (await desk.BeginAsync(db, account, new(asking.Label, false, row.IsSecond), "as a browser of theirs let it in", cancel))
            .TryGet(out var begun, out var problem)
            ? TypedResults.Ok(desk.Made(begun, null))
            : problem.ToHttp();
    }
}
