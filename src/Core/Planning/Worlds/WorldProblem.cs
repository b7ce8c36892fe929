using System.Globalization;
using System.Text.RegularExpressions;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>The appointment problem that a world poses, with what leads back from it to the world.</summary>
public sealed partial class WorldProblem
{
    /// <summary>What is appended to a swap's id for its bench preparation.</summary>
    public const string PreparationSuffix = "/bench";

    /// <summary>What is appended to a swap's id for a return visit.</summary>
    public const string ReturnSuffix = "/return";

    private const int Slack = 30;
    private const double Paced = 0.7;

    // Whoever must be moved may be moved by so many days before others are moved to make room sooner: one broken promise is better than a
    // chain of them.
    private const int DaysOfGrace = 5;

    private WorldProblem(
        World world, AppointmentProblem problem, IReadOnlyDictionary<string, SwapEstimate> estimates, IReadOnlySet<string> standing) =>
        (World, Problem, EstimateOf, Standing) = (world, problem, estimates, standing);

    /// <summary>The world.</summary>
    public World World { get; }

    /// <summary>The instance. Sizes of staged data are in megabytes of 1,000,000 bytes.</summary>
    public AppointmentProblem Problem { get; }

    /// <summary>Ids of swaps that stay as they are booked: they are under way, or nobody may move them here.</summary>
    public IReadOnlySet<string> Standing { get; }

    /// <summary>The estimate of each swap.</summary>
    public IReadOnlyDictionary<string, SwapEstimate> EstimateOf { get; }

    /// <summary>What is booked in a world, of what the instance knows.</summary>
    public IEnumerable<Placed> Promised(World world) =>
        world.Swaps.SelectMany(s => PlacedAt(s.Id, s.Appointment).Concat(PlacedAt(s.Id + PreparationSuffix, s.Preparation)))
            .Concat((world.Returns ?? []).SelectMany(r => PlacedAt(r.Swap + ReturnSuffix, r.Appointment)))
            .Where(p => Problem.VisitOf.ContainsKey(p.Id) && Problem.TechnicianOf.ContainsKey(p.Technician));

    private static IEnumerable<Placed> PlacedAt(string visit, Booked? at) =>
        at is null ? [] : [new(visit, at.Technician, at.Start, at.Finish)];

    /// <summary>The swap that a visit belongs to.</summary>
    public static string SwapOf(string visit) =>
        IsPreparation(visit) ? visit[..^PreparationSuffix.Length] : IsReturn(visit) ? visit[..^ReturnSuffix.Length] : visit;

    /// <summary>
    /// What a plan leaves out, as people count it: each swap and each return visit once. A bench preparation goes with its swap.
    /// </summary>
    public static IReadOnlyList<Unplaced> LeftOut(Plan plan) => [.. plan.Unplaced.Where(u => !IsPreparation(u.Id))];

    /// <summary>Whether a visit is a return visit.</summary>
    public static bool IsReturn(string visit) => visit.EndsWith(ReturnSuffix, StringComparison.Ordinal);

    /// <summary>Whether a visit is a bench preparation.</summary>
    public static bool IsPreparation(string visit) => visit.EndsWith(PreparationSuffix, StringComparison.Ordinal);

    /// <summary>Poses the problem, or says all that is wrong with the world.</summary>
    /// <param name="now">Minute since 00:00 of the first day; nothing new starts before it.</param>
    public static Result<WorldProblem> Pose(World world, int now)
    {
        var faults = new List<Problem>();
        if (world.Sites.Count == 0)
            faults.Add(new PlanNoSiteProblem());
        if (world.Technicians.Count == 0)
            faults.Add(new PlanNoTechnicianProblem());
        foreach (var site in world.Sites.Where(s => s.AllBenches == 0 && world.Swaps.Any(w => w.Site == s.Key)))
            faults.Add(new PlanNoBenchProblem(site.Name));
        foreach (var delivery in world.Deliveries.Where(d => d.Tags.Count == 0))
            faults.Add(new PlanEmptyDeliveryProblem(delivery.Name));
        var sites = world.Sites.Select(s => s.Key).ToHashSet();
        foreach (var way in world.Ways)
            foreach (var end in new[] { way.From, way.To }.Where(e => !sites.Contains(e)))
                faults.Add(new PlanWayProblem(way.From, way.To, end, string.Join(", ", sites.Order())));
        foreach (var rule in world.Rules)
            if (rule.Preparation?.Site is { } at && !sites.Contains(at))
                faults.Add(new PlanBenchSiteProblem(
                    rule.Scope.ToString().ToLowerInvariant(), rule.Of, at, string.Join(", ", sites.Order())));
        if (faults.Count > 0) return Result<WorldProblem>.Failed(faults);

        var maker = new Maker(world, now);
        var made = maker.Make();
        return made.IsOk
            ? new WorldProblem(world, made.Value, maker.Estimates, maker.Standing)
            : Result<WorldProblem>.Failed([.. made.Problems.Select(p => new PlanWorldProblem(Dated(p.Message, world)))]);
    }

