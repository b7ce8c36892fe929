using System.Text.Json.Serialization;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Core.Orders;

namespace YardRelay.Contracts;

/// <summary>Asks for work to be done by a hand.</summary>
/// <param name="Kind">survey, survey-new, first-trip, top-up-trip, closing-trip, verify, second-copy, last-look, look, restore,
/// part-restore, adopt, folders or purge.</param>
/// <param name="Only">Of a part restore: the folders or files that are wanted.</param>
/// <param name="Confirm">Of a purge: the name of the parcel once more.</param>
/// <param name="ByNeed">Of a trip: where there is less room than data, what is needed first comes as far as it fits, and the rest is named.
/// Null: such a trip is refused by the hand.</param>
/// <param name="Folder">Of an adoption: the folder in the depot that somebody filled by hand.</param>
/// <param name="Beside">Of trips and restores: done beside the person's own work, with low priority, and not on battery.
/// Null: as fast as it can.</param>
/// <param name="ByService">Of a verify: done by the service itself, beside the depot, and by no hand. Null: by the service where the depot
/// is its own.</param>
public sealed record OrderWanted(
    string Kind, IReadOnlyList<string>? Only = null, string? Confirm = null, bool? ByService = null, string? Folder = null,
    bool? ByNeed = null, bool? Beside = null);

/// <summary>Asks for the same work at many swaps at once.</summary>
/// <param name="Swaps">Ids; none only with <paramref name="IsAll"/>.</param>
/// <param name="ByService">Of a verify: by the service itself, beside the depot.</param>
/// <param name="ByNeed">Of trips: as far as there is room, what is needed first.</param>
/// <param name="Beside">Of trips and restores: done beside the person's own work.</param>
/// <param name="IsAll">At all swaps of the refresh that can have it now.</param>
public sealed record OrdersWanted(
    string Kind, IReadOnlyList<string> Swaps, bool? ByService = null, bool? ByNeed = null, bool? Beside = null, bool IsAll = false);

/// <summary>How many orders were given.</summary>
/// <param name="Skipped">Those that were not, and why.</param>
/// <param name="WithoutHand">Tags of computers at which no hand is enrolled: what was ordered there waits until one is.</param>
public sealed record OrdersMade(int Given, IReadOnlyList<string> Skipped, IReadOnlyList<string> WithoutHand);

/// <summary>An order as people see it.</summary>
/// <param name="State">waiting, under-way, done, failed or withdrawn.</param>
/// <param name="HasHand">Of an order that waits: whether there is a hand at the computer that could do it.</param>
public sealed record OrderSeen(
    string Id, string Kind, string Tag, string State, DateTimeOffset MadeAt, string MadeBy, DateTimeOffset? EndedAt, string? Words,
    bool HasHand = true);

/// <summary>Lets the work of a hand rest, or go on.</summary>
public sealed record PauseWanted(bool Paused);

/// <summary>An order as its hand sees it.</summary>
/// <param name="Attempt">Goes with every report; a report of an earlier attempt is refused.</param>
/// <param name="LeaseSeconds">Renew before it is over, or another hand may take the order.</param>
/// <param name="Work">What is to be done.</param>
/// <param name="BytesPerSecond">How fast content may go for now; 0: not at all; null: as fast as it can.</param>
/// <param name="Beside">Done beside the person's own work: with low priority, and not on battery.</param>
public sealed record OrderTaken(
    string Id, int Attempt, int LeaseSeconds, OrderWork Work, long? BytesPerSecond = null, bool? Beside = null);

/// <summary>Where the parcel of an order lies, and what opens it.</summary>
/// <param name="Depot">Address of the depot; a path for the service's own.</param>
/// <param name="ParcelId">The id that the parcel must have; null: it is not known yet.</param>
/// <param name="ParcelKey">The key of a sealed parcel, for this order only.</param>
/// <param name="Access">What opens the depot, for this order; null: what the hand's environment gives.</param>
/// <param name="Known">The state of its lists as it was last heard of; null: nothing was heard yet.</param>
public sealed record ParcelPlace(
    string Depot, string Parcel, string? ParcelId = null, string? ParcelKey = null, DepotAccessWanted? Access = null,
    ParcelState? Known = null);

