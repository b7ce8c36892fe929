using Ical.Net.CalendarComponents;

namespace YardRelay.Service.Planning;

/// <summary>The zone that the times of a calendar are in, with its rules (RFC 5545, section 3.6.5).</summary>
internal static class CalendarZones
{
    // Rules are written from here on. They may not begin in the future, and plans may lie years ahead.
    private static readonly DateTime KnownFrom = new(2025, 1, 1);

    public static VTimeZone Of(string zone) => VTimeZone.FromDateTimeZone(zone, KnownFrom, includeHistoricalData: false);
}
