using System.Text.Json.Nodes;

namespace YardRelay.EndToEnd;

/// <summary>
/// What a desk looks after beside plan and trips, by command line alone: each thing is set, listed, used and taken out, and bad input is
/// refused in words.
/// </summary>
public sealed class DeskByCommandLineTests : IAsyncLifetime
{
    private readonly Yard _yard = new();

    public async ValueTask InitializeAsync()
    {
        await _yard.StartServiceAsync();
        File.WriteAllText(
            _yard.Folder["roster.csv"],
            "person,name,site,room,kind,old_tag,new_tag,receiver\nk1,Ida Moreau,North Quay,Hall,renew,KB-1,KB-11,\nk2,Sol Okafor,North "
                + "Quay,Desk 4,renew,KB-2,KB-12,\nk3,Ana Petrov,North Quay,Desk 7,renew,KB-3,KB-13,\nk4,Per Lunde,Lantern "
                + "Point,Crew,leave,KB-4,,k1\n");
        Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        Line("roster", "take", _yard.Folder["roster.csv"]);
    }

    public ValueTask DisposeAsync()
    {
        _yard.Dispose();
        return ValueTask.CompletedTask;
    }

    private string Line(params string[] args) => Flat(_yard.Line(args));

    private string Refused(params string[] args)
    {
        var ran = _yard.TryLine(args);
        ran.Exit.ShouldNotBe(0, ran.All);
        return Flat(ran.Err);
    }

    private JsonNode Json(params string[] args) => JsonNode.Parse(_yard.Line([.. args, "--json"]))!;

    private static string Flat(string text) =>
        string.Join(' ', text.Split((char[])[' ', '\n', '│', '─'], StringSplitOptions.RemoveEmptyEntries));

    [Fact]
    public void What_the_plan_has_to_go_by_is_set_listed_and_taken_out()
    {
        Line("site", "set", "Lantern Point", "--name", "Lantern Point", "--room", "Crew:1");
        Line("site", "list").ShouldContain("Lantern Point");
        Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "08:00-12:00");
        Line("technician", "list").ShouldContain("Noor Haddad");
        Line("way", "set", "North Quay", "Lantern Point", "25");
        Line("way", "list").ShouldContain("25");
        Line("closure", "set", "stock", "--name", "Stocktaking", "--site", "North Quay", "--at", "2026-12-08");
        File.WriteAllText(
            _yard.Folder["days.ics"],
            "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//kestrelbay.example//days//EN\r\nBEGIN:VEVENT\r\n"
                + "UID:regatta@kestrelbay.example\r\nDTSTAMP:20261101T000000Z\r\nDTSTART;VALUE=DATE:20261210\r\n"
                + "DTEND;VALUE=DATE:20261211\r\nSUMMARY:Regatta\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n");
        for (var time = 0; time < 2; time++) Line("closure", "calendar", _yard.Folder["days.ics"]);
        var closures = Json("closure", "list").AsArray();
        closures.Select(c => (string?)c!["name"]).Order().ShouldBe(["Regatta", "Stocktaking"]);
        Line("delivery", "set", "second", "--name", "Second batch", "--arrives", "2026-12-09 10:00", "--tag", "KB-12");
        Line("delivery", "list").ShouldContain("Second batch");
        Line("spare", "set", "KB-99", "--site", "North Quay", "--model", "Gannet 14");
        Line("wave", "set", "first", "--name", "First", "--from", "2026-12-07", "--until", "2026-12-09");
        Line("estimate", "set", "kind", "renew", "--unattended", "90");
        Line("estimate", "list").ShouldContain("renew");
        Line("estimate", "ways").ShouldContain("cloud", Case.Insensitive);
        Line("estimate", "real").ShouldNotBeEmpty();
        Line("group", "set", "desk", "--name", "Front desk", "--swap", "spring-0001", "spring-0002", "--at-once", "1").ShouldContain(
            "kept apart");
        Line("group", "list").ShouldContain("Front desk");
        Refused("group", "set", "alone", "--name", "Alone", "--swap", "spring-0001").ShouldContain("two");
        Line("choosing", "set", "--until-hours", "12", "--most-per-slot", "2").ShouldContain("12 hours before");
        Line("choosing", "show").ShouldContain("at most 2");
        Line("choosing", "waiting").ShouldContain("Nobody waits");

        // All of it counts: Sol's computer comes on the 9th, the 8th and the 10th are shut, and the two of the desk do not have the same
        // hour.
        Line("plan", "make", "--steps", "300");
        Line("plan", "publish");
        var starts = Json("swap", "list").AsArray()
            .Where(s => s!["appointment"] is not null)
            .ToDictionary(s => (string)s!["id"]!, s =>
                DateTimeOffset.Parse((string)s!["appointment"]!["start"]!, System.Globalization.CultureInfo.InvariantCulture));
        starts["spring-0002"].Day.ShouldBeOneOf(9, 11);
        starts.Values.ShouldAllBe(s => s.Day != 8 && s.Day != 10);
        Line("plan", "slack").ShouldContain("All done in time");

