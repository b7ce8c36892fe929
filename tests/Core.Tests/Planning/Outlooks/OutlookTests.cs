using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Outlooks;

namespace YardRelay.Core.Tests.Planning.Outlooks;

public sealed class OutlookTests
{
    private static readonly Doubts Certain = new(0, 0, 0, 0);

    private static (AppointmentProblem Problem, Plan Plan) Given(int days, int visits, int slackMinutes = 0, bool anyDay = false)
    {
        var problem = AppointmentProblem.Create(
            "w", days, 15, [new("North", 9)], [],
            [new("T", [], ["North"], [.. Enumerable.Range(0, days).Select(d =>
                new Minutes((d * 1440) + 480, (d * 1440) + 480 + (60 * visits) + slackMinutes))])],
            [],
            [.. Enumerable.Range(0, visits).Select(i =>
                new Visit($"V{i}", "North", [], 1, 60, 0, 0, 0, [new(0, anyDay ? days * 1440 : 1440)], [], 0, 0, null, null, null))]).Value;
        return (problem, PlanEngine.Solve(problem, PlanBudget.OfSteps(20), 1));
    }

    [Fact]
    public void Where_nothing_is_uncertain_the_plan_holds_and_the_same_seed_tells_the_same()
    {
        var (problem, plan) = Given(3, 5);
        var sure = Outlook.Play(problem, plan, Certain, 50, 1);
        (sure.InTime, sure.DoneBy[0], sure.Days.Single().Overtime, sure.Sites.Single().Repeated).ShouldBe((1, 1, 0, 0));
        string Text(int seed) => System.Text.Json.JsonSerializer.Serialize(Outlook.Play(problem, plan, new(), 300, seed));
        Text(7).ShouldBe(Text(7));
        Text(7).ShouldNotBe(Text(8));
    }

    [Fact]
    public void A_no_show_comes_as_often_as_stated_and_is_made_good_on_a_later_day()
    {
        var (problem, plan) = Given(2, 1);
        var report = Outlook.Play(problem, plan, Certain with { NoShow = 0.3 }, 20_000, 1);
        report.Days.Single().Repeated.ShouldBe(0.3, 0.02);
        report.DoneBy[0].ShouldBe(0.7, 0.02);
        // The second day's shift of an hour is four fifths of use: not enough for an hour's visit.
        report.InTime.ShouldBe(0.7, 0.02);
        var (roomy, more) = Given(2, 1, slackMinutes: 60);
        Outlook.Play(roomy, more, Certain with { NoShow = 0.3 }, 20_000, 1).InTime.ShouldBe(1, "there is room on the second day");
    }

    [Fact]
    public void Slack_buys_certainty_and_doubt_costs_it()
    {
        double Chance(
            int slack, Doubts doubts)
        { var (p, plan) = Given(2, 6, slack); return Outlook.Play(p, plan, doubts, 4000, 3).DoneBy[0]; }
        var doubts = new Doubts(0.4, 0, 0, 0);
        var (none, some, much) = (Chance(0, doubts), Chance(60, doubts), Chance(180, doubts));
        none.ShouldBeLessThan(some);
        some.ShouldBeLessThan(much);
        Chance(60, doubts with { LengthSpread = 0.1 }).ShouldBeGreaterThan(some);
        Chance(60, doubts with { OvertimeMinutes = 60 }).ShouldBeGreaterThan(some);
        Chance(60, doubts with { FailedTrip = 0.2 }).ShouldBeLessThan(some);
    }

    [Fact]
    public void The_chance_to_be_done_never_sinks_and_reaches_beyond_the_last_day()
    {
        var (problem, plan) = Given(2, 8);
        var report = Outlook.Play(problem, plan, new(0.5, 0.2, 0.2, 0), 2000, 5);
        report.DoneBy.Count.ShouldBe(2 + Outlook.DaysBeyond);
        report.DoneBy.Zip(report.DoneBy.Skip(1)).ShouldAllBe(p => p.First <= p.Second);
        report.DoneBy[^1].ShouldBeGreaterThan(report.InTime);
        Outlook.Play(problem, new([], [.. problem.Visits.Select(v => new Unplaced(v.Id, "Rule"))]), new(), 5, 1).InTime
            .ShouldBe(1, "nothing is placed, nothing can fail");
        new Doubts(3, 2, -1, 1000).Check().Count.ShouldBe(4);
    }

    [Fact]
    public void Slack_inside_the_visits_costs_days_or_places_and_buys_quiet_ends_of_shifts()
    {
        // Six hours of work in a shift of six: without slack nearly every day runs over. Three days are more than enough, one is not.
        IReadOnlyList<SlackRung> Climb(
            int days)
        {
            var (problem, plan) = Given(days, 6, anyDay: true);
            return SlackLadder.Climb(problem, plan, new(0.3, 0, 0, 0), 2000, 4, () => PlanBudget.OfSteps(200));
        }
        var roomy = Climb(3);
        roomy.ShouldAllBe(r => r.LeftOut == 0);
        roomy[^1].Overtime.ShouldBeLessThan(roomy[0].Overtime / 2);
        roomy[^1].Moved.ShouldBeGreaterThan(0);
        (roomy[0].LastDay, roomy[0].Moved).ShouldBe((0, 0));
        roomy[^1].LastDay.ShouldBeGreaterThan(0);
        Climb(1).Select(r => r.LeftOut).ShouldBe([0, 2, 2, 3, 3], "four of 75 or 90 minutes in six hours, and three of 105 or 120");
    }

    [Fact]
    public void What_is_fixed_in_time_keeps_its_length_and_its_place_on_every_step()
    {
        var (problem, plan) = Given(2, 4, anyDay: true);
        var at = plan.Placed.First();
        var pinned = problem.With([.. problem.Visits.Select(v =>
            v.Id == at.Id ? v with { Pinned = new(at.Start, null), Windows = [new(at.Start, at.Start + 60)] } : v)]).Value;
        SlackLadder.Climb(pinned, plan, Certain, 10, 1, () => PlanBudget.OfSteps(50))
            .ShouldAllBe(r => r.LeftOut == 0 && r.InTime == 1 && r.Overtime == 0);
    }
}
