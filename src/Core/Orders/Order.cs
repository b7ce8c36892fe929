using YardRelay.Core.Swaps;

namespace YardRelay.Core.Orders;

/// <summary>Which trip one is.</summary>
public enum TripPart
{
    /// <summary>Days ahead, of all.</summary>
    First,

    /// <summary>Of what changed since.</summary>
    TopUp,

    /// <summary>At the appointment, with programs closed.</summary>
    Closing,
}

/// <summary>
/// One piece of work for a hand: a case for each kind, with just its own fields, its words, what it may touch, and the rule under which
/// a swap can have it. A new kind is a case here, its shapes in <c>Contracts/Orders.cs</c>, and a class each in <c>Service/Orders</c> and
/// <c>Hand/Orders</c>.
/// </summary>
public abstract record Order
{
    private Order()
    {
    }

    /// <summary>In requests and records, one of <see cref="OrderNames"/>.</summary>
    public abstract string Name { get; }

    /// <summary>For people, as a sentence begins.</summary>
    public abstract string Words { get; }

    /// <summary>What it may touch.</summary>
    public abstract OrderReach Reach { get; }

    /// <summary>Every kind once, with nothing asked for besides.</summary>
    public static IReadOnlyList<Order> All { get; } =
    [
        new Survey(), new Trip(TripPart.First), new Trip(TripPart.TopUp), new Trip(TripPart.Closing), new Verify(), new SecondCopy(),
        new LastLook(), new Look(), new Restore(), new PartRestore([]), new Purge(null), new Adopt(null), new Folders(), new SurveyNew()
    ];

    /// <summary>The order of that name; null: there is none.</summary>
    public static Order? Of(string name) => All.FirstOrDefault(o => o.Name == name);

    /// <summary>The words of an order that was recorded under a name.</summary>
    public static string WordsOf(string name) => Of(name)?.Words ?? name;

    /// <summary>The computer that does it, or why the swap cannot have it now.</summary>
    /// <returns>The computer's tag, or <see cref="OrderNotNow"/> with half a sentence that follows "it cannot be ordered: ".</returns>
    public Result<string> ComputerOf(SwapStanding swap)
    {
        if (swap.IsPurged && !Reach.OutlivesParcel) return new OrderNotNow("its parcel is purged");
        if (swap.IsCalledOff && !Reach.OutlivesCallOff) return new OrderNotNow("it is called off");
        if (swap.OldDied && Reach.ReadsOldDisk) return new OrderNotNow($"the disk of {swap.OldTag} died");
        if (Against(swap) is { } why) return new OrderNotNow(why);
        return Computer(swap) is { } tag ? tag : new OrderNotNow("it has no such computer");
    }

    /// <summary>Why this swap cannot have it; null: it can.</summary>
    private protected abstract string? Against(SwapStanding swap);

    /// <summary>Whose work it is, once nothing is against it.</summary>
    private protected virtual string? Computer(SwapStanding swap) => swap.OldTag;

    private static string? NoOld(SwapStanding swap) =>
        swap.Kind.Stages() ? null : $"a swap of kind {Text(swap.Kind)} has no old computer to read";

    private static string Text(SwapKind kind) => kind.ToString().ToLowerInvariant();

    // What reads the parcel at the old computer; where that one is lost, at the new one.
    private static string? NoParcel(SwapStanding swap) => swap switch
    {
        { Kind: SwapKind.Rescue, Trips: > 0 } => null,
        { Trips: 0, HasBegun: true } => "its first trip broke off, so nothing says what must be in the parcel",
        _ => NoOld(swap) ?? (swap.Trips == 0 ? "nothing is staged yet" : null),
    };

    private static string? BesideParcel(SwapStanding swap) => swap.Kind == SwapKind.Rescue ? swap.NewTag : swap.OldTag;

