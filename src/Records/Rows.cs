using YardRelay.Core.Carrying;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

public sealed class RefreshRow
{
    public required string Key { get; set; }
    public required string Name { get; set; }
    public required string Zone { get; set; }
    public DateOnly Starts { get; set; }
    public int Days { get; set; }
    public long LedgerNumber { get; set; }
    public required string LedgerSha256 { get; set; }

    /// <summary>What the service's key says of the newest entry, Base64; null: it was not signed yet.</summary>
    public string? LedgerSignature { get; set; }
    public int LastSwap { get; set; }

    /// <summary>Rules of its own for places, as YAML; null: none.</summary>
    public string? PlaceRules { get; set; }

    /// <summary>Grows with every change that a plan could feel.</summary>
    public long WorldVersion { get; set; }

    /// <summary>How many days an old computer is held after the last sign-off.</summary>
    public int OldHoldDays { get; set; } = 14;

    /// <summary>Whoever works here shows a passkey, too.</summary>
    public bool AsksSecond { get; set; }

    /// <summary>Since when people are told by mail; null: they are not.</summary>
    public DateTimeOffset? NoticesSince { get; set; }

    /// <summary>How many hours before an appointment the person may last choose another time.</summary>
    public int ChooseHours { get; set; } = 24;

    /// <summary>No more visits may begin at one time at a site by choice of their people; null: as many as there is room for.</summary>
    public int? MostPerSlot { get; set; }

    /// <summary>Names of people's files are shown to technicians and coordinators only where the person allows it.</summary>
    public bool AsksForNames { get; set; }

    /// <summary>
    /// How many days after the last of a person's swaps is closed what is kept about them is erased; null: when somebody asks.
    /// </summary>
    public int? KeepDays { get; set; }

    /// <summary>Number of the newest plan, draft or published; 0: none yet.</summary>
    public int LastPlan { get; set; }
}

public sealed class SiteRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }
    public int Benches { get; set; }

    /// <summary>Rooms with benches of their own, <c>Ticket hall: 2</c>.</summary>
    public List<string> Rooms { get; set; } = [];
    public string Opens { get; set; } = "daily 07:00-19:00";

    /// <summary>How much may be carried from and to it when: <c>08:00-18:00 40</c> in Mbit/s, over all hands.</summary>
    public List<string> Limits { get; set; } = [];
}

public sealed class TechnicianRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }
    public required List<string> Sites { get; set; }
    public required List<string> Shifts { get; set; }
    public List<string> Skills { get; set; } = [];
    public List<string> Absences { get; set; } = [];
}

public sealed class DepotRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }
    public required string Address { get; set; }
    public long? CapacityBytes { get; set; }
    public long? DailyBytes { get; set; }
    public int HoldDays { get; set; } = 14;

    /// <summary>The day on which it deletes by itself; null: it does not.</summary>
    public DateOnly? EndsOn { get; set; }

    /// <summary>Recipients that parcels in it are sealed to; none: they are open.</summary>
    public List<string> SealTo { get; set; } = [];

    /// <summary>How much may be carried when: <c>08:00-18:00 40</c> in Mbit/s, over all hands.</summary>
    public List<string> Limits { get; set; } = [];

    /// <summary>What opens it, encrypted; null: hands bring their own.</summary>
    public string? Access { get; set; }

    /// <summary>Key of the depot that keeps a second copy of each parcel; null: none does.</summary>
    public string? CopyTo { get; set; }

    // What a hand last found there: room, and what was wrong; null: nothing yet, or nothing.
    public long? FreeBytes { get; set; }
    public DateTimeOffset? HeardAt { get; set; }
    public string? Trouble { get; set; }

    // What it was seen to bring, once something was seen.
    public double BytesPerSecond { get; set; }
    public int Observed { get; set; }
}

public sealed class PersonRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }
    public string? Mail { get; set; }
    public string? Department { get; set; }

    /// <summary>What they do, as the roster calls it.</summary>
    public string? Role { get; set; }

    /// <summary>en or de; null: not chosen.</summary>
    public string? Language { get; set; }

    /// <summary>No mail but what the swap cannot do without.</summary>
    public bool MailOff { get; set; }

    /// <summary>Since when technicians may see the names of files that did not come along; null: not allowed.</summary>
    public DateTimeOffset? NamesAllowedAt { get; set; }

    /// <summary>When all that tells who they are was erased; null: it is kept.</summary>
    public DateTimeOffset? ErasedAt { get; set; }
}

