using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;

namespace YardRelay.Service.Planning;

/// <summary>A plan of Core in the words of people: names, instants, sentences.</summary>
internal sealed class PlanReader(WorldProblem posed, RefreshRow refresh, IReadOnlyDictionary<string, PlanReader.Who> people)
{
    private readonly RefreshClock _clock = new(refresh);
    private readonly HashSet<string> _underWay = [.. posed.World.Swaps.Where(s => s.IsUnderWay).Select(s => s.Id)];
    private readonly Dictionary<string, List<Minutes>> _away = posed.World.Technicians.Where(t => t.Absences.Count > 0)
        .ToDictionary(t => t.Key, t => t.Absences.Select(a => a.Since(refresh.Starts)).ToList());
    private readonly Lazy<Dictionary<string, Placed>> _booked = new(() => posed.Promised(posed.World).ToDictionary(p => p.Id));
    private readonly Dictionary<string, string> _technicians = posed.World.Technicians.ToDictionary(t => t.Key, t => t.Name);

    /// <summary>Of a swap: whose it is, and where.</summary>
    public sealed record Who(string Name, string? Room);

    public RefreshClock Clock => _clock;

    /// <param name="only">Swaps whose names are wanted; null: all.</param>
    /// <param name="sites">Sites whose people may be named; null: all.</param>
    public static async Task<PlanReader> OfAsync(
        YardDb db, WorldProblem posed, RefreshRow refresh, CancellationToken cancel, IReadOnlyList<string>? only = null,
        IReadOnlyList<string>? sites = null) =>
        new(
            posed,
            refresh,
            await db.Swaps.AsNoTracking()
                .Where(s => s.Refresh == refresh.Key && (only == null || only.Contains(s.Id)))
                .Select(s => new { s.Id, s.Name, s.Room, s.Site })
                .ToDictionaryAsync(
                    s => s.Id,
                    s => sites?.Contains(s.Site) == false ? new Who("somebody at another site", null) : new Who(s.Name, s.Room),
                    cancel));

    /// <summary>The plan that is newest in a state; null: there is none.</summary>
    public static Task<PlanRow?> RowAsync(YardDb db, string refresh, string state, CancellationToken cancel) =>
        db.Plans.Where(p => p.Refresh == refresh && p.State == state).OrderByDescending(p => p.Number).FirstOrDefaultAsync(cancel);

    public static Plan BodyOf(PlanRow row) => PlanFile.ReadPlan(row.Body).Value;

    public AppointmentSeen Seen(Placed placed)
    {
        var swap = WorldProblem.SwapOf(placed.Id);
        var who = people.GetValueOrDefault(swap);
        // A visit that the instance has no more is shown by what is known of it.
        var visit = posed.Problem.VisitOf.GetValueOrDefault(placed.Id);
        var (handsOn, end) = (placed.Start + (visit?.Before ?? 0), placed.Finish + (visit?.After ?? 0));
        return new(
            WorldProblem.IsReturn(placed.Id) ? placed.Id : swap,
            WorldProblem.IsReturn(placed.Id) ? $"{who?.Name ?? swap}, return visit" : who?.Name ?? swap,
            visit?.Site ?? "",
            who?.Room,
            placed.Technician,
            _technicians.GetValueOrDefault(placed.Technician, placed.Technician),
            _clock.At(placed.Start),
            _clock.At(handsOn),
            _clock.At(placed.Finish),
            _clock.At(end),
            WorldProblem.IsPreparation(placed.Id),
            visit?.Pinned is not null && !_underWay.Contains(swap),
            _away.GetValueOrDefault(placed.Technician) is { } away
                && away.Any(a => a.Overlaps(new(placed.Start, handsOn)) || a.Overlaps(new(placed.Finish, end))));
    }

    public LeftOutSeen Seen(Unplaced left) =>
        new(WorldProblem.SwapOf(left.Id), people.GetValueOrDefault(WorldProblem.SwapOf(left.Id))?.Name ?? left.Id, Words(left.Because));

    public string Name(string visit) => people.GetValueOrDefault(WorldProblem.SwapOf(visit))?.Name ?? WorldProblem.SwapOf(visit);

    /// <summary>A sentence of the engine with dates and names.</summary>
    public string Words(string words)
    {
        foreach (var visit in words.Split(' ', '\'', ',', '.').Where(w => posed.Problem.VisitOf.ContainsKey(w)).Distinct().ToList())
            words = words.Replace(
                visit,
                WorldProblem.IsPreparation(visit)
                    ? $"{Name(visit)}'s bench preparation"
                    : WorldProblem.IsReturn(visit)
                    ? $"the return visit to {Name(visit)}"
                    : Name(visit),
                StringComparison.Ordinal);
        return WorldProblem.Dated(words, posed.World);
    }

    /// <param name="problem">What the plan is a plan of.</param>
    public PlanFigures Figures(AppointmentProblem problem, Plan plan)
    {
        var digest = PlanDigest.Of(problem, plan);
        return new(
            digest.Placed, WorldProblem.LeftOut(plan).Count, digest.Cost.Total, digest.Cost.LeftOut, digest.Cost.Late,
            digest.Cost.NotPreferred, digest.Cost.Moved, digest.Cost.Journeys, digest.Cost.TechnicianDays,
            digest.LastDay < 0 ? null : refresh.Starts.AddDays(digest.LastDay));
    }

