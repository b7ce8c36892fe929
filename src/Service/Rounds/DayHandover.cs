using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rounds;

/// <summary>
/// What is left of a technician's day, passed to others: what is under way goes on in other hands; what is only promised is placed anew on
/// the planning board.
/// </summary>
internal sealed class DayHandover(
    Change w, RefreshClock clock, TechnicianRow mine, IReadOnlyList<TechnicianRow> takers, string note)
{
    private readonly List<DayHandoverLine> _lines = [];

    /// <returns>What became of each swap, in the order of their times.</returns>
    public async Task<Result<IReadOnlyList<DayHandoverLine>>> RunAsync(CancellationToken cancel)
    {
        var day = clock.DayOf(w.Now);
        var (from, until) = (clock.StartOf(day), clock.StartOf(day.AddDays(1)));
        var open = (await w.Db.Swaps.Where(s =>
            s.Refresh == w.Refresh.Key && s.Technician == mine.Key && s.Start >= from && s.Start < until)
            .OrderBy(s => s.Start)
            .ToListAsync(cancel))
            .FindAll(s => s.AcceptedAt is null);
        if (open.Count == 0) return new HandoverNothingProblem(mine.Name);
        bool HasBegun(SwapRow s) => SwapFacts.IsUnderWay(s) || s.Start <= w.Now;
        await PassUnderWayAsync(open.FindAll(HasBegun), cancel);
        var left = $"{day:yyyy-MM-dd} {clock.Local(w.Now):HH:mm}..{day:yyyy-MM-dd} 23:59";
        if (LocalSpan.Parse(left).IsOk && !mine.Absences.Contains(left)) mine.Absences = [.. mine.Absences, left];
        await w.Db.SaveChangesAsync(cancel);
        if (await PlaceAheadAsync(open.FindAll(s => !HasBegun(s)), cancel) is { Count: > 0 } problems)
            return Result<IReadOnlyList<DayHandoverLine>>.Failed(problems);
        w.WorldChanged();
        w.Note(
            "day.handed-over",
            null,
            $"{mine.Name} is away for the rest of {day:ddd d MMM}: {_lines.Count(l => l.To is not null)} swaps handed over, "
                + $"{_lines.Count(l => l.To is null)} not: {note}",
            new() { ["technician"] = mine.Key, ["swaps"] = _lines.Count });
        return _lines;
    }

    private async Task PassUnderWayAsync(List<SwapRow> underWay, CancellationToken cancel)
    {
        foreach (var swap in underWay)
        {
            var able = takers.Where(t => t.Sites.Contains(swap.Site) && swap.Skills.All(t.Skills.Contains)).ToList();
            // Whoever has none of these yet comes first.
            var to = able.Find(t => !underWay.Exists(o => o.Technician == t.Key)) ?? able.FirstOrDefault();
            if (to is null)
            {
                _lines.Add(new(
                    swap.Id,
                    swap.Name,
                    null,
                    swap.Start,
                    swap.Start,
                    $"Under way, and none of them works at {swap.Site} with what it asks for. Hand it to somebody else."));
                continue;
            }
            var passed = await HandoverDesk.PassAsync(w, swap, mine.Key, to, note, cancel);
            _lines.Add(new(
                swap.Id,
                swap.Name,
                to.Name,
                swap.Start,
                swap.Start,
                $"Under way; {to.Name} goes on.{(passed.Clashes.Count > 0 ? $" {passed.Clashes[0]}" : "")}"));
        }
    }

    /// <summary>At the same time with one of them, else later that day, else it waits for the next plan.</summary>
    private async Task<IReadOnlyList<Problem>> PlaceAheadAsync(List<SwapRow> ahead, CancellationToken cancel)
    {
        if (ahead.Count == 0) return [];
        if (!(await BoardDesk.LayAsync(w, clock, [.. ahead.Select(s => s.Id)], cancel)).TryGet(out var desk, out var problem))
            return [problem];
        foreach (var swap in ahead) _lines.Add(Place(desk, swap));
        await desk.BookAsync("Its technician's day was handed over, and nobody else had room.", cancel);
        return [];
    }

    private DayHandoverLine Place(BoardDesk desk, SwapRow swap)
    {
        var was = swap.Start!.Value;
        var start = clock.MinuteOf(was);
        if (desk.Soonest(swap.Id, [.. takers.Select(t => t.Key)], start, (Minutes.DayOf(start) + 1) * Minutes.PerDay) is not { } taken)
            return new(swap.Id, swap.Name, null, was, null, "None of them has room for it today. It waits for the next plan.");
        var to = takers.First(t => t.Key == taken.Technician);
        w.Db.Handovers.Add(new()
        {
            Id = Guid.CreateVersion7(w.Now).ToString(),
            Refresh = w.Refresh.Key,
            Swap = swap.Id,
            From = mine.Key,
            To = to.Key,
            Note = note,
            By = w.By,
            At = w.Now
        });
        var begins = clock.At(taken.Start);
        return new(
            swap.Id,
            swap.Name,
            to.Name,
            was,
            begins,
            begins == was
                ? $"Stays at {clock.Local(begins):HH:mm}, with {to.Name}."
                : $"Moves from {clock.Local(was):HH:mm} to {clock.Local(begins):HH:mm}, with {to.Name}.");
    }
}
