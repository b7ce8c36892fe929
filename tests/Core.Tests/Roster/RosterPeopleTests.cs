using YardRelay.Core.Roster;

namespace YardRelay.Core.Tests.Roster;

/// <summary>People of a roster that has no keys are told apart by mail and name.</summary>
public sealed class RosterPeopleTests
{
    private static RosterReading Named(string rows, params KnownPerson[] known) => RosterPeople.Named(
        RosterReader.Read(RosterTable.OfCsv("name,mail,site,kind,old_tag,new_tag,receiver\n" + rows), new Dictionary<string, string>()),
        known, known.Select(k => k.Key));

    private static Dictionary<string, string> KeysOf(RosterReading reading) => reading.Rows.ToDictionary(r => r.OldTag!, r => r.Person);

    [Fact]
    public void Each_gets_a_key_that_tells_nothing_and_keeps_it_when_the_list_is_taken_again()
    {
        const string rows = "Ida Moreau,ida@kestrelbay.example,North,renew,O-1,N-1,\nSol Okafor,,North,renew,O-2,N-2,\n";
        var first = Named(rows);
        first.Faults.ShouldBeEmpty();
        first.Rows.Select(r => r.Person).ShouldBe(["p0001", "p0002"]);
        var known = first.Rows.Select(r => new KnownPerson(r.Person, r.Name, r.Mail, [r.OldTag!])).ToArray();
        // In another order, with one more, a mail that came later, a name that changed.
        var again = Named(
            "Una Berg,,South,renew,O-3,N-3,\nSol Okafor,sol@kestrelbay.example,North,renew,O-2,N-2,\n"
                + "Ida Lindqvist,IDA@kestrelbay.example,North,renew,O-1,N-1,\n",
            known);
        KeysOf(again).ShouldBe(
            new Dictionary<string, string> { ["O-1"] = "p0001", ["O-2"] = "p0002", ["O-3"] = "p0003" }, ignoreOrder: true);
    }

    [Fact]
    public void Two_of_one_name_are_told_apart_by_mail_and_where_nothing_tells_them_apart_it_is_said()
    {
        var apart = Named("Ida Moreau,a@k.example,North,renew,O-1,N-1,\nIda Moreau,b@k.example,South,renew,O-2,N-2,\n");
        KeysOf(apart)["O-1"].ShouldNotBe(KeysOf(apart)["O-2"]);
        var mixed = Named(
            "Ida Moreau,,North,renew,O-3,N-3,\nIda Moreau,a@k.example,North,renew,O-1,N-1,\n"
                + "Ida Moreau,b@k.example,South,renew,O-2,N-2,\n");
        mixed.Rows.Select(r => r.OldTag).ShouldBe(["O-1", "O-2"]);
        var fault = mixed.Faults.ShouldHaveSingleItem();
        (fault.Line, fault.Column).ShouldBe((2, "name"));
    }

    [Fact]
    public void A_name_alone_never_makes_somebody_of_whoever_is_called_so()
    {
        // Another computer, and on one side no mail: it may be Ida, or another Ida who would then see her page.
        var ida = new KnownPerson("k1", "Ida Moreau", null, ["O-1", "N-1"]);
        Named("Ida Moreau,,South,renew,O-9,N-9,\n", ida).Faults.ShouldHaveSingleItem();
        Named("Ida Moreau,b@k.example,South,renew,O-9,N-9,\n", ida).Faults.ShouldHaveSingleItem();
        Named("Ida Moreau,b@k.example,South,renew,O-9,N-9,\n", ida with { Mail = "a@k.example" }).Rows[0].Person.ShouldBe("p0001");
        Named("Ida Moreau,,South,renew,O-1,N-7,\n", ida).Rows[0].Person.ShouldBe("k1");
    }

    [Fact]
    public void One_computer_of_two_people_is_named_as_that()
    {
        var fault = Named("Ida,,North,renew,O-1,N-1,\nSol,,North,renew,O-1,N-2,\n").Faults.ShouldHaveSingleItem();
        (fault.Line, fault.Column).ShouldBe((3, "old_tag"));
        Named("Ida,a@k.example,North,renew,O-1,N-1,\nIda,a@k.example,North,renew,O-1,N-1,\n").Faults.Select(f => f.Line).Distinct()
            .ShouldBe([3]);
    }

    [Fact]
    public void One_person_may_have_two_computers()
    {
        var reading = Named("Ida Moreau,a@k.example,North,renew,O-1,N-1,\nIda Moreau,a@k.example,North,second,O-2,N-2,\n");
        reading.Rows.Select(r => r.Person).Distinct().ShouldHaveSingleItem();
        reading.Faults.ShouldBeEmpty();
    }

    [Fact]
    public void Who_receives_the_files_of_a_leaver_is_found_by_mail_or_name()
    {
        var reading = Named(
            "Ida Moreau,a@k.example,North,renew,O-1,N-1,\nSol Okafor,,North,leave,O-2,,A@k.example\n"
                + "Per Lunde,,North,leave,O-3,,ida moreau\n");
        reading.Rows.Where(r => r.Receiver is not null).Select(r => r.Receiver).Distinct()
            .ShouldBe([reading.Rows.Single(r => r.Name == "Ida Moreau").Person]);
    }

    [Fact]
    public void A_new_key_is_nobody_elses_nor_one_that_was_erased()
    {
        var reading = RosterPeople.Named(
            RosterReader.Read(RosterTable.OfCsv("name,site,old_tag,new_tag\nIda Moreau,North,O-1,N-1\n"), new Dictionary<string, string>()),
            [new("k1", "Sol", null, [])], ["k1", "p0041", "p9"]);
        reading.Rows[0].Person.ShouldBe("p0042");
    }

    [Fact]
    public void A_roster_with_keys_stays_as_it_is()
    {
        var reading = RosterReader.Read(
            RosterTable.OfCsv("person,name,site,old_tag,new_tag\nk1,Ida,North,O-1,N-1\n"), new Dictionary<string, string>());
        RosterPeople.Named(reading, [], []).ShouldBeSameAs(reading);
    }
}
