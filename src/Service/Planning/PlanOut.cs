using System.Globalization;
using System.Text;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using MiniExcelLibs;
using YardRelay.Contracts;
using YardRelay.Service.Paper;

namespace YardRelay.Service.Planning;

/// <summary>An appointment in a calendar: one that stands, or one that was called off.</summary>
/// <param name="Sequence">Grows whenever it was moved or called off (RFC 5545, 3.8.7.4).</param>
internal sealed record CalendarEntry(AppointmentSeen At, int Sequence, DateTimeOffset ChangedAt, bool IsCancelled);

/// <summary>Plans in open formats: iCalendar (RFC 5545), CSV (RFC 4180), XLSX.</summary>
internal static class PlanOut
{
    private static readonly string[] Heads = [
        "swap", "person", "site", "room", "technician", "what", "date", "start", "hands_on_until", "last_part_from", "end"
    ];

    /// <summary>A calendar with the time zone that its times are in. The same appointment has the same UID for ever.</summary>
    public static string Calendar(string name, string refresh, string zone, IEnumerable<CalendarEntry> entries)
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//Yard Relay//Plan//EN", Method = "PUBLISH" };
        calendar.AddProperty("X-WR-CALNAME", name);
        var all = entries.ToList();
        calendar.AddTimeZone(CalendarZones.Of(zone));
        var clock = TimeZoneInfo.FindSystemTimeZoneById(zone);
        CalDateTime Local(DateTimeOffset at) => new(TimeZoneInfo.ConvertTime(at, clock).DateTime, zone);
        foreach (var entry in all.OrderBy(e => e.At.Start).ThenBy(e => e.At.Swap, StringComparer.Ordinal))
        {
            var at = entry.At;
            var parts = new StringBuilder();
            parts.Append(
                CultureInfo.InvariantCulture,
                $"Hands-on {TimeZoneInfo.ConvertTime(at.Start, clock):HH:mm}-{TimeZoneInfo.ConvertTime(at.HandsOnUntil, clock):HH:mm}");
            if (at.Finish > at.HandsOnUntil)
                parts.Append(CultureInfo.InvariantCulture, $", unattended until {TimeZoneInfo.ConvertTime(at.Finish, clock):HH:mm}");
            if (at.End > at.Finish)
                parts.Append(
                    CultureInfo.InvariantCulture,
                    $", hands-on {TimeZoneInfo.ConvertTime(at.Finish, clock):HH:mm}-{TimeZoneInfo.ConvertTime(at.End, clock):HH:mm}");
            calendar.Events.Add(new CalendarEvent
            {
                Uid = $"{at.Swap}{(at.IsBench ? "-bench" : "")}@{refresh}.yardrelay.example",
                Sequence = entry.Sequence,
                DtStamp = new CalDateTime(entry.ChangedAt.UtcDateTime, "UTC"),
                Start = Local(at.Start),
                End = Local(at.End),
                Summary = $"{(at.IsBench ? "Bench preparation" : "Swap")}: {at.Person}",
                Location = at.Room is null ? at.Site : $"{at.Site}, {at.Room}",
                Description = $"{at.Swap} with {at.TechnicianName}. {parts}.",
                Status = entry.IsCancelled ? "CANCELLED" : "CONFIRMED",
            });
        }
        return new CalendarSerializer().SerializeToString(calendar)!;
    }

    private static IEnumerable<string[]> Rows(IEnumerable<AppointmentSeen> appointments, string zone)
    {
        var clock = TimeZoneInfo.FindSystemTimeZoneById(zone);
        string Time(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, clock).ToString("HH:mm", CultureInfo.InvariantCulture);
        return appointments.OrderBy(a => a.Start).ThenBy(a => a.Swap, StringComparer.Ordinal).Select(a => new[]
        {
            a.Swap, a.Person, a.Site, a.Room ?? "", a.TechnicianName, a.IsBench ? "bench preparation" : "swap",
            TimeZoneInfo.ConvertTime(a.Start, clock).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), Time(a.Start),
            Time(a.HandsOnUntil), Time(a.Finish), Time(a.End),
        });
    }

    /// <summary>CSV in UTF-8; a cell that a spreadsheet would take for a formula is escaped.</summary>
    public static byte[] Csv(IEnumerable<AppointmentSeen> appointments, string zone) =>
        CsvTable.Write(Rows(appointments, zone).Prepend(Heads));

    /// <summary>A workbook with one sheet.</summary>
    public static byte[] Workbook(IEnumerable<AppointmentSeen> appointments, string zone)
    {
        var table = new System.Data.DataTable();
        foreach (var head in Heads) table.Columns.Add(head);
        foreach (var row in Rows(appointments, zone)) table.Rows.Add([.. row]);
        using var workbook = new MemoryStream();
        workbook.SaveAs(table, sheetName: "Plan");
        return workbook.ToArray();
    }
}
