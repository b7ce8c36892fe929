namespace YardRelay.Core.Notices;

/// <summary>What is known of a swap that decides what its person is told when.</summary>
/// <param name="Since">When telling people was switched on; nothing that was due before is told late.</param>
/// <param name="AnnounceFrom">First day on which the refresh is announced.</param>
/// <param name="Start">Start of the appointment; null: none.</param>
/// <param name="BookedAt">When it was last booked or moved.</param>
/// <param name="ChooseUntil">Until when another time can be chosen; null: it cannot.</param>
/// <param name="ToldStart">The appointment in the last notice that carried one; null: none did, or it was taken back.</param>
/// <param name="OpenSteps">How many of the person's own steps are open.</param>
/// <param name="ExchangeAsked">When somebody last asked to exchange times; null: nobody does.</param>
/// <param name="Answers">What they asked and is answered; null: nothing.</param>
/// <param name="WipeFrom">The day from which the old computer may be wiped; null: not known.</param>
/// <param name="HeldUntil">The day until which the staged files are kept; null: not known.</param>
public sealed record NoticeFacts(
    DateTimeOffset Since, DateOnly AnnounceFrom, DateTimeOffset? Start, DateTimeOffset? BookedAt, DateTimeOffset? ChooseUntil,
    DateTimeOffset? ToldStart, DateTimeOffset? CalledOffAt,
    DateTimeOffset? SurveyedAt, int OpenSteps, DateTimeOffset? SwappedAt, DateTimeOffset? UrgentReadyAt, DateTimeOffset? RestoredAt,
    DateTimeOffset? AcceptedAt, DateOnly? WipeFrom, DateOnly? HeldUntil, DateTimeOffset? ExchangeAsked = null,
    IReadOnlyList<AnswerGiven>? Answers = null);

/// <summary>A question of the person that is answered.</summary>
/// <param name="Question">Id of the follow-up.</param>
public sealed record AnswerGiven(string Question, DateTimeOffset At);

/// <summary>A notice that a swap should have.</summary>
/// <param name="Key">The same notice again has the same key, so that it is sent once.</param>
/// <param name="Due">From when on it may go.</param>
/// <param name="LastUseful">After that it would say what is no longer so; then it does not go.</param>
public sealed record NoticeDue(NoticeMoment Moment, string Key, DateTimeOffset Due, DateTimeOffset LastUseful);

/// <summary>What a person is told when, from facts. Moves with them: another appointment has other times.</summary>
public static class NoticePlan
{
    // A coordinator who shuffles appointments is left so long before people hear of it.
    private static readonly TimeSpan Settles = TimeSpan.FromMinutes(10);
    private static readonly TimeOnly Morning = new(10, 0);
    private static readonly TimeOnly Afternoon = new(14, 0);
    private const int ReminderWorkdays = 3;
    private const int WipeWorkdays = 3;
    private const int HeldWorkdays = 5;

    /// <summary>All notices that the facts call for, in the order in which they are due.</summary>
    public static IReadOnlyList<NoticeDue> Of(NoticeFacts f, NoticeCalendar calendar)
    {
        var notices = new List<NoticeDue>();
        void Add(NoticeMoment moment, string of, DateTimeOffset due, DateTimeOffset lastUseful)
        {
            // What was due before telling was switched on, or can only go when it is too late, is not told.
            var at = calendar.Fit(due > f.Since ? due : f.Since);
            if (at <= lastUseful && lastUseful >= f.Since)
                notices.Add(new(moment, of.Length == 0 ? moment.Key() : $"{moment.Key()}/{of}", at, lastUseful));
        }

        string Of(DateTimeOffset at) =>
            at.ToUniversalTime().ToString("yyyy-MM-dd'T'HH:mm'Z'", System.Globalization.CultureInfo.InvariantCulture);
        foreach (var answer in f.Answers ?? []) Add(NoticeMoment.Answered, answer.Question, answer.At, answer.At.AddDays(14));
        var isOver = f.AcceptedAt is not null || f.SwappedAt is not null;
        if (f.CalledOffAt is { } off)
        {
            // Who was never told a time need not hear that there is none.
            if (f.ToldStart is not null) Add(NoticeMoment.CalledOff, Of(off), off + Settles, off.AddDays(7));
            return notices;
        }
        if (!isOver)
        {
            // Whose time is known already hears that, and with it everything else.
            if (f.Start is null && f.ToldStart is null)
                Add(NoticeMoment.Announced, "", calendar.At(f.AnnounceFrom, NoticeCalendar.From), DateTimeOffset.MaxValue.AddYears(-1));
            if (f.Start is { } start && f.BookedAt is { } booked)
            {
                if (f.ToldStart is null) Add(NoticeMoment.Booked, Of(start), booked + Settles, start.AddHours(-2));
                else if (f.ToldStart != start) Add(NoticeMoment.Moved, Of(start), booked + Settles, start.AddHours(-1));
                if (f.ExchangeAsked is { } asked && f.ChooseUntil is { } choosing)
                    Add(NoticeMoment.ExchangeAsked, Of(asked), asked, choosing);
                if (f.SurveyedAt is { } surveyed) Add(NoticeMoment.ComesAlong, "", surveyed, start.AddHours(-4));
                // Who is told the time only now needs no reminder of it besides.
                var (reminder, before) = (
                    calendar.Before(calendar.DayOf(start), ReminderWorkdays, Morning),
                    calendar.Before(calendar.DayOf(start), 1, Afternoon));
                if (f.OpenSteps > 0 && reminder > booked) Add(NoticeMoment.Reminder, Of(start), reminder, start.AddDays(-1));
                if (before > booked) Add(NoticeMoment.DayBefore, Of(start), before, start.AddHours(-2));
            }
            else if (f.ToldStart is { } told) Add(NoticeMoment.Unbooked, Of(told), f.Since, told);
        }
        if (f.UrgentReadyAt is { } urgent && f.RestoredAt is null) Add(NoticeMoment.UrgentReady, Of(urgent), urgent, urgent.AddHours(4));
        if (f.RestoredAt is { } restored && f.AcceptedAt is null)
            Add(NoticeMoment.PleaseAccept, Of(restored), restored, restored.AddDays(10));
        if (f.WipeFrom is { } wipe)
            Add(
                NoticeMoment.WipeAhead,
                $"{wipe:yyyy-MM-dd}",
                calendar.Before(wipe, WipeWorkdays, Morning),
                calendar.At(wipe, NoticeCalendar.From));
        if (f.HeldUntil is { } held)
            Add(
                NoticeMoment.HeldEnds,
                $"{held:yyyy-MM-dd}",
                calendar.Before(held, HeldWorkdays, Morning),
                calendar.At(held, NoticeCalendar.From));
        return [.. notices.OrderBy(n => n.Due).ThenBy(n => n.Moment)];
    }
}
