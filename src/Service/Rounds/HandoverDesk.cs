using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Planning;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rounds;

/// <summary>A swap passed on to another technician at its time, within a change. Nobody gets two swaps at once by it.</summary>
internal static class HandoverDesk
{
    /// <summary>
    /// Passes a swap on whose new technician the planning board has let take it over. The plan on record follows with the board's next
    /// record.
    /// </summary>
    public static async Task<HandoverSeen> PassAsync(
        Change w, BoardDesk desk, SwapRow row, string from, TechnicianRow to, string note, CancellationToken cancel)
    {
        var clock = new RefreshClock(w.Refresh);
        var names = await w.Db.Technicians.Where(t => t.Refresh == row.Refresh).ToDictionaryAsync(t => t.Key, t => t.Name, cancel);
        var fromName = names.GetValueOrDefault(from, from);
        List<string> changes = [$"{row.Name}, {clock.Local(row.Start!.Value):ddd d MMM HH:mm}: {to.Name} instead of {fromName}."];
        if (row.BenchTechnician == from && row.BenchStart > w.Now)
        {
            var isPassed = desk.PassPreparation(row.Id, to.Key);
            if (isPassed) row.BenchTechnician = to.Key;
            changes.Add(
                $"Its bench preparation, {clock.Local(row.BenchStart.Value):ddd d MMM HH:mm}: "
                    + (isPassed ? $"{to.Name} instead of {fromName}." : $"it stays with {fromName}; {to.Name} has no room for it then."));
        }
        changes.Add("Nobody else's appointment changes.");
        row.Technician = to.Key;
        row.ChecklistVersion++;
        row.Sequence++;
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
        w.Note(
            "swap.handed-over",
            row.Id,
            $"{row.Name} handed over from {fromName} to {to.Name}: {note}",
            new() { ["from"] = from, ["to"] = to.Key });
        return new(row.Id, row.Name, fromName, to.Name, note, w.By, w.Now, changes);
    }
}
