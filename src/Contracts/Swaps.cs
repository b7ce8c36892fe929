using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Core.Detours;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Contracts;

/// <summary>One of the four signs, with its words.</summary>
/// <param name="Sign">moving, wants, stopped, done, ahead or off.</param>
/// <param name="Since">Since when it is so; what waits has an age.</param>
public sealed record SignSeen(string Sign, string Words, DateTimeOffset? Since);

/// <summary>A station of a swap's line.</summary>
/// <param name="At">When it was reached; null: ahead.</param>
/// <param name="Expected">When it is expected; null: not known.</param>
public sealed record StopSeen(Station Station, DateTimeOffset? At, DateTimeOffset? Expected);

/// <summary>Work of a hand that is under way.</summary>
/// <param name="Kind">survey, first-trip, top-up-trip, closing-trip, verify or restore.</param>
/// <param name="TotalBytes">0: not known yet.</param>
/// <param name="IsBeside">Done beside the person's own work.</param>
/// <param name="PausedAt">Since when it rests because somebody asked for that; null: it does not.</param>
/// <param name="Waits">What its hand waits for by itself: battery; null: nothing.</param>
public sealed record MovingSeen(
    string Order, string Kind, long Files, long TotalFiles, long Bytes, long TotalBytes, long BytesPerSecond, DateTimeOffset Since,
    DateTimeOffset? LastHeard, bool IsBeside = false, DateTimeOffset? PausedAt = null, string? Waits = null);

/// <summary>A swap in a list.</summary>
/// <param name="Next">Index of the first stop ahead.</param>
/// <param name="IsBusy">An order is waiting or under way.</param>
public sealed record SwapListed(
    string Id, string Person, string Name, string Site, string? Room, SwapKind Kind, string? OldTag, string? NewTag,
    IReadOnlyList<StopSeen> Line, int Next, SignSeen Sign, MovingSeen? Moving, AppointmentSeen? Appointment, int OpenSnags, bool IsBusy);

/// <summary>A snag.</summary>
/// <param name="Side">old: at a trip; new: at the restore.</param>
/// <param name="End">open, retried or waived.</param>
/// <param name="Doubt">Of a source in doubt: what it looks like; null: the snag is about a file.</param>
public sealed record SnagSeen(
    string Id, string Swap, string Path, SnagKind Kind, string Side, long Bytes, string Reason, bool CountsAsFile, string End,
    string? EndedBy, string? EndReason, DateTimeOffset At, DateTimeOffset? EndedAt, DoubtKind? Doubt = null);

/// <summary>A step of a swap's checklist.</summary>
/// <param name="Kind">tick, confirmation, text, number, choice, again, timed, restart, scan, photo or automatic.</param>
/// <param name="Expects">For a scan: the tag that must be read. For an automatic one: what must be found. For a step that is run again: the
/// result that ends it.</param>
/// <param name="Help">Markdown; may be empty.</param>
/// <param name="State">open, under-way, done or not-applicable.</param>
/// <param name="Value">What was answered; of a photo: its SHA-256.</param>
/// <param name="StartedAt">When it was begun, where that was told.</param>
/// <param name="Runs">How often it was run; 0 for what is done once.</param>
/// <param name="Options">Of a choice.</param>
/// <param name="Unit">Of a number.</param>
/// <param name="Least">Of a number; null: any.</param>
/// <param name="Most">Of a number; null: any.</param>
/// <param name="Fact">Of an automatic one: surveyed, staged-and-verified, closing-trip-done, restored-and-verified, account-closed,
/// signed-out, programs-found, free-disk or passphrase-set.</param>
/// <param name="ByPerson">The person does it and says so on their own page.</param>
/// <param name="Proposed">Of a choice: the answer that the facts speak for; null: they say nothing.</param>
public sealed record StepSeen(
    string Key, string Title, string Phase, string Kind, string? Expects, string Help, string State, string? By, DateTimeOffset? At,
    string? Reason,
    string? Value = null, DateTimeOffset? StartedAt = null, int Runs = 0, IReadOnlyList<string>? Options = null, string? Unit = null,
    decimal? Least = null, decimal? Most = null, string? Fact = null, bool? ByPerson = null, StepProposal? Proposed = null);

/// <summary>An answer that is proposed, and why.</summary>
public sealed record StepProposal(string Value, string Words);

