using CsCheck;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Tests.Carrying.CarryLists;

public sealed class CarryListTests
{
    private static CarryRule Leave(string path, string reason = "not needed") => new(path, false, reason, "Ida");

    private static CarryRule Take(string path) => new(path, true, "", "Ida");

    private static CarryList List(params CarryRule[] rules) =>
        CarryList.Create(rules, [new("*.tmp", "temporary")], ["Pictures/Ships.photoslibrary"], []).Value;

    [Theory]
    [InlineData("Documents/a", false, CarryVerdict.Carry)]
    [InlineData("Downloads", true, CarryVerdict.Through)]
    [InlineData("Downloads/a.iso", false, CarryVerdict.Leave)]
    [InlineData("Downloads/Keep", true, CarryVerdict.Carry)]
    [InlineData("Downloads/Keep/a", false, CarryVerdict.Carry)]
    [InlineData("Downloads/Keep/a.TMP", false, CarryVerdict.Leave)]
    [InlineData("Downloads/Keepsakes", true, CarryVerdict.Leave)]
    [InlineData("Music", true, CarryVerdict.Leave)]
    [InlineData("a.tmp", true, CarryVerdict.Carry)]
    [InlineData("Pictures/Ships.photoslibrary/x.tmp", false, CarryVerdict.Carry)]
    [InlineData("Pictures/x.tmp", false, CarryVerdict.Leave)]
    [InlineData("needed.tmp", false, CarryVerdict.Carry)]
    public void The_deepest_decision_counts_and_a_unit_is_not_taken_apart(string path, bool isFolder, CarryVerdict verdict) =>
        List(Leave("Downloads"), Take("Downloads/Keep"), Leave("Music"), Take("needed.tmp")).Of(path, isFolder, out _).ShouldBe(verdict);

    [Fact]
    public void A_list_that_contradicts_itself_is_refused_with_all_that_is_wrong()
    {
        var wrong = CarryList.Create(
            [Leave("a"), Take("a"), Leave("b", " "), Leave("../c"), Leave("Lib/part")],
            [new("*", "all"), new("x/y", "path")],
            ["Lib"],
            ["/first"]).Problems
            .Select(p => p.Message).ToList();
        wrong.Count.ShouldBe(7);
        wrong.ShouldContain("Carry list, 'a': two lines decide about it. Keep one.");
        wrong.ShouldContain("Carry list, 'Lib/part': it is a part of 'Lib', which is carried whole or not at all. Decide about 'Lib'.");
        wrong.ShouldContain(w => w.StartsWith("Carry list, '../c': this is no path."));
        CarryList.Read("version: 1\nleaveOut:\n  - {path: Downloads}\n").Problem.Message.ShouldContain("stays without a reason");
        CarryList.Read("version: 3").Problem.Code.ShouldBe("carry-list.version");
        CarryList.Read("version: 1\nleave: [x]").Problem.Message.ShouldContain("line 2");
    }

    [Theory]
    [InlineData("Documents", true, CarryVerdict.Carry)]
    [InlineData("Documents/a", false, CarryVerdict.Carry)]
    [InlineData("Documents/Old/a", false, CarryVerdict.Leave)]
    [InlineData("Pictures", true, CarryVerdict.Through)]
    [InlineData("Pictures/Ships/a.tmp", false, CarryVerdict.Leave)]
    [InlineData("Pictures/Other", true, CarryVerdict.Leave)]
    [InlineData("loose", false, CarryVerdict.Leave)]
    public void A_list_can_say_all_that_comes_along(string path, bool isFolder, CarryVerdict verdict)
    {
        var list = List(Leave("Documents/Old")).Only(["Documents", "Pictures/Ships"]).Value;
        list.IsEverything.ShouldBeFalse();
        list.Of(path, isFolder, out var because).ShouldBe(verdict);
        if (path == "loose") because.ShouldBe(CarryList.NotChosen);
        var read = CarryList.Read(list.Write()).Value;
        read.Of(path, isFolder, out _).ShouldBe(verdict);
        read.With([Take("loose")], []).Value.Of("loose", isFolder: false, out _).ShouldBe(CarryVerdict.Carry);
        CarryList.Read("version: 1\nonlyThese: true\n").Problem.Message.ShouldContain("it names nothing");
    }

