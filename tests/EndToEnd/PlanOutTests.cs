using CsCheck;
using YardRelay.Contracts;
using YardRelay.Service.Planning;

namespace YardRelay.EndToEnd;

/// <summary>What goes out in open formats, read back by somebody else's reader.</summary>
public sealed class PlanOutTests
{
    private static readonly string[] Zones = [
        "Europe/London", "Europe/Berlin", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata", "UTC", "Etc/GMT+5"
    ];

    private static readonly string[] Names = [
        "Ida Moreau", "Zoë \"the\" Third, Ltd", "=1+1", "Łucja; Novák", "@home", "line\nbreak", "Ann\\Lee"
    ];

    private static Gen<AppointmentSeen> Appointment =>
        Gen.Select(Gen.Int[0, 365 * 96], Gen.Int[1, 4], Gen.Int[0, 8], Gen.Int[0, 2], Gen.Int[0, Names.Length - 1], Gen.Bool)
            .Select((quarter, before, alone, after, name, bench) =>
    {
        var start = new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero).AddMinutes(15 * quarter);
        var (hands, finish) = (start.AddMinutes(15 * before), start.AddMinutes(15 * (before + alone)));
        return new AppointmentSeen(
            $"autumn-{quarter:00000}", Names[name], "North Quay", name % 2 == 0 ? "Hall, desk 7" : null, "noor", "Noor Haddad", start,
            hands, finish, finish.AddMinutes(15 * after), bench);
    });

    [Fact]
    public void A_calendar_read_back_has_the_same_instants_in_every_zone_through_every_change_of_the_clock() =>
        Gen.Select(Appointment.Array[1, 8], Gen.Int[0, Zones.Length - 1], Gen.Int[0, 9]).Sample((appointments, zone, sequence) =>
        {
            var entries = appointments.DistinctBy(a => (a.Swap, a.IsBench))
                .Select((a, i) => new CalendarEntry(a, sequence + i, a.Start.AddDays(-3), i % 3 == 2)).ToList();
            var text = PlanOut.Calendar("Autumn", "autumn", Zones[zone], entries);
            text.Split("\r\n").ShouldAllBe(line => System.Text.Encoding.UTF8.GetByteCount(line) <= 75, "lines are folded (RFC 5545, 3.1)");
            var read = Ical.Net.Calendar.Load(text)!;
            read.Events.Count.ShouldBe(entries.Count);
            foreach (var entry in entries)
            {
                var found = read.Events.Single(e =>
                    e.Uid == $"{entry.At.Swap}{(entry.At.IsBench ? "-bench" : "")}@autumn.yardrelay.example");
                // An hour that comes twice in autumn cannot be told apart by its local time; nothing is planned there.
                var local = TimeZoneInfo.FindSystemTimeZoneById(Zones[zone]);
                if (!local.IsAmbiguousTime(entry.At.Start)) found.Start!.AsUtc.ShouldBe(entry.At.Start.UtcDateTime, Zones[zone]);
                if (!local.IsAmbiguousTime(entry.At.End)) found.End!.AsUtc.ShouldBe(entry.At.End.UtcDateTime, Zones[zone]);
                (found.Sequence, found.Status).ShouldBe((entry.Sequence, entry.IsCancelled ? "CANCELLED" : "CONFIRMED"));
                found.Summary!.ShouldEndWith(entry.At.Person);
            }
        }, iter: 200);

    [Fact]
    public void A_table_read_back_has_every_cell_and_none_that_a_spreadsheet_would_run() =>
        Appointment.Array[0, 12].Sample(appointments =>
        {
            var text = System.Text.Encoding.UTF8.GetString(PlanOut.Csv(appointments, "Europe/Berlin")).TrimStart('\uFEFF');
            using var reader = new CsvHelper.CsvReader(new StringReader(text), System.Globalization.CultureInfo.InvariantCulture);
            reader.Read();
            reader.ReadHeader();
            var rows = 0;
            foreach (var a in appointments.OrderBy(a => a.Start).ThenBy(a => a.Swap, StringComparer.Ordinal))
            {
                reader.Read().ShouldBeTrue();
                rows++;
                reader["swap"].ShouldBe(a.Swap);
                reader["person"]!.ShouldEndWith(a.Person);
                reader["person"]![0].ShouldNotBeOneOf('=', '+', '-', '@');
                var local = TimeZoneInfo.ConvertTime(a.Start, TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin"));
                $"{reader["date"]} {reader["start"]}".ShouldBe($"{local:yyyy-MM-dd HH:mm}");
            }
            reader.Read().ShouldBeFalse();
            rows.ShouldBe(appointments.Length);
            // The workbook says the same, cell by cell.
            using var workbook = new MemoryStream(PlanOut.Workbook(appointments, "Europe/Berlin"));
            var cells = MiniExcelLibs.MiniExcel.Query(workbook, useHeaderRow: true).Cast<IDictionary<string, object>>().ToList();
            cells.Count.ShouldBe(appointments.Length);
            cells.Select(c => (string)c["swap"]).ShouldBe(appointments.OrderBy(a => a.Start)
                .ThenBy(a => a.Swap, StringComparer.Ordinal)
                .Select(a => a.Swap));
        }, iter: 60);
}
