using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Trips;
using YardRelay.Carriage.Parcels;
using YardRelay.Contracts;
using YardRelay.Files;
using YardRelay.Files.Working;

namespace YardRelay.Hand.Orders;

/// <summary>A parcel that an order is about, opened.</summary>
/// <param name="AtOnce">How many files are on their way at once, at most.</param>
internal sealed record OpenParcel(IDepot Depot, DepotPath Path, SealKeys Keys, string? Key, int AtOnce);

/// <summary>What every kind of order works with.</summary>
/// <param name="Root">What the hand reads, or restores to.</param>
internal sealed record AtWork(TreeRoot Root, Odometer Odometer, TimeProvider Time)
{
    /// <summary>How it is done beside other work.</summary>
    public IWork Work { get; } = new ThreadWork(Time);

    /// <summary>The parcel that a trip has made or opened; null: none yet.</summary>
    public ParcelBegun? Begun
    {
        get => Volatile.Read(ref field);
        set => Volatile.Write(ref field, value);
    }
}

/// <summary>How a hand does one kind of order.</summary>
internal abstract class HandCase
{
    private static readonly List<HandCase> All = [.. typeof(HandCase).Assembly.GetTypes()
        .Where(t => t is { IsAbstract: false } && t.IsSubclassOf(typeof(HandCase)))
        .Select(t => (HandCase)Activator.CreateInstance(t)!)];

    /// <summary>The way to do it; null: this hand does not know it.</summary>
    public static HandCase? Of(OrderWork work) => All.SingleOrDefault(c => c.Kind == work.GetType());

    public abstract Type Kind { get; }

    /// <summary>Does it, whatever stands in its way being told as <see cref="NotDone"/>.</summary>
    /// <param name="parcel">Null for work that is about none.</param>
    public abstract Task<OrderOutcome> DoAsync(AtWork at, OpenParcel? parcel, OrderWork work, CancellationToken cancel);

    protected static int Some(long count) => (int)Math.Min(int.MaxValue, count);
}

/// <summary>Work at a computer, without a parcel.</summary>
internal abstract class ComputerCase<TWork> : HandCase
    where TWork : OrderWork
{
    public sealed override Type Kind => typeof(TWork);

    public sealed override Task<OrderOutcome> DoAsync(AtWork at, OpenParcel? parcel, OrderWork work, CancellationToken cancel) =>
        Task.FromResult(Do(at, (TWork)work, cancel));

    protected abstract OrderOutcome Do(AtWork at, TWork work, CancellationToken cancel);
}

/// <summary>Work on a parcel.</summary>
internal abstract class ParcelCase<TWork> : HandCase
    where TWork : ParcelWork
{
    public sealed override Type Kind => typeof(TWork);

    public sealed override async Task<OrderOutcome> DoAsync(
        AtWork at, OpenParcel? parcel, OrderWork work, CancellationToken cancel) =>
        parcel is null ? new NotDone("The order names no depot.") : await DoAsync(at, parcel, (TWork)work, cancel);

    protected abstract Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, TWork work, CancellationToken cancel);
}
