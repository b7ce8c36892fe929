namespace YardRelay.EndToEnd;

/// <summary>
/// What a desk looks after beside plan and trips, by command line alone: each thing is set, listed, used and taken out, and bad input is
/// refused in words.
/// </summary>
public sealed class DeskByCommandLineTests : ByCommandLine, IClassFixture<ServedYard>
{
    public DeskByCommandLineTests(ServedYard yard)
        : base(yard) =>
        Line("roster", "take", FileOf("roster.csv", """
            person,name,site,room,kind,old_tag,new_tag,receiver
            k1,Ida Moreau,North Quay,Hall,renew,KB-1,KB-11,
            k2,Sol Okafor,North Quay,Desk 4,renew,KB-2,KB-12,
            k3,Ana Petrov,North Quay,Desk 7,renew,KB-3,KB-13,
            k4,Per Lunde,Lantern Point,Crew,leave,KB-4,,k1

            """));

    private string Calendar() => FileOf(
        "days.ics",
        "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//kestrelbay.example//days//EN\r\nBEGIN:VEVENT\r\n"
            + "UID:regatta@kestrelbay.example\r\nDTSTAMP:20261101T000000Z\r\nDTSTART;VALUE=DATE:20261210\r\n"
            + "DTEND;VALUE=DATE:20261211\r\nSUMMARY:Regatta\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n");