/// <summary>The checklist of a swap.</summary>
/// <param name="Version">Give this as <c>If-Match: "version"</c> with a change.</param>
/// <param name="Frozen">Phases that are signed off.</param>
public sealed record ChecklistSeen(
    string Template, int TemplateVersion, int Version, IReadOnlyList<StepSeen> Steps, IReadOnlyList<string> Frozen);

/// <summary>A sign-off, or what is missing for it.</summary>
/// <param name="Facts">SHA-256 of what there is to be seen now; give it with the sign-off, so that nothing else is signed than what was
/// read.</param>
/// <param name="Sha256">Of what is signed: the digest of its paper, which the ledger holds.</param>
/// <param name="Statement">What is signed, in words.</param>
/// <param name="Witness">Of the person's, where a technician signed for them: the person, who was there.</param>
/// <param name="Drawn">The drawn signature as the data of an SVG path.</param>
public sealed record SignOffSeen(
    SignOffPart Part, string? By, DateTimeOffset? At, IReadOnlyList<string> Missing, string? Facts = null, string? Sha256 = null,
    string? Statement = null, string? Witness = null, string? Drawn = null);

/// <summary>A parcel.</summary>
/// <param name="Trips">Trips that ended.</param>
/// <param name="Begun">A first trip has begun it and has not ended: something lies there, and nothing says yet what must.</param>
public sealed record ParcelSeen(
    string Depot, string Address, string Name, int Trips, bool Verified, bool Sealed, HoldSeen Hold, bool Begun = false);

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
public sealed record LostComputer(
    string Swap, string Refresh, string Name, string? Tag, string? Model, string Site, DateTimeOffset? LastSeen, DateTimeOffset? LastTripAt,
    Amount Staged, bool Verified, int OpenSnags, string? Refusal);

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
/// <param name="OldComputer">Null: it has none.</param>
/// <param name="Handover">The newest; null: none.</param>
/// <param name="Detours">What went otherwise than planned, the newest first.</param>
/// <param name="MayDetour">What can be said of it now to go otherwise.</param>
public sealed record SwapSeen(
    SwapListed Swap, string? Mail, string? Department, string? OldModel, string? NewModel, string? Receiver, ParcelSeen? Parcel,
    IReadOnlyList<FolderAccount> Account,
    FolderAccount Total,
    ChecklistSeen Checklist,
    IReadOnlyList<SnagSeen> Snags,
    IReadOnlyList<SignOffSeen> SignOffs,
    IReadOnlyList<OrderSeen> Orders, IReadOnlyList<HistorySeen> History,
    RescueSeen? Rescue = null, RestoreSkipSeen? RestoreSkip = null, ReceiverSeen? HandingOver = null,
    IReadOnlyList<FollowUpSeen>? FollowUps = null, OldComputerSeen? OldComputer = null, HandoverSeen? Handover = null,
    IReadOnlyList<DetourSeen>? Detours = null, IReadOnlyList<DetourKind>? MayDetour = null);

/// <summary>A claim about a step.</summary>
/// <param name="Claim">ticked, started, ran, answered, scanned, not-applicable or reopened.</param>
/// <param name="Tag">The tag that was scanned.</param>
/// <param name="Reason">Why it does not apply.</param>
/// <param name="Value">What is answered.</param>
/// <param name="AgeSeconds">How long ago it was done, at most seven days; null: now. Told as an age, so that a device's clock may be
/// wrong.</param>
public sealed record StepChange(string Claim, string? Tag = null, string? Reason = null, string? Value = null, int? AgeSeconds = null);

/// <summary>Moves a swap to another version of a checklist template, or to another template.</summary>
/// <param name="Template">Name of the template; null: the one that the swap has.</param>
/// <param name="Version">Its version; null: the newest.</param>
/// <param name="DryRun">Only says what would change.</param>
public sealed record ChecklistMove(string? Template = null, int? Version = null, bool DryRun = false);

/// <summary>A step that a move changes.</summary>
/// <param name="What">added, dropped, reworded or asks-anew.</param>
/// <param name="WasDealtWith">What was said about it no longer counts.</param>
public sealed record StepMoved(string Key, string Title, string What, bool WasDealtWith);

/// <summary>What a move to another version changes, or changed.</summary>
public sealed record ChecklistMoved(
    string FromTemplate, int FromVersion, string ToTemplate, int ToVersion, IReadOnlyList<StepMoved> Steps, bool Done);

