namespace YardRelay.Contracts;

/// <summary>A refresh to make.</summary>
/// <param name="Zone">IANA time zone of its days.</param>
/// <param name="Days">Length in days, 1 to 366.</param>
public sealed record NewRefresh(string Key, string Name, string Zone, DateOnly Starts, int Days);

/// <summary>A refresh.</summary>
/// <param name="Head">Head of its ledger, <c>number:sha256</c>.</param>
public sealed record RefreshSeen(string Key, string Name, string Zone, DateOnly Starts, int Days, long Swaps, string Head);

/// <summary>A site with its benches.</summary>
public sealed record SiteWanted(string Name, int Benches);

/// <summary>A site.</summary>
public sealed record SiteSeen(string Key, string Name, int Benches);

/// <summary>A technician. Shifts are local times on each working day, such as <c>08:00-12:00</c>.</summary>
public sealed record TechnicianWanted(string Name, IReadOnlyList<string> Sites, IReadOnlyList<string> Shifts);

/// <summary>A technician.</summary>
public sealed record TechnicianSeen(string Key, string Name, IReadOnlyList<string> Sites, IReadOnlyList<string> Shifts);

/// <summary>A depot by its address.</summary>
public sealed record DepotWanted(string Name, string Address);

/// <summary>A depot.</summary>
/// <param name="Parcels">Parcels in it.</param>
public sealed record DepotSeen(string Key, string Name, string Address, long Parcels, long Bytes);

/// <summary>A piece of a list.</summary>
/// <param name="Next">Give this as <c>cursor</c> for the next piece; null: this is the last.</param>
public sealed record Page<T>(IReadOnlyList<T> Items, string? Next, long Total);