    private static string? NoLanding(SwapStanding swap, bool wantsVerified) => swap switch
    {
        { Kind: SwapKind.Leave, IsAccepted: false } => "the person who receives the parcel has not accepted it",
        { Kind: SwapKind.Leave, ReceiverTag: null } => "no computer of the person who receives the parcel is named",
        { Kind: SwapKind.Leave, IsStaged: false } => "its files are not staged and verified",
        { Kind: SwapKind.Leave } => null,
        { Kind: SwapKind.Rescue, HasParcel: false } => "no parcel serves it yet; name the swap of the lost computer",
        { Kind: SwapKind.Rescue } => null,
        _ when !swap.Kind.Restores() => $"a swap of kind {Text(swap.Kind)} has nothing to restore",
        { IsStaged: false } when wantsVerified => "its files are not staged and verified",
        { Trips: 0 } => "nothing is staged yet",
        _ => null,
    };

    private static string? LandsAt(SwapStanding swap) => swap.Kind == SwapKind.Leave ? swap.ReceiverTag : swap.NewTag;

    /// <summary>A look at the old computer: what is on it, and how much.</summary>
    public sealed record Survey : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Survey;

        /// <inheritdoc/>
        public override string Words => "Survey";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.None, ReadsOldDisk: true, OutlivesParcel: true);

        private protected override string? Against(SwapStanding swap) => NoOld(swap);
    }

    /// <summary>A look at the new computer: its system, programs and free disk.</summary>
    public sealed record SurveyNew : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.SurveyNew;

        /// <inheritdoc/>
        public override string Words => "Survey of the new computer";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.None);

        private protected override string? Against(SwapStanding swap) => null;

        private protected override string? Computer(SwapStanding swap) => swap.NewTag;
    }

    /// <summary>The folders of the old computer as a tree to pick from; it passes through memory only.</summary>
    public sealed record Folders : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Folders;

        /// <inheritdoc/>
        public override string Words => "Look at folders";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.None, ReadsOldDisk: true, OutlivesParcel: true, OneByOne: true);

        private protected override string? Against(SwapStanding swap) => NoOld(swap);
    }

    /// <summary>A trip, which adds to the parcel.</summary>
    /// <param name="Part">Which one.</param>
    /// <param name="ByNeed">Where there is less room than data, what is needed first comes as far as it fits, and the rest is
    /// named.</param>
    /// <param name="Beside">Done beside the person's own work: with low priority, and not on battery.</param>
    public sealed record Trip(TripPart Part, bool ByNeed = false, bool Beside = false) : Order
    {
        /// <inheritdoc/>
        public override string Name => Part switch
        {
            TripPart.First => OrderNames.FirstTrip,
            TripPart.TopUp => OrderNames.TopUpTrip,
            _ => OrderNames.ClosingTrip
        };

        /// <inheritdoc/>
        public override string Words => Part switch
        {
            TripPart.First => "First trip",
            TripPart.TopUp => "Top-up trip",
            _ => "Closing trip"
        };

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Writes, ReadsOldDisk: true, IsLong: true);

        private protected override string? Against(SwapStanding swap) => NoOld(swap) ?? (Part, swap) switch
        {
            (TripPart.First, { Trips: > 0 }) => "its first trip is made; order a top-up or closing trip",
            (not TripPart.First, { Trips: 0 }) => "its first trip is not made yet",
            (not TripPart.Closing, { IsSwapped: true }) => "its new computer is in use already",
            _ => null,
        };
    }

    /// <summary>Every file of the parcel is read and compared with what the parcel says of it.</summary>
    /// <param name="ByService">By the service itself, beside the depot; null: by the service where the depot is its own.</param>
    public sealed record Verify(bool? ByService = null) : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Verify;

        /// <inheritdoc/>
        public override string Words => "Verify";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Reads, OutlivesCallOff: true, IsLong: true);

        private protected override string? Against(SwapStanding swap) => NoParcel(swap);

        private protected override string? Computer(SwapStanding swap) => BesideParcel(swap);
    }

    /// <summary>The parcel is brought up in the depot that keeps its second copy, and read back there.</summary>
    public sealed record SecondCopy : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.SecondCopy;

        /// <inheritdoc/>
        public override string Words => "Second copy";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Reads, OutlivesCallOff: true);

        private protected override string? Against(SwapStanding swap) => NoParcel(swap);

        private protected override string? Computer(SwapStanding swap) => BesideParcel(swap);
    }

    /// <summary>
    /// A look whether the old computer still is what its last trip left in the parcel: before it is emptied, and nothing else has it.
    /// </summary>
    public sealed record LastLook : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.LastLook;

        /// <inheritdoc/>
        public override string Words => "Last look";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Reads, ReadsOldDisk: true);

        private protected override string? Against(SwapStanding swap) =>
            NoOld(swap) ?? (swap.Trips == 0 ? "nothing is staged yet" : null);
    }

    /// <summary>What a restore would do, before it writes.</summary>
    public sealed record Look : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Look;

        /// <inheritdoc/>
        public override string Words => "Look before a restore";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Reads, OutlivesCallOff: true, Lands: true);

        private protected override string? Against(SwapStanding swap) => NoLanding(swap, wantsVerified: false);

        private protected override string? Computer(SwapStanding swap) => LandsAt(swap);
    }

    /// <summary>The parcel lands on the new computer.</summary>
    /// <param name="Beside">Done beside the person's own work: with low priority, and not on battery.</param>
    public sealed record Restore(bool Beside = false) : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Restore;

        /// <inheritdoc/>
        public override string Words => "Restore";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Reads, Lands: true, IsLong: true);

        private protected override string? Against(SwapStanding swap) => NoLanding(swap, wantsVerified: true);

        private protected override string? Computer(SwapStanding swap) => LandsAt(swap);
    }

    /// <summary>A part of the parcel lands once more; that is no fact about the whole.</summary>
    /// <param name="Only">Folders or files as the parcel has them.</param>
    public sealed record PartRestore(IReadOnlyList<string> Only) : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.PartRestore;

        /// <inheritdoc/>
        public override string Words => "Restore of a part";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Reads, OutlivesCallOff: true, Lands: true, IsLong: true, OneByOne: true);

        private protected override string? Against(SwapStanding swap) => NoLanding(swap, wantsVerified: false);

        private protected override string? Computer(SwapStanding swap) => LandsAt(swap);
    }

    /// <summary>A folder in the depot that somebody filled by hand becomes the parcel.</summary>
    /// <param name="Folder">As it lies in the depot; null: not said.</param>
    public sealed record Adopt(string? Folder) : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Adopt;

        /// <inheritdoc/>
        public override string Words => "Adopt a folder";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Writes, ReadsOldDisk: true, OneByOne: true, NamesFolder: true);

        private protected override string? Against(SwapStanding swap) =>
            NoOld(swap) ?? (swap.Trips > 0
                ? "it has a parcel already"
                : swap.HasBegun ? "a first trip has begun its parcel; make that trip again, or purge what it left" : null);
    }

    /// <summary>The parcel is taken away, for good.</summary>
    /// <param name="Confirm">The name of the parcel once more; null: not said.</param>
    public sealed record Purge(string? Confirm) : Order
    {
        /// <inheritdoc/>
        public override string Name => OrderNames.Purge;

        /// <inheritdoc/>
        public override string Words => "Purge";

        /// <inheritdoc/>
        public override OrderReach Reach => new(ParcelUse.Writes, OutlivesCallOff: true, OneByOne: true);

        private protected override string? Against(SwapStanding swap) => swap.HasParcel ? null : "nothing is staged";

        // Whoever has begun the parcel reaches its depot; the new computer may not even be there yet.
        private protected override string? Computer(SwapStanding swap) =>
            swap is { Trips: 0, OldDied: false, OldTag: { } old } ? old : swap.NewTag ?? swap.OldTag;
    }
}
