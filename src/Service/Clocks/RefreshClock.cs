using YardRelay.Core.Planning;
using YardRelay.Records;

namespace YardRelay.Service.Clocks;

/// <summary>
/// Between instants and the local minutes of a refresh's days. On a day with a clock change local times stay what people read on the wall.
/// </summary>
internal sealed class RefreshClock(RefreshRow refresh)
{
    private readonly TimeZoneInfo _zone = TimeZoneInfo.FindSystemTimeZoneById(refresh.Zone);

    /// <summary>IANA name of the zone, for whoever reads times of it.</summary>
    public string Zone => _zone.Id;

    public DateTimeOffset Local(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, _zone);

    /// <summary>The instant of a minute since 00:00 of day 0; a local time that a clock change skips is taken an hour later.</summary>
    public DateTimeOffset At(int minute) =>
        At(refresh.Starts.AddDays(Minutes.DayOf(minute)).ToDateTime(TimeOnly.MinValue).AddMinutes(minute % Minutes.PerDay));

    /// <summary>The same of a time as clocks show it.</summary>
    public DateTimeOffset At(DateTime local)
    {
        if (_zone.IsInvalidTime(local)) local = local.AddHours(1);
        return new DateTimeOffset(local, _zone.GetUtcOffset(local)).ToUniversalTime();
    }

    public int MinuteOf(DateTimeOffset at)
    {
        var local = Local(at).DateTime;
        return ((DateOnly.FromDateTime(local).DayNumber - refresh.Starts.DayNumber) * Minutes.PerDay) + (int)local.TimeOfDay.TotalMinutes;
    }

    public DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(Local(at).DateTime);

    /// <summary>The instant at which a local day starts.</summary>
    public DateTimeOffset StartOf(DateOnly day) => At((day.DayNumber - refresh.Starts.DayNumber) * Minutes.PerDay);
}
