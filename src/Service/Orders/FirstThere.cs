using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>The moment from which a person can work, while the rest still comes.</summary>
internal static class FirstThere
{
    /// <summary>The folders that are needed first are on the new computer; where none is named, there is nothing to say.</summary>
    public static async Task EnterAsync(Change w, SwapRow swap, CancellationToken cancel)
    {
        var first = Parcels.KeptLanding.Of(await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel)).Plan.First;
        if (swap.UrgentReadyAt is not null || first.Count == 0) return;
        swap.UrgentReadyAt = w.Now;
        w.Note(
            "swap.first-ready",
            swap.Id,
            $"{swap.Name} can begin to work: {string.Join(", ", first)} {(first.Count == 1 ? "is" : "are")} on the new computer",
            new() { ["folders"] = first.Count });
    }
}
