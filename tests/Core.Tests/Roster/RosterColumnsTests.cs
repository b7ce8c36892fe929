using CsCheck;
using YardRelay.Core.Roster;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Roster;

public sealed class RosterColumnsTests
{
    private static readonly Dictionary<string, string> Nothing = [];

    private static RosterReading Read(string csv, params (string Head, string Column)[] kept) =>
        RosterReader.Read(RosterTable.OfCsv(csv), kept.ToDictionary(k => RosterColumns.Form(k.Head), k => k.Column));

    private static Gen<string> Any(string[] beside) =>
        Gen.Int[0, RosterColumns.All.Count + beside.Length - 1].Select(i =>
            i < RosterColumns.All.Count ? RosterColumns.All[i] : beside[i - RosterColumns.All.Count]);

    [Theory]
    [InlineData("Staff No.", "person"), InlineData("E-Mail", "mail"), InlineData("Asset tag", "old_tag"), InlineData(
        "Replacement (tag)", "new_tag"), InlineData("STANDORT", "site"), InlineData("Last day", "closes")]
    public void A_column_is_guessed_from_what_people_call_it(string head, string column) =>
        RosterColumns.Match([head], Nothing).Single().ShouldBe(new(head, column, "guess"));

    [Fact]
    public void What_was_matched_by_hand_counts_before_the_name_and_the_name_before_a_guess()
    {
        var heads = new[] { "Location", "site", "Person", "Tag", "old tag" };
        RosterColumns.Match(heads, Nothing)
            .Select(m => (m.Column, m.By))
            .ShouldBe([("", "none"), ("site", "name"), ("person", "name"), ("", "none"), ("old_tag", "name")]);
        RosterColumns.Match(heads, new Dictionary<string, string> { ["location"] = "site", ["tag"] = "new_tag", ["person"] = "" })
            .Select(m => (m.Column, m.By))
            .ShouldBe([("site", "hand"), ("", "none"), ("", "hand"), ("new_tag", "hand"), ("old_tag", "name")]);
    }

    [Fact]
    public void However_the_heads_are_called_no_column_is_read_twice_and_none_is_lost() =>
        Gen.Select(Any(["Staff no", "Location", "Asset tag", "Shelf", "E-mail", "", "Wave", "Batch"]).Array[0, 12], Any([""]).Array[0, 4])
            .Sample((heads, hand) =>
        {
            var kept = heads.Zip(hand).GroupBy(p => RosterColumns.Form(p.First)).ToDictionary(g => g.Key, g => g.First().Second);
            var matched = RosterColumns.Match(heads, kept);
            matched.Select(m => m.Head).ShouldBe(heads);
            matched.Where(m => m.Column.Length > 0).Select(m => m.Column).ShouldBeUnique();
            matched.ShouldAllBe(m => m.Column.Length == 0 || RosterColumns.All.Contains(m.Column));
        });

    [Fact]
    public void A_leaver_names_who_receives_the_data_and_the_day_the_account_closes()
    {
        const string head = "person,name,site,kind,old_tag,receiver,closes,accounts\n";
        var row = Read(head + "k1,Ida,North,leave,KB-1,k2,31.12.2026,stores; bench").Rows.ShouldHaveSingleItem();
        (row.Kind, row.Receiver, row.Closes).ShouldBe((SwapKind.Leave, "k2", new DateOnly(2026, 12, 31)));
        row.Accounts.ShouldBe(["stores", "bench"]);
        Read(head + "k1,Ida,North,leave,KB-1,k2,soon,").Faults.ShouldHaveSingleItem().Column.ShouldBe("closes");
        Read("person,name,site,kind,old_tag,new_tag,closes\nk1,Ida,North,renew,KB-1,KB-2,2026-12-31\n").Faults.ShouldHaveSingleItem().Reason
            .ShouldContain("only a swap of kind leave closes an account");
    }

    [Fact]
    public void Good_rows_are_read_beside_bad_ones_and_each_bad_one_is_named()
    {
        var reading = Read(
            "person,name,site,old_tag,new_tag\nk1,Ida,North,KB-1,KB-2\nk2,,North,KB-3,KB-4\nk3,Ann,North\nk4,Ben,North,KB-1,KB-9\n"
                + "k5,Cai,North,KB-7,KB-8\n");
        reading.Rows.Select(r => r.Person).ShouldBe(["k1", "k5"]);
        reading.Faults.Select(f => f.Line).ShouldBe([3, 4, 5]);
        reading.Rows.ShouldAllBe(r => r.Kind == SwapKind.Renew, "where there is no kind, every row is a renewal");
    }

    [Fact]
    public void One_tag_in_many_rows_is_one_fault_that_spoils_them_all()
    {
        var reading = Read("person,name,site,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 40).Select(i => $"p{i},Person {i},North,{(i < 30 ? "SAME" : $"O-{i}")},N-{i}\n")));
        reading.Faults.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
            f => f.Value.ShouldBe("SAME"), f => f.Lines!.Count.ShouldBe(30), f => f.Reason.ShouldContain("30 rows have this tag"));
        reading.Rows.Count.ShouldBe(10);
    }

    [Fact]
    public void An_empty_file_and_one_with_a_head_alone_are_told_apart()
    {
        Read("").Faults.ShouldHaveSingleItem().Reason.ShouldContain("empty");
        Read("person,name,site\n").ShouldSatisfyAllConditions(
            r => r.Faults.ShouldBeEmpty(), r => r.Rows.ShouldBeEmpty(), r => r.Columns.Count.ShouldBe(3));
    }
}
