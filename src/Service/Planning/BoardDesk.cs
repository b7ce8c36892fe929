using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>The planning board as it is promised, to find single swaps another time while all others keep theirs.</summary>
internal sealed class BoardDesk
{
    private readonly Change _w;
    private readonly LaidPlan _laid;
    private readonly IReadOnlyCollection<string> _free;

    private BoardDesk(Change w, LaidPlan laid, IReadOnlyCollection<string> free) => (_w, _laid, _free) = (w, laid, free);

    /// <summary>Lays out what is promised but for the swaps that are to be placed anew.</summary>
    public static Task<Result<BoardDesk>> LayAsync(Change w, IReadOnlyCollection<string> free, CancellationToken cancel) =>
        LayAsync(w, free, [], null, cancel);

    /// <summary>The same, and but for those that are to keep their time with somebody else.</summary>
    /// <param name="within">Only what is booked between these moments, where nothing is to go to another day; null: all.</param>
    public static async Task<Result<BoardDesk>> LayAsync(
        Change w, IReadOnlyCollection<string> free, IReadOnlyCollection<string> passed,
        (DateTimeOffset From, DateTimeOffset Until)? within, CancellationToken cancel)
    {
        await w.Db.SaveChangesAsync(cancel);
        return (await LaidPlan.ReadAsync(w.Db, w.Refresh, w.Now, free, passed, within, cancel)).TryGet(out var laid, out var problem)
            ? new BoardDesk(w, laid, free)
            : problem;
    }

    /// <summary>On a plan that is laid out already, and is this desk's alone while it works.</summary>
    public static BoardDesk On(Change w, LaidPlan laid, IReadOnlyCollection<string> free)
    {
        foreach (var id in free.Where(id => laid.World.Problem.VisitOf.ContainsKey(id) && laid.Board.At(id) is not null))
            laid.Board.TakeOut(id);
        return new(w, laid, free);
    }

    /// <inheritdoc cref="LaidPlan.WhoWorksAt"/>
    public IReadOnlyList<string> WhoWorksAt(string site) => _laid.WhoWorksAt(site);

    /// <summary>Whether a swap can be taken over at its time by a technician.</summary>
    public bool MayPass(SwapRow swap, string technician) => Passing(swap, technician) is { IsAllowed: true };

    /// <summary>What stands in the way of that, in sentences; empty: nothing does.</summary>
    /// <param name="sites">Only of whom they have at these sites the names are said; null: of all.</param>
    public async Task<IReadOnlyList<string>> AgainstPassingAsync(
        SwapRow swap, string technician, IReadOnlyList<string>? sites, CancellationToken cancel)
    {
        if (Passing(swap, technician) is not { } answer) return ["Its time lies outside the refresh."];
        return answer.IsAllowed ? [] : await WordsAsync(answer, sites, cancel);
    }

    private async Task<IReadOnlyList<string>> WordsAsync(MoveAnswer answer, IReadOnlyList<string>? sites, CancellationToken cancel)
    {
        var ids = _laid.World.World.Swaps.Select(s => s.Id).ToList();
        var reader = await PlanReader.OfAsync(_w.Db, _laid.World, _w.Refresh, cancel, ids, sites);
        return [.. answer.Breaks.Select(b => reader.Words(b.Message)).Distinct()];
    }

    /// <summary>Lets a technician take a swap over at its time, if nothing stands in the way.</summary>
    public bool Pass(SwapRow swap, string technician)
    {
        if (Passing(swap, technician) is not { IsAllowed: true } answer) return false;
        _laid.Board.Move(swap.Id, technician, answer.At.Start);
        _laid.Promised = _laid.Promised with
        {
            Placed = [.. _laid.Promised.Placed.Select(p => p.Id == swap.Id ? p with { Technician = technician } : p)]
        };
        return true;
    }

    /// <summary>
    /// Lets a technician take over what prepares a swap at a bench, if nothing stands in the way; else it stays with whoever has it.
    /// </summary>
    public bool PassPreparation(string swap, string technician)
    {
        var id = swap + WorldProblem.PreparationSuffix;
        if (!_laid.World.Problem.VisitOf.ContainsKey(id)
            || _laid.Board.At(id) is not { } at
            || _laid.Board.Move(id, technician, at.Start) is not { IsAllowed: true })
            return false;
        _laid.Promised = _laid.Promised with
        {
            Placed = [.. _laid.Promised.Placed.Select(p => p.Id == id ? p with { Technician = technician } : p)]
        };
        return true;
    }

