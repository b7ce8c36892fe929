using YardRelay.Core.Roster;

namespace YardRelay.Core.Tests.Roster;

public sealed class TechnicianTableTests
{
    private static (IReadOnlyList<TechnicianLine> Lines, IReadOnlyList<RosterFault> Faults) Read(string csv) =>
        TechnicianTable.Read(RosterTable.OfCsv(csv));

    [Fact]
    public void A_list_as_people_write_it_is_read_with_a_default_for_all_but_the_name()
    {
        var (lines, faults) = Read(
            "Technician;Location;Knows;Working hours;Absence\nNoor Haddad;North Quay, Workshop;tablets;daily "
                + "07:00-11:00;2026-11-26..2026-11-27\nVera Lindqvist;;;;\n");
        faults.ShouldBeEmpty();
        lines.Select(l =>
            (
                l.Key,
                l.Name,
                string.Join('|', l.Sites),
                string.Join('|', l.Skills),
                string.Join('|', l.Shifts.Select(s => s.Text)),
                l.Absences.Count))
            .ShouldBe([
            ("noor-haddad", "Noor Haddad", "North Quay, Workshop", "tablets", "daily 07:00-11:00", 1),
            ("vera-lindqvist", "Vera Lindqvist", "", "", "08:00-12:00|12:45-16:30", 0)]);
    }

    [Fact]
    public void All_that_is_wrong_with_a_list_is_said_at_once_by_line()
    {
        var (lines, faults) = Read(
            "name,key,shifts,away\nNoor,n,08:00-12:00; 11:00-15:00,\nTheo,n,25:00-26:00,soon\n,x,,\nVera,v,,\nVera,v,,\n");
        lines.Select(l => l.Key).ShouldBe(["v"]);
        faults.Select(f => (f.Line, f.Column)).ShouldBe([(2, "shifts"), (3, "shifts"), (3, "away"), (4, "name"), (6, "key")]);
        faults[0].Reason.ShouldContain("overlap");
        faults[4].Reason.ShouldBe("line 5 has this key already.");
        Read("who,where\na,b\n").Faults.Single().Message.ShouldContain("name must be there");
        Read("").Faults.ShouldNotBeEmpty();
    }
}
