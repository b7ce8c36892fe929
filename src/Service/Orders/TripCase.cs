using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Orders;

/// <summary>Trips: what came along, what stayed and why, and the parcel's own id and key.</summary>
internal sealed class TripCase : OrderCase<Order.Trip, Carried>
{
    protected override Order.Trip With(Order.Trip order, OrderWanted wanted) =>
        order with { ByNeed = wanted.ByNeed == true, Beside = wanted.Beside == true };

    protected override Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Trip order, CancellationToken cancel)
    {
        (asked.Row.ByNeed, asked.Row.Beside) = (order.ByNeed, order.Beside);
        return Task.FromResult(Fine);
    }

    protected override async Task<OrderWork> WorkAsync(OrderAtHand at, Order.Trip order, CancellationToken cancel)
    {
        var list = KeptCarryList.EffectiveOf(at.Cargo);
        var sealTo = at.Swap.Trips == 0 && at.Depot is { SealTo.Count: > 0 } sealing ? sealing.SealTo : null;
        var passphrase = at.Cargo?.Passphrase is { } phrase ? at.Keys.Open(phrase) : null;
        return new TripWork(
            order.Part, at.Place, list.IsEverything ? null : list.Write(), sealTo, at.Row.ByNeed, passphrase,
            await SourceDoubts.AnswerAsync(at.W, at.Swap, cancel));
    }

    protected override async Task<OrderSum> EnterAsync(OrderOver over, Carried outcome, CancellationToken cancel)
    {
        var (w, swap, seen, isFirst) = (over.W, over.Swap, SumOf(outcome.Folders), over.Swap.Trips == 0);
        await AccountEntry.CarriedAsync(w, swap, outcome.Folders, outcome.Snags, outcome.Trip, cancel);
        var cargo = await ParcelBeginning.CargoAsync(w, swap, cancel);
        cargo.LeftOutBy = outcome.Reasons is { Count: > 0 } reasons ? System.Text.Json.JsonSerializer.Serialize(reasons) : null;
        if (outcome.ParcelKey is { } key && outcome.ParcelId is null) cargo.ParcelKey ??= over.Keys.Seal(key);
        if (outcome.ParcelId is { } id) await ParcelBeginning.TakeAsync(w, swap, new(id, outcome.ParcelKey), over.Keys, isFirst, cancel);
        if (outcome.PassphraseSet)
        {
            (cargo.Passphrase, cargo.PassphraseAt) = (null, w.Now);
            swap.ChecklistVersion++;
            w.Note("parcel.passphrase", swap.Id, $"The parcel of {swap.Name} opens with their own passphrase, too");
        }
        await Observations.TakeAsync(over, cancel);
        return new(
            (outcome.Snags.Count == 0
                ? $"All {ByteText.Files(seen.Files)} in the depot"
                : $"{ByteText.Files(seen.Files)}, {(outcome.Snags.Count == 1 ? "1 snag" : $"{outcome.Snags.Count} snags")}")
                + (outcome.ReadBack is { } back ? $"; what came was read back {back.Words(ByteText.Of)}" : "")
                + (outcome.Gone is { Files: > 0 } gone ? $"; {ByteText.Files(gone.Files)} gone since the trip before" : "")
                + Idle(outcome.IdleLines ?? []),
            seen,
            outcome.Snags.Count,
            Follows: await VerifyCase.AfterAsync(over, cancel));
    }

    private static string Idle(IReadOnlyList<string> lines) => lines.Count == 0
        ? ""
        : $"; the carry list names what is not there: {string.Join(", ", lines.Take(3))}"
            + (lines.Count > 3 ? $" and {lines.Count - 3} more" : "");
}
