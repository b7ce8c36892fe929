using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rounds;

/// <summary>A swap passed on to another technician, within a change.</summary>
internal static class HandoverDesk
{
    /// <summary>Passes a swap on at its time.</summary>
    public static async Task<HandoverSeen> PassAsync(
        Change w, SwapRow row, string from, TechnicianRow to, string note, CancellationToken cancel)
    {
        var clock = new RefreshClock(w.Refresh);
        var clashes = (await w.Db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == row.Refresh && s.Id != row.Id && s.Technician == to.Key && s.Start < row.End && s.End > row.Start)
            .OrderBy(s => s.Start)
            .ToListAsync(cancel))
            .Where(s => Overlap(s, row))
                .Select(s =>
                    $"{to.Name} has {s.Name} at {s.Site} from {clock.Local(
                        s.Start!.Value):HH:mm} to {clock.Local(s.End!.Value):HH:mm}.").ToList();
        var fromName = await w.Db.Technicians.Where(t => t.Refresh == row.Refresh && t.Key == from)
            .Select(t => t.Name)
            .FirstOrDefaultAsync(cancel)
            ?? from;
        row.Technician = to.Key;
        row.ChecklistVersion++;
        row.Sequence++;
        if (row.BenchTechnician == from && row.BenchStart > w.Now) row.BenchTechnician = to.Key;
        if (row.PinnedTechnician is not null) row.PinnedTechnician = to.Key;
        w.Db.Handovers.Add(new()
        {
            Id = Guid.CreateVersion7(w.Now).ToString(),
            Refresh = row.Refresh,
            Swap = row.Id,
            From = from,
            To = to.Key,
            Note = note,
            By = w.By,
            At = w.Now
        });
        w.WorldChanged();
        w.Note(
            "swap.handed-over",
            row.Id,
            $"{row.Name} handed over from {fromName} to {to.Name}: {note}",
            new() { ["from"] = from, ["to"] = to.Key });
        return new(row.Id, row.Name, fromName, to.Name, note, w.By, w.Now, clashes);
    }

    // Hands-on parts only: what goes on by itself leaves hands free.
    private static bool Overlap(SwapRow a, SwapRow b)
    {
        (DateTimeOffset From, DateTimeOffset To)[] Parts(SwapRow s) =>
            [(s.Start!.Value, s.HandsOnUntil!.Value), (s.Finish!.Value, s.End!.Value)];
        return Parts(a).Any(x => Parts(b).Any(y => x.From < y.To && y.From < x.To));
    }
}