        foreach (var (what, key) in new[]
        {
            ("closure", "stock"),
            ("delivery", "second"),
            ("spare", "KB-99"),
            ("wave", "first"),
            ("group", "desk")
        })
        {
            Refused(what, "drop", "slip").ShouldContain($"There is no {what} 'slip'");
            Line(what, "drop", key).ShouldContain("is out");
            Line(what, "list").ShouldNotContain(key);
        }
        Line("estimate", "drop", "kind/renew").ShouldContain("Estimated again");
        Json("estimate", "list").AsArray().ShouldBeEmpty();
    }

    [Fact]
    public void An_old_computer_is_followed_from_hand_to_shelf_to_pallet_and_is_not_wiped_or_sent_before_its_gates_are_open()
    {
        Line("old", "hold", "0").ShouldContain("0 days");
        Json("old", "list").AsArray().Select(o => (string?)o!["tag"]).ShouldBe(["KB-1", "KB-2", "KB-3", "KB-4"]);
        Line("old", "take", "KB-1", "KB-2").ShouldContain("KB-2 of Sol Okafor");
        Line("old", "put", "KB-1", "--at", "Workshop, shelf 3").ShouldContain("Workshop, shelf 3");
        Line("old", "list", "shelf 3").ShouldContain("Ida Moreau");
        Line("old", "load", "KB-1", "KB-2", "--pallet", "P-07");
        Line("pallet", "list").ShouldContain("P-07 2");
        Line("old", "unload", "KB-2", "--at", "Workshop, bench").ShouldContain("bench");
        Line("pallet", "print", "P-07").ShouldContain("KB-1");
        Line("pallet", "print", "P-07", "--to-file", _yard.Folder["p.csv"]);
        File.ReadAllText(_yard.Folder["p.csv"]).ShouldNotContain("KB-2");
        Refused("old", "wipe", "KB-1", "--method", "three passes", "--evidence", "W-1").ShouldContain("sign", Case.Insensitive);
        Refused("pallet", "send", "P-07", "--as", "loaded", "--to", "the leasing company").ShouldContain("returned");
        Refused("pallet", "send", "P-07", "--as", "returned", "--to", "the leasing company").ShouldContain("KB-1");
        Refused("old", "take", "KB-77").ShouldContain("KB-77");
        var moves = Json("old", "show", "KB-1")["moves"]!.AsArray();
        moves.Count.ShouldBe(3);
        Line("old", "show", "KB-1").ShouldContain("It must not be wiped");
    }

    [Fact]
    public void What_goes_otherwise_is_looked_at_before_it_is_done_and_resumed_after()
    {
        Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "08:00-12:00", "12:45-17:00");
        Line("technician", "set", "theo", "--name", "Theo Brandt", "--site", "North Quay", "--shift", "08:00-12:00", "12:45-17:00");
        Line("plan", "make", "--steps", "200");
        Line("plan", "publish");
        string? Start(string swap) => (string?)Json("swap", "show", swap)["swap"]!["appointment"]?["start"];
        var before = Start("spring-0001");
        before.ShouldNotBeNull();
        Refused("detour", "no-show", "spring-0001", "--soonest").ShouldContain("has not begun");
        Line("detour", "gone", "spring-0001", "--why", "left the company", "--look").ShouldContain("Ida Moreau");
        Start("spring-0001").ShouldBe(before);
        Line("detour", "late", "spring-0002", "30");
        Line("spare", "set", "KB-99", "--site", "North Quay");
        Line("detour", "dead", "spring-0003", "--why", "it does not start").ShouldContain("KB-99");
        ((string?)Json("swap", "show", "spring-0003")["swap"]!["newTag"]).ShouldBe("KB-99");
        Line("detour", "wrong", "spring-0002", "KB-55", "--why", "labels mixed up").ShouldContain("KB-55");
        Refused("detour", "wrong", "spring-0002", "KB-11").ShouldContain("Exchange the two");
        Line("detour", "gone", "spring-0002", "--why", "left the company");
        Refused("detour", "late", "spring-0002", "30").ShouldNotBeEmpty();
        Line("detour", "resume", "spring-0002");
        Refused("detour", "disk-died", "spring-0001", "--why", "it clicks").ShouldContain("no trip of KB-1 ever ended");
        Refused("technician", "hand-over-day", "noor", "--to", "theo", "--note", "Noor is ill", "--dry-run").ShouldContain(
            "nothing left today");
        Refused("detour", "dead", "spring-0001", "--why", "no picture").ShouldContain("spare", Case.Insensitive);
    }

    [Fact]
    public void What_is_kept_of_a_person_is_shown_named_exported_and_erased()
    {
        Line("person", "keep", "30").ShouldContain("30 days");
        Line("person", "names", "asked");
        Line("person", "kept", "spring-0004").ShouldNotBeEmpty();
        Line("person", "export", "spring-0004", "--to", _yard.Folder["per.zip"]);
        File.GetUnixFileMode(_yard.Folder["per.zip"]).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        Refused("person", "erase", "spring-0004", "--reason", "asked for it").ShouldNotBeEmpty();
        File.WriteAllText(_yard.Folder["places.yaml"], _yard.Line("places", "standard"));
        Line("places", "set", _yard.Folder["places.yaml"]);
        Line("places", "show").ShouldNotBeEmpty();
        File.WriteAllText(_yard.Folder["bad.yaml"], "rules:\n  - nothing\n");
        Refused("places", "set", _yard.Folder["bad.yaml"]).ShouldNotBeEmpty();
        Line("places", "drop");
        Line("catalogue", "set", "berth", "--program", "Berth Planner*", "--offer", "Berth Planner 7", "--where", "program shop");
        Line("catalogue", "list").ShouldContain("Berth Planner 7");
        Refused("catalogue", "drop", "bert").ShouldContain("There is berth");
        Line("catalogue", "drop", "berth");
        Refused("notice", "on").ShouldContain("--mail");
        Line("notice", "off").ShouldNotBeEmpty();
        Line("checklist", "list").ShouldNotBeEmpty();
    }
}
