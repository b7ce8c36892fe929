using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
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
        string swap, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        if (!await db.Swaps.AnyAsync(s => s.Id == swap, cancel)) return new Problem[] { ServiceProblem.NotFound("swap", swap) }.ToHttp();
        return KeptInventory.Of(await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel)) is { } kept
            ? TypedResults.Ok(kept.Seen(time.GetUtcNow()))
            : new Problem[]
            {
                new ServiceProblem(
                    "inventory.none", $"The old computer of {swap} was not surveyed yet. Order a survey first; it reads no content.", 404)
            }.ToHttp();
    }

    internal static async Task<Results<Ok<CarryListSeen>, ProblemHttpResult>> GetAsync(string swap, YardDb db, CancellationToken cancel)
    {
        if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == swap, cancel) is not { } row)
            return new Problem[] { ServiceProblem.NotFound("swap", swap) }.ToHttp();
        return TypedResults.Ok(await CarryListDesk.SeenAsync(
            db, row, await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel), cancel));
    }

    internal static async Task<Results<Ok<CarryListSeen>, ProblemHttpResult>> ChangeAsync(
        string swap, CarryChange change, Writer writer, CancellationToken cancel)
    {
        if (CarryListDesk.Faults(change) is { Count: > 0 } faults) return faults.ToHttp();
        return (await writer.WriteAsync<CarryListSeen>(
            SwapScope.RefreshOf(swap), w => CarryListDesk.DecideAsync(w, swap, change, cancel), cancel)).ToHttp();
    }
}
