using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Planning;

/// <summary>What is promised, laid out in memory. Not for several threads at once.</summary>
internal sealed class LaidPlan
{
    private readonly Dictionary<string, IReadOnlyList<string>> _whoWorksAt;
    private Dictionary<(string Site, int Start), int>? _starting;
    private readonly IReadOnlySet<string> _held;
    private Plan _promised;

    private LaidPlan(
        WorldProblem world, PlanBoard board, Plan promised, IReadOnlySet<string> held, long worldVersion, DateTimeOffset at)
    {
        (World, Board, _promised, _held, WorldVersion, At) = (world, board, promised, held, worldVersion, at);
        _whoWorksAt = world.World.Sites.ToDictionary(s => s.Key, s =>
            (IReadOnlyList<string>)[.. world.World.Technicians.Where(t => t.Sites.Contains(s.Key)).Select(t => t.Key)]);
    }

    public WorldProblem World { get; }

    public PlanBoard Board { get; }

    /// <summary>All that is booked, with whom no plan found a time.</summary>
    public Plan Promised
    {
        get => _promised;
        set => (_promised, _starting) = (value, null);
    }

    /// <summary>The state of the refresh that it was laid from, or brought to since.</summary>
    public long WorldVersion { get; set; }

    public DateTimeOffset At { get; }

    /// <summary>
    /// Lays out what is booked. What no longer fits as it would be planned today, since more was found on a computer or a shift is
    /// another, is promised all the same: it stands as it was booked, and nobody is put on top of it.
    /// </summary>
    /// <param name="free">Swaps that are to be placed anew: they are not on the board, and at no desk, whatever the clock says of the time
    /// that was promised.</param>
    /// <param name="passed">Swaps that are to keep their time with somebody else: they are not on the board either.</param>
    /// <param name="within">Only what is booked between these moments, where nothing is to go to another day; null: all.</param>
    public static async Task<Result<LaidPlan>> ReadAsync(
        YardDb db, RefreshRow refresh, DateTimeOffset now, IReadOnlyCollection<string> free, IReadOnlyCollection<string> passed,
        (DateTimeOffset From, DateTimeOffset Until)? within, CancellationToken cancel)
    {
        var minute = Math.Max(0, new RefreshClock(refresh).MinuteOf(now));
        var booked = await WorldReader.ReadAsync(db, refresh, within, cancel);
        var without = free.Concat(passed).ToHashSet();
        var read = With(booked, without, s => passed.Contains(s.Id)
            ? s.PassedOn(minute, booked.Grid)
            : s.IsUnderWay ? s : s with { Appointment = null });
        if (!WorldProblem.Pose(read, minute).TryGet(out var world, out var problem)) return problem;
        var board = Lay(world, without, out var lost);
        // What is over by the clock is in nobody's way.
        var ahead = read.Swaps.Where(s => s.Appointment?.End > minute || s.Preparation?.End > minute).Select(s => s.Id);
        var held = lost.Where(p => !WorldProblem.IsReturn(p.Id))
            .Select(p => WorldProblem.SwapOf(p.Id))
            .Except(without)
            .Intersect(ahead)
            .ToHashSet();
        if (held.Count > 0)
        {
            read = With(read, held, s => s with { Taken = PromiseTaken.Fixed });
            if (!WorldProblem.Pose(read, minute).TryGet(out world, out problem)) return problem;
            board = Lay(world, without, out _);
        }
        var record = await PlanReader.RowAsync(db, refresh.Key, "published", cancel) is { } row ? PlanReader.BodyOf(row) : new([], []);
        return new LaidPlan(
            world, board, Promise(record, booked, world.Promised(booked), within is null), held, refresh.WorldVersion, now);
    }

    /// <summary>What is booked; of what was not read, as the plan on record has it, which follows what is booked.</summary>
    private static Plan Promise(Plan record, World booked, IEnumerable<Placed> promised, bool isWhole)
    {
        List<Placed> placed = [.. promised];
        var ids = placed.Select(p => p.Id).ToHashSet();
        if (!isWhole)
        {
            var read = booked.Swaps.Select(s => s.Id).ToHashSet();
            placed.AddRange(record.Placed.Where(p => !read.Contains(WorldProblem.SwapOf(p.Id)) && ids.Add(p.Id)));
        }
        return new(placed, [.. record.Unplaced.Where(u => !ids.Contains(u.Id))]);
    }

    private static World With(World world, HashSet<string> ids, Func<WorldSwap, WorldSwap> change) =>
        ids.Count == 0 ? world : world with { Swaps = [.. world.Swaps.Select(s => ids.Contains(s.Id) ? change(s) : s)] };

    // A bench preparation stays where it is, whatever becomes of its swap.
    private static PlanBoard Lay(WorldProblem world, HashSet<string> without, out IReadOnlyList<Placed> lost) =>
        PlanBoard.Lay(world.Problem, new([.. world.Promised(world.World).Where(p => !without.Contains(p.Id))], []), out lost);

    /// <summary>Whether one of these swaps stands as it was booked only, and has to be laid free before it can be placed anew.</summary>
    public bool Holds(IEnumerable<string> swaps) => swaps.Any(_held.Contains);

    /// <summary>Keys of all technicians who may work at a site.</summary>
    public IReadOnlyList<string> WhoWorksAt(string site) => _whoWorksAt.GetValueOrDefault(site) ?? [];

    /// <summary>How many visits at a desk of a site begin at a minute.</summary>
    public int StartingAt(string site, int start)
    {
        _starting ??= Promised.Placed.Where(p => !WorldProblem.IsPreparation(p.Id) && World.Problem.VisitOf.ContainsKey(p.Id))
            .GroupBy(p => (World.Problem.VisitOf[p.Id].Site, p.Start))
            .ToDictionary(g => g.Key, g => g.Count());
        return _starting.GetValueOrDefault((site, start));
    }
}
