using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;

namespace YardRelay.Service.Planning;

/// <summary>
/// What a plan on record says. A draft is what somebody wants to change, no more: what was booked anew or handed over since it was last
/// touched stands in it as it is booked, so that publishing a draft takes no repair of the day back.
/// </summary>
internal static class DraftPlan
{
    /// <summary>What a new plan goes on from: what is booked, as the day has made it, with what a draft wants to change.</summary>
    public static async Task<Plan> FromAsync(YardDb db, PlanRow? draft, WorldProblem posed, CancellationToken cancel) =>
        draft is null ? new([.. posed.Promised(posed.World)], []) : await ReadAsync(db, draft, posed, cancel);

    public static async Task<Plan> ReadAsync(YardDb db, PlanRow row, WorldProblem posed, CancellationToken cancel)
    {
        var body = PlanReader.BodyOf(row);
        if (row.State != "draft") return body;
        var changed = (await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == row.Refresh
                && s.Start != null
                && (s.BookedAt > row.MadeAt || db.Handovers.Any(h => h.Swap == s.Id && h.At > row.MadeAt)))
            .Select(s => s.Id)
            .ToListAsync(cancel)).ToHashSet();
        // Nor does a draft say otherwise of what is under way, or anything of what was called off since.
        bool IsChanged(string visit) => !WorldProblem.IsReturn(visit)
            && (changed.Contains(WorldProblem.SwapOf(visit)) || posed.Standing.Contains(WorldProblem.SwapOf(visit)));
        bool IsThere(string visit) => posed.Problem.VisitOf.ContainsKey(visit);
        return new(
            [
                .. body.Placed.Where(p => IsThere(p.Id) && !IsChanged(p.Id)),
                .. posed.Promised(posed.World).Where(p => IsChanged(p.Id))
            ],
            [.. body.Unplaced.Where(u => IsThere(u.Id) && !IsChanged(u.Id))]);
    }
}
