using CsCheck;
using YardRelay.Core.Planning;
using YardRelay.Core.Tests.Planning.Engine;

namespace YardRelay.Core.Tests.Planning;

/// <summary>Moves by hand, judged from their neighbours, against the checker that judges the whole plan.</summary>
public sealed class PlanBoardTests
{
    [Fact]
    public void A_move_is_allowed_exactly_when_the_whole_plan_keeps_all_rules_with_it_and_costs_what_was_said() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            if (problem.Visits.Count == 0 || problem.Technicians.Count == 0) return;
            var random = new Random(seed);
            var board = PlanBoard.Lay(problem, PlanEngine.Solve(problem, PlanBudget.OfSteps(30), seed), out var lost);
            lost.ShouldBeEmpty();
            for (var step = 0; step < 40; step++)
            {
                var visit = problem.Visits[random.Next(problem.Visits.Count)];
                var technician = problem.Technicians[random.Next(problem.Technicians.Count)].Id;
                var start = random.Next(3) > 0 && visit.Windows.Count > 0 && visit.Windows[random.Next(visit.Windows.Count)] is var window
                    ? (window.Start + random.Next(window.End - window.Start)) / problem.Grid * problem.Grid
                    : random.Next(problem.Days * Minutes.PerDay / problem.Grid) * problem.Grid;
                var before = board.ToPlan();
                var answer = board.Try(visit.Id, technician, start);
                PlanFile.Write(board.ToPlan()).ShouldBe(PlanFile.Write(before), "to try changes nothing");
                var after = new Plan(
                    [.. before.Placed.Where(p => p.Id != visit.Id), answer.At], [.. before.Unplaced.Where(u => u.Id != visit.Id)]);
                IReadOnlyList<Breach> breaches = [.. PlanChecker.Check(problem, after), .. TooNear(problem, after)];
                answer.IsAllowed.ShouldBe(
                    breaches.Count == 0, string.Join("; ", breaches.Select(b => b.Message).Concat(answer.Breaks.Select(b => b.Message))));
                if (!answer.IsAllowed) answer.Breaks.Select(b => b.Rule).Distinct().ShouldBeSubsetOf(
                    [.. breaches.Select(b => b.Rule)], string.Join("; ", breaches.Concat(answer.Breaks).Select(b => b.Message)));
                else answer.CostAfter.ShouldBe(PlanChecker.Cost(problem, after).Total);
                if (random.Next(6) == 0)
                {
                    foreach (var gone in board.TakeOut(visit.Id)) board.At(gone.Id).ShouldBeNull();
                }
                else
                {
                    var done = board.Move(visit.Id, technician, start);
                    (done.At, done.CostBefore, done.CostAfter).ShouldBe(
                        (answer.At, answer.CostBefore, answer.CostAfter), "asked or done, the answer is the same");
                    if (answer.IsAllowed) board.At(visit.Id).ShouldBe(answer.At);
                }
                PlanChecker.Check(problem, board.ToPlan()).ShouldBeEmpty();
                PlanChecker.Cost(problem, board.ToPlan()).Total.ShouldBe(board.Cost);
            }
        }, iter: 80);

    // Where a detour is shorter than the straight way (a pair that is not listed takes no time), a table keeps the straight way's minutes
    // between any two parts of a day, not only between neighbours: so nothing is broken when the visit between them is taken out.
    private static IEnumerable<Breach> TooNear(AppointmentProblem problem, Plan plan) =>
        from one in plan.Placed
        from other in plan.Placed
        where one.Id != other.Id && one.Technician == other.Technician
        from a in Parts(problem, one)
        from b in Parts(problem, other)
        where a.Start <= b.Start && Minutes.DayOf(a.Start) == Minutes.DayOf(b.Start)
        let apart = problem.TravelMinutes(problem.VisitOf[one.Id].Site, problem.VisitOf[other.Id].Site)
        where b.Start - a.End < apart
        select new Breach(3, $"{one.Technician} has less than {apart} minutes from {one.Id} to {other.Id}.");

    private static IEnumerable<Minutes> Parts(AppointmentProblem problem, Placed placed)
    {
        var visit = problem.VisitOf[placed.Id];
        yield return new(placed.Start, placed.Start + visit.Before);
        if (visit.After > 0) yield return new(placed.Finish, placed.Finish + visit.After);
    }

    [Fact]
    public void The_starts_that_are_offered_are_those_at_which_a_move_is_allowed_each_with_whom_it_costs_least() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            if (problem.Visits.Count == 0 || problem.Technicians.Count == 0) return;
            var random = new Random(seed);
            var board = PlanBoard.Lay(problem, PlanEngine.Solve(problem, PlanBudget.OfSteps(30), seed), out _);
            var (visit, from, step) = (
                problem.Visits[random.Next(problem.Visits.Count)].Id, random.Next(2000), problem.Grid * random.Next(1, 4));
            var (until, before) = (from + random.Next(3000), PlanFile.Write(board.ToPlan()));
            var found = board.Starts(visit, from, until, step, at => at % 45 != 0, int.MaxValue);
            PlanFile.Write(board.ToPlan()).ShouldBe(before, "to look changes nothing");
            var expected = Enumerable.Range(0, problem.Days * Minutes.PerDay / step)
                .Select(s => s * step)
                .Where(at => at >= from && at < until && at % 45 != 0)
                .Select(at => problem.Technicians.Select(t => board.Try(visit, t.Id, at))
                    .Where(a => a.IsAllowed)
                    .MinBy(a => a.CostAfter)).OfType<MoveAnswer>().ToList();
            found.Select(f => f.Start).ShouldBe(expected.Select(e => e.At.Start));
            foreach (var (place, best) in found.Zip(expected))
                board.Try(visit, place.Technician, place.Start).CostAfter.ShouldBe(best.CostAfter);
            board.Starts(visit, from, until, step, _ => true, 2).Count.ShouldBeLessThanOrEqualTo(2);
        }, iter: 80);

    [Fact]
    public void A_pinned_visit_stays_where_it_is_pinned_or_is_left_out_with_that_reason() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((instance, seed) =>
        {
            var random = new Random(seed);
            var first = PlanEngine.Solve(instance, PlanBudget.OfSteps(20), seed);
            // Everything that has a place is pinned to it, in one of the three ways: then nothing may be left out, and nothing may move.
            var visits = instance.Visits.Select(v =>
                first.Placed.FirstOrDefault(p => p.Id == v.Id) is { } at
                    ? v with
                    {
                        Pinned = random.Next(3) switch
                        {
                            0 => new(at.Start, null),
                            1 => new(null, at.Technician),
                            _ => new(at.Start, at.Technician)
                        }
                    }
                    : v).ToList();
            var pinned = AppointmentProblem.Create(
                instance.Name,
                instance.Days,
                instance.Grid,
                instance.Sites,
                [.. from a in instance.Sites from b in instance.Sites where string.CompareOrdinal(a.Id, b.Id) < 0 select (
                    a.Id, b.Id, instance.TravelMinutes(a.Id, b.Id))],
                instance.Technicians,
                instance.Depots,
                visits).Value;
            var plan = PlanEngine.Solve(pinned, PlanBudget.OfSteps(200), seed + 1, first);
            PlanChecker.Check(pinned, plan).ShouldBeEmpty();
            PlanChecker.Cost(pinned, plan).LeftOut.ShouldBeLessThanOrEqualTo(PlanChecker.Cost(instance, first).LeftOut);
        }, iter: 60);

    [Fact]
    public void A_pin_that_nothing_could_keep_is_refused_with_the_reason()
    {
        Visit Desk(Pin? pin) => new("A", "North", ["laptop"], 2, 60, 0, 0, 0, [new(480, 600)], [], 300, 0, null, null, null, pin);
        string Refused(Pin? pin) =>
            AppointmentProblem.Create(
                "pins",
                1,
                15,
                [new("North", 1), new("South", 1)],
                [],
                [new("T1", [], ["North"], []), new("T2", ["laptop"], ["South"], [])],
                [],
                [Desk(pin)]).Problems.ShouldHaveSingleItem().Message;
        Refused(new(null, null)).ShouldContain("neither time nor technician");
        Refused(new(487, null)).ShouldContain("multiple of the grid");
        Refused(new(240, null)).ShouldContain("before its release day 0 05:00");
        Refused(new(555, null)).ShouldContain("whole in none of its windows");
        Refused(new(null, "T9")).ShouldContain("who is not in the instance. It has T1, T2.");
        Refused(new(null, "T1")).ShouldContain("who lacks laptop");
        Refused(new(null, "T2")).ShouldContain("who does not serve North");
    }

    [Fact]
    public void Two_visits_pinned_to_one_bench_at_one_time_leave_one_out_and_say_why()
    {
        Visit Desk(string id) => new(id, "North", [], 2, 60, 0, 0, 0, [new(480, 600)], [], 0, 0, null, null, null, new(480, null));
        var problem = AppointmentProblem.Create(
            "pins",
            1,
            15,
            [new("North", 1)],
            [],
            [new("T1", [], ["North"], [new(480, 960)]), new("T2", [], ["North"], [new(480, 960)])],
            [],
            [Desk("A"), Desk("B")]).Value;
        var board = PlanBoard.Lay(problem, PlanEngine.Solve(problem, PlanBudget.OfSteps(50), 1), out _);
        var left = board.At("A") is null ? "A" : "B";
        board.WhyNot(left).Select(w => (w.Rule, w.Start)).ShouldBe([(8, 540), (4, 480)]);
    }

    [Fact]
    public void Whoever_is_at_work_over_midnight_is_not_free_at_midnight()
    {
        Visit Of(string id, int minutes) => new(id, "North", [], 2, minutes, 0, 0, 0, [new(1380, 1560)], [], 0, 0, null, null, null);
        var problem = AppointmentProblem.Create(
            "night", 2, 15, [new("North", 2)], [], [new("T", [], ["North"], [new(1380, 1560)])], [], [Of("A", 45), Of("B", 30)]).Value;
        var board = PlanBoard.Lay(problem, new([new("A", "T", 1410, 1455)], [new("B", "later")]), out _);
        board.Move("B", "T", 1440).Breaks.ShouldHaveSingleItem().Message.ShouldBe("T is with A from day 0 23:30.");
        board.Move("B", "T", 1455).IsAllowed.ShouldBeTrue();
        board.Move("A", "T", 1425).Breaks.ShouldHaveSingleItem().Message.ShouldBe("T is with B from day 1 00:15.");
    }
}
