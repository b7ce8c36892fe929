using YardRelay.Core.Carrying;

namespace YardRelay.Contracts;

/// <summary>A folder or account of the parcel that lands elsewhere.</summary>
public sealed record LandingMove(string From, string To);

/// <summary>A clash rule for one folder.</summary>
/// <param name="Rule">beside, stay, newer or ours.</param>
public sealed record LandingClash(string Folder, string Rule);

/// <summary>Where a swap's parcel lands on the new computer. Left as it is: everything in its original place, beside what stands.</summary>
/// <param name="Accounts">Homes that land in the home of another name, which must be there.</param>
/// <param name="First">What comes first, in this order.</param>
/// <param name="Clash">beside, stay, newer or ours, where no folder has its own rule.</param>
public sealed record LandingWanted(
    IReadOnlyList<LandingMove> Accounts, IReadOnlyList<LandingMove> Folders, IReadOnlyList<string> First, string Clash,
    IReadOnlyList<LandingClash> Clashes);

/// <summary>What the last look of the hand found that a restore would do.</summary>
public sealed record ForeseenSeen(
    DateTimeOffset At, IReadOnlyList<ForeseenFolder> Folders, long NeedsBytes, long? FreeBytes, IReadOnlyList<string> NotInParcel);

/// <summary>One folder of it, in files.</summary>
public sealed record ForeseenFolder(string Folder, string To, Amount New, Amount Stands, Amount Beside, Amount Replaced, Amount Stayed);

/// <summary>A landing plan as it is kept.</summary>
/// <param name="Foreseen">The last look; null: none since the plan was made.</param>
public sealed record LandingSeen(LandingWanted Plan, string? By, DateTimeOffset? At, ForeseenSeen? Foreseen);

/// <summary>How long a parcel is kept.</summary>
/// <param name="Until">The day from which it may be purged; null: not yet known, since the swap is not signed off.</param>
/// <param name="Missing">What stands in the way of a purge; empty: it may be ordered.</param>
/// <param name="DepotEnds">The day on which the depot deletes by itself; null: it does not.</param>
/// <param name="Alarm">What has to be done about that day, and soon; null: nothing.</param>
public sealed record HoldSeen(DateOnly? Until, IReadOnlyList<string> Missing, DateOnly? DepotEnds, string? Alarm, DateTimeOffset? PurgedAt);

/// <summary>A snag in the list of a refresh.</summary>
/// <param name="Ways">What may be done: an order that can end it, waive, or source: say what the source is.</param>
/// <param name="Counsel">The same in words.</param>
public sealed record SnagListed(
    SnagSeen Snag, string Name, string Site, string? Room, IReadOnlyList<string> Ways, string Counsel, bool IsBusy);

/// <summary>Gives up several files with one reason.</summary>
/// <param name="Snags">Ids, 1 to 500.</param>
public sealed record WaiversWanted(IReadOnlyList<string> Snags, string Reason);

/// <summary>How many were given up.</summary>
/// <param name="Skipped">Those that were not, and why.</param>
public sealed record WaiversMade(int Waived, IReadOnlyList<string> Skipped);

/// <summary>What the organisation offers for a program that was found.</summary>
/// <param name="Program">Its name, with <c>*</c> for anything.</param>
/// <param name="Offer">What is installed instead, or the same.</param>
/// <param name="Where">Where to get it.</param>
/// <param name="IsLicenceBound">Sign out of it on the old computer first.</param>
public sealed record CatalogueWanted(string Program, string Offer, string? Where, bool IsLicenceBound);

/// <summary>A line of the organisation's catalogue.</summary>
public sealed record CatalogueSeen(string Key, string Program, string Offer, string? Where, bool IsLicenceBound);

/// <summary>A program of the old computer and what becomes of it.</summary>
/// <param name="Offer">What to install; null: the catalogue has nothing for it.</param>
public sealed record ProgramAgain(string Name, string? Version, string? Offer, string? Where, bool IsLicenceBound);

/// <summary>Files that stayed at the old computer for one reason.</summary>
/// <param name="By">Who decided; null: a rule.</param>
public sealed record StayedBehind(string What, Amount? Files, string Reason, string? By);

/// <summary>What became of a swap's files and programs.</summary>
/// <param name="Stayed">What stayed by the carry list.</param>
/// <param name="Waived">Files that were given up, each by name.</param>
/// <param name="Open">What is not yet carried or restored.</param>
public sealed record ParcelReport(
    string Swap, string Name, string Refresh, string? OldTag, string? NewTag, DateTimeOffset At, DateTimeOffset? StagedAt,
    DateTimeOffset? RestoredAt,
    IReadOnlyList<FolderAccount> Account,
    FolderAccount Total,
    IReadOnlyList<StayedBehind> Stayed,
    IReadOnlyList<SnagSeen> Waived,
    IReadOnlyList<SnagSeen> Open,
    IReadOnlyList<ProgramAgain> Programs, HoldSeen? Hold, string Words);
