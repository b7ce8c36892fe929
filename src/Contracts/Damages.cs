using YardRelay.Core.Custody;

namespace YardRelay.Contracts;

/// <summary>Says that what lies in a depot may be damaged.</summary>
/// <param name="Reason">What happened to it.</param>
/// <param name="DryRun">Only says what it would mean.</param>
public sealed record DamageTold(string Reason, bool? DryRun = null);

/// <summary>A parcel in a damaged depot.</summary>
/// <param name="Beside">Where its files are beside it.</param>
/// <param name="Remedy">What is to be done about it, in a sentence.</param>
public sealed record DamagedParcel(string Swap, string Name, string Site, FilesBeside Beside, string Remedy);

/// <summary>What damage of a depot means.</summary>
/// <param name="Done">False: only looked.</param>
/// <param name="Words">What happened, in a sentence.</param>
/// <param name="Parcels">The first 500, those that may be the only copy first.</param>
/// <param name="Total">How many there are.</param>
/// <param name="Copies">Second copies of other depots' parcels that lie there, and count no more.</param>
public sealed record DamageSeen(string Depot, bool Done, string Words, IReadOnlyList<DamagedParcel> Parcels, int Total, int Copies);
