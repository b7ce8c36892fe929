using CsCheck;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Roster;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Planning.Worlds;

public sealed class WorldProblemTests
{
    private static readonly DateOnly Monday = new(2026, 3, 23);

    private static ShiftRule Shift(string text) => ShiftRule.Parse(text).Value;

    private static LocalSpan Span(string text) => LocalSpan.Parse(text).Value;

    private static WorldSwap Swap(string id, Func<WorldSwap, WorldSwap>? but = null)
    {
        var swap = new WorldSwap(
            id, $"Person {id}", "North", SwapKind.Renew, [], 5, null, null, null, null, null, [], [], null, null, null, false, false);
        return but is null ? swap : but(swap);
    }

    private static World Given(params WorldSwap[] swaps) => new(
        "spring",
        Monday,
        14,
        TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin"),
        15,
        [new("North", "North Quay", 2, [], Shift("daily 07:00-19:00"))],
        [new("noor", "Noor Haddad", [], ["North"], [Shift("08:00-12:00"), Shift("13:00-17:00")], [])], [], [], [], [], [], [], swaps);

    private static AppointmentProblem Posed(World world, int now = 0) => WorldProblem.Pose(world, now).Value.Problem;

    private static string Refused(World world) => WorldProblem.Pose(world, 0).Problem.Message;

