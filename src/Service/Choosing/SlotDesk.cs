using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Planning;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Choosing;

/// <summary>A time that a swap could have while all others keep theirs.</summary>
/// <param name="End">Minute at which the last hands-on part is over.</param>
internal sealed record FreeSlot(Placed At, int End);

/// <summary>
/// The published plan laid out in memory, to say which other times fit a swap: many people look at once, and only what is booked changes
/// what is free.
/// What is chosen is booked on the same board, under the refresh's lock, while nobody else uses it; where something else has changed
/// meanwhile it is laid anew.
/// </summary>
internal sealed class SlotDesk(TimeProvider time)
{
    /// <summary>Most times that are offered at once.</summary>
    public const int Most = 60;

    /// <summary>Minutes from now before which nothing is offered.</summary>
    public const int LeastNoticeMinutes = 120;

    // People choose on the half hour; the grid is finer, for what is placed by the engine.
    private const int Step = 30;
    private static readonly TimeSpan Keeps = TimeSpan.FromMinutes(2);
    private readonly ConcurrentDictionary<string, Place> _places = new();

    private sealed class Place
    {
        public SemaphoreSlim Gate { get; } = new(1);

        public LaidPlan? Laid { get; set; }
    }

    /// <summary>The board of one refresh, for whoever holds it alone.</summary>
    internal sealed class Held : IDisposable
    {
        private readonly SlotDesk _desk;
        private readonly Place _place;
        private LaidPlan? _changed;

        internal Held(SlotDesk desk, object place) => (_desk, _place) = (desk, (Place)place);

        /// <summary>The plan as it stands now, on which some swaps can be placed anew.</summary>
        public async Task<Result<LaidPlan>> LaidAsync(
            YardDb db, RefreshRow refresh, IReadOnlyCollection<string> free, CancellationToken cancel)
        {
            if (!(await LaidAsync(db, refresh, cancel)).TryGet(out var laid, out var problem)) return problem;
            return laid.Holds(free) ? await LaidPlan.ReadAsync(db, refresh, _desk.Now, free, [], null, cancel) : laid;
        }

        private async Task<Result<LaidPlan>> LaidAsync(YardDb db, RefreshRow refresh, CancellationToken cancel)
        {
            var now = _desk.Now;
            // Asked now: whoever waited for the board knows only how the refresh stood before.
            var version = await db.Refreshes.AsNoTracking().Where(r => r.Key == refresh.Key).Select(r => r.WorldVersion).FirstAsync(cancel);
            if (_place.Laid is { } laid && laid.WorldVersion == version && now - laid.At <= Keeps) return laid;
            if (!(await LaidPlan.ReadAsync(db, refresh, now, [], [], null, cancel)).TryGet(out var read, out var problem)) return problem;
            read.WorldVersion = version;
            return _place.Laid = read;
        }

        /// <summary>
        /// A desk to place some swaps anew. What is changed on it is forgotten unless <see cref="Keep"/> says that it was written.
        /// </summary>
        public async Task<Result<BoardDesk>> DeskAsync(Change w, IReadOnlyCollection<string> free, CancellationToken cancel)
        {
            await w.Db.SaveChangesAsync(cancel);
            if (!(await LaidAsync(w.Db, w.Refresh, free, cancel)).TryGet(out var laid, out var problem)) return problem;
            // One that was laid for these swaps alone is not kept for others.
            (_changed, _place.Laid) = (laid == _place.Laid ? laid : null, null);
            return BoardDesk.On(w, laid, free);
        }

        /// <summary>What was booked is written: the board is as the records are, in that state of the refresh.</summary>
        public void Keep(long worldVersion)
        {
            if (_changed is null) return;
            _changed.WorldVersion = worldVersion;
            _place.Laid = _changed;
        }

        public void Dispose() => _place.Gate.Release();
    }

    private DateTimeOffset Now => time.GetUtcNow();

    /// <summary>
    /// Waits until the board of a refresh is free. Whoever writes takes it before the refresh's lock, so that no two wait for each other.
    /// </summary>
    public async Task<Held> HoldAsync(string refresh, CancellationToken cancel)
    {
        var place = _places.GetOrAdd(refresh, _ => new());
        await place.Gate.WaitAsync(cancel);
        return new(this, place);
    }

    /// <summary>Times that fit a swap, in their order, at most <see cref="Most"/>; where it stands now is among them.</summary>
    public async Task<Result<IReadOnlyList<FreeSlot>>> FreeAsync(YardDb db, RefreshRow refresh, SwapRow swap, CancellationToken cancel)
    {
        using var held = await HoldAsync(refresh.Key, cancel);
        return (await held.LaidAsync(db, refresh, [swap.Id], cancel)).TryGet(out var laid, out var problem)
            ? Result<IReadOnlyList<FreeSlot>>.Of(Free(laid, refresh, swap, Earliest(refresh), refresh.Days * Minutes.PerDay, Most))
            : problem;
    }

    /// <summary>The first minute that may still be offered.</summary>
    public int Earliest(RefreshRow refresh) => Math.Max(0, new RefreshClock(refresh).MinuteOf(Now)) + LeastNoticeMinutes;

    /// <summary>Times between two minutes that fit a swap on a board; where it stands now is among them.</summary>
    /// <param name="most">So many at most.</param>
    public static List<FreeSlot> Free(LaidPlan laid, RefreshRow refresh, SwapRow swap, int from, int until, int most)
    {
        if (!laid.World.Problem.VisitOf.TryGetValue(swap.Id, out var visit)) return [];
        var stands = laid.Board.At(swap.Id);
        var slots = laid.Board.Starts(
            swap.Id,
            from,
            until,
            Step,
            at => stands?.Start != at && laid.StartingAt(swap.Site, at) < (refresh.MostPerSlot ?? int.MaxValue),
            most)
            .Select(p => new FreeSlot(p, p.Finish + visit.After)).ToList();
        if (stands is not null) slots.Add(new(stands, stands.Finish + visit.After));
        return [.. slots.OrderBy(s => s.At.Start)];
    }

    /// <summary>Of swaps whose time is offered, those that could take a swap's time and it theirs.</summary>
    public static IEnumerable<(SwapRow Offered, FreeSlot Slot)> Exchangeable(LaidPlan laid, SwapRow swap, IEnumerable<SwapRow> offered)
    {
        var (board, visits) = (laid.Board, laid.World.Problem.VisitOf);
        if (!visits.ContainsKey(swap.Id)) yield break;
        foreach (var other in offered)
        {
            if (!visits.TryGetValue(other.Id, out _)
                || board.At(swap.Id) is not { } mine
                || board.At(other.Id) is not { } theirs
                || mine.Start == theirs.Start)
                continue;
            board.TakeOut(mine.Id);
            board.TakeOut(theirs.Id);
            var here = laid.WhoWorksAt(swap.Site).Select(t => board.Move(mine.Id, t, theirs.Start)).FirstOrDefault(a => a.IsAllowed)?.At;
            var fits = here is not null && laid.WhoWorksAt(other.Site).Any(t => board.Try(theirs.Id, t, mine.Start).IsAllowed);
            if (here is not null) board.TakeOut(mine.Id);
            if (!board.Put(mine) || !board.Put(theirs))
                throw new System.Diagnostics.UnreachableException("What was taken off the board goes back where it was.");
            if (fits) yield return (other, new(here!, here!.Finish + visits[swap.Id].After));
        }
    }
}
