using YardRelay.Core.Roster;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Roster;

public sealed class RosterReaderTests
{
    private const string Head = "person,name,site,kind,old_tag,new_tag,receiver,free,room,mail\n";

    private static IReadOnlyList<RosterRow> Rows(string csv) => RosterReader.Read(csv).Value;

    private static List<RosterFault> Faults(string csv) => [.. RosterReader.Read(csv).Problems.Cast<RosterFault>()];

    [Fact]
    public void A_roster_is_read_with_byte_order_mark_any_line_end_quotes_and_fields_of_several_lines()
    {
        foreach (var end in new[] { "\n", "\r\n" })
        {
            var rows = Rows("\uFEFF"
                + (Head
                    + "k1,\"Moreau, Ida \"\"the\"\" First\",North Quay,renew,KB-1,KB-2,,2026-11-25 08:00-12:00; 2026-11-26 "
                    + "13:00-17:00,\"Hall\nand stairs\",ida@kestrelbay.example\n\nk2,Sol Okafor,North Quay,ISSUE,,KB-3,,,,\n")
                    .Replace("\n", end, StringComparison.Ordinal));
            rows.Count.ShouldBe(2);
            rows[0].Name.ShouldBe("Moreau, Ida \"the\" First");
            rows[0].Key.ShouldBe("k1/KB-1");
            rows[0].Free.ShouldBe([new(new(2026, 11, 25), new(8, 0), new(12, 0)), new(new(2026, 11, 26), new(13, 0), new(17, 0))]);
            (rows[1].Kind, rows[1].Key, rows[1].Line).ShouldBe((SwapKind.Issue, "k2/KB-3", 5));
        }
    }

    [Fact]
    public void Every_bad_row_is_reported_with_line_column_value_reason_and_remedy_and_nothing_is_taken()
    {
        var faults = Faults(Head + """
            k1,Ida,North Quay,renew,KB-1,KB-2,,,,
            k2,,North Quay,renew,KB-3,KB-4,,,,
            k3,Ann,North Quay,refit,KB-5,KB-6,,,,
            k4,Ben,North Quay,renew,,KB-8,,,,
            k5,Cai,North Quay,leave,KB-9,,,,,
            k6,Dee,North Quay,renew,KB-1,KB-11,,,,
            k7,Eve,North Quay,renew,KB 12,KB-13,,,,
            k8,Fay,North Quay,renew,KB-14,KB-15,,tomorrow,,
            k9,Gil,North Quay,renew,KB-16,KB-16,,,,not mail
            kA,Hal,North Quay
            k1,Ida,North Quay,renew,KB-1,KB-2,,,,

            """);
        faults.Select(f => (f.Line, f.Column, f.Value)).ShouldBe(
        [
            (3, "name", ""), (4, "kind", "refit"), (5, "old_tag", ""), (6, "receiver", ""), (7, "old_tag", "KB-1"), (8, "old_tag", "KB 12"),
            (9, "free", "tomorrow"), (10, "mail", "not mail"), (11, "", "kA,Hal,North Quay"), (12, "person", "k1"),
        ], ignoreOrder: true);
        faults.ShouldAllBe(f => f.Reason.Length > 5 && f.Remedy.Length > 5 && f.Message.StartsWith($"Roster line {f.Line}"));
        faults.Single(f => f.Line == 7).Reason.ShouldContain("line 2");
    }

