using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.CarryLists;

/// <summary>The work behind <see cref="CarryListEndpoints"/>.</summary>
internal static class CarryListHandlers
{
    internal static async Task<Results<Ok<InventorySeen>, ProblemHttpResult>> InventoryAsync(
        SwapId swap, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        if (!await db.Swaps.AnyAsync(s => s.Id == swap, cancel)) return ServiceProblem.NotFound("swap", swap).ToHttp();
        return KeptInventory.Of(await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel)) is { } kept
            ? TypedResults.Ok(kept.Seen(time.GetUtcNow()))
            : new InventoryNoneProblem(swap).ToHttp();
    }

    internal static async Task<Results<Ok<CarryListSeen>, ProblemHttpResult>> GetAsync(SwapId swap, YardDb db, CancellationToken cancel)
    {
        if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == swap, cancel) is not { } row)
            return ServiceProblem.NotFound("swap", swap).ToHttp();
        return TypedResults.Ok(await CarryListDesk.SeenAsync(
            db, row, await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel), cancel));
    }

    internal static async Task<Results<Ok<CarryListSeen>, ProblemHttpResult>> ChangeAsync(
        SwapId swap, CarryChange change, Writer writer, CancellationToken cancel)
    {
        if (CarryListDesk.Faults(change) is { Count: > 0 } faults) return faults.ToHttp();
        return (await writer.WriteAsync<CarryListSeen>(
            swap.Refresh, w => CarryListDesk.DecideAsync(w, swap, change, cancel), cancel)).ToHttp();
    }
}