    [Fact]
    public void Sites_technicians_and_ways_are_set_and_listed()
    {
        Line("site", "set", "Lantern Point", "--name", "Lantern Point", "--room", "Crew:1");
        Line("site", "list").ShouldContain("Lantern Point");
        Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "08:00-12:00");
        Line("technician", "list").ShouldContain("Noor Haddad");
        Line("way", "set", "North Quay", "Lantern Point", "25");
        Line("way", "list").ShouldContain("25");
    }

    [Fact]
    public void Closed_days_come_by_hand_and_from_a_calendar_which_may_come_twice()
    {
        Line("closure", "set", "stock", "--name", "Stocktaking", "--site", "North Quay", "--at", "2026-12-08");
        for (var time = 0; time < 2; time++) Line("closure", "calendar", Calendar());
        Json("closure", "list").AsArray().Select(c => (string?)c!["name"]).Order().ShouldBe(["Regatta", "Stocktaking"]);
    }

    [Fact]
    public void Estimates_are_set_listed_and_made_again()
    {
        Line("estimate", "set", "kind", "renew", "--unattended", "90");
        Line("estimate", "list").ShouldContain("renew");
        Line("estimate", "show", Swap(1)).ShouldContain("90 unattended");
        Line("estimate", "ways").ShouldContain("cloud", Case.Insensitive);
        Line("estimate", "real").ShouldNotBeEmpty();
        Line("estimate", "drop", "kind/renew", "--yes").ShouldContain("Estimated again");
        Json("estimate", "list").AsArray().ShouldBeEmpty();
    }

    [Fact]
    public void Who_may_choose_what_is_set_and_shown()
    {
        Line("choosing", "set", "--until-hours", "12", "--most-per-slot", "2").ShouldContain("12 hours before");
        Line("choosing", "show").ShouldContain("at most 2");
        Line("choosing", "waiting").ShouldContain("Nobody waits");
        Refused("group", "set", "alone", "--name", "Alone", "--swap", Swap(1)).ShouldContain("two");
    }

    [Fact]
    public void A_plan_goes_by_closed_days_deliveries_and_who_is_kept_apart()
    {
        Technicians(("noor", "Noor Haddad", "North Quay"));
        Line("closure", "set", "stock", "--name", "Stocktaking", "--site", "North Quay", "--at", "2026-12-08");
        Line("closure", "calendar", Calendar());
        Line("delivery", "set", "second", "--name", "Second batch", "--arrives", "2026-12-09 10:00", "--tag", "KB-12");
        Line("group", "set", "desk", "--name", "Front desk", "--swap", Swap(1), Swap(2), "--at-once", "1").ShouldContain("kept apart");
        Line("plan", "make", "--steps", "300");
        Line("plan", "publish");
        var starts = Json("swap", "list").AsArray()
            .Where(s => s!["appointment"] is not null)
            .ToDictionary(s => (string)s!["id"]!, s =>
                DateTimeOffset.Parse((string)s!["appointment"]!["start"]!, System.Globalization.CultureInfo.InvariantCulture));
        starts[Swap(2)].Day.ShouldBeOneOf(9, 11);
        starts[Swap(1)].ShouldNotBe(starts[Swap(2)]);
        starts.Values.ShouldAllBe(s => s.Day != 8 && s.Day != 10);
        Line("plan", "slack").ShouldContain("All done in time");
    }

    [Theory]
    [InlineData("closure", "stock", "--name", "Stocktaking", "--site", "North Quay", "--at", "2026-12-08")]
    [InlineData("delivery", "second", "--name", "Second batch", "--arrives", "2026-12-09 10:00", "--tag", "KB-12")]
    [InlineData("spare", "KB-99", "--site", "North Quay", "--model", "Gannet 14")]
    [InlineData("wave", "first", "--name", "First", "--from", "2026-12-07", "--until", "2026-12-09")]
    [InlineData("group", "desk", "--name", "Front desk", "--swap", "@1", "@2", "--at-once", "1")]
    public void What_is_set_is_listed_and_taken_out_by_its_key_and_by_no_other(string what, string key, params string[] how)
    {
        Line([what, "set", key, .. how.Select(h => h[0] == '@' ? Swap(int.Parse(h[1..])) : h)]);
        Line(what, "list").ShouldContain(what == "spare" ? key : how[1]);
        Refused(what, "drop", "slip").ShouldContain($"There is no {what} 'slip'");
        Refused(what, "drop", key).ShouldContain("Nothing was done: say --yes.");
        Line(what, "drop", key, "--yes").ShouldContain("is out");
        Line(what, "list").ShouldNotContain(key);
    }

    [Fact]
    public void An_old_computer_is_followed_from_hand_to_shelf()
    {
        Json("old", "list").AsArray().Select(o => (string?)o!["tag"]).ShouldBe(["KB-1", "KB-2", "KB-3", "KB-4"]);
        Line("old", "take", "KB-1", "KB-2").ShouldContain("KB-2 of Sol Okafor");
        Line("old", "put", "KB-1", "--at", "Workshop, shelf 3").ShouldContain("Workshop, shelf 3");
        Line("old", "list", "shelf 3").ShouldContain("Ida Moreau");
        Json("old", "show", "KB-1")["moves"]!.AsArray().Count.ShouldBe(2);
        Refused("old", "take", "KB-77").ShouldContain("KB-77");
    }

    [Fact]
    public void A_pallet_is_loaded_and_unloaded_and_its_list_says_what_is_on_it_now()
    {
        Line("old", "load", "KB-1", "KB-2", "--pallet", "P-07");
        Line("pallet", "list").ShouldContain("P-07 2");
        Line("old", "unload", "KB-2", "--at", "Workshop, bench").ShouldContain("bench");
        Line("pallet", "print", "P-07").ShouldContain("KB-1");
        Line("pallet", "print", "P-07", "--to-file", Folder["p.csv"]);
        File.ReadAllText(Folder["p.csv"]).ShouldSatisfyAllConditions(t => t.ShouldContain("KB-1"), t => t.ShouldNotContain("KB-2"));
    }

    [Fact]
    public void Nothing_is_wiped_or_sent_before_its_gates_are_open()
    {
        Line("old", "hold", "0").ShouldContain("0 days");
        Line("old", "load", "KB-1", "--pallet", "P-07");
        Refused("old", "wipe", "KB-1", "--method", "three passes", "--evidence", "W-1").ShouldContain("sign", Case.Insensitive);
        Refused("pallet", "send", "P-07", "--as", "loaded", "--to", "the leasing company").ShouldContain("returned");
        Refused("pallet", "send", "P-07", "--as", "returned", "--to", "the leasing company").ShouldContain("KB-1");
        Line("old", "show", "KB-1").ShouldContain("It must not be wiped");
    }

    private string? Start(int swap) => (string?)Json("swap", "show", Swap(swap))["swap"]!["appointment"]?["start"];

    private void Publish()
    {
        Technicians(("noor", "Noor Haddad", "North Quay"), ("theo", "Theo Brandt", "North Quay"));
        Line("plan", "make", "--steps", "200");
        Line("plan", "publish");
    }

    [Fact]
    public void What_goes_otherwise_is_looked_at_before_it_is_done_and_resumed_after()
    {
        Publish();
        var before = Start(1).ShouldNotBeNull();
        Line("detour", "gone", Swap(1), "--why", "left the company", "--look").ShouldContain("Ida Moreau");
        Start(1).ShouldBe(before);
        Line("detour", "gone", Swap(1), "--why", "left the company");
        Refused("detour", "late", Swap(1), "30").ShouldNotBeEmpty();
        Line("detour", "resume", Swap(1));
        Line("detour", "late", Swap(2), "30");
    }

    [Fact]
    public void A_dead_or_a_wrong_computer_is_exchanged_for_one_that_is_free()
    {
        Refused("detour", "dead", Swap(1), "--why", "no picture").ShouldContain("spare", Case.Insensitive);
        Line("spare", "set", "KB-99", "--site", "North Quay");
        Line("detour", "dead", Swap(3), "--why", "it does not start").ShouldContain("KB-99");
        ((string?)Json("swap", "show", Swap(3))["swap"]!["newTag"]).ShouldBe("KB-99");
        Line("detour", "wrong", Swap(2), "KB-55", "--why", "labels mixed up").ShouldContain("KB-55");
        Refused("detour", "wrong", Swap(2), "KB-11").ShouldContain("Exchange the two");
    }

    [Fact]
    public void What_did_not_happen_cannot_be_told()
    {
        Publish();
        Refused("detour", "no-show", Swap(1), "--soonest").ShouldContain("has not begun");
        Refused("detour", "disk-died", Swap(1), "--why", "it clicks").ShouldContain("no trip of KB-1 is known to have begun");
        Refused("technician", "hand-over-day", "noor", "--to", "theo", "--note", "Noor is ill", "--dry-run")
            .ShouldContain("nothing left today");
    }

    [Fact]
    public void What_is_kept_of_a_person_is_shown_and_given_out_to_its_owner_only()
    {
        Line("person", "keep", "30").ShouldContain("30 days");
        Line("person", "names", "asked");
        Line("person", "kept", Swap(4)).ShouldNotBeEmpty();
        Line("person", "export", Swap(4), "--to", Folder["per.zip"]);
        File.GetUnixFileMode(Folder["per.zip"]).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        Refused("person", "erase", Swap(4), "--reason", "asked for it").ShouldNotBeEmpty();
    }

    [Fact]
    public void Places_are_printed_set_and_dropped_and_wrong_ones_are_refused()
    {
        Line("places", "set", FileOf("places.yaml", Printed("places", "standard")));
        Line("places", "show").ShouldNotBeEmpty();
        Refused("places", "set", FileOf("bad.yaml", "rules:\n  - nothing\n")).ShouldNotBeEmpty();
        Line("places", "drop", "--yes");
    }

    [Fact]
    public void The_catalogue_says_what_takes_a_programs_place_and_which_key_was_meant()
    {
        Line("catalogue", "set", "berth", "--program", "Berth Planner*", "--offer", "Berth Planner 7", "--where", "program shop");
        Line("catalogue", "list").ShouldContain("Berth Planner 7");
        Refused("catalogue", "drop", "bert").ShouldContain("There is berth");
        Line("catalogue", "drop", "berth", "--yes");
        Line("catalogue", "list").ShouldNotContain("Berth Planner 7");
    }

    [Fact]
    public void Nobody_is_told_by_mail_where_the_service_has_no_mail_server()
    {
        Refused("notice", "on").ShouldContain("--mail");
        Refused("notice", "off").ShouldContain("Nothing was done: say --yes");
        Line("notice", "off", "--yes").ShouldNotBeEmpty();
    }
}