    /// <summary>A sentence of the engine with dates for day numbers, gigabytes for megabytes, and names for keys.</summary>
    public static string Dated(string words, World world)
    {
        words = DayAndTime().Replace(words, m => string.Create(
            CultureInfo.InvariantCulture,
            $"{world.Starts.AddDays(int.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture)):ddd d MMM}"
                + $"{(m.Groups[2].Success ? $" {m.Groups[2].Value}" : "")}"));
        words = StagedSize().Replace(words, m =>
            string.Create(CultureInfo.InvariantCulture, $"{double.Parse(m.Value, CultureInfo.InvariantCulture) / 1000:0.#} GB"));
        foreach (var technician in world.Technicians)
            words = Regex.Replace(words, $@"(?<![\w-]){Regex.Escape(technician.Key)}(?![\w-])", technician.Name);
        return words;
    }

    [GeneratedRegex(@"\bday (\d+)(?: (\d\d:\d\d))?")]
    private static partial Regex DayAndTime();

    // Where a reason speaks of staged data, the number that stands there is in the instance's unit.
    [GeneratedRegex(@"(?<=\bbrings (?:no )?)\d+(?= (?:a day|more))|\b\d+(?= more (?:room|for|around))|(?<=no room for )\d+(?= more)")]
    private static partial Regex StagedSize();

    private sealed class Maker(World world, int now)
    {
        private readonly IReadOnlyList<Minutes> _never = ClockChanges(world);
        private readonly Dictionary<string, int> _pace = [];
        private ILookup<string, (Booked At, string Site)>? _standing;

        public Dictionary<string, SwapEstimate> Estimates { get; } = new(StringComparer.Ordinal);

        public HashSet<string> Standing => [.. world.Swaps.Where(Stays).Select(s => s.Id)];

        private int End => world.Days * Minutes.PerDay;

        public Result<AppointmentProblem> Make()
        {
            var depots = world.Depots.ToDictionary(d => d.Key);
            foreach (var swap in world.Swaps)
                Estimates[swap.Id] = Worlds.Estimates.For(
                    swap.Id, swap.Kind, swap.NewModel, swap.Cargo, DepotOf(swap)?.Rate ?? DepotRate.Default, world.Rules, world.Grid);
            var technicians = world.Technicians.Select(t => new PlanTechnician(t.Key, t.Skills, t.Sites, ShiftsOf(t))).ToList();
            Pace(technicians);
            List<Visit> visits = [.. world.Swaps.SelectMany(VisitsOf), .. (world.Returns ?? []).SelectMany(ReturnsOf)];
            return AppointmentProblem.Create(
                world.Refresh,
                world.Days,
                world.Grid,
                [.. world.Sites.Select(s => new PlanSite(s.Key, s.AllBenches))],
                [.. world.Ways.Select(w => (w.From, w.To, w.Minutes))],
                technicians,
                [.. world.Depots.Select(d => new PlanDepot(d.Key, Megabytes(d.CapacityBytes), Megabytes(d.DailyBytes)))],
                visits,
                [.. GroupsOf(visits.Select(v => v.Id).ToHashSet())]);
        }

        private static int? Megabytes(long? bytes) => bytes is { } b ? (int)Math.Min(int.MaxValue / 4, b / 1_000_000) : null;

        private WorldDepot? DepotOf(WorldSwap swap) =>
            world.Depots.FirstOrDefault(d => d.Key == swap.Depot) ?? (world.Depots.Count > 0 ? world.Depots[0] : null);

