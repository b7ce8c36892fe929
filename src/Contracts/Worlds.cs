using YardRelay.Core.Carrying;
using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Contracts;

/// <summary>A room with benches of its own.</summary>
public sealed record RoomSeen(string Name, int Benches);

/// <summary>A site with its benches.</summary>
/// <param name="Benches">How many swaps at once, 0 to 1000; where rooms are given, theirs count.</param>
/// <param name="Rooms">Null: none.</param>
/// <param name="Limits">How much may be carried when, in Mbit/s over all hands: <c>08:00-18:00 40</c>, <c>08:00-18:00 none</c>, <c>200</c>;
/// null: no bound.</param>
/// <param name="Opens">When visits may take place, such as <c>daily 07:00-19:00</c>, which is the default.</param>
public sealed record SiteWanted(
    string Name, int Benches, IReadOnlyList<RoomSeen>? Rooms = null, string? Opens = null, IReadOnlyList<string>? Limits = null);

/// <summary>A site.</summary>
/// <param name="Benches">All of them.</param>
public sealed record SiteSeen(
    string Key, string Name, int Benches, IReadOnlyList<RoomSeen> Rooms, string Opens, IReadOnlyList<string> Limits);

/// <summary>A technician.</summary>
/// <param name="Shifts">Local times: <c>08:00-12:00</c> on Monday to Friday, <c>daily 08:00-12:00</c>, <c>mon,wed 08:00-12:00</c>; the gap
/// between two is a break.</param>
/// <param name="Skills">What they know beyond a plain swap; null: nothing.</param>
/// <param name="Absences">When they are away: <c>2026-11-25</c>, <c>2026-11-25..2026-11-27</c>, or with times; null: never.</param>
public sealed record TechnicianWanted(
    string Name, IReadOnlyList<string> Sites, IReadOnlyList<string> Shifts, IReadOnlyList<string>? Skills = null,
    IReadOnlyList<string>? Absences = null);

/// <summary>A technician.</summary>
public sealed record TechnicianSeen(
    string Key, string Name, IReadOnlyList<string> Sites, IReadOnlyList<string> Shifts, IReadOnlyList<string> Skills,
    IReadOnlyList<string> Absences);

/// <summary>What taking a list of technicians did, or would do in a dry run.</summary>
/// <param name="Rejected">Rows with faults; one is enough that nothing is taken.</param>
public sealed record TechniciansTaken(
    bool DryRun, int Added, int Changed, int Same, IReadOnlyList<TechnicianSeen> Technicians, IReadOnlyList<RosterRejected> Rejected);

/// <summary>What opens a depot; kept encrypted, handed to a hand with an order only, never shown again.</summary>
/// <param name="User">Name to sign in with.</param>
/// <param name="Password">Its password, or the passphrase of the key.</param>
/// <param name="PrivateKey">Text of a private key, for an SSH server.</param>
/// <param name="HostKey">Key of the SSH server as <c>SHA256:…</c>.</param>
public sealed record DepotAccessWanted(string? User = null, string? Password = null, string? PrivateKey = null, string? HostKey = null);

/// <summary>A depot by its address.</summary>
/// <param name="Address"><c>file:///path</c>, <c>http(s)://host/path</c>, <c>sftp://user@host/path</c>, or <c>built-in</c> for the
/// service's own.</param>
/// <param name="Access">What opens it; null: as it was; with nothing in it: hands take it from their environment again.</param>
/// <param name="CapacityBytes">How much may lie there at once; null: no bound.</param>
/// <param name="DailyBytes">What the link brings in a day; null: no bound.</param>
/// <param name="HoldDays">How long a parcel lies after its swap, 0 to 366; null: 14.</param>
public sealed record DepotWanted(
    string Name, string Address, long? CapacityBytes = null, long? DailyBytes = null, int? HoldDays = null, DateOnly? EndsOn = null,
    IReadOnlyList<string>? SealTo = null, IReadOnlyList<string>? Limits = null, DepotAccessWanted? Access = null, string? CopyTo = null);

/// <summary>A depot.</summary>
/// <param name="Parcels">Parcels in it.</param>
/// <param name="BytesPerSecond">The rate that estimates use.</param>
/// <param name="Observed">Trips and restores that the rate rests on; 0: assumed.</param>
/// <param name="EndsOn">The day on which it deletes by itself; null: it does not.</param>
/// <param name="SealTo">Recipients that parcels in it are sealed to; none: they are open.</param>
/// <param name="OpenedBy">What the service keeps to open it, in words without any secret; null: nothing.</param>
/// <param name="FreeBytes">Room that is left: what it says now or said last, and no more than its bound leaves; null: not known.</param>
/// <param name="HeardAt">When a hand last worked with it; null: none did yet.</param>
/// <param name="Trouble">What was wrong with it then; null: nothing.</param>
/// <param name="PromisedBytes">What swaps that are surveyed and not staged will still bring.</param>
/// <param name="Fill">How full that makes it.</param>
/// <param name="Tried">What came of trying it, where it was just set; null: it was not.</param>
public sealed record DepotSeen(
    string Key, string Name, string Address, long Parcels, long Bytes, long? CapacityBytes, long? DailyBytes, int HoldDays,
    double BytesPerSecond, int Observed, DateOnly? EndsOn, IReadOnlyList<string> SealTo, long PromisedBytes, IReadOnlyList<string> Limits,
    string? OpenedBy, long? FreeBytes, DateTimeOffset? HeardAt, string? Trouble, string? CopyTo = null,
    DepotFillState Fill = DepotFillState.Unknown, string? Tried = null);

