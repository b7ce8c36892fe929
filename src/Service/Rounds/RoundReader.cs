using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Checklists;
using YardRelay.Core.Orders;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Rounds;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Swaps;

namespace YardRelay.Service.Rounds;

/// <summary>Reads a technician's round from the facts of their swaps.</summary>
internal sealed class RoundReader(YardDb db, SwapReader reader)
{
    private const int MostVisits = 60;
    private const string Bench = WorldProblem.PreparationSuffix;
    private const string Return = WorldProblem.ReturnSuffix;

    // What is begun and not over is not forgotten over a weekend.
    private static readonly TimeSpan LeftOver = TimeSpan.FromDays(7);
    private static readonly TimeSpan Short = TimeSpan.FromMinutes(10);

    private sealed record Item(RoundVisit Visit, SwapRow Swap, StepNow? Next, string Words);

    public async Task<RoundSeen> ReadAsync(RefreshRow refresh, TechnicianRow technician, DateTimeOffset now, CancellationToken cancel)
    {
        var clock = new RefreshClock(refresh);
        var day = clock.DayOf(now);
        var (from, until, oldest) = (clock.StartOf(day), clock.StartOf(day.AddDays(1)), now - LeftOver);
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh.Key
                && ((s.Technician == technician.Key && s.Start >= oldest && s.Start < until)
                    || (s.BenchTechnician == technician.Key && s.BenchStart >= from && s.BenchStart < until)))
            .OrderBy(s => s.Start).ThenBy(s => s.Id).Take(4 * MostVisits).ToListAsync(cancel);
        // Of earlier days only what was begun: the rest waits for a new plan.
        swaps = [.. swaps.Where(s => s.BenchStart >= from || s.Start >= from || (SwapFacts.IsUnderWay(s) && s.AcceptedAt is null))
            .Take(MostVisits)];
        var ids = swaps.ConvertAll(s => s.Id);
        var orders = (await db.Orders.AsNoTracking().Where(o => ids.Contains(o.Swap)).ToListAsync(cancel)).ToLookup(o => o.Swap);
        var signed = (await db.SignOffs.AsNoTracking()
            .Where(s => ids.Contains(s.Swap) && s.Part == Core.SignOffs.SignOffPart.Technician)
            .Select(s => s.Swap)
            .ToListAsync(cancel)).ToHashSet();
        var listed = (await reader.ListAsync(swaps, cancel)).ToDictionary(s => s.Id);
        var ways = await db.Ways.AsNoTracking().Where(w => w.Refresh == refresh.Key).ToListAsync(cancel);
        TimeSpan Way(string a, string b) =>
            TimeSpan.FromMinutes(ways.FirstOrDefault(w => (w.From == a && w.To == b) || (w.From == b && w.To == a))?.Minutes ?? 0);