public sealed class SwapRow
{
    /// <summary>Refresh key and number, such as <c>autumn-0012</c>.</summary>
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string RosterKey { get; set; }
    public required string Person { get; set; }
    public required string Name { get; set; }
    public required string Site { get; set; }
    public string? Room { get; set; }
    public SwapKind Kind { get; set; }
    public string? OldTag { get; set; }
    public string? OldModel { get; set; }
    public string? NewTag { get; set; }
    public string? NewModel { get; set; }

    // The systems of the two, as the roster says it or a survey found it: Linux, Windows, Mac.
    public string? OldPlatform { get; set; }
    public string? NewPlatform { get; set; }
    public string? Receiver { get; set; }
    public required List<string> Free { get; set; }

    /// <summary>For a leaver: the last day of the account.</summary>
    public DateOnly? Closes { get; set; }

    /// <summary>Other accounts on the old computer.</summary>
    public List<string> Accounts { get; set; } = [];

    // What planning is told about it.
    public List<string> Preferred { get; set; } = [];
    public List<string> Skills { get; set; } = [];
    public int Weight { get; set; } = 5;
    public string? Wave { get; set; }
    public DateTimeOffset? PinnedStart { get; set; }
    public string? PinnedTechnician { get; set; }

    // The bench preparation, all or nothing.
    public string? BenchTechnician { get; set; }
    public DateTimeOffset? BenchStart { get; set; }
    public DateTimeOffset? BenchHandsOnUntil { get; set; }
    public DateTimeOffset? BenchEnd { get; set; }

    /// <summary>How often its appointment was published, moved or called off; iCalendar's SEQUENCE.</summary>
    public int Sequence { get; set; }

    // The appointment, all or nothing.
    public string? Technician { get; set; }
    public DateTimeOffset? Start { get; set; }
    public DateTimeOffset? HandsOnUntil { get; set; }
    public DateTimeOffset? Finish { get; set; }
    public DateTimeOffset? End { get; set; }
    public string? LeftOutBecause { get; set; }

    /// <summary>When the person last chose the time themselves; null: it was given to them.</summary>
    public DateTimeOffset? ChosenAt { get; set; }

    /// <summary>Id of the offer to exchange the time for another; null: it is not offered.</summary>
    public string? Offer { get; set; }

    /// <summary>How often the person was not there at the time that was promised.</summary>
    public int Missed { get; set; }

    /// <summary>The new computer stands prepared, though its appointment is still to be found.</summary>
    public bool Prepared { get; set; }

    // Called off, all or nothing.
    public DateTimeOffset? CalledOffAt { get; set; }
    public string? CalledOffBecause { get; set; }

    // The stations, as facts reached them.
    public DateTimeOffset? ToldAt { get; set; }
    public DateTimeOffset? SurveyedAt { get; set; }
    public DateTimeOffset? BookedAt { get; set; }
    public DateTimeOffset? StagedAt { get; set; }
    public DateTimeOffset? SwappedAt { get; set; }
    public DateTimeOffset? RestoredAt { get; set; }
    public DateTimeOffset? AcceptedAt { get; set; }
    public DateTimeOffset? HandedInAt { get; set; }

    /// <summary>Index of the first stop ahead, for filters and order.</summary>
    public int Next { get; set; }

    // What the hand last reported.
    public string? Depot { get; set; }
    public string? Parcel { get; set; }
    public int Trips { get; set; }
    public DateTimeOffset? TripAt { get; set; }
    public DateTimeOffset? VerifiedAt { get; set; }
    public bool VerifiedWhole { get; set; }

    /// <summary>When its second copy was last brought up to it and read back whole.</summary>
    public DateTimeOffset? CopiedAt { get; set; }
    public DateTimeOffset? RestoreAt { get; set; }
    public bool RestoreWhole { get; set; }

    /// <summary>When the folders that are needed first were on the new computer, while the rest still came.</summary>
    public DateTimeOffset? UrgentReadyAt { get; set; }

    /// <summary>When the old computer's disk died; what was carried before is what there is.</summary>
    public DateTimeOffset? OldDiedAt { get; set; }

    /// <summary>Of a swap whose old computer is missing: what it was before, and is again once it is found; null: no such one.</summary>
    public SwapKind? KindBefore { get; set; }
    public DateTimeOffset? PurgedAt { get; set; }