        private IReadOnlyList<Minutes> ShiftsOf(WorldTechnician technician)
        {
            var shifts = Enumerable.Range(0, world.Days).SelectMany(d => technician.Shifts.SelectMany(s => s.On(world.Starts, d)));
            // Where they work no more they may still have something in hand: it is nobody's to plan, and they are busy with it.
            _standing ??= world.Swaps.Where(s => Stays(s) && s.Taken != PromiseTaken.PassedOn)
                .SelectMany(StandingOf)
                .ToLookup(b => b.At.Technician);
            var elsewhere = _standing[technician.Key].Where(b => !technician.Sites.Contains(b.Site)).SelectMany(b => HandsOn(b.At));
            var left = Without(shifts, technician.Absences.Select(a => a.Since(world.Starts)).Concat(_never).Concat(elsewhere));
            // What is under way is under way, also when somebody stays longer for it.
            var held = _standing[technician.Key].Where(b => technician.Sites.Contains(b.Site))
                .Select(b => b.At)
                .Concat((world.Returns ?? []).Select(r => r.Appointment).OfType<Booked>()
                    .Where(a => a.Technician == technician.Key && IsOn(a)))
                .SelectMany(HandsOn);
            return Merge(left.Concat(held).Where(m => m.Start >= 0 && m.Start < End));
        }

        private IEnumerable<Visit> VisitsOf(WorldSwap swap)
        {
            var estimate = Estimates[swap.Id];
            if (swap.Appointment is { } at && Stays(swap))
            {
                var isPassed = swap.Taken == PromiseTaken.PassedOn;
                if (IsWithin(at) && (isPassed || Serves(at, swap.Site)))
                    yield return new(
                        swap.Id, swap.Site, isPassed ? swap.Skills : [], 9, at.HandsOnUntil - at.Start, at.Finish - at.HandsOnUntil,
                        at.End - at.Finish, 0, [new(at.Start, at.End)], [], 0, world.Days - 1, StagedOf(swap, estimate), null, null,
                        new(at.Start, isPassed ? null : at.Technician));
                if (swap is { Taken: PromiseTaken.Fixed, IsPrepared: false, Preparation: { } made }
                    && IsWithin(made)
                    && Serves(made, BenchSiteOf(swap)))
                    yield return new(
                        swap.Id + PreparationSuffix, BenchSiteOf(swap), [], 9, made.HandsOnUntil - made.Start,
                        made.End - made.HandsOnUntil, 0, 0, [new(made.Start, made.End)], [], 0, world.Days - 1, null, null, null,
                        new(made.Start, made.Technician));
                yield break;
            }
            var release = Math.Max(now, ReleaseOf(swap));
            Follows? follows = null;
            if (estimate.Preparation is { } bench && !swap.IsPrepared)
            {
                var id = swap.Id + PreparationSuffix;
                var site = bench.Site ?? swap.Site;
                var (handsOn, alone) = (Grid(Math.Max(world.Grid, bench.HandsOnMinutes)), Grid(bench.UnattendedMinutes));
                yield return new(
                    id, site, swap.Skills, swap.Weight, handsOn, alone, 0, 0, OpenAt(site), [], release, _pace[swap.Id], null,
                    swap.Preparation is { } told && Knows(told) ? new(told.Start, told.Technician) : null, null);
                follows = new(id, bench.GapMinutes);
            }
            var wave = world.Waves.FirstOrDefault(w => w.Key == swap.Wave);
            IEnumerable<Minutes> windows = swap.Free.Count == 0 ? OpenAt(swap.Site) : Without(swap.Free.Select(Span), ClosedAt(swap.Site));
            if (wave is not null)
                windows = Inside(
                    windows,
                    new(
                        (wave.From.DayNumber - world.Starts.DayNumber) * Minutes.PerDay,
                        (wave.Until.DayNumber - world.Starts.DayNumber + 1) * Minutes.PerDay));
            yield return new(
                swap.Id, swap.Site, swap.Skills, swap.Weight, estimate.BeforeMinutes, estimate.UnattendedMinutes, estimate.AfterMinutes,
                Slack,
                [.. Inside(windows, new(0, End))], [.. Inside(swap.Preferred.Select(Span), new(0, End))], release, _pace[swap.Id],
                StagedOf(swap, estimate),
                swap.Appointment is { } published && Knows(published) ? new(published.Start, published.Technician) : null,
                follows,
                swap.Pinned);
        }

        private IEnumerable<Visit> ReturnsOf(WorldReturn back)
        {
            var minutes = Grid(Math.Max(world.Grid, back.Minutes));
            var goesOn = IsOn(back.Appointment);
            if (goesOn && back.Appointment!.End > End) yield break;
            yield return new(
                back.Swap + ReturnSuffix, back.Site, goesOn ? [] : back.Skills, 7,
                goesOn ? back.Appointment!.End - back.Appointment.Start : minutes, 0, 0, Slack,
                goesOn ? [new(back.Appointment!.Start, back.Appointment.End)] : OpenAt(back.Site), [],
                goesOn ? 0 : now,
                Math.Clamp(back.DueDay, 0, world.Days - 1),
                null,
                !goesOn && back.Appointment is { } told && Knows(told) && told.Start >= now ? new(told.Start, told.Technician) : null,
                null,
                goesOn ? new(back.Appointment!.Start, back.Appointment.Technician) : null);
        }

