namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

/// <summary>To whom goes in the morning who is not ready for the next day.</summary>
public sealed class MorningMailRow
{
    public required string Refresh { get; set; }

    /// <summary>Addresses; never none.</summary>
    public List<string> To { get; set; } = [];

    /// <summary>From when on, by the clocks of the refresh.</summary>
    public TimeOnly At { get; set; }

    /// <summary>The day on which it last went, or is being sent; null: it never did.</summary>
    public DateOnly? Mailed { get; set; }

    /// <summary>Why the last one did not go; null: it went.</summary>
    public string? Trouble { get; set; }

    /// <summary>No sooner than then it is tried again; null: whenever it is due.</summary>
    public DateTimeOffset? TryAt { get; set; }
}
