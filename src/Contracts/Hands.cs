using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;

namespace YardRelay.Contracts;

/// <summary>Asks for a code that enrols a hand on one computer.</summary>
public sealed record CodeWanted(string Tag);

/// <summary>A one-time code. It is shown this once only.</summary>
public sealed record CodeMade(string Code, string Tag, DateTimeOffset Expires);

/// <summary>A hand presents itself.</summary>
public sealed record EnrolWanted(string Code, string Tag, string Host);

/// <summary>The hand's own token.</summary>
public sealed record Enrolled(string Hand, string Token, string Tag);

/// <summary>Asks for work to be done by a hand.</summary>
/// <param name="Kind">survey, survey-new, first-trip, top-up-trip, closing-trip, verify, second-copy, look, restore, part-restore, adopt,
/// folders or purge.</param>
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
/// <param name="Swaps">Ids; empty: all of the refresh that can have it now.</param>
/// <param name="ByService">Of a verify: by the service itself, beside the depot.</param>
/// <param name="ByNeed">Of trips: as far as there is room, what is needed first.</param>
/// <param name="Beside">Of trips and restores: done beside the person's own work.</param>
public sealed record OrdersWanted(
    string Kind, IReadOnlyList<string> Swaps, bool? ByService = null, bool? ByNeed = null, bool? Beside = null);

/// <summary>How many orders were given.</summary>
public sealed record OrdersMade(int Given, IReadOnlyList<string> Skipped);

/// <summary>An order as people see it.</summary>
/// <param name="State">waiting, under-way, done, failed or withdrawn.</param>
public sealed record OrderSeen(
    string Id, string Kind, string Tag, string State, DateTimeOffset MadeAt, string MadeBy, DateTimeOffset? EndedAt, string? Words);

/// <summary>Lets the work of a hand rest, or go on.</summary>
public sealed record PauseWanted(bool Paused);

/// <summary>An order as its hand sees it.</summary>
/// <param name="CarryList">For a trip: what comes along, as <c>--carry-list</c> takes it; null: everything.</param>
/// <param name="Landing">For a restore: where it lands; null: in its original places.</param>
/// <param name="Only">For a part restore: nothing but these.</param>
/// <param name="SealTo">For a first trip: whom the parcel is sealed to; null: it is open.</param>
/// <param name="ParcelKey">The key of a sealed parcel, for this order only.</param>
/// <param name="ParcelId">The id that the parcel must have; null: it is not known yet.</param>
/// <param name="BytesPerSecond">How fast content may go for now; 0: not at all; null: as fast as it can.</param>
/// <param name="PlaceRules">Of a survey: the refresh's own rules for places, as YAML; null: none.</param>
/// <param name="Folder">Of an adoption: the folder to take in.</param>
/// <param name="ByNeed">Of a trip: as far as there is room, what is needed first.</param>
/// <param name="Access">What opens the depot, for this order; null: what the hand's environment gives.</param>
/// <param name="Second">Of a second copy: the depot that keeps it.</param>
/// <param name="Passphrase">Of a trip: a passphrase that is to open the parcel's key from now on.</param>
/// <param name="Beside">Done beside the person's own work: with low priority, and not on battery.</param>
/// <param name="Attempt">Goes with every report; a report of an earlier attempt is refused.</param>
/// <param name="LeaseSeconds">Renew before it is over, or another hand may take the order.</param>
public sealed record OrderTaken(
    string Id, string Kind, int Attempt, int LeaseSeconds, string? Depot, string? Parcel, string? CarryList = null,
    LandingWanted? Landing = null, IReadOnlyList<string>? Only = null, IReadOnlyList<string>? SealTo = null, string? ParcelKey = null,
    string? ParcelId = null, long? BytesPerSecond = null, DepotAccessWanted? Access = null, string? Folder = null, bool? ByNeed = null,
    string? PlaceRules = null, SecondDepot? Second = null, string? Passphrase = null, bool? Beside = null);

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
public sealed record FolderResult(string Folder, Amount Seen, Amount Arrived, Amount Open, Amount? LeftOut = null);

/// <summary>How an order ended.</summary>
/// <param name="IsWhole">All accounted for: no snag, no damage.</param>
/// <param name="Survey">Only of a survey.</param>
/// <param name="Reasons">Of a trip: what stayed by the carry list, and why.</param>
/// <param name="Foreseen">Of a look: what a restore would do.</param>
/// <param name="ParcelId">Of a trip: the parcel's own id.</param>
/// <param name="ParcelKey">Of a trip to a sealed parcel: its key, which the service keeps encrypted.</param>
/// <param name="Tree">Of a look at folders: the tree, which is kept in memory only.</param>
/// <param name="Deeper">Folders that were too deep for it.</param>
/// <param name="DepotFreeBytes">Room that the depot said it has, at the end.</param>
/// <param name="DepotTrouble">What is wrong with the depot itself; null: nothing was found.</param>
/// <param name="PassphraseSet">Of a trip: the passphrase that came with the order opens the parcel's key now.</param>
/// <param name="Words">What people should read of it besides, in whole sentences.</param>
/// <param name="Failure">Why it could not be done at all; null: it was done, whole or not.</param>
public sealed record OrderResult(
    bool IsWhole, IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, int Damages, int Trip, string? Failure,
    SurveyResult? Survey = null, IReadOnlyList<StayedBehind>? Reasons = null, ForeseenSeen? Foreseen = null, string? ParcelKey = null,
    string? ParcelId = null, string? Words = null, IReadOnlyList<FolderNode>? Tree = null, int? Deeper = null, long? DepotFreeBytes = null,
    string? DepotTrouble = null, bool? PassphraseSet = null);

/// <summary>A numbered batch of a hand's report.</summary>
/// <param name="Attempt">The attempt it belongs to.</param>
/// <param name="Result">Only in the last batch.</param>
public sealed record OrderReport(int Attempt, DateTimeOffset At, OrderProgress? Progress, OrderResult? Result);

/// <summary>What the service has of an order's reports.</summary>
/// <param name="Next">Number of the batch that it expects next.</param>
/// <param name="BytesPerSecond">How fast content may go from now on; 0: not at all; null: as fast as it can.</param>
public sealed record ReportTaken(int Next, DateTimeOffset LeaseUntil, long? BytesPerSecond = null);