    [Fact]
    public void A_list_of_people_reads_as_one_would_write_it_and_comes_back_from_its_own_form()
    {
        var list = CarryList.Read("""
            version: 1
            leaveOut:
              - {path: Downloads, reason: "not needed, says Ida", by: Ida}
            carry:
              - {path: Downloads/Contracts}
            names:
              - {names: "~$*", reason: left over}
            whole: [Music/Library]
            first: [Documents/This week, Desktop]
            """).Value;
        list.First.ShouldBe(["Documents/This week", "Desktop"]);
        list.RuleOf("Downloads/x")!.Reason.ShouldBe("not needed, says Ida");
        CarryList.Read(list.Write()).Value.Write().ShouldBe(list.Write());
    }

    [Fact]
    public void What_rules_say_of_a_computer_gives_way_to_what_people_decide()
    {
        PlaceFound Place(PlaceKind kind, string rule, string path, long files = 1, string? keptThere = null) =>
            new("", "home/ida", kind, rule, "Name", path, new(files, 10), default, null, null, "person", "photos", "its path", keptThere);
        var list = CarryList.Of(new(
            [
                Place(PlaceKind.Cloud, "onedrive", "OneDrive", keptThere: "Kit saw it"),
                Place(PlaceKind.Cloud, "other", "Other"), Place(PlaceKind.Clutter, "caches", ".cache"),
                Place(PlaceKind.Clutter, "left-over-files", ""), Place(PlaceKind.Library, "x", "Pictures/L"),
                Place(PlaceKind.Folder, "", "Desktop")
            ],
            [],
            []));
        list.Of("home/ida/OneDrive/plan", false, out var because).ShouldBe(CarryVerdict.Leave);
        because.ShouldBe("in a cloud already (Name, of the person): Kit saw it");
        list.Of("home/ida/Other/plan", false, out _).ShouldBe(CarryVerdict.Carry, "that it is a cloud's proves nothing of a file");
        list.Of("home/ida/Documents/x.tmp", false, out _).ShouldBe(CarryVerdict.Carry, "a name alone proves too little");
        list.Of("home/ida/Pictures/L/x.tmp", false, out _).ShouldBe(CarryVerdict.Carry);
        list.Of("home/ida/Desktop", true, out _).ShouldBe(CarryVerdict.Carry);
        var decided = list.With([new("home/ida/OneDrive", true, "", "Kit"), Leave("home/ida/Desktop")], ["home/ida/Documents"]).Value;
        decided.Of("home/ida/OneDrive/plan", false, out _).ShouldBe(CarryVerdict.Carry);
        decided.Of("home/ida/.cache/x", false, out _).ShouldBe(CarryVerdict.Leave);
        decided.Of("home/ida/Desktop", true, out _).ShouldBe(CarryVerdict.Leave);
        list.With([Leave("home/ida/Pictures/L/half")], []).Problem.Message.ShouldContain("whole or not at all");
    }

    [Fact]
    public void A_folder_on_the_way_to_what_comes_along_comes_along_itself()
    {
        var path = Gen.Int[0, 2].Select(i => "abc"[i].ToString()).Array[1, 4].Select(p => string.Join('/', p));
        Gen.Select(path, Gen.Bool).Array[0, 6]
            .Select(rules => rules.DistinctBy(r => r.Item1).Select(r => new CarryRule(r.Item1, r.Item2, "why", "")).ToArray())
            .Sample(rules =>
        {
            var list = CarryList.Create(rules, [], [], []).Value;
            foreach (var taken in rules.Where(r => r.Carries))
            {
                list.Of(taken.Path + "/file", false, out _).ShouldNotBe(CarryVerdict.Leave);
                for (var up = taken.Path; up.LastIndexOf('/') is > 0 and var slash;)
                    list.Of(up = up[..slash], true, out _).ShouldNotBe(CarryVerdict.Leave, $"{up} above {taken.Path}");
            }
        }, iter: 5000);
    }
}
