using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

/// <summary>What is known and decided about a swap's files. A row of its own: lists of swaps must not read it.</summary>
public sealed class CargoRow
{
    public required string Swap { get; set; }

    /// <summary>What the last survey found, as JSON; totals only. Null: no survey yet.</summary>
    public string? Inventory { get; set; }

    /// <summary>What the last look at the new computer found, as JSON: programs and room. Null: none yet.</summary>
    public string? NewComputer { get; set; }

    /// <summary>What people decided, as JSON. Null: nothing, the rules hold.</summary>
    public string? CarryList { get; set; }

    /// <summary>Where it lands on the new computer, as JSON. Null: in its original places.</summary>
    public string? Landing { get; set; }

    /// <summary>What the last trip left behind by the carry list, for which reasons, as JSON.</summary>
    public string? LeftOutBy { get; set; }

    /// <summary>The key of a sealed parcel, encrypted with the service's own keys; handed to a hand with an order of this swap.</summary>
    public string? ParcelKey { get; set; }

    /// <summary>A passphrase that the next trip seals the parcel's key with, encrypted; gone once that is done.</summary>
    public string? Passphrase { get; set; }

    /// <summary>Since when a passphrase opens the parcel's key; null: none does.</summary>
    public DateTimeOffset? PassphraseAt { get; set; }
}

/// <summary>What the organisation offers for a program.</summary>
public sealed class CatalogueRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Program { get; set; }
    public required string Offer { get; set; }
    public string? Where { get; set; }
    public bool IsLicenceBound { get; set; }
}

public sealed class FolderRow
{
    public required string Swap { get; set; }
    public required string Folder { get; set; }
    public long OldFiles { get; set; }
    public long OldBytes { get; set; }
    public long LeftOutFiles { get; set; }
    public long LeftOutBytes { get; set; }
    public long DepotFiles { get; set; }
    public long DepotBytes { get; set; }
    public long? NewFiles { get; set; }
    public long? NewBytes { get; set; }
    public long GoneFiles { get; set; }
    public long GoneBytes { get; set; }

    public Amount Gone => new(GoneFiles, GoneBytes);

    public Amount Old => new(OldFiles, OldBytes);

    public Amount LeftOut => new(LeftOutFiles, LeftOutBytes);

    public Amount Depot => new(DepotFiles, DepotBytes);
}

public sealed class SnagRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }
    public required string Path { get; set; }
    public SnagKind Kind { get; set; }
    public required string Side { get; set; }
    public long Bytes { get; set; }
    public required string Reason { get; set; }
    public bool CountsAsFile { get; set; }
    public long Files { get; set; } = 1;
    public required string End { get; set; }
    public string? EndedBy { get; set; }
    public string? EndReason { get; set; }

    /// <summary>Of a source in doubt: what it looks like.</summary>
    public DoubtKind? Doubt { get; set; }

    /// <summary>Of a source in doubt: what a person said it is.</summary>
    public SourceVerdict? Verdict { get; set; }

    /// <summary>Of a parcel that is not as known: the state in which it was found.</summary>
    public string? ParcelState { get; set; }
    public DateTimeOffset At { get; set; }
    public DateTimeOffset? EndedAt { get; set; }
}
