namespace YardRelay.Line.Shown;

/// <summary>
/// The clock that all times of an output are read from: that of the refresh, as the service says, never that of the machine that the
/// command runs on. It is named once, below what was shown by it.
/// </summary>
internal sealed class WallClock
{
    private TimeZoneInfo _zone = TimeZoneInfo.Utc;
    private bool _isShown;

    /// <summary>Takes the zone that the service named; one that this machine does not know is UTC.</summary>
    public void Take(string? zone) =>
        _zone = zone is not null && TimeZoneInfo.TryFindSystemTimeZoneById(zone, out var known) ? known : TimeZoneInfo.Utc;

    /// <summary>What the clock shows at an instant.</summary>
    public DateTime At(DateTimeOffset at)
    {
        _isShown = true;
        return TimeZoneInfo.ConvertTime(at, _zone).DateTime;
    }

    /// <summary>Names the zone, if anything was shown by this clock.</summary>
    public void Name()
    {
        if (_isShown) Tables.Say($"Times: {_zone.Id}");
        _isShown = false;
    }
}

/// <summary>Instants as the clock of the output shows them.</summary>
internal static class WallTimes
{
    /// <summary>What the clock of the refresh shows at an instant.</summary>
    public static DateTime OnClock(this DateTimeOffset at) => Surroundings.Here.Clock.At(at);
}