    /// <summary>Of a rescue: the swap whose parcel serves it.</summary>
    public string? RescuedFrom { get; set; }

    // The decision that nothing is restored, all or nothing.
    public string? RestoreSkippedBy { get; set; }
    public DateTimeOffset? RestoreSkippedAt { get; set; }
    public string? RestoreSkipReason { get; set; }

    // Of a leave: where the parcel goes, and that the person takes it.
    public string? ReceiverTag { get; set; }
    public string? ReceiverAcceptedBy { get; set; }
    public DateTimeOffset? ReceiverAcceptedAt { get; set; }

    /// <summary>The parcel's own id, as its first trip told: whoever opens it elsewhere must find the same.</summary>
    public string? ParcelId { get; set; }

    /// <summary>The state of the parcel's lists as it was last heard of, see <see cref="ParcelState.ToString"/>.</summary>
    public string? ParcelState { get; set; }

    // The checklist keeps the version it began with.
    public required string Template { get; set; }
    public int TemplateVersion { get; set; }
    public int ChecklistVersion { get; set; }
}

public sealed class TemplateRow
{
    public required string Refresh { get; set; }
    public required string Name { get; set; }
    public int Version { get; set; }
    public required string Yaml { get; set; }
    public int Steps { get; set; }
    public DateTimeOffset At { get; set; }
}

public sealed class StepRow
{
    public required string Swap { get; set; }
    public required string Key { get; set; }
    public required string State { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
    public string? Reason { get; set; }

    /// <summary>What was answered.</summary>
    public string? Value { get; set; }

    /// <summary>When it was begun, where that is told.</summary>
    public DateTimeOffset? StartedAt { get; set; }

    /// <summary>How often it was run.</summary>
    public int Runs { get; set; }
}

public sealed class SignOffRow
{
    public required string Swap { get; set; }
    public SignOffPart Part { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>The account and the steps as the signer saw them.</summary>
    public required string Saw { get; set; }

    /// <summary>Of the person's, where a technician signed for them: the person, who was there.</summary>
    public string? Witness { get; set; }

    /// <summary>The drawn signature as the data of an SVG path; null: none was drawn.</summary>
    public string? Drawn { get; set; }
}

public sealed class OrderRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }
    public required string Kind { get; set; }
    public required string Tag { get; set; }
    public required string State { get; set; }
    public required string MadeBy { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public string? Hand { get; set; }
    public int Attempt { get; set; }
    public int NextBatch { get; set; }
    public DateTimeOffset? LeaseUntil { get; set; }
    public DateTimeOffset? TakenAt { get; set; }
    public DateTimeOffset? HeardAt { get; set; }
    public DateTimeOffset? EndedAt { get; set; }
    public long Files { get; set; }
    public long TotalFiles { get; set; }
    public long Bytes { get; set; }
    public long TotalBytes { get; set; }
    public long BytesPerSecond { get; set; }
    public string? Words { get; set; }

    /// <summary>Of a restore: the landing plan it goes by, as JSON.</summary>
    public string? Folder { get; set; }
    public bool ByNeed { get; set; }

    /// <summary>Done beside the person's own work: with low priority, and not on battery.</summary>
    public bool Beside { get; set; }

    /// <summary>Since when it rests because somebody asked for that; null: it does not.</summary>
    public DateTimeOffset? PausedAt { get; set; }

    /// <summary>What its hand waits for by itself: battery; null: nothing.</summary>
    public string? Waits { get; set; }
    public string? Landing { get; set; }
}

public sealed class LedgerRow
{
    public required string Refresh { get; set; }
    public long Number { get; set; }
    public required string Json { get; set; }
    public required string Sha256 { get; set; }
    public DateTimeOffset At { get; set; }
    public string? Swap { get; set; }
    public required string By { get; set; }

    /// <summary>Name of the account that did it; null: none did.</summary>
    public string? Account { get; set; }
    public required string Kind { get; set; }

    /// <summary>For people; stands beside the chain and can be erased. Its salted digest is in the chain.</summary>
    public required string Words { get; set; }
    public required string Salt { get; set; }
}

public sealed class AnswerRow
{
    public required string Account { get; set; }
    public required string Key { get; set; }
    public required string Request { get; set; }
    public int Status { get; set; }
    public required string Body { get; set; }
    public DateTimeOffset At { get; set; }
}