/// <summary>The way between two sites, the same in both directions.</summary>
/// <param name="Minutes">0 to 1440.</param>
public sealed record WaySeen(string From, string To, int Minutes);

/// <summary>A holiday or black-out.</summary>
/// <param name="Site">Null: at no site anything takes place.</param>
/// <param name="At"><c>2026-11-25</c>, <c>2026-11-25..2026-11-27</c>, or <c>2026-11-25 08:00..2026-11-25 12:00</c>; local time.</param>
public sealed record ClosureWanted(string Name, string? Site, string At);

/// <summary>A holiday or black-out.</summary>
public sealed record ClosureSeen(string Key, string Name, string? Site, string At);

/// <summary>What reading a calendar did.</summary>
/// <param name="Outside">Events that lie outside the refresh's days.</param>
public sealed record CalendarTaken(int Taken, int Outside, IReadOnlyList<ClosureSeen> Closures);

/// <summary>A batch of new computers.</summary>
/// <param name="Arrives">Local time from which they are at hand, <c>2026-11-30 12:00</c>.</param>
/// <param name="Tags">Tags of the new computers in it, at least one.</param>
public sealed record DeliveryWanted(string Name, string Arrives, IReadOnlyList<string> Tags);

/// <summary>A batch of new computers.</summary>
public sealed record DeliverySeen(string Key, string Name, string Arrives, IReadOnlyList<string> Tags);

/// <summary>A part of a refresh between two days, both included.</summary>
public sealed record WaveWanted(string Name, DateOnly From, DateOnly Until);

/// <summary>A wave.</summary>
/// <param name="Swaps">Swaps in it.</param>
public sealed record WaveSeen(string Key, string Name, DateOnly From, DateOnly Until, int Swaps);

/// <summary>What somebody knows better than the estimate; null: estimated.</summary>
/// <param name="Bench">A bench preparation before each visit; null: none is set here.</param>
public sealed record EstimateWanted(int? BeforeMinutes, int? UnattendedMinutes, int? AfterMinutes, Preparation? Bench);

/// <summary>An override of estimates.</summary>
/// <param name="Of">A swap's id, a model of new computer, or a kind.</param>
public sealed record EstimateRuleSeen(
    EstimateScope Scope, string Of, int? BeforeMinutes, int? UnattendedMinutes, int? AfterMinutes, Preparation? Bench);

/// <summary>How long the parts of some swaps really took: the middle one of each.</summary>
/// <param name="Of">A kind, or a model of new computer.</param>
/// <param name="Swaps">How many it rests on.</param>
/// <param name="UnattendedMinutes">Null: nothing was restored.</param>
/// <param name="AfterMinutes">Null: nobody came back.</param>
/// <param name="Rule">What is set for the same; null: it is estimated.</param>
public sealed record RealLength(
    EstimateScope Scope, string Of, int Swaps, int BeforeMinutes, int? UnattendedMinutes, int? AfterMinutes, EstimateRuleSeen? Rule);

/// <summary>How long the parts of a swap take, with what that rests on, and the ways to carry its files compared.</summary>
public sealed record EstimateSeen(string Swap, SwapEstimate Estimate, IReadOnlyList<WayToCarry> Ways);

/// <summary>The ways to carry, compared over several swaps together.</summary>
public sealed record WaysSeen(int Swaps, long Bytes, IReadOnlyList<WayToCarry> Ways);

/// <summary>The world of a refresh in one piece.</summary>
public sealed record WorldSeen(
    IReadOnlyList<SiteSeen> Sites,
    IReadOnlyList<TechnicianSeen> Technicians,
    IReadOnlyList<WaySeen> Ways,
    IReadOnlyList<ClosureSeen> Closures,
    IReadOnlyList<DeliverySeen> Deliveries, IReadOnlyList<WaveSeen> Waves, IReadOnlyList<DepotSeen> Depots,
    IReadOnlyList<EstimateRuleSeen> Estimates, IReadOnlyList<CatalogueSeen> Catalogue, IReadOnlyList<SpareSeen> Spares,
    IReadOnlyList<GroupSeen> Groups);

/// <summary>Changes several swaps at once. What is null stays as it is.</summary>
/// <param name="Swaps">Ids, 1 to 2,000.</param>
/// <param name="Wave">Key of a wave; empty: none.</param>
/// <param name="Skills">What the technician must know.</param>
/// <param name="Weight">1 to 9: what leaving it out counts.</param>
/// <param name="Free">When person and room are free, <c>2026-11-25 08:00-12:00</c>; empty list: always.</param>
/// <param name="Preferred">What the person asked for, in the same form.</param>
/// <param name="PinnedStart">Fixes the time.</param>
/// <param name="PinnedTechnician">Fixes the technician.</param>
/// <param name="Unpin">Takes both pins out.</param>
/// <param name="Depot">Key of the depot to stage in; only where nothing is staged yet.</param>
public sealed record SwapEdit(
    IReadOnlyList<string> Swaps,
    string? Wave = null,
    IReadOnlyList<string>? Skills = null,
    int? Weight = null,
    IReadOnlyList<string>? Free = null,
    IReadOnlyList<string>? Preferred = null,
    DateTimeOffset? PinnedStart = null,
    string? PinnedTechnician = null,
    bool Unpin = false,
    string? Depot = null);

/// <summary>How many swaps an edit changed.</summary>
public sealed record SwapsEdited(int Changed, int Same);
