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
    private Plan _promised;

    private LaidPlan(WorldProblem world, PlanBoard board, Plan promised, long worldVersion, DateTimeOffset at)
    {
        (World, Board, _promised, WorldVersion, At) = (world, board, promised, worldVersion, at);
        _whoWorksAt = world.World.Sites.ToDictionary(s => s.Key, s =>
            (IReadOnlyList<string>)[.. world.World.Technicians.Where(t => t.Sites.Contains(s.Key)).Select(t => t.Key)]);
    }

    public WorldProblem World { get; }

    public PlanBoard Board { get; }

    /// <summary>The plan on record that all this is, with what of it no longer fits.</summary>
    public Plan Promised
    {
        get => _promised;
        set => (_promised, _starting) = (value, null);
    }

    /// <summary>The state of the refresh that it was laid from, or brought to since.</summary>
    public long WorldVersion { get; set; }

    public DateTimeOffset At { get; }

    /// <param name="free">Swaps that are to be placed anew: they are not on the board, and at no desk, whatever the clock says of the time
    /// that was promised.</param>
    public static async Task<Result<LaidPlan>> ReadAsync(
        YardDb db, RefreshRow refresh, DateTimeOffset now, IReadOnlyCollection<string> free, CancellationToken cancel)
    {
        var read = await WorldReader.ReadAsync(db, refresh, cancel);
        if (free.Count > 0)
            read = read with
            {
                Swaps = [.. read.Swaps.Select(s => free.Contains(s.Id) && !s.IsUnderWay ? s with { Appointment = null } : s)]
            };
        if (!WorldProblem.Pose(read, Math.Max(0, new RefreshClock(refresh).MinuteOf(now))).TryGet(out var world, out var problem))
            return problem;
        var promised = await PlanReader.RowAsync(db, refresh.Key, "published", cancel) is { } row ? PlanReader.BodyOf(row) : new([], []);
        var board = PlanBoard.Lay(
            world.Problem,
            promised with
            {
                Placed = [.. promised.Placed.Where(p =>
                    !free.Contains(p.Id)
                        && world.Problem.VisitOf.ContainsKey(p.Id)
                        && world.Problem.TechnicianOf.ContainsKey(p.Technician))]
            },
            out _);
        return new LaidPlan(world, board, promised, refresh.WorldVersion, now);
    }

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
