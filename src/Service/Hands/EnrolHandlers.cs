using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>The work behind <see cref="EnrolEndpoints"/>.</summary>
internal static class EnrolHandlers
{
    private static readonly TimeSpan CodeLives = TimeSpan.FromDays(3);

    internal static async Task<Results<Ok<CodeMade>, ProblemHttpResult>> CodeAsync(
        RefreshKey refresh, CodeWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel) =>
        (await writer.WriteAsync<CodeMade>(refresh, async w =>
        {
            var tag = wanted.Tag.Trim();
            if (await HandScope.AgainstAsync(w.Db, refresh, tag, user, cancel) is { } problem) return problem;
            var end = await w.Db.OldComputers.Where(c => c.Refresh == refresh.Text && c.Tag == tag).Select(c => c.End)
                .FirstOrDefaultAsync(cancel);
            if (end is { } how && how.IsMissing()) return new HandAtMissing(tag, how);
            // No letters that people take for digits.
            const string letters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";
            var code = string.Join('-', Enumerable.Range(0, 4).Select(_ => RandomNumberGenerator.GetString(letters, 4)));
            var expires = w.Now + CodeLives;
            w.Db.Codes.Add(new() { Sha256 = TokenAuthentication.Digest(code), Refresh = refresh, Tag = tag, Expires = expires });
            w.Note("hand.code", null, $"{w.By} made a code for the hand at {tag}");
            return new CodeMade(code, tag, expires);
        }, cancel)).ToHttp();

    internal static async Task<Results<Ok<Enrolled>, ProblemHttpResult>> EnrolAsync(
        EnrolWanted wanted, YardDb db, Writer writer, Ended ended, TimeProvider time, CancellationToken cancel)
    {
        var digest = TokenAuthentication.Digest(wanted.Code.Trim().ToUpperInvariant());
        var code = await db.Codes.AsNoTracking().FirstOrDefaultAsync(c => c.Sha256 == digest, cancel);
        var wrong = new HandCodeWrongProblem();
        if (code is null || !string.Equals(code.Tag, wanted.Tag.Trim(), StringComparison.OrdinalIgnoreCase))
            return wrong.ToHttp();
        return (await writer.WriteAsync<Enrolled>(code.Refresh, async w =>
        {
            var row = await w.Db.Codes.FirstAsync(c => c.Sha256 == digest, cancel);
            if (row.UsedAt is not null || row.Expires < time.GetUtcNow()) return wrong;
            row.UsedAt = w.Now;
            ended.Add(EndedKind.Code, [(row.Sha256, row.Expires)]);
            string? instead = null;
            foreach (var earlier in await HandEnding.AllAsync(w.Db, code.Refresh, code.Tag, cancel))
            {
                var order = await HandEnding.EndAsync(w, ended, earlier, cancel);
                instead = HandEnding.Words(earlier, order, w);
            }
            var hand = new HandRow
            {
                Id = Guid.NewGuid().ToString("N"),
                Refresh = code.Refresh,
                Tag = code.Tag,
                Host = wanted.Host.Length > 200 ? wanted.Host[..200] : wanted.Host,
                EnrolledAt = w.Now
            };
            w.Db.Hands.Add(hand);
            var token = TokenAuthentication.New();
            w.Db.Tokens.Add(new()
            {
                Sha256 = TokenAuthentication.Digest(token),
                Hand = hand.Id,
                Label = $"hand at {hand.Tag}",
                Expires = w.Now + HandEnding.HandLives
            });
            w.Note(
                "hand.enrolled",
                null,
                $"A hand enrolled at {hand.Tag}, computer {hand.Host}{(instead is null ? "" : $", in place of {instead}")}",
                new() { ["hand"] = hand.Id });
            return new Enrolled(hand.Id, token, hand.Tag, instead);
        }, cancel)).ToHttp();
    }
}
