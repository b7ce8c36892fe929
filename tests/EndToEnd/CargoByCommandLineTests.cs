using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>What a technician does about one swap's files and papers, by command line alone, on swaps that hands work for.</summary>
public sealed class CargoByCommandLineTests(RunningYard yard) : IClassFixture<RunningYard>
{
    private string Line(params string[] args) =>
        string.Join(' ', yard.Line(args).Split((char[])[' ', '\n'], StringSplitOptions.RemoveEmptyEntries));

    private string Refused(params string[] args)
    {
        var ran = yard.TryLine(args);
        ran.Exit.ShouldNotBe(0, ran.All);
        return ran.Err;
    }

    private JsonNode Json(params string[] args) => JsonNode.Parse(yard.Line([.. args, "--json"]))!;

    [Fact]
    public void What_no_further_trip_can_end_is_not_tried_again_and_a_kind_that_is_not_known_names_those_that_are()
    {
        Json("snag", "list", "--kind", "pipe").AsArray()
            .Select(s => (string?)s!["snag"]!["swap"]).Order()
            .ShouldBe(["spring-0002", "spring-0003"]);
        Refused("snag", "retry", "--kind", "pipe").ShouldContain("Nothing was ordered");
        Refused("snag", "retry", "--kind", "no-such-kind").ShouldContain("pipe");
    }

    [Fact]
    public void Folders_are_looked_at_and_one_stays_by_decision_with_a_reason()
    {
        yard.Line("swap", "order", "survey", "spring-0003");
        yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        Line("swap", "folders", "spring-0003", "--depth", "1").ShouldContain("Documents");
        Refused("swap", "carry-list", "spring-0003", "--leave", "Documents").ShouldContain("without a reason");
        Line("swap", "carry-list", "spring-0003", "--leave", "Documents", "--because", "it is on the share").ShouldContain(
            "it is on the share");
        Line("swap", "carry-list", "spring-0003", "--by-rule", "Documents").ShouldNotContain("it is on the share");
        Line("swap", "lost", "KB-3").ShouldContain("Ana Petrov");
        Json("swap", "lost", "nobody of that name").AsArray().ShouldBeEmpty();
        Line("swap", "found", "spring-0003").ShouldNotBeEmpty();
    }

    [Fact]
    public void A_follow_up_is_opened_changed_and_ended_and_papers_are_printed()
    {
        Line("follow-up", "open", "spring-0001", "Order a longer cable").ShouldContain("Order a longer cable");
        var id = (string)Json("follow-up", "list").AsArray().Single(f => (string?)f!["words"] == "Order a longer cable")!["id"]!;
        Line("follow-up", "change", id, "--words", "Order two longer cables", "--holds", "signOff").ShouldContain("two longer");
        Line("follow-up", "list").ShouldContain("Order two longer cables");
        Refused("follow-up", "change", "no-such", "--words", "x").ShouldContain("no-such");
        Line("round", "--technician", "noor").ShouldContain("Ida Moreau");
        yard.Line("yard", "print", yard.Folder["yard.csv"]);
        File.ReadAllText(yard.Folder["yard.csv"]).ShouldContain("Lantern Point");
        yard.Line("yard", "print", yard.Folder["yard.pdf"]);
        File.ReadAllBytes(yard.Folder["yard.pdf"]).AsSpan(0, 5).SequenceEqual("%PDF-"u8).ShouldBeTrue();
        yard.Line("signoff", "print", "spring-0001", "--to", yard.Folder["paper.pdf"]);
        Refused("yard", "print", yard.Folder["yard.docx"]).ShouldContain(".pdf");
        Refused("swap", "skip-restore", "spring-0001", "--reason", "not needed").ShouldNotBeEmpty();
        File.WriteAllText(yard.Folder["no.jpg"], "no picture");
        Refused("step", "photo", "spring-0001", "told", yard.Folder["no.jpg"]).ShouldNotBeEmpty();
    }

    [Fact]
    public void Who_is_not_accounted_for_is_named_and_what_goes_between_systems_is_told_with_the_word_that_is_not_known()
    {
        var accounts = yard.TryLine("report", "accounts");
        accounts.Exit.ShouldNotBe(0, "two have a pipe that nobody decided about");
        accounts.Out.ShouldContain("3 swaps, 109 files");
        accounts.Err.ShouldContain("2 of 3 swaps are not accounted for: Ana Petrov, Sol Okafor.");
        ((string)JsonNode.Parse(yard.TryLine("report", "accounts", "--json").Out)!["message"]!).ShouldContain("Ana Petrov, Sol Okafor");
        Line("between", "--from", "windows-32", "--to", "linux").ShouldContain("clean start");
        var unknown = Refused("between", "--from", "windows", "--to", "amber-64");
        unknown.ShouldContain("'amber-64'");
        unknown.ShouldContain("windows, mac or linux");
    }

    [Fact]
    public void Who_does_not_accept_holds_the_sign_off_until_it_is_dealt_with_and_a_renewal_has_neither_rescue_nor_receiver()
    {
        Line("swap", "refuse", "spring-0001", "the tide tables are not there").ShouldContain("tide tables");
        Refused("swap", "sign-off", "spring-0001").ShouldContain("tide tables");
        var id = (string)Json("follow-up", "list").AsArray().Single(f =>
            ((string)f!["words"]!).Contains("tide tables", StringComparison.Ordinal))!["id"]!;
        Line("follow-up", "end", id, "they were in the other folder").ShouldContain("other folder");
        Refused("swap", "rescue", "spring-0001", "--from", "spring-0002", "--tag", "KB-2").ShouldContain("rescue");
        Refused("swap", "receiver", "spring-0001", "--person", "nobody").ShouldContain("leave");
        Refused("swap", "accept-parcel", "spring-0001").ShouldContain("leave");
        Refused("notice", "again", "day-before", "spring-0001").ShouldContain("no mail server");
    }
}
