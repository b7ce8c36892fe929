using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Planning;

/// <summary>The planning board as it is promised, to find single swaps another time while all others keep theirs.</summary>
internal sealed class BoardDesk
{
    private readonly Writing.Writing _w;
    private readonly WorldProblem _world;
    private readonly PlanRow? _row;
    private readonly Plan _promised;
    private readonly PlanBoard _board;
    private readonly IReadOnlyCollection<string> _free;

    private BoardDesk(Writing.Writing w, WorldProblem world, PlanRow? row, Plan promised, IReadOnlyCollection<string> free)
    {
        (_w, _world, _row, _promised, _free) = (w, world, row, promised, free);
        var problem = world.Problem;
        _board = PlanBoard.Lay(problem, promised with { Placed = [.. promised.Placed.Where(p => !free.Contains(p.Id) && problem.VisitOf.ContainsKey(p.Id) && problem.TechnicianOf.ContainsKey(p.Technician))] }, out _);
    }

    /// <summary>Lays out what is promised but for the swaps that are to be placed anew.</summary>
    public static async Task<Result<BoardDesk>> LayAsync(Writing.Writing w, RefreshClock clock, IReadOnlyCollection<string> free, CancellationToken cancel)
    {
        await w.Db.SaveChangesAsync(cancel);
        var read = await WorldReader.ReadAsync(w.Db, w.Refresh, cancel);
        // Whoever is placed anew is at no desk, whatever the clock says of the time that was promised.
        read = read with { Swaps = [.. read.Swaps.Select(s => free.Contains(s.Id) && !s.IsUnderWay ? s with { Appointment = null } : s)] };
        if (!WorldProblem.Pose(read, Math.Max(0, clock.MinuteOf(w.Now))).TryGet(out var world, out var problem)) return problem;
        var row = await PlanReader.RowAsync(w.Db, w.Refresh.Key, "published", cancel);
        return new BoardDesk(w, world, row, row is null ? new([], []) : PlanReader.BodyOf(row), free);
    }

    /// <summary>Keys of all technicians who may work at a site.</summary>
    public IReadOnlyList<string> WhoWorksAt(string site) => [.. _world.World.Technicians.Where(t => t.Sites.Contains(site)).Select(t => t.Key)];

    /// <summary>Places a swap at the first time at which one of the technicians can have it, with the one whom it suits best then.</summary>
    /// <param name="from">First minute of the refresh that may be.</param>
    /// <param name="until">Minute before which it must start.</param>
    /// <returns>Null: there is none, and it is not placed.</returns>
    public Placed? Soonest(string swap, IReadOnlyCollection<string> technicians, int from, int until)
    {
        if (!_world.Problem.VisitOf.ContainsKey(swap)) return null;
        for (var at = (from + _world.World.Grid - 1) / _world.World.Grid * _world.World.Grid; at < until; at += _world.World.Grid)
            if (technicians.Select(t => _board.Try(swap, t, at)).Where(a => a.IsAllowed).MinBy(a => a.CostAfter) is { } best && _board.Move(swap, best.At.Technician, best.At.Start) is { IsAllowed: true } taken) return taken.At;
        return null;
    }

    /// <summary>Promises what was placed; the plan on record follows. What else of it no longer fits is left for the next plan to mend.</summary>
    /// <param name="because">Why the others have no time now.</param>
    public async Task BookAsync(string because, CancellationToken cancel)
    {
        var placed = _free.Where(_world.Problem.VisitOf.ContainsKey).Select(_board.At).OfType<Placed>().ToList();
        var without = _free.Where(id => placed.TrueForAll(p => p.Id != id)).Select(id => new Unplaced(id, because)).ToList();
        await Booking.BookAsync(_w, await PlanReader.OfAsync(_w.Db, _world, _w.Refresh, cancel), _world.Problem, new(placed, without), cancel);
        if (_row is not null) _row.Body = PlanFile.Write(new([.. _promised.Placed.Where(p => !_free.Contains(p.Id)), .. placed], [.. _promised.Unplaced.Where(u => !_free.Contains(u.Id)), .. without]));
        _w.WorldChanged();
    }
}
