using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Carrying;
using YardRelay.Core.Notices;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Parcels;

namespace YardRelay.Service.Notices;

/// <summary>What of a refresh decides about its notices, read once for all swaps that are looked at together.</summary>
internal sealed class NoticeReader
{
    private const int AnnounceDaysBefore = 21;

    private readonly YardDb _db;
    private readonly RefreshRow _refresh;
    private readonly IReadOnlyDictionary<string, NoticeCalendar> _calendars;
    private readonly IReadOnlyDictionary<string, string> _technicians;
    private readonly IReadOnlyDictionary<(string, string), string> _texts;
    private readonly IReadOnlyDictionary<string, int> _holds;

    private NoticeReader(
        YardDb db,
        RefreshRow refresh,
        IReadOnlyDictionary<string, NoticeCalendar> calendars,
        IReadOnlyDictionary<string, string> technicians,
        IReadOnlyDictionary<(string, string), string> texts,
        IReadOnlyDictionary<string, int> holds) =>
        (_db, _refresh, _calendars, _technicians, _texts, _holds) = (db, refresh, calendars, technicians, texts, holds);

    public static async Task<NoticeReader> ReadAsync(YardDb db, RefreshRow refresh, CancellationToken cancel)
    {
        var zone = TimeZoneInfo.FindSystemTimeZoneById(refresh.Zone);
        var closures = (await db.Closures.AsNoTracking().Where(c => c.Refresh == refresh.Key).ToListAsync(cancel))
            .ConvertAll(c => (c.Site, Span: LocalSpan.Parse(c.At).Value));
        var sites = await db.Sites.AsNoTracking()
            .Where(s => s.Refresh == refresh.Key)
            .ToDictionaryAsync(s => s.Key, s => ShiftRule.Parse(s.Opens).Value, cancel);
        bool IsWorkday(string site, DateOnly day) => sites[site].On(day, 0).Any()
            && !closures.Exists(c =>
                (c.Site is null || c.Site == site)
                    && c.Span.From <= day.ToDateTime(NoticeCalendar.From)
                    && c.Span.Until >= day.ToDateTime(NoticeCalendar.Until));
        return new(
            db, refresh, sites.Keys.ToDictionary(s => s, s => new NoticeCalendar(zone, day => IsWorkday(s, day))),
            await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh.Key).ToDictionaryAsync(t => t.Key, t => t.Name, cancel),
            await NoticeTexts.OwnAsync(db, refresh.Key, cancel),
            await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh.Key).ToDictionaryAsync(d => d.Key, d => d.HoldDays, cancel));
    }

    public NoticeCalendar CalendarOf(SwapRow swap) =>
        _calendars.GetValueOrDefault(swap.Site) ?? new(TimeZoneInfo.FindSystemTimeZoneById(_refresh.Zone), _ => true);

    /// <summary>
    /// The same as <see cref="FactsAsync"/> without asking the records: days that rest on sign-offs may really be later, and steps may be
    /// done. Of thousands of swaps few have anything due,
    /// and only these are looked at closely.
    /// </summary>
    /// <param name="isReady">The person has said so.</param>
    /// <param name="isWiped">The old computer is wiped already.</param>
    /// <param name="exchangeAsked">When somebody last asked to exchange times.</param>
    /// <param name="answers">What they asked and is answered.</param>
    public NoticeFacts Rough(
        SwapRow swap, DateTimeOffset? told, bool isReady, bool isWiped, DateTimeOffset? exchangeAsked, IReadOnlyList<AnswerGiven> answers)
    {
        DateOnly? accepted = swap.AcceptedAt is { } at ? new RefreshClock(_refresh).DayOf(at) : null;
        return Facts(
            swap,
            told,
            isReady ? 0 : 1,
            !isWiped && swap.OldTag is not null && swap.Kind.HandsIn() ? accepted?.AddDays(_refresh.OldHoldDays) : null,
            swap is { Trips: > 0, PurgedAt: null } ? accepted?.AddDays(_holds.GetValueOrDefault(swap.Depot ?? "", 14)) : null,
            exchangeAsked,
            answers);
    }

    /// <summary>What the swap's notices are computed from.</summary>
    /// <param name="told">Start of the appointment in the newest notice that carried one; null: none, or taken back.</param>
    public async Task<NoticeFacts> FactsAsync(SwapRow swap, DateTimeOffset? told, CancellationToken cancel)
    {
        var clock = new RefreshClock(_refresh);
        var open = swap is { CalledOffAt: null, SwappedAt: null, Start: not null }
            ? (await ChecklistFacts.ReadAsync(_db, swap, cancel)).Steps.Count(s =>
                s.Step is { IsByPerson: true, Phase: Core.Checklists.Phase.Before } && s.State.IsOpen)
            : 0;
        var hold = swap is { AcceptedAt: not null, Trips: > 0, PurgedAt: null }
            ? await HoldReader.ReadAsync(_db, swap, clock.DayOf(DateTimeOffset.UnixEpoch), cancel)
            : null;
        DateOnly? wipe = null;
        if (swap.AcceptedAt is not null && swap.OldTag is not null && swap.Kind.HandsIn())
        {
            var signed = await _db.SignOffs.AsNoTracking().Where(s => s.Swap == swap.Id).Select(s => s.At).ToListAsync(cancel);
            if (signed.Count > 0 && !await _db.OldComputers.AnyAsync(c => c.Swap == swap.Id && c.WipedAt != null, cancel))
                wipe = clock.DayOf(signed.Max()).AddDays(_refresh.OldHoldDays);
        }
        var asked = swap is { SwappedAt: null, Start: { } start }
            ? await _db.Exchanges.AsNoTracking()
                .Where(x => x.Asked == swap.Id && x.AskedStart == start && x.End == null)
                .MaxAsync(x => (DateTimeOffset?)x.At, cancel)
            : null;
        return Facts(
            swap,
            told,
            open,
            wipe,
            hold?.Until,
            asked,
            await AnswersAsync(_db, _refresh.Key, swap.Id, cancel) is { Count: > 0 } answers ? [.. answers[swap.Id]] : []);
    }

    private NoticeFacts Facts(
        SwapRow swap, DateTimeOffset? told, int open, DateOnly? wipe, DateOnly? held, DateTimeOffset? exchangeAsked,
        IReadOnlyList<AnswerGiven> answers) => new(
            _refresh.NoticesSince ?? DateTimeOffset.MaxValue.AddYears(-1),
            _refresh.Starts.AddDays(-AnnounceDaysBefore),
            swap.Start,
            swap.BookedAt,
            swap.Start - TimeSpan.FromHours(_refresh.ChooseHours),
            told,
            swap.CalledOffAt, swap.SurveyedAt, open, swap.SwappedAt, swap.UrgentReadyAt, swap.RestoredAt, swap.AcceptedAt, wipe, held,
            exchangeAsked, answers);

    /// <summary>What people asked and is answered, by swap.</summary>
    /// <param name="swap">Of one swap; null: of all of the refresh.</param>
    public static async Task<ILookup<string, AnswerGiven>> AnswersAsync(YardDb db, string refresh, string? swap, CancellationToken cancel)
    {
        var causes = Persons.PersonReader.Says.Keys.ToList();
        return (await db.FollowUps.AsNoTracking()
            .Where(f => f.Refresh == refresh
                && (swap == null || f.Swap == swap)
                && f.DoneAt != null
                && f.Outcome != null
                && causes.Contains(f.Cause))
            .OrderBy(f => f.DoneAt)
            .Select(f => new { f.Swap, f.Id, f.DoneAt })
            .ToListAsync(cancel))
            .ToLookup(f => f.Swap, f => new AnswerGiven(f.Id, f.DoneAt!.Value));
    }

    /// <summary>The text of a notice for a person, with its values.</summary>
    /// <param name="key">The notice's key; null: of none yet.</param>
    public async Task<(string Subject, string Markdown)> TextAsync(
        NoticeMoment moment, string language, SwapRow swap, NoticeFacts facts, string link, DateTimeOffset now, CancellationToken cancel,
        NoticeText? draft = null, string? key = null)
    {
        var culture = CultureInfo.GetCultureInfo(language == "de" ? "de-DE" : "en-GB");
        var clock = new RefreshClock(_refresh);
        string Time(DateTimeOffset? at) => at is { } when ? clock.Local(when).ToString("HH:mm", culture) : "";
        string Day(DateTimeOffset? at) =>
            at is { } when ? clock.Local(when).ToString(language == "de" ? "dddd, d. MMMM" : "dddd d MMMM", culture) : "";
        string Date(DateOnly? day) => day?.ToString(language == "de" ? "d. MMMM yyyy" : "d MMMM yyyy", culture) ?? "";
        string Choose(DateTimeOffset? until) => (until > now, language) switch
        {
            (true, "de") => $"Einen anderen Termin können Sie bis {Day(until)}, {Time(until)} wählen, auf Ihrer eigenen Seite:",
            (true, _) => $"Another time can be chosen until {Day(until)}, {Time(until)}, on your own page:",
            (_, "de") => "Passt das nicht, sagen Sie es auf Ihrer eigenen Seite:",
            _ => "If that does not suit, say so on your own page:",
        };
        var values = new Dictionary<string, string>
        {
            ["name"] = swap.Name,
            ["refresh"] = _refresh.Name,
            ["link"] = link,
            ["day"] = Day(swap.Start),
            ["from"] = Time(swap.Start),
            ["to"] = Time(swap.End),
            ["site"] = swap.Site,
            ["room"] = swap.Room ?? "",
            ["technician"] = swap.Technician is { } who ? _technicians.GetValueOrDefault(who, who) : "",
            ["choose"] = Choose(facts.ChooseUntil),
            ["wiped"] = Date(facts.WipeFrom),
            ["held"] = Date(facts.HeldUntil),
        };
        if (moment == NoticeMoment.ComesAlong)
        {
            var comes = (await _db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).ToListAsync(cancel))
                .Aggregate(Amount.None, (sum, f) => sum + f.Old - f.LeftOut);
            values["files"] = comes.Files.ToString("N0", culture) + (language == "de" ? " Dateien" : " files");
            values["size"] = ByteText.Of(comes.Bytes);
        }
        if (moment == NoticeMoment.Answered)
        {
            var id = key?.Split('/') is [_, var named, ..] ? named : (facts.Answers ?? []).LastOrDefault()?.Question ?? "";
            if (await _db.FollowUps.AsNoTracking().FirstOrDefaultAsync(f => f.Id == id, cancel) is { } asked)
                (values["question"], values["answer"], values["by"]) =
                    (Persons.PersonReader.OwnWords(asked.Words, swap.Name), asked.Outcome ?? "", asked.DoneBy ?? "");
        }
        if (moment == NoticeMoment.Reminder)
            values["steps"] = string.Join(
                '\n',
                (await ChecklistFacts.ReadAsync(_db, swap, cancel)).Steps
                    .Where(s => s.Step is { IsByPerson: true, Phase: Core.Checklists.Phase.Before } && s.State.IsOpen)
                    .Select(s => s.Step.Title));
        var text = draft ?? NoticeTexts.Of(_texts, moment, language, swap.Kind);
        var (subject, markdown) = text.With(values);
        // Whoever reads it elsewhere must know whose clocks are meant; where no time is told, there is nothing to say.
        return swap.Start is not null && text.Body.Contains("{from}", StringComparison.Ordinal)
            ? (subject, $"{markdown.TrimEnd()}\n\n{(language == "de" ? "Zeiten" : "Times")}: {_refresh.Zone}\n")
            : (subject, markdown);
    }
}
