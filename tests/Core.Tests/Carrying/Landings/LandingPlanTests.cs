using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Core.Tests.Carrying.Landings;

public sealed class LandingPlanTests
{
    private static LandingPlan Plan(
        Landing[]? moves = null, string[]? only = null, string[]? first = null, ClashRule clash = ClashRule.Beside,
        FolderClash[]? clashes = null) =>
        LandingPlan.Create(moves ?? [], only ?? [], first ?? [], clash, clashes ?? []).Value;

    [Fact]
    public void The_deepest_folder_says_where_a_path_lands_and_what_a_clash_does()
    {
        var plan = Plan(
            [new("ida", "imoreau"), new("ida/Documents/Old", "archive/ida")],
            clash: ClashRule.Newer,
            clashes: [new("ida/Desktop", ClashRule.Stay), new("ida/Desktop/Ours", ClashRule.Ours)]);
        plan.TargetOf("ida/Documents/a").ShouldBe("imoreau/Documents/a");
        plan.TargetOf("ida/Documents/Old/b").ShouldBe("archive/ida/b");
        plan.TargetOf("ida").ShouldBe("imoreau");
        plan.TargetOf("idab/c").ShouldBe("idab/c");
        new[] { "ida/x", "ida/Desktop/x", "ida/Desktop/Ours/x", "ida/DesktopX" }.Select(plan.ClashOf)
            .ShouldBe([ClashRule.Newer, ClashRule.Stay, ClashRule.Ours, ClashRule.Newer]);
    }

    [Fact]
    public void Every_file_is_in_one_round_and_its_folders_are_in_it_too()
    {
        var plan = Plan(first: ["a/urgent", "b"], only: ["a", "b/c"]);
        plan.Rounds.ShouldBe(3);
        foreach (var (path, round) in new[] { ("a/urgent/x", 0), ("b/c/x", 1), ("a/x", 2), ("a/urgentx", 2) })
        {
            Enumerable.Range(0, 3).Where(r => plan.IsIn(r, path, false)).ShouldBe([round], path);
            for (var up = path; up.LastIndexOf('/') is > 0 and var slash;)
                plan.IsIn(round, up = up[..slash], true).ShouldBeTrue($"{up} in round {round}");
        }
        Enumerable.Range(0, 3).ShouldAllBe(r => !plan.IsIn(r, "b/d/x", false) && !plan.IsIn(r, "c", true));
    }

    [Fact]
    public void A_plan_that_contradicts_itself_is_refused_with_all_that_is_wrong()
    {
        var wrong = LandingPlan.Create(
            [new("a", "x"), new("a", "y"), new("b", "x"), new("../c", "z")],
            ["/d"],
            ["e", "e/f"],
            ClashRule.Beside,
            [new("g", ClashRule.Stay), new("g", ClashRule.Ours)]).Problems
            .Select(p => p.Message).ToList();
        wrong.Count.ShouldBe(6);
        wrong.ShouldContain("'a' lands in 2 places: x, y. Keep one.");
        wrong.ShouldContain("'a' and 'b' would land in one folder, 'x'. Give each its own.");
        wrong.ShouldContain("'e/f' comes first as a part of 'e' already. Name it before 'e', or leave it out.");
        Plan(first: ["e/f", "e"]).Rounds.ShouldBe(3);
    }
}
