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
/// What is left of a technician's day, passed to others: what has begun or is due now goes on at its time in other hands; what is only
/// promised is placed anew on the planning board. Nobody gets two swaps at once, and nobody else's appointment is moved.
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
        var (begun, ahead) = (open.FindAll(HasBegun), open.FindAll(s => !HasBegun(s)));
        var left = $"{day:yyyy-MM-dd} {clock.Local(w.Now):HH:mm}..{day:yyyy-MM-dd} 23:59";
        if (LocalSpan.Parse(left).IsOk && !mine.Absences.Contains(left)) mine.Absences = [.. mine.Absences, left];
        // Absent from this moment: the board that both are laid on knows it.
        var near = (from.AddDays(-1), until.AddDays(1));
        if (!(await BoardDesk.LayAsync(w, [.. ahead.Select(s => s.Id)], [.. begun.Select(s => s.Id)], near, cancel))
            .TryGet(out var desk, out var problem))
            return problem;
        foreach (var swap in begun) _lines.Add(await PassBegunAsync(desk, swap, begun, cancel));
        foreach (var swap in ahead) _lines.Add(Place(desk, swap));
        if (ahead.Count == 0) await desk.RecordAsync(cancel);
        else await desk.BookAsync("Its technician's day was handed over, and nobody else had room.", cancel);
        w.WorldChanged();
        w.Note(
            "day.handed-over",
            null,
            $"{mine.Name} is away for the rest of {day:ddd d MMM}: {_lines.Count(l => l.To is not null)} swaps handed over, "
                + $"{_lines.Count(l => l.To is null)} not: {note}",
            new() { ["technician"] = mine.Key, ["swaps"] = _lines.Count });
        return _lines;
    }

    /// <summary>What has begun, or is due now, keeps its time: with one of them who has nothing then, or it stays as it is.</summary>
    private async Task<DayHandoverLine> PassBegunAsync(BoardDesk desk, SwapRow swap, List<SwapRow> begun, CancellationToken cancel)
    {
        var able = takers.Where(t => t.Sites.Contains(swap.Site) && swap.Skills.All(t.Skills.Contains));
        // Whoever has none of these yet comes first.
        var to = able.OrderBy(t => begun.Exists(o => o.Technician == t.Key) ? 1 : 0).FirstOrDefault(t => desk.Pass(swap, t.Key));
        var isUnderWay = SwapFacts.IsUnderWay(swap);
        if (to is null)
            return new(
                swap.Id, swap.Name, null, swap.Start, swap.Start,
                $"{(isUnderWay ? "Under way" : "Due now")}, and none of them is free for it. It stays with {mine.Name}, who is away: hand "
                    + "it to somebody else.");
        await HandoverDesk.PassAsync(w, desk, swap, mine.Key, to, note, cancel);
        return new(
            swap.Id, swap.Name, to.Name, swap.Start, swap.Start,
            isUnderWay ? $"Under way; {to.Name} goes on." : $"Due now, at {clock.Local(swap.Start!.Value):HH:mm}; {to.Name} does it.");
    }

    /// <summary>At the same time with one of them, else later that day, else it waits for the next plan.</summary>
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