/// <summary>What a hand is to do: a case for each kind of order, with just what that one needs.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(SurveyWork), OrderNames.Survey)]
[JsonDerivedType(typeof(SurveyNewWork), OrderNames.SurveyNew)]
[JsonDerivedType(typeof(FoldersWork), OrderNames.Folders)]
[JsonDerivedType(typeof(TripWork), "trip")]
[JsonDerivedType(typeof(VerifyWork), OrderNames.Verify)]
[JsonDerivedType(typeof(SecondCopyWork), OrderNames.SecondCopy)]
[JsonDerivedType(typeof(LastLookWork), OrderNames.LastLook)]
[JsonDerivedType(typeof(LookWork), OrderNames.Look)]
[JsonDerivedType(typeof(RestoreWork), OrderNames.Restore)]
[JsonDerivedType(typeof(PartRestoreWork), OrderNames.PartRestore)]
[JsonDerivedType(typeof(AdoptWork), OrderNames.Adopt)]
[JsonDerivedType(typeof(PurgeWork), OrderNames.Purge)]
public abstract record OrderWork
{
    private protected OrderWork()
    {
    }

    /// <summary>Its name, one of <see cref="OrderNames"/>.</summary>
    [JsonIgnore]
    public abstract string Name { get; }

    /// <summary>The parcel that it is about; null: it is about none.</summary>
    [JsonIgnore]
    public virtual ParcelPlace? At => null;
}

/// <summary>Work on a parcel.</summary>
/// <param name="Place">Where it lies.</param>
public abstract record ParcelWork(ParcelPlace Place) : OrderWork
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override ParcelPlace At => Place;
}

/// <summary>A look at the old computer.</summary>
/// <param name="PlaceRules">The refresh's own rules for places, as YAML; null: none.</param>
public sealed record SurveyWork(string? PlaceRules) : OrderWork
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Survey;
}

/// <summary>A look at the new computer.</summary>
public sealed record SurveyNewWork : OrderWork
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.SurveyNew;
}

/// <summary>The folders of the old computer.</summary>
public sealed record FoldersWork : OrderWork
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Folders;
}

/// <summary>A trip.</summary>
/// <param name="CarryList">What comes along, as <c>--carry-list</c> takes it; null: everything.</param>
/// <param name="SealTo">Of a first trip: whom the parcel is sealed to; null: it is open.</param>
/// <param name="ByNeed">As far as there is room, what is needed first.</param>
/// <param name="Passphrase">One that is to open the parcel's key from now on; null: none.</param>
/// <param name="Source">What a person said of a source that was in doubt; null: nothing.</param>
public sealed record TripWork(
    TripPart Part, ParcelPlace Place, string? CarryList = null, IReadOnlyList<string>? SealTo = null, bool ByNeed = false,
    string? Passphrase = null, SourceAnswer? Source = null) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => new Order.Trip(Part).Name;
}

/// <summary>The parcel is read and compared.</summary>
public sealed record VerifyWork(ParcelPlace Place) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Verify;
}

/// <summary>The parcel is brought up in another depot, too.</summary>
/// <param name="Second">The depot that keeps it.</param>
public sealed record SecondCopyWork(ParcelPlace Place, SecondDepot Second) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.SecondCopy;
}

/// <summary>Whether the old computer still is what the parcel has.</summary>
/// <param name="CarryList">As of a trip: what stays behind by it is not looked at; null: everything is.</param>
public sealed record LastLookWork(ParcelPlace Place, string? CarryList = null) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.LastLook;
}

/// <summary>What a restore would do.</summary>
/// <param name="Landing">Where it lands.</param>
/// <param name="Unfinished">The old computer is gone: a parcel whose last trip broke off counts as it was left.</param>
public sealed record LookWork(ParcelPlace Place, LandingWanted Landing, bool Unfinished = false) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Look;
}

