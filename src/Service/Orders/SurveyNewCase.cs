using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Service.Checklists;

namespace YardRelay.Service.Orders;

/// <summary>A survey of the new computer: facts that steps are computed from.</summary>
internal sealed class SurveyNewCase : OrderCase<Order.SurveyNew, SurveyedNew>
{
    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.SurveyNew order, CancellationToken cancel) =>
        Now(new SurveyNewWork());

    protected override async Task<OrderSum> EnterAsync(OrderOver over, SurveyedNew outcome, CancellationToken cancel)
    {
        var (w, swap, found) = (over.W, over.Swap, outcome.Found);
        var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
        if (found.Computer.Platform is { } platform) swap.NewPlatform = platform.ToString();
        cargo.NewComputer = new KeptNewComputer(w.Now, found.Computer.Programs, found.DiskBytes, found.FreeBytes).Write();
        swap.ChecklistVersion++;
        var room = found.FreeBytes is { } free ? $", {ByteText.Of(free)} free" : "";
        return new($"{found.Computer.Programs.Count:#,0} programs{room}", Amount.None);
    }
}
