using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

/// <summary>The way between two sites; <c>From</c> comes before <c>To</c>.</summary>
public sealed class WayRow
{
    public required string Refresh { get; set; }
    public required string From { get; set; }
    public required string To { get; set; }
    public int Minutes { get; set; }
}

public sealed class ClosureRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }
    public string? Site { get; set; }
    public required string At { get; set; }
}

public sealed class DeliveryRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }

    /// <summary>Local time, <c>2026-11-30 12:00</c>.</summary>
    public required string Arrives { get; set; }
    public required List<string> Tags { get; set; }
}

public sealed class WaveRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }
    public DateOnly From { get; set; }
    public DateOnly Until { get; set; }
}

public sealed class EstimateRow
{
    public required string Refresh { get; set; }
    public EstimateScope Scope { get; set; }
    public required string Of { get; set; }
    public int? BeforeMinutes { get; set; }
    public int? UnattendedMinutes { get; set; }
    public int? AfterMinutes { get; set; }
    public bool HasBench { get; set; }
    public string? BenchSite { get; set; }
    public int BenchHandsOnMinutes { get; set; }
    public int BenchUnattendedMinutes { get; set; }
    public int BenchGapMinutes { get; set; }
}

/// <summary>An address that a calendar program reads appointments at.</summary>
public sealed class FeedRow
{
    /// <summary>SHA-256 of the key in the address, in hexadecimal; the key itself is nowhere.</summary>
    public required string Sha256 { get; set; }
    public required string Refresh { get; set; }

    /// <summary>Only of this site; null: of all.</summary>
    public string? Site { get; set; }

    /// <summary>Only of this technician; null: of all.</summary>
    public string? Technician { get; set; }

    /// <summary>Name of the account that made it, and with which it ends.</summary>
    public required string Account { get; set; }
    public DateTimeOffset MadeAt { get; set; }

    /// <summary>When it was last read, to the hour; null: never.</summary>
    public DateTimeOffset? ReadAt { get; set; }
}

/// <summary>A plan: the draft that is worked on, or one that was published.</summary>
public sealed class PlanRow
{
    public required string Refresh { get; set; }
    public int Number { get; set; }

    /// <summary>draft, published, or past (another was published after it).</summary>
    public required string State { get; set; }

    /// <summary>Grows with each change of a draft.</summary>
    public int Version { get; set; }

    /// <summary>Number of the published plan that it was made from; 0: none.</summary>
    public int BasedOn { get; set; }
    public required string MadeBy { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public string? PublishedBy { get; set; }
    public DateTimeOffset? PublishedAt { get; set; }
    public int Placed { get; set; }
    public int LeftOut { get; set; }
    public int Cost { get; set; }

    /// <summary>The plan as JSON in the form of docs/formats.md.</summary>
    public required string Body { get; set; }

    /// <summary>The newest moves by hand, so that they can be undone: JSON.</summary>
    public required string Moves { get; set; }
}

/// <summary>A taking of a roster, and what was there before, so that it can be undone.</summary>
public sealed class TakingRow
{
    public required string Refresh { get; set; }
    public int Number { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
    public int Added { get; set; }
    public int Changed { get; set; }

    /// <summary>JSON: what was added, and what changed rows and people were before.</summary>
    public required string Before { get; set; }
    public DateTimeOffset? UndoneAt { get; set; }
}

/// <summary>A column of a spreadsheet that somebody matched by hand, kept for the next time.</summary>
public sealed class ColumnRow
{
    public required string Refresh { get; set; }
    public required string Head { get; set; }

    /// <summary>Column of the roster; empty: it is left out.</summary>
    public required string Column { get; set; }
}