    [Fact]
    public void A_roster_is_read_as_spreadsheets_write_it_in_any_of_their_alphabets_delimiters_and_orders_of_a_date()
    {
        const string text =
            "Person;Name;Site;Kind;Old tag;New-Tag;Free\nk1;\"Möller; Ida\";Südkai;renew;KB-1;KB-2;\"25/11/2026 8:00-12:00; 03/12/2026 "
                + "08:00-09:30\"\nk2;Zoë – Ã;Südkai;issue;;KB-3;\n";
        var latin = System.Text.CodePagesEncodingProvider.Instance.GetEncoding(1252)!;
        byte[][] files = [
            System.Text.Encoding.UTF8.GetBytes(text),
            [0xEF, 0xBB, 0xBF, .. System.Text.Encoding.UTF8.GetBytes(text)],
            latin.GetBytes(text),
            [0xFF, 0xFE, .. System.Text.Encoding.Unicode.GetBytes(text)],
            [0xFE, 0xFF, .. System.Text.Encoding.BigEndianUnicode.GetBytes(text)],
            System.Text.Encoding.UTF8.GetBytes(text.Replace("\"Möller; Ida\"", "Möller\\ Ida", StringComparison.Ordinal)
                .Replace(';', '\t')
                .Replace("0\t 0", "0; 0", StringComparison.Ordinal))
        ];
        foreach (var file in files)
        {
            var rows = Rows(RosterText.Decode(file));
            rows.Count.ShouldBe(2);
            (
                rows[0].Name.StartsWith("Möller", StringComparison.Ordinal),
                rows[0].Site,
                rows[0].OldTag,
                rows[0].NewTag,
                rows[1].Name).ShouldBe((true, "Südkai", "KB-1", "KB-2", "Zoë – Ã"));
            rows[0].Free.ShouldBe([new(new(2026, 11, 25), new(8, 0), new(12, 0)), new(new(2026, 12, 3), new(8, 0), new(9, 30))]);
        }
    }

    [Theory]
    [InlineData(
        "11/25/2026 08:00-12:00", "2026-11-25"), InlineData(
            "25/11/2026 08:00-12:00",
            "2026-11-25"), InlineData("5.6.2026 08:00-12:00", "2026-06-05"), InlineData("2026-06-05 8:00-9:00", "2026-06-05")]
    [InlineData("05/06/2026 08:00-12:00", null), InlineData(
        "25/11/2026 08:00-09:00; 11/26/2026 08:00-09:00",
        null), InlineData("31.2.2026 08:00-12:00", null), InlineData("2026-06-05 12:00-08:00", null)]
    public void A_date_is_read_in_the_order_that_the_file_tells_and_never_by_a_guess(string free, string? day)
    {
        var csv = $"{Head}k1,Ida,North Quay,renew,KB-1,KB-2,,{free},,\n";
        if (day is not null) Rows(csv)[0].Free[0].Day.ToString("yyyy-MM-dd").ShouldBe(day);
        else Faults(csv).ShouldAllBe(f => f.Line == 2 && f.Column == "free" && f.Remedy.Contains("2026-11-25"));
    }

    [Theory, InlineData("", "empty"), InlineData("person,name\nx,y\n", "missing"), InlineData(
        "person,name,site,kind,name\n", "twice"), InlineData(
        "person,name,site,kind\na,b\uFFFD,c,renew\n", "UTF-8")]
    public void A_file_that_is_no_roster_is_refused_with_what_to_do(string csv, string said) =>
        Faults(csv).ShouldContain(f => f.Message.Contains(said));

    [Fact]
    public void Every_kind_of_swap_says_what_it_has()
    {
        foreach (var kind in Enum.GetValues<SwapKind>())
        {
            var stations = SwapLine.StationsOf(kind).ToList();
            stations.Contains(Station.Restored).ShouldBe(kind.Restores(), kind.ToString());
            (kind.NeedsOld() || kind.NeedsNew()).ShouldBeTrue();
            if (kind.Restores() && kind != SwapKind.Rescue) kind.Stages().ShouldBeTrue();
            SwapLine.Next(SwapLine.Of(kind, stations.ToDictionary(s => s, _ => DateTimeOffset.UnixEpoch))).ShouldBe(stations.Count);
            SwapLine.Next(SwapLine.Of(kind, new Dictionary<Station, DateTimeOffset>())).ShouldBe(0);
        }
    }
}