/// <summary>Signs a part off.</summary>
/// <param name="Facts">What was seen, as <c>facts</c> of the sign-off gives it; where it is another meanwhile, nothing is signed. Null:
/// whatever stands now.</param>
/// <param name="Name">Of the person's: their name, as they write it.</param>
/// <param name="Drawn">Of the person's: the drawn signature as the data of an SVG path of M, L and numbers; null: none.</param>
public sealed record SignOffWanted(SignOffPart Part, string? Facts = null, string? Name = null, string? Drawn = null);

/// <summary>Opens a signed part again; signatures that rest on it are void, too.</summary>
public sealed record ReopeningWanted(string Reason);

/// <summary>Gives up a file, with a reason that stays.</summary>
public sealed record WaiverWanted(string Reason);

/// <summary>Says what a source is that did not look like what was carried before; the next trip goes on by it.</summary>
/// <param name="Reason">Why, 1 to 500 characters; it stays, with the name of who says so.</param>
public sealed record SourceAnswerWanted(SourceVerdict Verdict, string Reason);

/// <summary>A version of a checklist template.</summary>
/// <param name="Kinds">The kinds of swap it is for; empty: all.</param>
public sealed record TemplateSeen(string Name, int Version, int Steps, string Yaml, DateTimeOffset At, IReadOnlyList<SwapKind> Kinds);

/// <summary>A template as it is written, to be looked at before it is kept.</summary>
/// <param name="Kind">The kind of swap to show it for; null: the first that it is for.</param>
public sealed record TemplateDraft(string Yaml, SwapKind? Kind = null);

/// <summary>How a template would look.</summary>
/// <param name="Faults">What is wrong with it; empty: it can be kept.</param>
/// <param name="Kind">The kind of swap that <paramref name="Steps"/> are shown for.</param>
/// <param name="Steps">The steps of such a swap before anybody has dealt with it, those that wait for a condition included.</param>
/// <param name="Conditions">Keys of steps that are there under a condition only, with the condition in words.</param>
public sealed record TemplatePreview(
    IReadOnlyList<TemplateFault> Faults,
    string Name,
    SwapKind Kind,
    IReadOnlyList<SwapKind> Kinds,
    IReadOnlyList<StepSeen> Steps,
    IReadOnlyDictionary<string, string> Conditions);

/// <summary>What is wrong with a template.</summary>
/// <param name="Line">Line of its text, from 1; null: it is about all of it.</param>
public sealed record TemplateFault(long? Line, string Words);

/// <summary>How many open swaps have a version of a checklist.</summary>
/// <param name="Untouched">Of which nothing was dealt with yet.</param>
/// <param name="Begun">Of which something was, and nothing is signed.</param>
/// <param name="Signed">Of which parts are signed: they keep it.</param>
public sealed record TemplateUse(string Template, int Version, int Untouched, int Begun, int Signed);

/// <summary>Moves swaps to a newer version of their checklist.</summary>
/// <param name="Version">Null: the newest.</param>
/// <param name="BegunToo">Also those of which something was dealt with. Never those of which something is signed.</param>
/// <param name="DryRun">Only says what would change.</param>
public sealed record ChecklistsMove(string Template, int? Version = null, bool BegunToo = false, bool DryRun = false);

/// <summary>A step that changes for several swaps.</summary>
/// <param name="What">added, dropped, reworded or asks-anew.</param>
/// <param name="Swaps">For how many.</param>
/// <param name="DealtWith">For how many what was said about it no longer counts.</param>
public sealed record StepMovedInMany(string Key, string Title, string What, int Swaps, int DealtWith);

/// <summary>What a move of several swaps changes, or changed.</summary>
/// <param name="Swaps">How many were moved, or looked at.</param>
/// <param name="Left">How many are left to be moved: ask again.</param>
/// <param name="NotFor">How many keep theirs, as the newer version is not for their kind.</param>
public sealed record ChecklistsMoved(
    string Template, int Version, int Swaps, int Left, int NotFor, IReadOnlyList<StepMovedInMany> Steps, bool Done);

/// <summary>A site that a condition can name.</summary>
public sealed record SiteChoice(string Key, string Name);

/// <summary>What the conditions of steps can choose from, each sorted, at most 300.</summary>
/// <param name="Facts">What a step of kind automatic can be done by.</param>
public sealed record TemplateChoices(
    IReadOnlyList<SiteChoice> Sites, IReadOnlyList<string> Rooms, IReadOnlyList<string> Departments, IReadOnlyList<string> Roles,
    IReadOnlyList<string> OldModels, IReadOnlyList<string> NewModels, IReadOnlyList<string> Facts);
