using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Core.FollowUps;

namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

/// <summary>One technician passed a swap to another.</summary>
public sealed class HandoverRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }

    /// <summary>Keys of technicians.</summary>
    public required string From { get; set; }
    public required string To { get; set; }
    public required string Note { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}

/// <summary>What is still to be done for a swap beside its checklist.</summary>
public sealed class FollowUpRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }
    public required string Words { get; set; }

    /// <summary>Name of the account that it waits for.</summary>
    public required string Owner { get; set; }
    public DateTimeOffset Due { get; set; }
    public FollowUpHold Holds { get; set; }

    /// <summary>What it came from: <c>problem</c>, <c>refusal</c>, <c>wipe</c>, <c>detour</c>.</summary>
    public required string Cause { get; set; }
    public required string MadeBy { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public string? DoneBy { get; set; }
    public DateTimeOffset? DoneAt { get; set; }
    public string? Outcome { get; set; }

    /// <summary>Minutes that somebody must come back for; null: nobody must.</summary>
    public int? VisitMinutes { get; set; }

    // The return visit, as the engine planned it; all or nothing.
    public string? VisitTechnician { get; set; }
    public DateTimeOffset? VisitStart { get; set; }
    public DateTimeOffset? VisitEnd { get; set; }
}

/// <summary>Something of a swap went otherwise than planned.</summary>
public sealed class DetourRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }
    public DetourKind Kind { get; set; }
    public required string Words { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}

/// <summary>A new computer that no swap has: it stands in for one that is dead, wrong or late.</summary>
public sealed class SpareRow
{
    public required string Refresh { get; set; }

    /// <summary>Asset tag.</summary>
    public required string Key { get; set; }
    public string? Model { get; set; }
    public required string Site { get; set; }

    /// <summary>Why it cannot be given out; null: it can.</summary>
    public string? Trouble { get; set; }
}

/// <summary>A photo that a step of a checklist was done with. Its content is read only when it is shown.</summary>
public sealed class PhotoRow
{
    /// <summary>SHA-256 of the content, in hexadecimal.</summary>
    public required string Sha256 { get; set; }
    public required string Swap { get; set; }
    public required string Step { get; set; }

    /// <summary>image/jpeg, image/png or image/webp.</summary>
    public required string Kind { get; set; }
    public int Width { get; set; }
    public int Height { get; set; }
    public required byte[] Content { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}

/// <summary>An old computer: where it is now, and how it ended. Computed from its moves, kept for lists.</summary>
public sealed class OldComputerRow
{
    public required string Refresh { get; set; }
    public required string Tag { get; set; }
    public required string Swap { get; set; }
    public string? Holder { get; set; }
    public string? Place { get; set; }
    public string? Pallet { get; set; }
    public DateTimeOffset? MovedAt { get; set; }
    public CustodyAct? End { get; set; }
    public string? EndedTo { get; set; }

    // The wipe, all or nothing.
    public string? WipeMethod { get; set; }
    public string? WipeResult { get; set; }
    public string? WipeEvidence { get; set; }
    public string? WipedBy { get; set; }
    public DateTimeOffset? WipedAt { get; set; }
}

/// <summary>One move of an old computer.</summary>
public sealed class CustodyRow
{
    /// <summary>Made by whoever reports it, so that a report may be repeated.</summary>
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Tag { get; set; }
    public CustodyAct Act { get; set; }
    public required string Where { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
    public DateTimeOffset Recorded { get; set; }
}
