using CsCheck;
using YardRelay.Core.Notices;

namespace YardRelay.Core.Tests.Notices;

public sealed class NoticeTests
{
    private static readonly TimeZoneInfo Berlin = TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin");
    private static readonly NoticeCalendar Calendar = new(Berlin, day =>
        day.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday) && day != new DateOnly(2026, 12, 25));
    private static readonly DateTimeOffset Since = new(2026, 11, 2, 9, 0, 0, TimeSpan.Zero);

    private static DateTimeOffset Local(int month, int day, int hour, int minute = 0) =>
        new DateTimeOffset(
            2026, month, day, hour, minute, 0, Berlin.GetUtcOffset(new DateTime(2026, month, day, hour, minute, 0))).ToUniversalTime();

    private static NoticeFacts Facts(DateTimeOffset? start = null, DateTimeOffset? told = null) =>
        new(
            Since, new(2026, 11, 1), start, start is null ? null : Since, start?.AddDays(-1), told, null, null, 0, null, null, null, null,
            null, null);

    private static NoticeDue? Of(NoticeFacts facts, NoticeMoment moment) =>
        NoticePlan.Of(facts, Calendar).FirstOrDefault(n => n.Moment == moment);

    [Fact]
    public void The_day_before_is_the_working_day_before_and_moves_with_the_appointment()
    {
        // A Monday: the working day before is Friday.
        Of(Facts(Local(12, 7, 9, 40)), NoticeMoment.DayBefore)!.Due.ShouldBe(Local(12, 4, 14));
        Of(Facts(Local(12, 9, 9, 40)), NoticeMoment.DayBefore)!.Due.ShouldBe(Local(12, 8, 14));
        // Over a holiday and a weekend.
        Of(Facts(Local(12, 28, 9)), NoticeMoment.DayBefore)!.Due.ShouldBe(Local(12, 24, 14));
        var (monday, wednesday) = (
            Of(Facts(Local(12, 7, 9, 40)), NoticeMoment.DayBefore)!, Of(Facts(Local(12, 9, 9, 40)), NoticeMoment.DayBefore)!);
        monday.Key.ShouldNotBe(wednesday.Key);
        monday.Key.ShouldBe("day-before/2026-12-07T08:40Z");
    }

    [Fact]
    public void Who_was_told_a_time_hears_when_it_moves_or_goes_and_who_was_not_hears_it_once()
    {
        var (first, second) = (Local(12, 7, 9, 40), Local(12, 9, 13));
        Of(Facts(first), NoticeMoment.Booked).ShouldNotBeNull();
        Of(Facts(first), NoticeMoment.Moved).ShouldBeNull();
        Of(Facts(first, told: first), NoticeMoment.Booked).ShouldBeNull();
        Of(Facts(first, told: first), NoticeMoment.Moved).ShouldBeNull();
        Of(Facts(second, told: first), NoticeMoment.Moved)!.Key.ShouldEndWith("2026-12-09T12:00Z");
        Of(Facts(null, told: first), NoticeMoment.Unbooked).ShouldNotBeNull();
        Of(Facts(null), NoticeMoment.Unbooked).ShouldBeNull();
        Of(Facts(first) with { CalledOffAt = Since.AddDays(1) }, NoticeMoment.CalledOff).ShouldBeNull();
        NoticePlan.Of(Facts(first, told: first) with { CalledOffAt = Since.AddDays(1) }, Calendar).ShouldHaveSingleItem().Moment
            .ShouldBe(NoticeMoment.CalledOff);
    }

    [Fact]
    public void What_is_no_longer_so_is_not_told_late()
    {
        // Telling is switched on after all of it: nothing that belonged before is made up for.
        var start = Local(12, 7, 9, 40);
        NoticePlan.Of(Facts(start) with { Since = start.AddMinutes(-30), RestoredAt = null }, Calendar).ShouldBeEmpty();
        // On the morning of the day itself only what still helps.
        NoticePlan.Of(Facts(start, told: start) with { Since = Local(12, 7, 7) }, Calendar)
            .ShouldNotContain(n => n.Moment == NoticeMoment.DayBefore && n.Due > n.LastUseful);
        Of(Facts(start) with { AcceptedAt = start.AddHours(2), RestoredAt = start.AddHours(1) }, NoticeMoment.PleaseAccept).ShouldBeNull();
        Of(
            Facts(start) with { UrgentReadyAt = start.AddHours(1), RestoredAt = start.AddHours(2) },
            NoticeMoment.UrgentReady).ShouldBeNull();
        Of(Facts(start) with { WipeFrom = new(2026, 12, 21) }, NoticeMoment.WipeAhead)!.Due.ShouldBe(Local(12, 16, 10));
        Of(Facts(start) with { HeldUntil = new(2026, 12, 21) }, NoticeMoment.HeldEnds)!.Due.ShouldBe(Local(12, 14, 10));
    }

    [Fact]
    public void Nothing_goes_at_night_nor_on_a_day_off_nor_after_it_helps_whatever_the_facts_are()
    {
        var instant = Gen.Int[0, 90 * 24 * 60].Select(m => Since.AddMinutes(m));
        Gen.Select(
            instant, instant, instant.Nullable(), instant.Nullable(), instant.Nullable(), instant.Nullable(), instant.Nullable(),
            Gen.Int[0, 3])
            .Sample((since, booked, start, told, surveyed, restored, urgent, steps) =>
            {
                var facts = new NoticeFacts(
                    since, new(2026, 11, 1), start, booked, start, told, null, surveyed, steps, null, urgent, restored, null,
                    new DateOnly(2026, 12, 30), new DateOnly(2027, 1, 5));
                var all = NoticePlan.Of(facts, Calendar);
                all.Select(n => n.Key).Distinct().Count().ShouldBe(all.Count);
                foreach (var notice in all)
                {
                    var local = TimeZoneInfo.ConvertTime(notice.Due, Berlin);
                    (TimeOnly.FromDateTime(local.DateTime) >= NoticeCalendar.From
                        && TimeOnly.FromDateTime(local.DateTime) < NoticeCalendar.Until)
                        .ShouldBeTrue($"{notice.Moment} at {local}");
                    Calendar.IsWorkday(DateOnly.FromDateTime(local.DateTime)).ShouldBeTrue($"{notice.Moment} on {local}");
                    (notice.Due <= notice.LastUseful && notice.Due >= since)
                        .ShouldBeTrue($"{notice.Moment} {notice.Due} {notice.LastUseful}");
                }
            });
    }

    [Fact]
    public void A_text_is_checked_as_it_is_written_and_says_what_it_may_name()
    {
        NoticeText.Read(NoticeMoment.DayBefore, "# {day}\n\nHello {name}, {link}").IsOk.ShouldBeTrue();
        var wrong = NoticeText.Read(NoticeMoment.PleaseAccept, "# Look\n\nHello {nmae}\nOn {day} {link}").Problems
            .Select(p => p.Message).ToList();
        wrong.Count.ShouldBe(2);
        wrong[0].ShouldStartWith("Line 3: '{nmae}' is no field. Here there are {name}, {refresh}, {link}.");
        wrong[1].ShouldStartWith("Line 4: '{day}' has no value in 'please-accept'. It has {name}, {refresh}, {link}.");
        NoticeText.Read(NoticeMoment.Announced, "").Problems.Count.ShouldBe(2);
        NoticeText.Read(NoticeMoment.Announced, "# s\n" + new string('x', 9000)).Problem.Code.ShouldBe("notice.body");
    }

    [Fact]
    public void What_is_put_in_is_text_whatever_it_says()
    {
        var text = NoticeText.Read(NoticeMoment.Announced, "# For {name}\n\n**{name}** of {refresh}: {link}").Value;
        var (subject, markdown) = text.With(new Dictionary<string, string>
        {
            ["name"] = "Ida\r\nBcc: all <b>[x](javascript:y)",
            ["refresh"] = "*A_B*",
            ["link"] = "https://y.example/my#a_b"
        });
        subject.ShouldBe(@"For Ida\u000D\u000ABcc: all <b>[x](javascript:y)");
        markdown.ShouldBe(
            "**Ida\\\\u000D\\\\u000ABcc\\: all \\<b\\>\\[x\\]\\(javascript\\:y\\)** of \\*A\\_B\\*: https://y.example/my#a_b");
    }
}