/// <summary>The parcel lands.</summary>
/// <param name="Landing">Where.</param>
/// <param name="Unfinished">The old computer is gone: a parcel whose last trip broke off lands as it was left.</param>
public sealed record RestoreWork(ParcelPlace Place, LandingWanted Landing, bool Unfinished = false) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Restore;
}

/// <summary>A part of it lands once more.</summary>
/// <param name="Only">Nothing but these folders or files.</param>
/// <param name="Unfinished">The old computer is gone: a parcel whose last trip broke off lands as it was left.</param>
public sealed record PartRestoreWork(ParcelPlace Place, LandingWanted Landing, IReadOnlyList<string> Only, bool Unfinished = false)
    : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.PartRestore;
}

/// <summary>A folder in the depot becomes the parcel.</summary>
/// <param name="Folder">The folder to take in.</param>
public sealed record AdoptWork(ParcelPlace Place, string Folder) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Adopt;
}

/// <summary>The parcel is taken away.</summary>
public sealed record PurgeWork(ParcelPlace Place) : ParcelWork(Place)
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override string Name => OrderNames.Purge;
}

/// <summary>The depot of a second copy.</summary>
/// <param name="Access">What opens it, for this order; null: what the hand's environment gives.</param>
public sealed record SecondDepot(string Address, DepotAccessWanted? Access = null);

/// <summary>How far an order is.</summary>
/// <param name="FirstIsThere">Of a restore: the folders that are needed first are there, while the rest still comes.</param>
/// <param name="Waits">What the hand waits for by itself: battery; null: nothing.</param>
public sealed record OrderProgress(
    long Files, long TotalFiles, long Bytes, long TotalBytes, long BytesPerSecond, bool? FirstIsThere = null, string? Waits = null);

/// <summary>One folder in a result.</summary>
/// <param name="Seen">Survey and trip: at the source. Restore: in the depot.</param>
/// <param name="LeftOut">Trip: left out by the carry list.</param>
/// <param name="Arrived">Trip: carried. Restore: on the new computer, also where the same stood already. Survey: nothing.</param>
/// <param name="Gone">Trip: in the parcel, and deleted at the source since.</param>
public sealed record FolderResult(string Folder, Amount Seen, Amount Arrived, Amount Open, Amount? LeftOut = null, Amount? Gone = null);

/// <summary>How the depot was found at the end of an order.</summary>
/// <param name="FreeBytes">Room that it said it has; null: it does not say.</param>
/// <param name="Trouble">What is wrong with the depot itself; null: nothing was found.</param>
/// <param name="Held">How the parcel stood, when the order began, to what the order said was known of it; null: nobody looked.</param>
/// <param name="Left">In which state the order left the parcel's lists; null: it left none, or nobody looked.</param>
public sealed record DepotFound(long? FreeBytes, string? Trouble = null, ParcelHeld? Held = null, ParcelState? Left = null);

/// <summary>A numbered batch of a hand's report.</summary>
/// <param name="Attempt">The attempt it belongs to.</param>
/// <param name="Outcome">Only in the last batch.</param>
/// <param name="Depot">In the last batch: how the depot was found; null: none was met.</param>
/// <param name="Begun">Of a trip, until it was taken once: the parcel that it brings up; null: it has opened none yet.</param>
public sealed record OrderReport(
    int Attempt, DateTimeOffset At, OrderProgress? Progress, OrderOutcome? Outcome = null, DepotFound? Depot = null,
    ParcelBegun? Begun = null);

/// <summary>A parcel that a trip has made or opened. Known from then on, it can be found and opened though that trip never ends.</summary>
/// <param name="ParcelId">The parcel's own id.</param>
/// <param name="ParcelKey">The key of a sealed one; null: it is open.</param>
public sealed record ParcelBegun(string ParcelId, string? ParcelKey);

/// <summary>What the service has of an order's reports.</summary>
/// <param name="Next">Number of the batch that it expects next.</param>
/// <param name="BytesPerSecond">How fast content may go from now on; 0: not at all; null: as fast as it can.</param>
public sealed record ReportTaken(int Next, DateTimeOffset LeaseUntil, long? BytesPerSecond = null);