        // What is under way stays as it is, also where a group made since then would forbid it.
        private IEnumerable<PlanGroup> GroupsOf(HashSet<string> visits)
        {
            foreach (var group in world.Groups ?? [])
            {
                List<string> members = [.. group.Swaps.Where(visits.Contains)];
                if (members.Count < 2) continue;
                List<Booked> stay = [.. world.Swaps.Where(s => members.Contains(s.Id) && Stays(s)).Select(s => s.Appointment!)];
                var oneDay = group.IsOneDay && stay.Select(a => Minutes.DayOf(a.Start)).Distinct().Count() < 2;
                if (oneDay || group.AtOnce is not null)
                    yield return new(group.Name, members, group.AtOnce is { } most ? Math.Max(most, stay.Count) : null, oneDay);
            }
        }

        /// <summary>What of a swap stays where it is, and where that is.</summary>
        private IEnumerable<(Booked At, string Site)> StandingOf(WorldSwap swap)
        {
            if (swap.Appointment is { } at) yield return (at, swap.Site);
            if (swap is { Taken: PromiseTaken.Fixed, IsPrepared: false, Preparation: { } made }) yield return (made, BenchSiteOf(swap));
        }

        private string BenchSiteOf(WorldSwap swap) => Estimates[swap.Id].Preparation?.Site ?? swap.Site;

        private bool Serves(Booked at, string site) =>
            world.Technicians.Any(t => t.Key == at.Technician && t.Sites.Contains(site));

        private static IEnumerable<Minutes> HandsOn(Booked at) =>
            new[] { new Minutes(at.Start, at.HandsOnUntil), new Minutes(at.Finish, at.End) }.Where(m => m.Start < m.End);

        private bool IsWithin(Booked at) => at.Start >= 0 && at.End <= End;

        private bool IsOn(Booked? appointment) => appointment is { } at && at.Start <= now && now < at.End;

        // By the clock it goes on now, even if nobody has reported a beginning yet: nobody wants it moved from under a technician's hands.
        private bool Stays(WorldSwap swap) =>
            swap.IsUnderWay
            || (swap.Appointment is { } at && (swap.Taken != PromiseTaken.AsUsual || (at.Start <= now && now < at.End)));

        private bool Knows(Booked booked) => world.Technicians.Any(t => t.Key == booked.Technician);

        private Staged? StagedOf(WorldSwap swap, SwapEstimate estimate) =>
            DepotOf(swap) is { } depot && estimate.LeadDays > 0
                ? new(depot.Key, Megabytes(estimate.Cargo.Bytes)!.Value, estimate.LeadDays, depot.HoldDays)
                : null;

        private int ReleaseOf(WorldSwap swap)
        {
            var zero = world.Starts.ToDateTime(TimeOnly.MinValue);
            var arrives = swap.NewTag is null
                ? null
                : world.Deliveries.FirstOrDefault(d => d.Tags.Contains(swap.NewTag, StringComparer.OrdinalIgnoreCase));
            return arrives is null ? 0 : Math.Clamp((int)(arrives.Arrives - zero).TotalMinutes, 0, End);
        }

        private int Grid(int minutes) => (minutes + world.Grid - 1) / world.Grid * world.Grid;

        private Minutes Span(FreeTime free)
        {
            var day = (free.Day.DayNumber - world.Starts.DayNumber) * Minutes.PerDay;
            return new(day + (int)free.From.ToTimeSpan().TotalMinutes, day + (int)free.Until.ToTimeSpan().TotalMinutes);
        }

        private IEnumerable<Minutes> ClosedAt(string site) =>
            world.Closures.Where(c => c.Site is null || c.Site == site).Select(c => c.At.Since(world.Starts)).Concat(_never);

        private readonly Dictionary<string, IReadOnlyList<Minutes>> _open = [];

        private IReadOnlyList<Minutes> OpenAt(string site)
        {
            if (_open.TryGetValue(site, out var known)) return known;
            var opens = world.Sites.FirstOrDefault(s => s.Key == site)?.Opens;
            var hours = opens is null ? [new(0, End)] : Enumerable.Range(0, world.Days).SelectMany(d => opens.On(world.Starts, d));
            return _open[site] = [.. Inside(Without(hours, ClosedAt(site)), new(0, End))];
        }

