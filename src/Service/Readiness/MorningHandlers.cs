using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Readiness;
using YardRelay.Records;
using YardRelay.Service.Notices;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Readiness;

/// <summary>The work behind <see cref="MorningEndpoints"/>.</summary>
internal static class MorningHandlers
{
    private const int MostAddresses = 20;
    private const string Usual = "07:00";

    internal static async Task<Results<Ok<MorningMailSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, ServiceOptions options, TimeProvider time, CancellationToken cancel) =>
        await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel)
            ? TypedResults.Ok(
                Seen(
                    await db.MorningMails.AsNoTracking().FirstOrDefaultAsync(m => m.Refresh == refresh, cancel), options, time.GetUtcNow()))
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Results<Ok<MorningMailSeen>, ProblemHttpResult>> SetAsync(
        RefreshKey refresh, MorningMailWanted wanted, Writer writer, ServiceOptions options, CancellationToken cancel)
    {
        var to = wanted.To.Select(a => a.Trim()).Where(a => a.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        var faults = Faults(to);
        if (!TimeOnly.TryParseExact(wanted.At, "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var at)
            || at > MorningMail.LatestAt)
            faults.Add(new MorningTimeProblem(wanted.At));
        if (faults.Count > 0) return faults.ToHttp();
        if (to.Count > 0 && options.Mail is null) return new NoMailServerSet().ToHttp();
        return (await writer.WriteAsync<MorningMailSeen>(refresh, async w =>
        {
            var row = await w.Db.MorningMails.FirstOrDefaultAsync(m => m.Refresh == refresh, cancel);
            if (to.Count == 0)
            {
                if (row is null) return Seen(null, options, w.Now);
                w.Db.Remove(row);
                w.Note("ready.mail", null, $"{w.By}: nobody gets a mail in the morning any more");
                return Seen(null, options, w.Now);
            }
            if (row is null) w.Db.Add(row = new() { Refresh = refresh });
            if (!row.To.SequenceEqual(to) || row.At != at)
                w.Note("ready.mail", null, Words(w.By, to, at), new() { ["to"] = string.Join(", ", to), ["at"] = $"{at:HH\\:mm}" });
            // One that is under way sees by this that it was set anew, and still counts as under way.
            (row.To, row.At, row.TryAt) = (to, at, MorningPost.IsUnderWay(row, w.Now) ? row.TryAt - TimeSpan.FromSeconds(1) : null);
            return Seen(row, options, w.Now);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<MorningMailSent>, ProblemHttpResult>> SendAsync(
        RefreshKey refresh, YardDb db, MorningPost post, CancellationToken cancel)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        if (await db.MorningMails.AsNoTracking().FirstOrDefaultAsync(m => m.Refresh == refresh, cancel) is not { } mail)
            return new MorningMailNobody().ToHttp();
        return (await post.SendNowAsync(row, mail.To, cancel)).TryGet(out var subject, out var refused)
            ? TypedResults.Ok(new MorningMailSent(mail.To, subject))
            : refused.ToHttp();
    }

    private static List<Problem> Faults(List<string> to) =>
    [
        .. to.Count > MostAddresses ? [new MorningManyProblem(MostAddresses)] : Array.Empty<Problem>(),
        .. to.Where(a => !IsAddress(a)).Select(a => new MorningAddressProblem(a)),
    ];

    // Just an address: no name before it, no list of several.
    private static bool IsAddress(string text) =>
        MailboxAddress.TryParse(text, out var mailbox) && mailbox.Address == text && text.Contains('@') && Visible.IsPlain(text);

    private static string Words(string by, List<string> to, TimeOnly at) =>
        $"{by}: from {at:HH\\:mm} on {string.Join(", ", to)} {(to.Count == 1 ? "gets" : "get")} a mail that says who is not ready for "
            + "the next day";

    private static MorningMailSeen Seen(MorningMailRow? row, ServiceOptions options, DateTimeOffset now)
    {
        if (row is null) return new([], Usual, null, null, options.Mail is not null);
        var is_under_way = MorningPost.IsUnderWay(row, now);
        return new(
            row.To, $"{row.At:HH\\:mm}", row.Mailed, is_under_way ? null : row.Trouble, options.Mail is not null, is_under_way);
    }
}
