using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>Brings what a plan says into the swaps: from now on it is promised.</summary>
internal static class Booking
{
    private const int MostByName = 200;

    /// <returns>How many swaps have another appointment than before.</returns>
    public static async Task<int> BookAsync(
        Change w, PlanReader reader, AppointmentProblem problem, Plan plan, CancellationToken cancel)
    {
        // A few are looked up by name; of thousands all are read at once.
        List<string> ids = [.. plan.Placed.Select(p => p.Id)
            .Concat(plan.Unplaced.Select(u => u.Id))
            .Select(WorldProblem.SwapOf).Distinct()];
        var swaps = await w.Db.Swaps.Where(s => s.Refresh == w.Refresh.Key && (ids.Count > MostByName || ids.Contains(s.Id)))
            .ToDictionaryAsync(s => s.Id, cancel);
        var affected = 0;
        var benches = plan.Placed.Where(p => WorldProblem.IsPreparation(p.Id)).ToDictionary(p => WorldProblem.SwapOf(p.Id));
        foreach (var placed in plan.Placed.Where(p => !WorldProblem.IsPreparation(p.Id)))
            if (swaps.TryGetValue(placed.Id, out var swap)
                && !SwapFacts.IsUnderWay(swap)
                && Set(
                    w,
                    reader,
                    swap,
                    problem.VisitOf[placed.Id],
                    placed,
                    benches.GetValueOrDefault(placed.Id) is { } bench ? (problem.VisitOf[bench.Id], bench) : null))
                affected++;
        foreach (var left in plan.Unplaced.Where(u => !WorldProblem.IsPreparation(u.Id)))
            if (swaps.TryGetValue(left.Id, out var swap) && !SwapFacts.IsUnderWay(swap) && LeaveOut(w, swap, reader.Words(left.Because)))
                affected++;
        return affected + await BookReturnsAsync(w, reader, problem, plan, cancel);
    }

    private static async Task<int> BookReturnsAsync(
        Change w, PlanReader reader, AppointmentProblem problem, Plan plan, CancellationToken cancel)
    {
        var placed = plan.Placed.Where(p => WorldProblem.IsReturn(p.Id)).ToDictionary(p => WorldProblem.SwapOf(p.Id));
        var without = plan.Unplaced.Where(u => WorldProblem.IsReturn(u.Id)).Select(u => WorldProblem.SwapOf(u.Id)).ToHashSet();
        if (placed.Count + without.Count == 0) return 0;
        var affected = 0;
        foreach (var row in await w.Db.FollowUps.Where(f => f.Refresh == w.Refresh.Key && f.DoneAt == null && f.VisitMinutes != null)
            .ToListAsync(cancel))
        {
            var name = reader.Name(row.Swap);
            if (placed.TryGetValue(row.Swap, out var at))
            {
                var (start, end) = (reader.Clock.At(at.Start), reader.Clock.At(at.Start + problem.VisitOf[at.Id].Before));
                if (row.VisitStart == start && row.VisitTechnician == at.Technician) continue;
                (row.VisitTechnician, row.VisitStart, row.VisitEnd) = (at.Technician, start, end);
                w.Note(
                    "follow-up.visit",
                    row.Swap,
                    $"Return visit to {name} on {reader.Clock.Local(start):ddd d MMM HH:mm} with {reader.Seen(at).TechnicianName}",
                    new() { ["followUp"] = row.Id });
            }
            else if (without.Contains(row.Swap) && row.VisitStart is not null)
            {
                (row.VisitTechnician, row.VisitStart, row.VisitEnd) = (null, null, null);
                w.Note("follow-up.visit", row.Swap, $"The return visit to {name} has no time any more", new() { ["followUp"] = row.Id });
            }
            else continue;
            affected++;
        }
        return affected;
    }

    private static bool Set(Change w, PlanReader reader, SwapRow swap, Visit visit, Placed placed, (Visit Visit, Placed At)? bench)
    {
        var clock = reader.Clock;
        var (start, finish) = (clock.At(placed.Start), clock.At(placed.Finish));
        DateTimeOffset? benchStart = bench is { } b ? clock.At(b.At.Start) : null;
        var same = swap.Start == start && swap.Finish == finish && swap.Technician == placed.Technician;
        var sameBench = swap.BenchStart == benchStart && swap.BenchTechnician == bench?.At.Technician;
        if (same && sameBench) return false;
        var moved = swap.Start is not null;
        (swap.Start, swap.Finish, swap.Technician, swap.LeftOutBecause) = (start, finish, placed.Technician, null);
        (swap.HandsOnUntil, swap.End) = (clock.At(placed.Start + visit.Before), clock.At(placed.Finish + visit.After));
        (swap.BenchTechnician, swap.BenchStart) = (bench?.At.Technician, benchStart);
        swap.BenchHandsOnUntil = bench is { } set ? clock.At(set.At.Start + set.Visit.Before) : null;
        swap.BenchEnd = bench is { } over ? clock.At(over.At.Finish + over.Visit.After) : null;
        swap.Sequence++;
        swap.BookedAt = w.Now;
        SwapFacts.Settle(swap);
        if (!same)
            w.Note(
                moved ? "swap.moved" : "swap.booked",
                swap.Id,
                $"{(moved ? "Moved" : "Booked")} {swap.Name} to {clock.Local(start):ddd d MMM HH:mm} with "
                    + $"{reader.Seen(placed).TechnicianName}");
        if (!sameBench && bench is { } prepared)
            w.Note(
                "swap.bench-booked",
                swap.Id,
                $"Bench preparation for {swap.Name} on {clock.Local(benchStart!.Value):ddd d MMM HH:mm} with "
                    + $"{reader.Seen(prepared.At).TechnicianName}");
        return true;
    }

    /// <summary>Takes the appointment away, and says why.</summary>
    public static bool LeaveOut(Change w, SwapRow swap, string because)
    {
        if (swap.LeftOutBecause == because && swap.Start is null) return false;
        var had = swap.Start is not null;
        (swap.Start, swap.HandsOnUntil, swap.Finish, swap.End, swap.Technician, swap.BookedAt, swap.LeftOutBecause) =
            (null, null, null, null, null, null, because);
        (swap.BenchTechnician, swap.BenchStart, swap.BenchHandsOnUntil, swap.BenchEnd) = (null, null, null, null);
        if (had) swap.Sequence++;
        SwapFacts.Settle(swap);
        w.Note("swap.left-out", swap.Id, $"{swap.Name} has no appointment: {because}");
        return true;
    }
}
