using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Depots;
using YardRelay.Service.Parcels;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>An order about to be given: who asks, for which swap, and the record that it becomes.</summary>
internal sealed record OrderAsked(Change W, SwapRow Swap, OrderRow Row);

/// <summary>An order that a hand takes: what it may need to know for it.</summary>
internal sealed record OrderAtHand(
    Change W, OrderRow Row, SwapRow Swap, DepotRow? Depot, CargoRow? Cargo, ParcelKeys Keys, DepotSecrets Secrets)
{
    /// <summary>Where the parcel lies.</summary>
    public ParcelPlace Place => new(
        Depot?.Address == BuiltInDepot.Address ? BuiltInDepot.Path : Depot?.Address ?? "",
        Swap.Parcel ?? "",
        Swap.ParcelId,
        Cargo?.ParcelKey is { } kept ? Keys.Open(kept) : null,
        Depot is null ? null : Secrets.For(Depot, Row, Swap.Parcel),
        ParcelState.TryParse(Swap.ParcelState));

    /// <summary>
    /// The old computer is gone for good: a trip that broke off will not be made again, and what it left is what there is.
    /// </summary>
    public bool TakesUnfinished => Swap.Kind == SwapKind.Rescue || Swap.OldDiedAt is not null;
}

/// <summary>An order whose end a hand told.</summary>
/// <param name="Held">How its parcel stood to what was known of it; null: nobody looked.</param>
internal sealed record OrderOver(Change W, OrderRow Row, SwapRow Swap, ParcelKeys Keys, FolderDesk Desk, ParcelHeld? Held = null)
{
    /// <summary>What is to be said first of a parcel whose lists are others; empty: they are not.</summary>
    public string OtherLists => Held is { Standing: ParcelStanding.Other, Words: var words } ? words + " " : "";
}

/// <summary>What an order came to, for people and the ledger.</summary>
/// <param name="Words">In whole sentences, or nearly.</param>
/// <param name="Seen">Files and bytes that it was about.</param>
/// <param name="Failed">It counts as failed, though it was done: the parcel or the copy is not as it should be.</param>
/// <param name="Follows">An order that follows by itself, and the computer that does it; null: none.</param>
internal sealed record OrderSum(
    string Words, Amount Seen, int Snags = 0, int Damages = 0, bool Failed = false, (string Kind, string Tag)? Follows = null);

/// <summary>What the service does about one kind of order: checks what was asked, says what a hand needs, enters what it found.</summary>
internal abstract class OrderCase
{
    private static readonly List<OrderCase> All = [.. typeof(OrderCase).Assembly.GetTypes()
        .Where(t => t is { IsAbstract: false } && t.IsSubclassOf(typeof(OrderCase)))
        .Select(t => (OrderCase)Activator.CreateInstance(t)!)];

    /// <summary>The case of an order.</summary>
    public static OrderCase Of(Order order) => All.Single(c => c.Kind == order.GetType());

    /// <summary>The case of the union that this is about.</summary>
    public abstract Type Kind { get; }

    /// <summary>The order as it was asked for, with the fields of its own.</summary>
    public abstract Order From(Order order, OrderWanted wanted);

    /// <summary>Checks what only this kind asks, and completes the record; what it says stands in the way.</summary>
    public abstract Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order order, CancellationToken cancel);

    /// <summary>What the hand is to do.</summary>
    public abstract Task<OrderWork> WorkAsync(OrderAtHand at, Order order, CancellationToken cancel);

    /// <summary>Enters what the hand found; null: that is no outcome of this kind.</summary>
    public abstract Task<OrderSum?> EnterAsync(OrderOver over, OrderOutcome outcome, CancellationToken cancel);
}

/// <summary>The same with the types of one case.</summary>
internal abstract class OrderCase<TOrder, TOutcome> : OrderCase
    where TOrder : Order
    where TOutcome : OrderOutcome
{
    protected static readonly IReadOnlyList<Problem> Fine = [];

    public sealed override Type Kind => typeof(TOrder);

    public sealed override Order From(Order order, OrderWanted wanted) => With((TOrder)order, wanted);

    public sealed override Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order order, CancellationToken cancel) =>
        PrepareAsync(asked, (TOrder)order, cancel);

    public sealed override Task<OrderWork> WorkAsync(OrderAtHand at, Order order, CancellationToken cancel) =>
        WorkAsync(at, (TOrder)order, cancel);

    public sealed override async Task<OrderSum?> EnterAsync(OrderOver over, OrderOutcome outcome, CancellationToken cancel) =>
        outcome is TOutcome mine ? await EnterAsync(over, mine, cancel) : null;

    protected virtual TOrder With(TOrder order, OrderWanted wanted) => order;

    protected virtual Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, TOrder order, CancellationToken cancel) =>
        Task.FromResult(Fine);

    protected abstract Task<OrderWork> WorkAsync(OrderAtHand at, TOrder order, CancellationToken cancel);

    protected abstract Task<OrderSum> EnterAsync(OrderOver over, TOutcome outcome, CancellationToken cancel);

    protected static Task<OrderWork> Now(OrderWork work) => Task.FromResult(work);

    protected static IReadOnlyList<Problem> Refused(Problem problem) => [problem];

    protected static Amount SumOf(IReadOnlyList<FolderResult> folders) => folders.Aggregate(Amount.None, (sum, f) => sum + f.Seen);
}
