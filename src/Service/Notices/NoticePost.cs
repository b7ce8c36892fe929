using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Notices;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Persons;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Notices;

/// <summary>
/// Tells people: makes the notices that are due, each once, and hands them to the mail server. A notice is written down before it is sent,
/// under a key that only one can have,
/// so that several processes, or one that was killed, send nothing twice.
/// </summary>
internal sealed class NoticePost(
    IDbContextFactory<YardDb> records, Writer writer, ServiceOptions options, TimeProvider time, ILogger<NoticePost> log)
    : RegularLook(TimeSpan.FromSeconds(10), time, log)
{
    private const int MostAtOnce = 200;
    private const int MostTries = 12;
    private static readonly TimeSpan LongestSigning = TimeSpan.FromDays(60);
    private static readonly TimeSpan HandedTooLong = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan FirstWait = TimeSpan.FromMinutes(1);
    private static readonly TimeSpan LongestWait = TimeSpan.FromHours(2);

    protected override string What => "Notices";

    protected override bool IsWanted => options.Mail is not null;

    /// <summary>One look: what is due is made, what waits is sent.</summary>
    public override async Task RoundAsync(CancellationToken cancel)
    {
        List<string> refreshes;
        await using (var db = await records.CreateDbContextAsync(cancel))
            refreshes = await db.Refreshes.AsNoTracking().Where(r => r.NoticesSince != null).Select(r => r.Key).ToListAsync(cancel);
        foreach (var refresh in refreshes)
        {
            await MakeAsync(refresh, cancel);
            await SendAsync(refresh, cancel);
        }
    }

    /// <summary>Writes down what is due and was not told yet.</summary>
    private async Task MakeAsync(string key, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == key, cancel);
        var outlook = await NoticeOutlook.ReadAsync(db, refresh, cancel);
        var reader = outlook.Reader;
        var now = Time.GetUtcNow();
        var people = await db.People.AsNoTracking().Where(p => p.Refresh == key && p.Mail != null).ToDictionaryAsync(p => p.Key, cancel);
        foreach (var swap in await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == key && s.Kind != SwapKind.Leave && s.PurgedAt == null)
            .ToListAsync(cancel))
        {
            if (!people.TryGetValue(swap.Person, out var person) || person.Mail is not { Length: > 0 } mail) continue;
            var made = outlook.MadeFor(swap).ToList();
            var keys = made.Select(n => n.Key).ToHashSet();
            bool IsDue(NoticeDue n) =>
                n.Due <= now && now <= n.LastUseful && !keys.Contains(n.Key) && (n.Moment.IsNeeded() || !person.MailOff);
            // Days that rest on sign-offs may be later than they look from afar; what was told of them once is told.
            bool MayBeDue(NoticeDue n) =>
                n.Moment is NoticeMoment.WipeAhead or NoticeMoment.HeldEnds
                    ? n.Due <= now && now <= n.LastUseful + LongestSigning && !made.Exists(m => m.Moment == n.Moment.Key())
                    : IsDue(n);
            if (!NoticePlan.Of(outlook.Rough(swap), reader.CalendarOf(swap)).Any(MayBeDue)) continue;
            var facts = await reader.FactsAsync(swap, outlook.ToldStart(swap), cancel);
            foreach (var due in NoticePlan.Of(facts, reader.CalendarOf(swap)).Where(IsDue))
                await AddAsync(key, swap, person, mail, due.Moment, due.Key, due.LastUseful, reader, facts, cancel);
        }
    }

    private async Task AddAsync(
        string refresh, SwapRow swap, PersonRow person, string mail, NoticeMoment moment, string key, DateTimeOffset lastUseful,
        NoticeReader reader, NoticeFacts facts, CancellationToken cancel)
    {
        var language = person.Language ?? "en";
        var (subject, _) = await reader.TextAsync(moment, language, swap, facts, "", Time.GetUtcNow(), cancel, key: key);
        await writer.WriteAsync<string>(refresh, async w =>
        {
            if (await w.Db.Notices.AnyAsync(n => n.Swap == swap.Id && n.Key == key, cancel)) return key;
            w.Db.Notices.Add(new()
            {
                Id = Guid.CreateVersion7(w.Now).ToString("N"),
                Refresh = refresh,
                Swap = swap.Id,
                Key = key,
                Moment = moment.Key(),
                Language = language,
                To = mail,
                Subject = subject,
                Start = moment is NoticeMoment.Unbooked or NoticeMoment.CalledOff ? facts.ToldStart : moment.Invites() ? swap.Start : null,
                MadeAt = w.Now,
                LastUseful = lastUseful,
                TryAt = w.Now,
            });
            return key;
        }, cancel, "the system");
    }

    /// <summary>Sends what waits. A mail server that is away is asked again later; what it refuses for good is a bounce.</summary>
    private async Task SendAsync(string key, CancellationToken cancel)
    {
        var mail = options.Mail!;
        await using var db = await records.CreateDbContextAsync(cancel);
        var now = Time.GetUtcNow();
        // Handed over and never heard of again: nobody knows whether it went, so it does not go twice.
        await db.Notices.Where(n => n.Refresh == key && n.HandedAt < now - HandedTooLong && n.SentAt == null && n.TryAt != null)
            .ExecuteUpdateAsync(
                s => s.SetProperty(n => n.TryAt, (DateTimeOffset?)null)
                    .SetProperty(
                        n => n.Trouble,
                        "The service stopped while it was sent; nobody knows whether it went. Send it again where it did not arrive."),
                cancel);
        await db.Notices.Where(n => n.Refresh == key && n.TryAt != null && n.HandedAt == null && n.LastUseful < now)
            .ExecuteUpdateAsync(
                s => s.SetProperty(n => n.TryAt, (DateTimeOffset?)null)
                    .SetProperty(n => n.Trouble, n => (n.Trouble ?? "") + " It was not sent in time, and is not sent late."),
                cancel);
        var waiting = await db.Notices.AsNoTracking()
            .Where(n => n.Refresh == key && n.TryAt <= now && n.HandedAt == null && n.SentAt == null)
            .OrderBy(n => n.TryAt)
            .Take(MostAtOnce)
            .ToListAsync(cancel);
        if (waiting.Count == 0) return;
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == key, cancel);
        var reader = await NoticeReader.ReadAsync(db, refresh, cancel);
        using var smtp = new SmtpClient { Timeout = 30_000 };
        try
        {
            await OpenAsync(smtp, mail, cancel);
        }
        catch (Exception away)
            when (away is IOException or System.Net.Sockets.SocketException or ProtocolException or SslHandshakeException
                or AuthenticationException or NotSupportedException or TimeoutException or CommandException)
        {
            foreach (var notice in waiting)
                await LaterAsync(db, notice, $"The mail server {mail.Host} could not be used: {away.Message}", now, cancel);
            Log.LogWarning("The mail server {Host} could not be used: {Why}", mail.Host, away.Message);
            return;
        }
        foreach (var notice in waiting)
        {
            if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == notice.Swap, cancel) is not { } swap) continue;
            // It tells a time, and there is none any more: what is so now is told by another.
            if (swap.Start is null && NoticeText.FieldsOf(NoticeMoments.Of(notice.Moment)!.Value).Contains("day"))
            {
                await db.Notices.Where(n => n.Id == notice.Id)
                    .ExecuteUpdateAsync(
                        s => s.SetProperty(n => n.TryAt, (DateTimeOffset?)null)
                            .SetProperty(n => n.Trouble, "The time that it was to tell does not hold any more."),
                        cancel);
                continue;
            }
            // Of several processes one has it; and it is known that it was handed over, before it is.
            if (await db.Notices.Where(n => n.Id == notice.Id && n.HandedAt == null && n.SentAt == null)
                .ExecuteUpdateAsync(s => s.SetProperty(n => n.HandedAt, now).SetProperty(n => n.Tries, n => n.Tries + 1), cancel) == 0)
                continue;
            var (secret, link) = PersonLinks.Make(swap, PersonLinks.ByMail, "the system", now);
            var page = PersonLinks.Address(options.Address ?? options.Urls.Split(';')[0], secret);
            var moment = NoticeMoments.Of(notice.Moment)!.Value;
            var facts = await reader.FactsAsync(swap, notice.Start, cancel);
            var (subject, markdown) = await reader.TextAsync(moment, notice.Language, swap, facts, page, now, cancel, key: notice.Key);
            notice.Subject = subject;
            try
            {
                var technician = swap.Technician is { } who
                    ? await db.Technicians.AsNoTracking()
                        .Where(t => t.Refresh == key && t.Key == who)
                        .Select(t => t.Name)
                        .FirstOrDefaultAsync(cancel)
                    : null;
                db.Links.Add(link);
                await db.SaveChangesAsync(cancel);
                await smtp.SendAsync(NoticeMail.Make(notice, swap, refresh, technician, markdown, mail.From, page), cancel);
                await SentAsync(notice, swap, link.Sha256, cancel);
            }
            catch (SmtpCommandException refused) when ((int)refused.StatusCode >= 500)
            {
                await BouncedAsync(notice, swap, $"{(int)refused.StatusCode} {refused.Message}", cancel);
            }
            catch (Exception broke)
                when (broke is SmtpCommandException or SmtpProtocolException or ServiceNotConnectedException or IOException
                    or MimeKit.ParseException)
            {
                await LaterAsync(db, notice, broke.Message, now, cancel);
                if (!smtp.IsConnected) return;
            }
        }
        await smtp.DisconnectAsync(true, cancel);
    }

    /// <summary>Opens the way to the mail server.</summary>
    internal static async Task OpenAsync(SmtpClient smtp, MailOptions mail, CancellationToken cancel)
    {
        await smtp.ConnectAsync(
            mail.Host,
            mail.Port,
            mail.IsTls ? SecureSocketOptions.SslOnConnect : mail.NeedsTls ? SecureSocketOptions.StartTls : SecureSocketOptions.None,
            cancel);
        if (mail.User is { } user) await smtp.AuthenticateAsync(user, mail.Password ?? "", cancel);
    }

    private static Task<int> LaterAsync(YardDb db, NoticeRow notice, string why, DateTimeOffset now, CancellationToken cancel)
    {
        var tries = notice.Tries + 1;
        var wait = TimeSpan.FromTicks(Math.Min(LongestWait.Ticks, FirstWait.Ticks << Math.Min(tries, 10)));
        DateTimeOffset? next = tries >= MostTries ? null : now + wait;
        return db.Notices.Where(n => n.Id == notice.Id).ExecuteUpdateAsync(
            s => s.SetProperty(n => n.HandedAt, (DateTimeOffset?)null)
                .SetProperty(n => n.Tries, tries)
                .SetProperty(n => n.TryAt, next)
                .SetProperty(n => n.Trouble, why.Length > 400 ? why[..400] : why),
            cancel);
    }

    private Task SentAsync(NoticeRow notice, SwapRow swap, string link, CancellationToken cancel) =>
        writer.WriteAsync<string>(notice.Refresh, async w =>
    {
        var row = await w.Db.Notices.FirstAsync(n => n.Id == notice.Id, cancel);
        (row.SentAt, row.TryAt, row.Trouble, row.Subject, row.Link) = (w.Now, null, null, notice.Subject, link);
        if (row.Moment is not ("unbooked" or "called-off") && row.Start is not null) row.Start = swap.Start;
        w.Note(
            "notice.sent",
            swap.Id,
            $"{swap.Name} was told by mail: {notice.Subject}",
            new() { ["notice"] = notice.Id, ["moment"] = notice.Moment });
        if (NoticeMoments.Of(row.Moment)!.Value.TellsWhen()) await StepDesk.MarkAsync(w, swap.Id, Station.Told, "a mail", cancel);
        return row.Id;
    }, cancel, "the system");

    private Task BouncedAsync(NoticeRow notice, SwapRow swap, string why, CancellationToken cancel) =>
        writer.WriteAsync<string>(notice.Refresh, async w =>
    {
        var row = await w.Db.Notices.FirstAsync(n => n.Id == notice.Id, cancel);
        (row.BouncedAt, row.TryAt, row.Trouble) = (w.Now, null, why.Length > 400 ? why[..400] : why);
        w.Note(
            "notice.bounced",
            swap.Id,
            $"Mail to {swap.Name} cannot be delivered: {why}",
            new() { ["notice"] = notice.Id, ["moment"] = notice.Moment });
        return row.Id;
    }, cancel, "the system");
}
