using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Notices;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Persons;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Notices;

/// <summary>The work behind <see cref="NoticeEndpoints"/>.</summary>
internal static class NoticeHandlers
{
    private const int MostListed = 500;

    private static NoticeSeen Seen(NoticeRow n, string name, DateTimeOffset? opened) =>
        new(n.Id, n.Swap, name, n.Moment, n.Language, n.To, n.Subject,
        n.BouncedAt is not null
            ? "bounced"
            : n.SentAt is not null
            ? "sent"
            : n.TryAt is not null
            ? "waits"
            : n.HandedAt is not null
            ? "uncertain"
            : "dropped",
        n.MadeAt,
        n.SentAt,
        opened,
        n.Tries,
        n.Trouble);

    internal static async Task<Results<Ok<ToldPage>, ProblemHttpResult>> ToldAsync(
        RefreshKey refresh, YardDb db, ServiceOptions options, TimeProvider time, CancellationToken cancel, string? wave = null)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && s.CalledOffAt == null && s.Kind != SwapKind.Leave && (wave == null || s.Wave == wave))
            .OrderBy(s => s.Name)
            .ThenBy(s => s.Id)
            .ToListAsync(cancel);
        var people = await db.People.AsNoTracking().Where(p => p.Refresh == refresh).ToDictionaryAsync(p => p.Key, cancel);
        var notices = (await db.Notices.AsNoTracking().Where(n => n.Refresh == refresh).ToListAsync(cancel)).ToLookup(n => n.Swap);
        var links = (await db.Links.AsNoTracking().Where(l => l.Refresh == refresh && l.OpenedAt != null).ToListAsync(cancel))
            .ToLookup(l => l.Swap);
        var (outlook, now) = (await NoticeOutlook.ReadAsync(db, row, cancel), time.GetUtcNow());
        return TypedResults.Ok(new ToldPage(row.NoticesSince, options.Mail is not null,
        [
            .. swaps.Select(s =>
            {
                var mine = notices[s.Id].OrderByDescending(n => n.MadeAt).ToList();
                var person = people.GetValueOrDefault(s.Person);
                var last = mine.FirstOrDefault(n => n.SentAt is not null) is { } sent
                    ? Seen(sent, s.Name, links[s.Id].FirstOrDefault(l => l.Sha256 == sent.Link)?.OpenedAt)
                    : null;
                return new ToldSeen(
                    s.Id, s.Name, s.Site, s.Wave, person?.Mail, person?.MailOff ?? false, mine.Count(n => n.SentAt is not null), last,
                    links[s.Id].Min(l => l.OpenedAt), links[s.Id].Max(l => l.SeenAt), outlook.IsReady(s), s.AcceptedAt,
                    mine.FirstOrDefault()?.Trouble, s.ToldAt, s.Room, s.Start,
                    outlook.NextOf(s, person, options.Mail is not null, now));
            }),
        ]));
    }

    internal static async Task<Results<Ok<List<NoticeSeen>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel, string? swap = null)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var rows = await db.Notices.AsNoTracking()
            .Where(n => n.Refresh == refresh && (swap == null || n.Swap == swap))
            .OrderByDescending(n => n.MadeAt)
            .ThenBy(n => n.Id)
            .Take(MostListed)
            .ToListAsync(cancel);
        var (ids, digests) = (rows.Select(r => r.Swap).Distinct().ToList(), rows.Select(r => r.Link).OfType<string>().ToList());
        var names = await db.Swaps.AsNoTracking().Where(s => ids.Contains(s.Id)).ToDictionaryAsync(s => s.Id, s => s.Name, cancel);
        var opened = await db.Links.AsNoTracking()
            .Where(l => digests.Contains(l.Sha256))
            .ToDictionaryAsync(l => l.Sha256, l => l.OpenedAt, cancel);
        return TypedResults.Ok(rows.ConvertAll(n =>
            Seen(n, names.GetValueOrDefault(n.Swap, n.Swap), n.Link is { } link ? opened.GetValueOrDefault(link) : null)));
    }

    internal static async Task<Results<Ok<ToldPage>, ProblemHttpResult>> SwitchAsync(
        RefreshKey refresh, NoticesWanted wanted, YardDb db, Writer writer, ServiceOptions options, TimeProvider time,
        CancellationToken cancel)
    {
        if (wanted.On && options.Mail is null)
            return new NoMailServerSet().ToHttp();
        var done = await writer.WriteAsync<string>(refresh, w =>
        {
            if (wanted.On == w.Refresh.NoticesSince is not null) return Task.FromResult<Result<string>>(refresh.Text);
            w.Refresh.NoticesSince = wanted.On ? w.Now : null;
            w.Note(
                "notices.switched",
                null,
                wanted.On ? $"{w.By}: people are told by mail from now on" : $"{w.By}: people are not told by mail any more");
            return Task.FromResult<Result<string>>(refresh.Text);
        }, cancel);
        return done.IsOk ? await ToldAsync(refresh, db, options, time, cancel) : done.Problems.ToHttp();
    }

    internal static async Task<Results<Ok<NoticesMade>, ProblemHttpResult>> AgainAsync(
        RefreshKey refresh, NoticeAgain wanted, Writer writer, ServiceOptions options, CancellationToken cancel)
    {
        if (NoticeMoments.Of(wanted.Moment) is not { } moment)
            return ServiceProblem.NotFound("moment", wanted.Moment).ToHttp();
        if (wanted.Swaps.Count is 0 or > MostListed)
            return new NoticesSwapsProblem(MostListed).ToHttp();
        if (options.Mail is null)
            return new NothingCanBeSent().ToHttp();
        return (await writer.WriteAsync<NoticesMade>(refresh, async w =>
        {
            var reader = await NoticeReader.ReadAsync(w.Db, w.Refresh, cancel);
            var (made, skipped) = (0, new List<string>());
            foreach (var id in wanted.Swaps.Distinct())
            {
                if (await w.Db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == id && s.Refresh == refresh, cancel) is not { } swap)
                    return ServiceProblem.NotFound("swap", id);
                var person = await w.Db.People.AsNoTracking()
                    .FirstOrDefaultAsync(p => p.Refresh == refresh && p.Key == swap.Person, cancel);
                var facts = await reader.FactsAsync(swap, null, cancel);
                var due = NoticePlan.Of(
                    facts with { Since = facts.Since < w.Now ? DateTimeOffset.UnixEpoch : facts.Since }, reader.CalendarOf(swap))
                    // What would be told now, had it not been; who asks waits neither for the morning nor for a plan that settles.
                    .FirstOrDefault(n => n.Moment == moment && (n.Due <= w.Now || moment.Invites()) && w.Now <= n.LastUseful);
                var refusal = person?.Mail is null
                    ? "has no mail address"
                    : due is null
                    ? $"'{wanted.Moment}' is not to be told now"
                    : person.MailOff && !moment.IsNeeded()
                    ? "wants no mail that the change can do without"
                    : null;
                if (refusal is not null)
                {
                    skipped.Add($"{id} {swap.Name} {refusal}.");
                    continue;
                }
                var language = person!.Language ?? "en";
                var (subject, _) = await reader.TextAsync(moment, language, swap, facts, "", w.Now, cancel, key: due!.Key);
                w.Db.Notices.Add(new()
                {
                    Id = Guid.CreateVersion7(w.Now).ToString("N"),
                    Refresh = refresh,
                    Swap = id,
                    Key = $"{due.Key}/again {w.Now:yyyy-MM-dd'T'HH:mm:ss.ffffff}",
                    Moment = moment.Key(),
                    Language = language,
                    To = person.Mail!,
                    Subject = subject,
                    Start = moment.Invites() ? swap.Start : null,
                    MadeAt = w.Now,
                    LastUseful = due.LastUseful,
                    TryAt = w.Now
                });
                made++;
            }
            if (made > 0)
                w.Note("notices.again", null, $"{w.By} had '{wanted.Moment}' sent again to {(made == 1 ? "1 person" : $"{made} people")}");
            return new NoticesMade(made, skipped);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<MailTaken>, ProblemHttpResult>> MailAsync(
        RefreshKey refresh, HttpRequest request, ReceivedMail received, CancellationToken cancel)
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        if (body.Length is 0 or > ReceivedMail.MostBytes)
            return new MailSizeProblem(ReceivedMail.MostBytes).ToHttp();
        body.Position = 0;
        return (await received.TakeAsync(body, refresh, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<List<NoticeTextSeen>>, ProblemHttpResult>> TextsAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var own = await NoticeTexts.OwnAsync(db, refresh, cancel);
        return TypedResults.Ok(Enum.GetValues<NoticeMoment>()
            .SelectMany(m => PersonDesk.Languages.Select(l => new NoticeTextSeen(
                m.Key(),
                l,
                own.GetValueOrDefault((m.Key(), l)) ?? NoticeTexts.BuiltInText(m, l),
                own.ContainsKey((m.Key(), l)),
                NoticeText.FieldsOf(m)))).ToList());
    }

    internal static async Task<Results<Ok<NoticeTextSeen>, ProblemHttpResult>> SetTextAsync(
        RefreshKey refresh, string moment, string language, NoticeTextWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (NoticeMoments.Of(moment) is not { } at) return ServiceProblem.NotFound("moment", moment).ToHttp();
        if (!PersonDesk.Languages.Contains(language)) return ServiceProblem.NotFound("language", language).ToHttp();
        var isOwn = wanted.Text.Trim().Length > 0;
        if (isOwn && NoticeText.Read(at, wanted.Text) is { IsOk: false } wrong) return wrong.Problems.ToHttp();
        if (NoticeMail.StrangeLinks(wanted.Text) is [var strange, ..]) return new NoticeLinkProblem(strange).ToHttp();
        return (await writer.WriteAsync<NoticeTextSeen>(refresh, async w =>
        {
            var row = await w.Db.NoticeTexts.FirstOrDefaultAsync(
                t => t.Refresh == refresh && t.Moment == moment && t.Language == language, cancel);
            if (isOwn && row is null)
                w.Db.NoticeTexts.Add(new() { Refresh = refresh, Moment = moment, Language = language, Text = wanted.Text });
            else if (isOwn) row!.Text = wanted.Text;
            else if (row is not null) w.Db.NoticeTexts.Remove(row);
            w.Note(
                "notices.text",
                null,
                isOwn ? $"{w.By} set the text for {moment} in {language}" : $"{w.By} took the text that ships for {moment} in {language}",
                new() { ["moment"] = moment, ["language"] = language });
            return new NoticeTextSeen(
                moment, language, isOwn ? wanted.Text : NoticeTexts.BuiltInText(at, language), isOwn, NoticeText.FieldsOf(at));
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<NoticePreview>, ProblemHttpResult>> PreviewAsync(
        RefreshKey refresh, NoticePreviewWanted wanted, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        if (NoticeMoments.Of(wanted.Moment) is not { } moment)
            return ServiceProblem.NotFound("moment", wanted.Moment).ToHttp();
        if (!PersonDesk.Languages.Contains(wanted.Language))
            return ServiceProblem.NotFound("language", wanted.Language).ToHttp();
        if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == wanted.Swap && s.Refresh == refresh, cancel) is not { } swap)
            return ServiceProblem.NotFound("swap", wanted.Swap).ToHttp();
        var draft = wanted.Text is { } text ? NoticeText.Read(moment, text) : default;
        if (wanted.Text is not null && !draft.IsOk)
            return TypedResults.Ok(new NoticePreview([.. draft.Problems.Select(p => p.Message)], "", "", ""));
        var reader = await NoticeReader.ReadAsync(db, await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == refresh, cancel), cancel);
        var (subject, markdown) = await reader.TextAsync(
            moment,
            wanted.Language,
            swap,
            await reader.FactsAsync(swap, null, cancel),
            "https://yard.example/my#…",
            time.GetUtcNow(),
            cancel,
            wanted.Text is null ? null : draft.Value);
        return TypedResults.Ok(new NoticePreview([], subject, NoticeMail.Plain(markdown), NoticeMail.Html(markdown)));
    }
}