        var (items, over) = (new List<Item>(), 0);
        foreach (var swap in swaps)
        {
            var facts = await ChecklistFacts.ReadAsync(db, swap, cancel);
            var mine = orders[swap.Id].OrderByDescending(o => o.MadeAt).ToList();
            var isMine = swap.Technician == technician.Key;
            if (isMine && signed.Contains(swap.Id)) over++;
            else if (isMine && Visit(swap, facts.Steps, mine, listed[swap.Id], now) is { } visit) items.Add(visit);
            if (swap.BenchTechnician == technician.Key
                && swap.BenchStart >= from
                && swap.BenchStart < until
                && Preparation(swap, facts.Steps) is { } bench)
                items.Add(bench);
        }
        foreach (var back in await db.FollowUps.AsNoTracking()
            .Where(f => f.Refresh == refresh.Key
                && f.VisitTechnician == technician.Key
                && f.DoneAt == null
                && f.VisitStart >= from
                && f.VisitStart < until)
            .OrderBy(f => f.VisitStart)
            .Take(MostVisits)
            .ToListAsync(cancel))
        {
            if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == back.Swap, cancel) is not { } swap) continue;
            if (!listed.ContainsKey(swap.Id)) listed[swap.Id] = (await reader.ListAsync([swap], cancel))[0];
            items.Add(new(
                new(swap.Id + Return, swap.Site, new VisitNow.Ahead(back.VisitStart!.Value), back.VisitEnd!.Value - back.VisitStart.Value),
                swap,
                null,
                back.Words));
        }
        var here = items.Where(i => i.Visit.Now is VisitNow.InHand).Select(i => i.Visit.Site).FirstOrDefault();
        var byKey = items.ToDictionary(i => i.Visit.Key);
        var turns = Round.Of(items.Select(i => i.Visit), now, here, Way).Where(t =>
            byKey[t.Key].Visit.Now is not VisitNow.Alone || t.Start <= until);
        return new(
            technician.Key, technician.Name, day, now,
            [.. turns.Select(t =>
            {
                var (item, later) = (byKey[t.Key], t.Start > now);
                var swap = item.Swap;
                var isReturn = t.Part == RoundPart.Back && item.Visit.Now is VisitNow.Ahead or VisitNow.Alone;
                return new RoundTurnSeen(
                    swap.Id, swap.Name, swap.Site, swap.Room,
                    t.Key.EndsWith(Bench, StringComparison.Ordinal)
                        ? "bench"
                        : t.Key.EndsWith(Return, StringComparison.Ordinal)
                        ? "return"
                        : t.Part switch { RoundPart.First => "first", RoundPart.GoOn => "go-on", _ => "back" },
                    t.Start, t.End, t.Promised, (int)t.Late.TotalMinutes,
                    isReturn && later ? "Back when what goes on by itself has ended" : item.Words,
                    item.Next?.Step.Key,
                    item.Next?.Step.Title,
                    listed[swap.Id].Sign);
            })],
            [.. items.Where(i => i.Visit.Now is VisitNow.Alone).Select(i =>
            {
                var alone = (VisitNow.Alone)i.Visit.Now;
                return new RoundAlone(
                    i.Swap.Id, i.Swap.Name, i.Swap.Site, i.Swap.Room, i.Words, alone.Since, alone.Until, listed[i.Swap.Id].Moving);
            }).OrderBy(a => a.Until ?? DateTimeOffset.MaxValue)],
            over);
    }

    private static Item? Preparation(SwapRow swap, IReadOnlyList<StepNow> steps)
    {
        var before = steps.Where(s => s.Step.Phase == Phase.Before).ToList();
        if (HasBegun(steps) || swap is not { BenchStart: { } start, BenchHandsOnUntil: { } hands, BenchEnd: { } end }) return null;
        if (before.Find(s => s.State is StepState.UnderWay && s.Step.Work is StepWork.Timed) is { State: StepState.UnderWay going } running)
            return new(
                new(swap.Id + Bench, swap.Site, new VisitNow.Alone(going.Since, going.Since + (end - hands)), Short),
                swap,
                running,
                running.Step.Title);
        return Next(before) is { } next
            ? new(
                new(swap.Id + Bench, swap.Site, new VisitNow.Filler(start), hands - start),
                swap,
                next,
                $"Prepare the new computer {swap.NewTag} at a bench")
            : null;
    }

    private static Item? Visit(SwapRow swap, IReadOnlyList<StepNow> steps, List<OrderRow> orders, SwapListed listed, DateTimeOffset now)
    {
        if (swap is not { Start: { } start, HandsOnUntil: { } hands, Finish: { } finish, End: { } end }) return null;
        var next = Next(steps.Where(s => s.Step.Phase != Phase.HandIn));
        var begun = HasBegun(steps)
            || orders.Exists(o => o.Kind is OrderNames.ClosingTrip or OrderNames.Restore)
            || swap.SwappedAt is not null;
        if (!begun)
            return new(
                new(swap.Id, swap.Site, new VisitNow.Ahead(start), hands - start, finish - hands, end - finish),
                swap,
                next,
                $"First part at {swap.Room ?? swap.Site}");
        // What was ticked beforehand, and late, says nothing about where hands are.
        var last = LastTouched(steps) ?? DateTimeOffset.MinValue;
        var since = last > DateTimeOffset.MinValue ? last : start;
        if (listed.Sign.Sign == "stopped" || listed.OpenSnags > 0)
            return new(new(swap.Id, swap.Site, new VisitNow.CallsBack(listed.Sign.Since ?? since), Short), swap, next, listed.Sign.Words);
        if (orders.Find(o => o.State is OrderStates.UnderWay or OrderStates.Waiting) is { } order)
        {
            var left = order.TotalBytes > order.Bytes && order.BytesPerSecond > 0
                ? now + TimeSpan.FromSeconds((order.TotalBytes - order.Bytes) / (double)order.BytesPerSecond)
                : finish > now
                ? finish
                : (DateTimeOffset?)null;
            return new(
                new(swap.Id, swap.Site, new VisitNow.Alone(order.TakenAt ?? order.MadeAt, left), end - finish),
                swap,
                next,
                order.State == OrderStates.Waiting
                    ? $"{Order.WordsOf(order.Kind)} waits for the hand at {order.Tag}"
                    : Order.WordsOf(order.Kind));
        }
        if (steps.FirstOrDefault(s =>
            s.State is StepState.UnderWay && s.Step.Work is StepWork.Timed) is { State: StepState.UnderWay going } running)
            return new(new(swap.Id, swap.Site, new VisitNow.Alone(going.Since, null), Short), swap, running, running.Step.Title);
        var ended = orders.Max(o => o.EndedAt);
        if (next is null)
            return new(new(swap.Id, swap.Site, new VisitNow.InHand(since), Short), swap, null, "All steps are done: sign off");
        return ended > last
            ? new(
                new(swap.Id, swap.Site, new VisitNow.CallsBack(ended.Value), end - finish),
                swap,
                next,
                $"{Order.WordsOf(orders.Find(o => o.EndedAt == ended)!.Kind)} is over")
            : new(new(swap.Id, swap.Site, new VisitNow.InHand(since), end - finish), swap, next, "In hand");
    }

    private static bool HasBegun(IReadOnlyList<StepNow> steps) =>
        steps.Any(s => s.Step.Phase is Phase.Swap or Phase.After && s.Step.Work is not StepWork.Automatic && s.State is not StepState.Open);

    private static StepNow? Next(IEnumerable<StepNow> steps) =>
        steps.FirstOrDefault(s => s.State.IsOpen && s.Step.Work is not StepWork.Automatic);

    private static DateTimeOffset? LastTouched(IReadOnlyList<StepNow> steps) =>
        steps.Where(s => s.Step.Phase is Phase.Swap or Phase.After && s.Step.Work is not StepWork.Automatic)
            .Max(s => s.State switch
            {
                StepState.Done done => done.At,
                StepState.NotApplicable no => no.At,
                StepState.UnderWay going => going.Since,
                _ => (DateTimeOffset?)null
            });
}
