using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Notices;
using YardRelay.Records;
using YardRelay.Service.Clocks;

namespace YardRelay.Service.Notices;

/// <summary>
/// What the people of a refresh were told and are still to be told, seen from afar: of thousands few have anything due, and only these are
/// looked at closely.
/// </summary>
internal sealed class NoticeOutlook
{
    private readonly RefreshRow _refresh;
    private readonly ILookup<string, Made> _made;
    private readonly HashSet<string> _ready;
    private readonly HashSet<string> _wiped;
    private readonly ILookup<(string, DateTimeOffset), DateTimeOffset> _asked;
    private readonly ILookup<string, AnswerGiven> _answers;

    private NoticeOutlook(
        RefreshRow refresh, NoticeReader reader, ILookup<string, Made> made, HashSet<string> ready, HashSet<string> wiped,
        ILookup<(string, DateTimeOffset), DateTimeOffset> asked, ILookup<string, AnswerGiven> answers)
    {
        (_refresh, Reader, _made, _ready, _wiped, _asked, _answers) = (refresh, reader, made, ready, wiped, asked, answers);
    }

    /// <summary>A notice that was made.</summary>
    /// <param name="Trouble">Why it will not arrive; null: it went, or is still to go.</param>
    internal sealed record Made(string Key, string Moment, DateTimeOffset? Start, DateTimeOffset At, string? Trouble);

    public NoticeReader Reader { get; }

    /// <param name="only">Ids of the swaps that it is asked about; null: all of the refresh.</param>
    public static async Task<NoticeOutlook> ReadAsync(
        YardDb db, RefreshRow refresh, CancellationToken cancel, IReadOnlyCollection<string>? only = null)
    {
        var key = refresh.Key;
        return new(
            refresh,
            await NoticeReader.ReadAsync(db, refresh, cancel),
            (await db.Notices.AsNoTracking()
                .Where(n => n.Refresh == key && (only == null || only.Contains(n.Swap)))
                .Select(n => new { n.Swap, n.Key, n.Moment, n.Start, n.MadeAt, n.SentAt, n.TryAt, n.BouncedAt, n.Trouble })
                .ToListAsync(cancel))
                .ToLookup(n => n.Swap, n => new Made(
                    n.Key, n.Moment, n.Start, n.MadeAt,
                    n.BouncedAt is not null || (n.SentAt is null && n.TryAt is null) ? n.Trouble ?? "it was not sent" : null)),
            (await db.Steps.AsNoTracking()
                .Where(s => s.Key == "ready"
                    && s.State == "done"
                    && (only == null || only.Contains(s.Swap))
                    && db.Swaps.Any(w => w.Id == s.Swap && w.Refresh == key))
                .Select(s => s.Swap)
                .ToListAsync(cancel)).ToHashSet(),
            (await db.OldComputers.AsNoTracking()
                .Where(c => c.Refresh == key && c.WipedAt != null && (only == null || only.Contains(c.Swap)))
                .Select(c => c.Swap)
                .ToListAsync(cancel)).ToHashSet(),
            (await db.Exchanges.AsNoTracking()
                .Where(x => x.Refresh == key && x.End == null)
                .Select(x => new { x.Asked, x.AskedStart, x.At })
                .ToListAsync(cancel))
                .ToLookup(x => (x.Asked, x.AskedStart), x => x.At),
            await NoticeReader.AnswersAsync(db, key, null, cancel));
    }

    /// <summary>Notices that were made for a swap.</summary>
    public IEnumerable<Made> MadeFor(SwapRow swap) => _made[swap.Id];

    /// <summary>Whether the person has said that they are ready.</summary>
    public bool IsReady(SwapRow swap) => _ready.Contains(swap.Id);

    /// <summary>The appointment in the newest notice that carried one; null: none did, or it was taken back.</summary>
    public DateTimeOffset? ToldStart(SwapRow swap) =>
        _made[swap.Id].Where(n => NoticeMoments.Of(n.Moment)?.Invites() == true).MaxBy(n => n.At) is { } told
        && told.Moment != NoticeMoment.Unbooked.Key()
            ? told.Start
            : null;

    /// <inheritdoc cref="NoticeReader.Rough"/>
    public NoticeFacts Rough(SwapRow swap) => Reader.Rough(
        swap,
        ToldStart(swap),
        IsReady(swap),
        _wiped.Contains(swap.Id),
        swap.Start is { } at && _asked.Contains((swap.Id, at)) ? _asked[(swap.Id, at)].Max() : null,
        [.. _answers[swap.Id]]);

    /// <summary>What a person hears next, and when; or why they never hear of their time by mail.</summary>
    public NextNotice? NextOf(SwapRow swap, PersonRow? person, bool canSend, DateTimeOffset now)
    {
        var told = ToldStart(swap);
        // A time of which neither mail nor anybody has told them, or one that they were told and is no longer so.
        var isNews = swap is { CalledOffAt: null, SwappedAt: null, AcceptedAt: null }
            && (swap.Start ?? told) > now
            && told != swap.Start
            && !(told is null && swap.ToldAt is not null);
        if (Unreachable(person, canSend) is { } why) return isNews ? new(null, null, why) : null;
        var keys = _made[swap.Id].Select(n => n.Key).ToHashSet();
        var next = NoticePlan.Of(Rough(swap), Reader.CalendarOf(swap))
            .FirstOrDefault(n => !keys.Contains(n.Key)
                && n.LastUseful >= now
                && n.Due <= n.LastUseful
                && (n.Moment.IsNeeded() || person?.MailOff != true));
        if (isNews && next?.Moment is not (NoticeMoment.Booked or NoticeMoment.Moved or NoticeMoment.Unbooked))
            return new(null, null, "by the time a mail may go it is too late");
        return next is null ? null : new(next.Moment.Key(), next.Due > now ? next.Due : now, null);
    }

    /// <summary>Why a person does not know the time of their visit, nor hears of it in time; null: they do.</summary>
    public string? UntoldBecause(SwapRow swap, PersonRow? person, bool canSend, DateTimeOffset now)
    {
        if (swap.Start is not { } start) return null;
        var next = NextOf(swap, person, canSend, now);
        if (next?.Why is { } never) return never;
        var told = ToldStart(swap);
        if (told == start)
            return swap.ToldAt is null && _made[swap.Id].Where(n => n.Start == start).MaxBy(n => n.At)?.Trouble is { } trouble
                ? $"their mail did not arrive ({trouble.TrimEnd('.')})"
                : null;
        // Somebody said it, or a mail that goes before will.
        return (told is null && swap.ToldAt is not null) || next?.Due < start ? null : "no mail goes before it begins";
    }

    private string? Unreachable(PersonRow? person, bool canSend) =>
        !canSend ? "the service has no mail server"
        : _refresh.NoticesSince is null ? "nobody is told by mail: it is switched off"
        : person?.Mail is not { Length: > 0 } ? "no mail address is known"
        : null;
}