    [Fact]
    public void Everything_has_a_default_so_that_a_plan_needs_a_roster_and_one_technician_only()
    {
        var problem = Posed(Given(Swap("A"), Swap("B"), Swap("C")));
        var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(100), 1);
        plan.Unplaced.ShouldBeEmpty();
        plan.Placed.ShouldAllBe(p => Minutes.DayOf(p.Start) == 0, "what can be done today is not put off");
        problem.VisitOf["A"].Windows.Count.ShouldBe(14);
    }

    [Fact]
    public void Shifts_end_where_somebody_is_away_or_the_clock_is_changed_and_a_night_shift_goes_past_midnight()
    {
        var night = Given() with
        {
            Technicians = [new(
                "noor",
                "Noor",
                [],
                ["North"],
                [Shift("daily 22:00-06:00")],
                [Span("2026-03-24 23:00..2026-03-25 01:00"), Span("2026-03-26..2026-03-27")])]
        };
        int At(int day, string time) => (day * Minutes.PerDay) + (int)TimeOnly.Parse(time).ToTimeSpan().TotalMinutes;
        Posed(night).Technicians[0].Shifts.Take(4).ShouldBe([
            new(At(0, "22:00"), At(1, "06:00")), new(At(1, "22:00"), At(1, "23:00")), new(At(2, "01:00"), At(2, "06:00")),
            new(At(2, "22:00"), At(3, "00:00"))
        ]);
        // On Sunday 29 March the hour from two to three does not exist: nothing is planned into it, or across it.
        Posed(night).Technicians[0].Shifts.Where(s => s.End > At(5, "22:00") && s.Start < At(6, "12:00"))
            .ShouldBe([new(At(5, "22:00"), At(6, "02:00")), new(At(6, "03:00"), At(6, "06:00"))]);
        // In autumn it comes twice; a plan that used it could not say which.
        var autumn = night with { Starts = new(2026, 10, 24), Days = 2, Technicians = [night.Technicians[0] with { Absences = [] }] };
        Posed(autumn).Technicians[0].Shifts.ShouldContain(new Minutes(At(0, "22:00"), At(1, "02:00")));
    }

    [Fact]
    public void Windows_are_what_person_site_wave_and_calendar_leave_and_no_swap_comes_before_its_computer()
    {
        var world = Given(
            Swap("A", s => s with
            {
                Free = [new(Monday.AddDays(1), new(8, 0), new(12, 0))],
                NewTag = "kb-7",
                Preferred = [new(Monday.AddDays(1), new(9, 0), new(10, 0))]
            }),
            Swap("B", s => s with { Wave = "late" })) with
        {
            Closures = [
                new("drill", "Drill", "North", Span("2026-03-24 09:00..2026-03-24 10:00")),
                new("elsewhere", "Stocktaking", "South", Span("2026-03-23..2026-04-05")),
                new("feast", "Feast", null, Span("2026-03-30"))
            ],
            Waves = [new("late", "Late", new(2026, 3, 29), new(2026, 3, 31))],
            Deliveries = [new("d", "Second batch", new(2026, 3, 24, 9, 30, 0), ["KB-7"])],
        };
        var (a, b) = (Posed(world).VisitOf["A"], Posed(world).VisitOf["B"]);
        a.Windows.ShouldBe([new(1440 + 480, 1440 + 540), new(1440 + 600, 1440 + 720)]);
        (a.Release, a.Preferred.Single()).ShouldBe((1440 + 570, new(1440 + 540, 1440 + 600)));
        b.Windows.Select(w => Minutes.DayOf(w.Start)).ShouldBe([6, 8], "the feast lies in the wave");
        b.Target.ShouldBe(8);
        Posed(world, now: 3000).VisitOf["B"].Release.ShouldBe(3000);
    }

    [Fact]
    public void A_bench_preparation_is_an_appointment_of_its_own_that_the_visit_follows()
    {
        var world = Given(
            Swap("A", s => s with { NewModel = "Gannet 14" }),
            Swap("B"),
            Swap("C", s => s with { NewModel = "Gannet 14", IsPrepared = true })) with
        {
            Sites = [.. Given().Sites, new("Workshop", "Workshop", 0, [new("Bench room", 3)], Shift("daily 07:00-19:00"))],
            Rules = [new(EstimateScope.Model, "gannet 14", null, null, null, new("Workshop", 20, 90, 60))],
        };
        var problem = Posed(world);
        problem.Visits.Select(v => v.Id).ShouldBe(["A/bench", "A", "B", "C"]);
        (
            problem.VisitOf["A"].Follows, problem.VisitOf["A/bench"].Site, problem.VisitOf["A/bench"].Before,
            problem.VisitOf["A/bench"].Unattended).ShouldBe((new("A/bench", 60), "Workshop", 30, 90));
        problem.SiteOf["Workshop"].Benches.ShouldBe(3);
    }

    [Fact]
    public void What_is_under_way_stays_even_when_its_technician_has_left_early_and_what_was_promised_carries_weight()
    {
        var at = new Booked("noor", 480, 510, 540, 555);
        var world = Given(
            Swap("A", s => s with { Appointment = at, IsUnderWay = true }),
            Swap("B", s => s with { Appointment = new("noor", 600, 630, 660, 675) })) with
        {
            Technicians = [Given().Technicians[0] with { Absences = [Span("2026-03-23 08:15..2026-03-23 09:45")] }]
        };
        var problem = Posed(world, now: 560);
        var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(300), 1);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        plan.Placed.Select(p => (p.Id, p.Start)).ShouldBe([("A", 480), ("B", 600)]);
        plan.Placed[0].Finish.ShouldBe(540);
        problem.VisitOf["B"].Published.ShouldBe(new Published(600, "noor"));
        // By the clock B goes on too, a little later, though nobody has reported it; after its time it is planned anew.
        Posed(world, now: 640).VisitOf["B"].Pinned.ShouldBe(new Pin(600, "noor"));
        Posed(world, now: 675).VisitOf["B"].ShouldSatisfyAllConditions(b => b.Pinned.ShouldBeNull(), b => b.Release.ShouldBe(675));
    }

    [Fact]
    public void A_world_from_which_no_plan_can_be_made_says_what_is_wrong_and_what_to_do()
    {
        Refused(Given(Swap("A")) with { Technicians = [] }).ShouldContain("no technician to plan with");
        Refused(Given(Swap("A")) with { Sites = [new("North", "North Quay", 0, [], Shift("daily 07:00-19:00"))] }).ShouldContain(
            "North Quay has swaps but no bench");
        Refused(Given() with { Ways = [new("North", "Atlantis", 5)] }).ShouldContain(
            "names the site 'Atlantis', which the refresh lacks. It has North.");
        Refused(Given() with { Deliveries = [new("d", "Second batch", default, [])] }).ShouldContain("'Second batch' has no computers");
        Refused(Given(Swap("A", s => s with { Pinned = new(480, "noor"), NewTag = "T" })) with
        {
            Deliveries = [new("d", "Late", new(2026, 3, 25, 12, 0, 0), ["T"])]
        }).ShouldContain(
            "pinned to Mon 23 Mar 08:00, before its release Wed 25 Mar 12:00");
        Refused(Given(Swap("A", s => s with { Site = "Atlantis" }))).ShouldContain("site 'Atlantis' is not in the instance");
    }

    [Fact]
    public void Whatever_the_world_its_problem_is_whole_and_its_plan_keeps_every_rule() =>
        Gen.Select(Gen.Int[1, 12], Gen.Int[1, 4], Gen.Int[0, 100_000]).Sample((swaps, technicians, seed) =>
        {
            var random = new Random(seed);
            bool Chance() => random.Next(3) == 0;
            var world = Given([.. Enumerable.Range(0, swaps).Select(i => Swap($"S{i}", s => s with
            {
                Site = Chance() ? "South" : "North",
                Kind = (SwapKind)random.Next(6),
                Cargo = Chance()
                    ? new Cargo(random.NextInt64(200_000_000_000), random.Next(500_000), random.NextInt64(20_000_000_000))
                    : null,
                Skills = Chance() ? ["tablets"] : [],
                Free = Chance() ? [new(Monday.AddDays(random.Next(-2, 16)), new(random.Next(7, 12), 0), new(random.Next(12, 20), 0))] : [],
                Wave = Chance() ? "w" : null,
                NewTag = $"T{i}",
                Depot = "k",
            }))]) with
            {
                Sites = [.. Given().Sites, new("South", "South", 1, [], Shift("06:00-14:00"))],
                Technicians = [.. Enumerable.Range(0, technicians).Select(t => new WorldTechnician(
                    $"t{t}",
                    $"T {t}",
                    Chance() ? [] : ["tablets"],
                    ["North", "South"],
                    [Shift(Chance() ? "daily 20:00-02:00" : "07:30-15:45")],
                    Chance() ? [Span("2026-03-24..2026-03-26")] : []))],
                Ways = [new("North", "South", random.Next(60))],
                Closures = [new("c", "C", Chance() ? null : "North", Span("2026-03-25 10:07..2026-03-25 13:00"))],
                Waves = [new("w", "W", Monday.AddDays(2), Monday.AddDays(5))],
                Deliveries = [new("d", "D", new(2026, 3, 27, 9, 7, 0), [.. Enumerable.Range(0, swaps)
                    .Where(_ => Chance())
                    .Select(i => $"T{i}")
                    .DefaultIfEmpty("T0")])],
                Depots = [new("k", "K", 300_000_000_000, 120_000_000_000, 3, DepotRate.Default)],
                Rules = Chance() ? [new(EstimateScope.Kind, "renew", null, null, null, new(null, 25, 40, 15))] : [],
            };
            var problem = Posed(world, random.Next(5000));
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(40), seed);
            PlanChecker.Check(problem, plan).ShouldBeEmpty();
            foreach (var left in plan.Unplaced) WorldProblem.Dated(left.Because, world).ShouldNotMatch(@"day \d|\d{5}");
        }, iter: 60);

    [Theory]
    [InlineData("08:00-12:00", true), InlineData("daily 08:00-24:00", true), InlineData("mon,wed 22:00-06:00", true)]
    [InlineData("sun 00:00-24:00", true)]
    [InlineData("fri,mon,mon 07:30-07:31", true)]
    [InlineData("mon, wed 08:00-12:00", false)]
    [InlineData("08:00-25:00", false)]
    [InlineData("08:00-12:00-16:00", false)]
    [InlineData("8-12", false), InlineData("08:00-08:00", false), InlineData(
        "moonday 08:00-12:00", false), InlineData("", false), InlineData(
        "daily at 08:00-12:00", false)]
    public void A_shift_is_read_or_refused_with_its_form(string text, bool good)
    {
        ShiftRule.Parse(text).IsOk.ShouldBe(good);
        if (!good) ShiftRule.Parse(text).Problem.Message.ShouldContain("Write 08:00-12:00");
        else ShiftRule.Parse(ShiftRule.Parse(text).Value.ToString()).Value.Text.ShouldBe(text);
    }

    [Theory]
    [InlineData("2026-11-25", "2026-11-25"), InlineData("2026-11-25..2026-11-25", "2026-11-25"), InlineData(
        "2026-11-25 .. 2026-11-27", "2026-11-25..2026-11-27"), InlineData(
        "2026-11-25 08:00..2026-11-25T12:00", "2026-11-25 08:00..2026-11-25 12:00")]
    [InlineData("2028-02-29", "2028-02-29")]
    [InlineData("2026-02-29", null)]
    [InlineData("2026-11-25..2026-11-25 12:00", "2026-11-25 00:00..2026-11-25 12:00")]
    [InlineData("2026-11-25 08:00..2026-11-25 08:00", null)]
    [InlineData("", null)]
    [InlineData("2026-11-25 08:00", null), InlineData(
        "2026-11-27..2026-11-25", null), InlineData("25.11.2026", null), InlineData("a..b..c", null)]
    public void A_stretch_of_time_is_read_and_written_alike_or_refused(string text, string? written)
    {
        var read = LocalSpan.Parse(text);
        (read.IsOk ? read.Value.ToString() : null).ShouldBe(written);
        if (written is not null) LocalSpan.Parse(written).Value.ShouldBe(read.Value);
    }

    [Fact]
    public void Every_form_of_a_change_is_read_and_made_and_an_unknown_thing_is_named()
    {
        var world = Given(Swap("A")) with
        {
            Depots = [new("k", "K", 100, 10, 1, DepotRate.Default)],
            Deliveries = [new("d 1", "D", new(2026, 3, 25, 12, 0, 0), ["T"])]
        };
        World After(string text) => WorldChange.Parse(text).Value.In(world).Value;
        After("away noor 2026-03-24..2026-03-25").Technicians.Single().Absences.Single().ShouldBe(Span("2026-03-24..2026-03-25"));
        After("like noor").Technicians.Select(t => t.Key).ShouldBe(["noor", "noor-2"]);
        After("benches North 7").Sites.Single().AllBenches.ShouldBe(7);
        After("depot k 2.5").Depots.Single().ShouldBe(new("k", "K", 250, 25, 1, DepotRate.Default));
        After("late \"d 1\" 3").Deliveries.Single().Arrives.ShouldBe(new(2026, 3, 28, 12, 0, 0));
        foreach (var (text, said) in new[]
        {
            ("benches South 2", "It has North."),
            ("like theo", "It has noor."),
            ("late x 2", "It has d 1."),
            ("depot x 2", "It has k."),
            ("away theo 2026-03-24", "It has noor.")
        })
            WorldChange.Parse(text).Value.In(world).Problem.Message.ShouldContain(said);
        foreach (var text in new[]
        {
            "",
            "away noor",
            "away noor soon",
            "benches North many",
            "depot k big",
            "late d",
            "late d x",
            "rain North"
        })
            WorldChange.Parse(text).Problem.Code.ShouldBe("what-if");
    }
}