    private MoveAnswer? Passing(SwapRow swap, string technician) =>
        _laid.World.Problem.VisitOf.TryGetValue(swap.Id, out var visit) && visit.Pinned?.Start is { } start
            ? _laid.Board.Try(swap.Id, technician, start)
            : null;

    /// <summary>
    /// Places a swap at the first time at which one of the technicians can have it, with the one whom it suits best then.
    /// </summary>
    /// <param name="from">First minute of the refresh that may be.</param>
    /// <param name="until">Minute before which it must start.</param>
    /// <returns>Null: there is none, and it is not placed.</returns>
    public Placed? Soonest(string swap, IReadOnlyCollection<string> technicians, int from, int until)
    {
        var (board, grid) = (_laid.Board, _laid.World.World.Grid);
        if (!_laid.World.Problem.VisitOf.ContainsKey(swap)) return null;
        for (var at = (from + grid - 1) / grid * grid; at < until; at += grid)
            if (technicians.Select(t => board.Try(swap, t, at)).Where(a => a.IsAllowed).MinBy(a => a.CostAfter) is { } best
                && board.Move(swap, best.At.Technician, best.At.Start) is { IsAllowed: true } taken)
                return taken.At;
        return null;
    }

    /// <summary>Places a swap at a minute with a technician, if nothing stands in the way.</summary>
    /// <param name="sites">Only of whom they have at these sites the names are said; null: of all.</param>
    /// <returns>What stands in the way, in sentences; empty: nothing, and it is placed.</returns>
    public async Task<IReadOnlyList<string>> PlaceAsync(
        string swap, string technician, int start, IReadOnlyList<string>? sites, CancellationToken cancel)
    {
        if (!_laid.World.Problem.VisitOf.ContainsKey(swap)) return ["Nothing of it is planned any more."];
        var answer = _laid.Board.Move(swap, technician, start);
        return answer.IsAllowed ? [] : await WordsAsync(answer, sites, cancel);
    }

    /// <summary>
    /// Promises what was placed; the plan on record follows. What else of it no longer fits is left for the next plan to mend.
    /// </summary>
    /// <param name="because">Why the others have no time now.</param>
    public async Task BookAsync(string because, CancellationToken cancel)
    {
        var (board, problem) = (_laid.Board, _laid.World.Problem);
        Placed? At(string visit) => problem.VisitOf.ContainsKey(visit) ? board.At(visit) : null;
        var placed = _free.Select(At).OfType<Placed>().ToList();
        var without = _free.Where(id => placed.TrueForAll(p => p.Id != id)).Select(id => new Unplaced(id, because)).ToList();
        // The preparation of what was placed stays where it is; to book is to say both.
        var prepared = placed.Select(p => At(p.Id + WorldProblem.PreparationSuffix)).OfType<Placed>();
        await Booking.BookAsync(
            _w,
            await PlanReader.OfAsync(_w.Db, _laid.World, _w.Refresh, cancel, [.. _free]),
            problem,
            new([.. placed, .. prepared], without),
            cancel);
        _laid.Promised = new(
            [
                .. _laid.Promised.Placed.Where(p =>
                    !_free.Contains(p.Id) && !without.Exists(u => u.Id == WorldProblem.SwapOf(p.Id) && WorldProblem.IsPreparation(p.Id))),
                .. placed
            ],
            [.. _laid.Promised.Unplaced.Where(u => !_free.Contains(u.Id)), .. without]);
        await RecordAsync(cancel);
    }

    /// <summary>The plan on record follows what is booked.</summary>
    public async Task RecordAsync(CancellationToken cancel)
    {
        if (await PlanReader.RowAsync(_w.Db, _w.Refresh.Key, "published", cancel) is { } row) row.Body = PlanFile.Write(_laid.Promised);
        _w.WorldChanged();
    }
}