    /// <summary>A plan row with what of it still fits; the figures are of what fits.</summary>
    public PlanSeen Seen(PlanRow row, Plan plan, IReadOnlyList<Placed> lost)
    {
        var unfit = lost.DistinctBy(p => p.Id).ToDictionary(p => p.Id, NoLonger);
        return new(
            row.Number, row.State, row.Version, row.BasedOn, row.MadeBy, row.MadeAt, row.PublishedBy, row.PublishedAt,
            [.. plan.Placed.OrderBy(p => p.Start)
                .ThenBy(p => p.Id, StringComparer.Ordinal)
                .Select(p => row.State == "draft" ? Seen(p) with { Booked = BookedInstead(p) } : Seen(p))],
            // Each is left out once: what no longer fits is left out because of that.
            [.. WorldProblem.LeftOut(plan)
                .Select(u => unfit.TryGetValue(u.Id, out var words) ? Seen(u) with { Because = words } : Seen(u))],
            [.. lost.Select(p => new LeftOutSeen(WorldProblem.SwapOf(p.Id), Name(p.Id), unfit[p.Id]))],
            Figures(posed.Problem, plan), row.Moves.Length > 2 && row.State == "draft", LoadOf(plan), AwayOf());
    }

    private string NoLonger(Placed p) =>
        $"{_clock.Local(_clock.At(p.Start)):ddd d MMM HH:mm} with {NameOf(p.Technician)} no longer fits. Plan again: the rest stays where "
            + "it is.";

    /// <summary>What is booked, where a draft says otherwise; null: the same.</summary>
    private string? BookedInstead(Placed drafted) =>
        _booked.Value.TryGetValue(drafted.Id, out var booked)
            ? booked == drafted ? null : $"{_clock.Local(_clock.At(booked.Start)):ddd d MMM HH:mm} with {NameOf(booked.Technician)}"
            : "not booked";

    private string NameOf(string technician) => _technicians.GetValueOrDefault(technician, technician);

    private List<AwaySeen> AwayOf() =>
    [
        .. _away.SelectMany(t => t.Value.Select(a => (Who: t.Key, From: Math.Max(0, a.Start), Until: Math.Min(LastMinute, a.End))))
            .Where(a => a.From < a.Until)
            .OrderBy(a => a.From)
            .Select(a => new AwaySeen(a.Who, NameOf(a.Who), _clock.At(a.From), _clock.At(a.Until))),
    ];

    private int LastMinute => refresh.Days * Minutes.PerDay;

    private PlanLoad LoadOf(Plan plan)
    {
        const long Megabyte = 1_000_000;
        var problem = posed.Problem;
        var (visits, handsOn, shifts) = (new int[problem.Days], new int[problem.Days], new int[problem.Days]);
        foreach (var shift in problem.Technicians.SelectMany(t => t.Shifts)) shifts[Minutes.DayOf(shift.Start)] += shift.End - shift.Start;
        var depots = posed.World.Depots.ToDictionary(d => d.Key, d => (Lies: new long[problem.Days], Brought: new long[problem.Days]));
        foreach (var placed in plan.Placed)
        {
            var (visit, day) = (problem.VisitOf[placed.Id], Minutes.DayOf(placed.Start));
            if (!WorldProblem.IsPreparation(placed.Id)) visits[day]++;
            handsOn[day] += visit.Before + visit.After;
            if (visit.Staged is not { } staged) continue;
            depots[staged.Depot].Brought[day] += staged.Size * Megabyte;
            for (var d = Math.Max(0, day - staged.LeadDays); d <= Math.Min(problem.Days - 1, day + staged.HoldDays); d++)
                depots[staged.Depot].Lies[d] += staged.Size * Megabyte;
        }
        return new(
            [.. Enumerable.Range(0, problem.Days).Select(d => new DayLoad(refresh.Starts.AddDays(d), visits[d], handsOn[d], shifts[d]))],
            [.. posed.World.Depots.Select(d =>
                new DepotLoad(d.Key, d.Name, d.CapacityBytes, d.DailyBytes, depots[d.Key].Lies, depots[d.Key].Brought))]);
    }

    public static readonly PlanFigures NoFigures = new(0, 0, 0, 0, 0, 0, 0, 0, 0, null);

    public PlanChangeSeen Seen(PlanChange change)
    {
        var (before, after) = (change.Before is { } b ? Seen(b) : null, change.After is { } a ? Seen(a) : null);
        var name = Name(change.Visit)
            + (WorldProblem.IsPreparation(change.Visit) ? " (bench)" : WorldProblem.IsReturn(change.Visit) ? " (return visit)" : "");
        string At(AppointmentSeen s) => $"{_clock.Local(s.Start):ddd d MMM HH:mm} with {s.TechnicianName}";
        var words = (before, after) switch
        {
            (null, { } isNow) => $"{name} comes in: {At(isNow)}.",
            ({ } was, null) => $"{name} goes out, was {At(was)}.",
            ({ } was, { } isNow) when was.Start == isNow.Start && was.Technician != isNow.Technician =>
                $"{name} stays at {_clock.Local(was.Start):ddd d MMM HH:mm}, with {isNow.TechnicianName} instead of {was.TechnicianName}.",
            ({ } was, { } isNow) when was.Start == isNow.Start => $"{name} stays at {At(was)}, its last part moves.",
            ({ } was, { } isNow) => $"{name} moves from {At(was)} to {At(isNow)}.",
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        return new(WorldProblem.SwapOf(change.Visit), Name(change.Visit), WorldProblem.IsPreparation(change.Visit), before, after, words);
    }
}
