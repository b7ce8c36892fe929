using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;

namespace YardRelay.Contracts;

/// <summary>One of the four signs, with its words.</summary>
/// <param name="Sign">moving, wants, stopped, done or ahead.</param>
/// <param name="Since">Since when it is so; what waits has an age.</param>
public sealed record SignSeen(string Sign, string Words, DateTimeOffset? Since);

/// <summary>A station of a swap's line.</summary>
/// <param name="At">When it was reached; null: ahead.</param>
/// <param name="Expected">When it is expected; null: not known.</param>
public sealed record StopSeen(Station Station, DateTimeOffset? At, DateTimeOffset? Expected);

/// <summary>Work of a hand that is under way.</summary>
/// <param name="Kind">survey, first-trip, top-up-trip, closing-trip, verify or restore.</param>
/// <param name="TotalBytes">0: not known yet.</param>
public sealed record MovingSeen(string Order, string Kind, long Files, long TotalFiles, long Bytes, long TotalBytes, long BytesPerSecond, DateTimeOffset Since, DateTimeOffset? LastHeard);

/// <summary>A swap in a list.</summary>
/// <param name="Next">Index of the first stop ahead.</param>
/// <param name="IsBusy">An order is waiting or under way.</param>
public sealed record SwapListed(
    string Id, string Person, string Name, string Site, string? Room, SwapKind Kind, string? OldTag, string? NewTag,
    IReadOnlyList<StopSeen> Line, int Next, SignSeen Sign, MovingSeen? Moving, AppointmentSeen? Appointment, int OpenSnags, bool IsBusy);

/// <summary>A snag.</summary>
/// <param name="Side">old: at a trip; new: at the restore.</param>
/// <param name="End">open, retried or waived.</param>
public sealed record SnagSeen(string Id, string Swap, string Path, SnagKind Kind, string Side, long Bytes, string Reason, bool CountsAsFile, string End, string? EndedBy, string? EndReason, DateTimeOffset At, DateTimeOffset? EndedAt);

/// <summary>A step of a swap's checklist.</summary>
/// <param name="Kind">tick, scan or automatic.</param>
/// <param name="Expects">For a scan: the tag that must be read.</param>
/// <param name="State">open, done or not-applicable.</param>
public sealed record StepSeen(string Key, string Title, string Phase, string Kind, string? Expects, string Help, string State, string? By, DateTimeOffset? At, string? Reason);

/// <summary>The checklist of a swap.</summary>
/// <param name="Version">Give this as <c>If-Match: "version"</c> with a change.</param>
/// <param name="Frozen">Phases that are signed off.</param>
public sealed record ChecklistSeen(string Template, int TemplateVersion, int Version, IReadOnlyList<StepSeen> Steps, IReadOnlyList<string> Frozen);

/// <summary>A sign-off, or what is missing for it.</summary>
public sealed record SignOffSeen(SignOffPart Part, string? By, DateTimeOffset? At, IReadOnlyList<string> Missing);

/// <summary>A parcel.</summary>
public sealed record ParcelSeen(string Depot, string Address, string Name, int Trips, bool Verified, bool Sealed, HoldSeen Hold);

/// <summary>A line of a swap's history.</summary>
public sealed record HistorySeen(long Number, DateTimeOffset At, string By, string Kind, string Words);

/// <summary>Of a rescue: the parcel that serves it.</summary>
/// <param name="From">The swap whose computer was lost; the same one where its own was.</param>
/// <param name="LastTripAt">What changed at the lost computer after that is not in the parcel.</param>
public sealed record RescueSeen(string From, string Name, string? Tag, DateTimeOffset? LastTripAt, string Words);

/// <summary>The decision that nothing is restored.</summary>
public sealed record RestoreSkipSeen(string By, DateTimeOffset At, string Reason);

/// <summary>Of a leave: who receives the parcel.</summary>
/// <param name="Tag">Computer of that person, to which it is restored; null: not named yet.</param>
/// <param name="AcceptedAt">Null: not accepted yet; until then nothing of it goes there.</param>
public sealed record ReceiverSeen(string Person, string Name, string? Tag, string? AcceptedBy, DateTimeOffset? AcceptedAt);

/// <summary>A computer that may be the lost one, with the last good state of its files.</summary>
/// <param name="LastSeen">When its hand was last heard of, or its last trip ended.</param>
/// <param name="Verified">Whether the parcel was found whole since that trip.</param>
public sealed record LostComputer(string Swap, string Refresh, string Name, string? Tag, string? Model, string Site, DateTimeOffset? LastSeen, DateTimeOffset? LastTripAt, Amount Staged, bool Verified, int OpenSnags, string? Refusal);

/// <summary>Lets the parcel of a lost computer serve a rescue.</summary>
/// <param name="From">The swap of the lost computer.</param>
/// <param name="Tag">Its asset tag, said once more.</param>
public sealed record RescueWanted(string From, string Tag);

/// <summary>Decides that nothing is restored.</summary>
public sealed record RestoreSkipWanted(string Reason);

/// <summary>Names who receives the parcel of a leave.</summary>
/// <param name="Person">Key of a person in the roster.</param>
/// <param name="Tag">Asset tag of that person's computer; null: not known yet.</param>
public sealed record ReceiverWanted(string Person, string? Tag = null);

/// <summary>All of one swap.</summary>
public sealed record SwapSeen(
    SwapListed Swap, string? Mail, string? Department, string? OldModel, string? NewModel, string? Receiver, ParcelSeen? Parcel,
    IReadOnlyList<FolderAccount> Account, FolderAccount Total, ChecklistSeen Checklist, IReadOnlyList<SnagSeen> Snags, IReadOnlyList<SignOffSeen> SignOffs,
    IReadOnlyList<OrderSeen> Orders, IReadOnlyList<HistorySeen> History,
    RescueSeen? Rescue = null, RestoreSkipSeen? RestoreSkip = null, ReceiverSeen? HandingOver = null);

/// <summary>A claim about a step: one of tick, a tag that was scanned, a reason why it does not apply, or open again.</summary>
/// <param name="Claim">ticked, scanned, not-applicable or reopened.</param>
public sealed record StepChange(string Claim, string? Tag = null, string? Reason = null);

/// <summary>Signs a part off.</summary>
public sealed record SignOffWanted(SignOffPart Part);

/// <summary>Gives up a file, with a reason that stays.</summary>
public sealed record WaiverWanted(string Reason);

/// <summary>A version of a checklist template.</summary>
public sealed record TemplateSeen(string Name, int Version, int Steps, string Yaml, DateTimeOffset At);
