using CsCheck;
using YardRelay.Core.Planning;

namespace YardRelay.Core.Tests.Planning.Engine;

/// <summary>The plan under construction, against the checker that knows nothing of how it is kept.</summary>
public sealed class TimetableTests
{
    private static Plan PlanOf(Timetable timetable) => timetable.ToPlan(_ => "Rule 0");

    private static void Agrees(AppointmentProblem problem, Timetable timetable)
    {
        var plan = PlanOf(timetable);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        PlanChecker.Cost(problem, plan).Total.ShouldBe(timetable.Cost);
        timetable.LeftOut.Order().ShouldBe(Enumerable.Range(0, timetable.Count).Where(i => !timetable.IsPlaced(i)));
        timetable.WeightLeftOut.ShouldBe(timetable.LeftOut.Sum(i => timetable.Visit(i).Weight));
    }

    [Fact]
    public void Whatever_is_placed_and_taken_out_every_rule_is_kept_and_the_cost_is_the_checkers() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            var (timetable, random) = (new Timetable(problem), new Random(seed));
            for (var step = 0; step < 60; step++)
            {
                var visit = random.Next(timetable.Count);
                if (timetable.IsPlaced(visit)) timetable.Remove(visit, []);
                else if (timetable.Leads(visit) && timetable.FindBest(visit, random, (Taste)random.Next(4)) is { Exists: true } option)
                {
                    var (before, wanted) = (timetable.Cost, option.Cost);
                    timetable.Place(visit, option);
                    (timetable.Cost - before).ShouldBe(wanted, "a place costs what was said");
                }
                Agrees(problem, timetable);
            }
        }, iter: 60);

    [Fact]
    public void The_place_found_at_a_glance_is_as_cheap_as_the_one_found_by_looking_at_all() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            var (timetable, random) = (new Timetable(problem), new Random(seed));
            foreach (var visit in Enumerable.Range(0, timetable.Count).OrderBy(_ => random.Next()))
            {
                if (!timetable.Leads(visit)) continue;
                var all = timetable.FindIf(visit, Relaxed.None);
                timetable.FindBest(visit).Cost.ShouldBe(all.Cost);
                if (all.Exists && random.Next(4) > 0) timetable.Place(visit, all);
            }
        }, iter: 120);

    [Fact]
    public void The_earliest_place_is_the_first_of_all_at_which_nothing_breaks() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            var (timetable, random) = (new Timetable(problem), new Random(seed));
            foreach (var visit in Enumerable.Range(0, timetable.Count).OrderBy(_ => random.Next()))
            {
                if (!timetable.Leads(visit)) continue;
                var v = timetable.Visit(visit);
                var found = timetable.FindEarliest(visit);
                var first = (from slot in Enumerable.Range(0, problem.Days * Minutes.PerDay / problem.Grid)
                             let start = slot * problem.Grid
                             from technician in Enumerable.Range(0, problem.Technicians.Count)
                             from wait in Enumerable.Range(0, v.After == 0 ? 1 : (v.Slack / problem.Grid) + 1)
                             where timetable.BreaksAt(visit, technician, start, v.EarliestFinish(start) + (wait * problem.Grid)).Count == 0
                             select (int?)start).FirstOrDefault();
                (found.Exists ? found.Start : (int?)null).ShouldBe(first);
                if (found.Exists && random.Next(4) > 0) timetable.Place(visit, found);
            }
        }, iter: 40);

    [Fact]
    public void What_was_taken_out_goes_back_where_it_was_and_a_copy_is_a_plan_of_its_own() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            var (timetable, random) = (new Timetable(problem), new Random(seed));
            for (var i = 0; i < timetable.Count; i++)
                if (timetable.Leads(i) && timetable.FindBest(i) is { Exists: true } option) timetable.Place(i, option);
            var (cost, plan) = (timetable.Cost, PlanFile.Write(PlanOf(timetable)));
            var copy = timetable.Copy();
            var gone = new List<(int Visit, Option At)>();
            for (var many = random.Next(1, 6); many > 0; many--) timetable.Remove(random.Next(timetable.Count), gone);
            foreach (var (visit, _) in gone)
                foreach (var follower in timetable.FollowersOf(visit))
                    timetable.IsPlaced(follower).ShouldBeFalse("nothing follows what is not there");
            foreach (var (visit, at) in gone.OrderBy(g => g.At.Start)) timetable.Place(visit, at);
            (timetable.Cost, PlanFile.Write(PlanOf(timetable))).ShouldBe((cost, plan));
            (copy.Cost, PlanFile.Write(PlanOf(copy))).ShouldBe((cost, plan));
        }, iter: 80);

    [Fact]
    public void A_search_never_loses_the_best_plan_that_it_found() =>
        Gen.Select(PlanEngineTests.Instance, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            if (problem.Visits.Count == 0) return;
            var (one, other) = (new Search(new Timetable(problem), seed, 50, 100), new Search(new Timetable(problem), seed + 1, 5, 1000));
            for (var round = 0; round < 6; round++)
            {
                var before = one.BestCost;
                one.Run(40, _ => 0.2);
                other.Run(40, _ => 0.9);
                one.BestCost.ShouldBeLessThanOrEqualTo(before);
                if (round % 2 == 1) one.Learn(other);
                if (round % 2 == 1) one.BestCost.ShouldBe(other.BestCost);
                if (round != 3) continue;
                one.Best().Cost.ShouldBe(one.BestCost);
                Agrees(problem, one.Best());
            }
            one.Best().Cost.ShouldBe(one.BestCost);
            Agrees(problem, one.Best());
        }, iter: 60);
}