        /// <summary>
        /// The day by which each swap should be done: the end of its wave, or as soon as the technicians get to it when they fill seven
        /// tenths of their shifts with swaps in the order of the roster.
        /// Who has a promise has some days of grace beyond it, so that a repair breaks few promises instead of shifting many to keep each
        /// delay short.
        /// Without it a day late in the refresh would be as good as today, and what goes wrong there could not be made good.
        /// </summary>
        private void Pace(IReadOnlyList<PlanTechnician> technicians)
        {
            var hands = new double[world.Days];
            foreach (var shift in technicians.SelectMany(t => t.Shifts))
            {
                var day = Minutes.DayOf(shift.Start);
                if (shift.End > now) hands[day] += Paced * (shift.End - Math.Max(shift.Start, now));
            }
            var day0 = Math.Clamp(Minutes.DayOf(Math.Max(0, now)), 0, world.Days - 1);
            var (reached, left) = (day0, hands[day0]);
            foreach (var swap in world.Swaps.OrderBy(s => s.Appointment?.Start ?? int.MaxValue).ThenBy(s => s.Id, StringComparer.Ordinal))
            {
                var estimate = Estimates[swap.Id];
                left -= Stays(swap) ? 0 : estimate.BeforeMinutes + estimate.AfterMinutes + (estimate.Preparation?.HandsOnMinutes ?? 0);
                while (left < 0 && reached < world.Days - 1) left += hands[++reached];
                var wave = world.Waves.FirstOrDefault(w => w.Key == swap.Wave);
                var firstFree = swap.Free.Count == 0 ? 0 : swap.Free.Min(f => f.Day.DayNumber) - world.Starts.DayNumber;
                var soonest = Math.Max(
                    Math.Max(reached, firstFree),
                    Math.Max(
                        Minutes.DayOf(ReleaseOf(swap)),
                        swap.Appointment is { } told ? Minutes.DayOf(Math.Max(0, told.Start)) + DaysOfGrace : 0));
                _pace[swap.Id] = Math.Clamp(wave is null ? soonest : wave.Until.DayNumber - world.Starts.DayNumber, 0, world.Days - 1);
            }
        }
    }

    /// <summary>
    /// Local hours that a clock change skips or repeats, in minutes since day 0: nothing is planned there, so that every length is a true
    /// one.
    /// </summary>
    private static List<Minutes> ClockChanges(World world)
    {
        var found = new List<Minutes>();
        for (var day = 0; day < world.Days; day++)
        {
            var midnight = world.Starts.AddDays(day).ToDateTime(TimeOnly.MinValue);
            if (world.Zone.GetUtcOffset(midnight) == world.Zone.GetUtcOffset(midnight.AddDays(1))) continue;
            for (var minute = 0; minute < Minutes.PerDay; minute++)
            {
                var local = midnight.AddMinutes(minute);
                if (!world.Zone.IsInvalidTime(local) && !world.Zone.IsAmbiguousTime(local)) continue;
                var at = (day * Minutes.PerDay) + minute;
                if (found.Count > 0 && found[^1].End == at) found[^1] = new(found[^1].Start, at + 1);
                else found.Add(new(at, at + 1));
            }
        }
        return found;
    }

    private static IEnumerable<Minutes> Without(IEnumerable<Minutes> spans, IEnumerable<Minutes> taken)
    {
        var holes = taken.OrderBy(t => t.Start).ToList();
        foreach (var span in spans)
        {
            var at = span.Start;
            foreach (var hole in holes.Where(h => h.Overlaps(span)))
            {
                if (hole.Start > at) yield return new(at, hole.Start);
                at = Math.Max(at, hole.End);
            }
            if (at < span.End) yield return new(at, span.End);
        }
    }

    private static IEnumerable<Minutes> Inside(IEnumerable<Minutes> spans, Minutes bounds) =>
        spans.Select(s => new Minutes(Math.Max(s.Start, bounds.Start), Math.Min(s.End, bounds.End))).Where(s => s.Start < s.End);

    private static List<Minutes> Merge(IEnumerable<Minutes> spans)
    {
        var merged = new List<Minutes>();
        foreach (var span in spans.OrderBy(s => s.Start))
        {
            if (merged.Count > 0 && span.Start < merged[^1].End) merged[^1] = new(merged[^1].Start, Math.Max(merged[^1].End, span.End));
            else merged.Add(span);
        }
        return merged;
    }
}
