namespace YardRelay.Core.Notices;

/// <summary>When people may be written to: by day, on working days of where they are.</summary>
/// <param name="Zone">Of the person's site.</param>
/// <param name="IsWorkday">Whether somebody works there on a day.</param>
public sealed record NoticeCalendar(TimeZoneInfo Zone, Func<DateOnly, bool> IsWorkday)
{
    /// <summary>Nothing is sent before.</summary>
    public static readonly TimeOnly From = new(8, 0);

    /// <summary>Nothing is sent from then on.</summary>
    public static readonly TimeOnly Until = new(19, 0);

    // A calendar on which nobody works for so long is none: then every day counts.
    private const int MostIdleDays = 60;

    /// <summary>The first moment from an instant on at which it may be sent.</summary>
    public DateTimeOffset Fit(DateTimeOffset at)
    {
        var local = TimeZoneInfo.ConvertTime(at, Zone);
        var (day, time) = (DateOnly.FromDateTime(local.DateTime), TimeOnly.FromDateTime(local.DateTime));
        if (Works(day) && time < Until) return time < From ? At(day, From) : at.ToUniversalTime();
        return At(Next(day), From);
    }

    /// <summary>So many working days before a day, at a time of the day.</summary>
    public DateTimeOffset Before(DateOnly day, int workdays, TimeOnly time)
    {
        for (var left = workdays; left > 0; left--) day = Previous(day);
        return At(Works(day) ? day : Previous(day), time);
    }

    /// <summary>The instant of a local time; one that a clock change skips is an hour later.</summary>
    public DateTimeOffset At(DateOnly day, TimeOnly time)
    {
        var local = day.ToDateTime(time);
        if (Zone.IsInvalidTime(local)) local = local.AddHours(1);
        return new DateTimeOffset(local, Zone.GetUtcOffset(local)).ToUniversalTime();
    }

    /// <summary>The local day of an instant.</summary>
    public DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, Zone).DateTime);

    private bool Works(DateOnly day) => IsWorkday(day);

    private DateOnly Next(DateOnly day) => Walk(day, 1);

    private DateOnly Previous(DateOnly day) => Walk(day, -1);

    private DateOnly Walk(DateOnly day, int step)
    {
        for (var i = 1; i <= MostIdleDays; i++)
            if (Works(day.AddDays(i * step))) return day.AddDays(i * step);
        return day.AddDays(step);
    }
}
