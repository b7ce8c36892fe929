using CsCheck;
using YardRelay.Core.Clocks;

namespace YardRelay.Core.Tests;

public sealed class WallTimeTests
{
    private static readonly TimeZoneInfo Berlin = TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin");

    [Fact]
    public void A_time_that_is_typed_as_the_wall_shows_it_is_that_instant_in_every_zone()
    {
        var zones = new[] { "Europe/Berlin", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata", "UTC" };
        Gen.Select(Gen.Int[0, 365 * 24 * 60], Gen.Int[0, zones.Length - 1].Select(i => zones[i])).Sample((minute, name) =>
        {
            var zone = TimeZoneInfo.FindSystemTimeZoneById(name);
            var at = new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero).AddMinutes(minute);
            var wall = TimeZoneInfo.ConvertTime(at, zone);
            var read = WallTime.Read($"{wall:yyyy-MM-dd HH:mm}", zone);
            if (zone.IsAmbiguousTime(wall.DateTime)) read.Problem.ShouldBeOfType<DoubleTimeProblem>();
            else read.Value.ShouldBe(at);
            WallTime.Read($"{wall:yyyy-MM-dd HH:mmzzz}", TimeZoneInfo.Utc).Value.ShouldBe(at, "with its offset it is the same anywhere");
        });
    }

    [Fact]
    public void A_time_that_clocks_skip_or_show_twice_is_not_guessed()
    {
        WallTime.Read("2026-03-29 02:30", Berlin).Problem.ShouldBeOfType<SkippedTimeProblem>();
        var twice = WallTime.Read("2026-10-25 02:30", Berlin).Problem.ShouldBeOfType<DoubleTimeProblem>();
        twice.Message.ShouldEndWith("Say which: '2026-10-25 02:30+02:00' or '2026-10-25 02:30+01:00'.");
        WallTime.Read("2026-10-25 02:30+01:00", Berlin).Value.ShouldBe(new DateTimeOffset(2026, 10, 25, 1, 30, 0, TimeSpan.Zero));
    }

    [Theory]
    [InlineData("tomorrow")]
    [InlineData("2026-11-26")]
    [InlineData("26/11/2026 09:15")]
    [InlineData("2026-13-26 09:15")]
    [InlineData("2026-11-26 9h15")]
    [InlineData("")]
    public void What_is_no_time_is_said_with_one_that_is(string text) =>
        WallTime.Read(text, Berlin).Problem.ShouldBeOfType<UnreadableTimeProblem>().Message.ShouldContain("2026-11-26 09:15");
}
