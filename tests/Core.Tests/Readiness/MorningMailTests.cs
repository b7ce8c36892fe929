using CsCheck;
using YardRelay.Core.Readiness;

namespace YardRelay.Core.Tests.Readiness;

public sealed class MorningMailTests
{
    private static readonly DateTime Day = new(2026, 12, 2);

    [Fact]
    public void It_goes_once_a_day_within_three_hours_of_its_time_however_often_one_looks() =>
        Gen.Select(Gen.Int[0, 21 * 60], Gen.Int[1, 59], Gen.Int[0, 1439]).Sample((at, every, start) =>
        {
            var mail = new MorningMail(TimeOnly.FromTimeSpan(TimeSpan.FromMinutes(at)), null);
            var sent = new List<DateTime>();
            for (var now = Day.AddMinutes(start); now < Day.AddDays(6); now = now.AddMinutes(every))
            {
                if (!mail.IsDue(now, DateOnly.FromDateTime(now).AddDays(3))) continue;
                sent.Add(now);
                mail = mail with { Mailed = DateOnly.FromDateTime(now) };
            }
            sent.Select(s => s.Date).ShouldBeUnique();
            // The first day may begin after its stretch.
            sent.Count.ShouldBeGreaterThanOrEqualTo(5);
            sent.Select(s => s.TimeOfDay - TimeSpan.FromMinutes(at)).ShouldAllBe(l => l >= TimeSpan.Zero && l <= MorningMail.Latest);
        });

    [Theory, InlineData(0, false), InlineData(1, true), InlineData(7, true), InlineData(8, false), InlineData(null, false)]
    public void It_is_about_the_next_week_and_never_about_nothing(int? daysAhead, bool isDue) =>
        new MorningMail(new(7, 0), null)
            .IsDue(Day.AddHours(8), daysAhead is { } days ? DateOnly.FromDateTime(Day).AddDays(days) : null)
            .ShouldBe(isDue);
}
