namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

/// <summary>Swaps that must be kept apart, or go together.</summary>
public sealed class GroupRow
{
    public required string Refresh { get; set; }
    public required string Key { get; set; }
    public required string Name { get; set; }

    /// <summary>Ids of its swaps.</summary>
    public List<string> Swaps { get; set; } = [];

    /// <summary>No more of them are under way at once; null: any number.</summary>
    public int? AtOnce { get; set; }

    /// <summary>Those that have an appointment have it on one day.</summary>
    public bool OneDay { get; set; }
}

/// <summary>A person waits for a time that is taken now.</summary>
public sealed class WaitRow
{
    public required string Swap { get; set; }
    public required string Refresh { get; set; }

    /// <summary>The visit must begin no earlier, and be over by <see cref="Until"/>.</summary>
    public DateTimeOffset From { get; set; }
    public DateTimeOffset Until { get; set; }

    /// <summary>Since when they wait: who waits longest comes first.</summary>
    public DateTimeOffset At { get; set; }
}

/// <summary>A person asks another, who offered their time, to exchange.</summary>
public sealed class ExchangeRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }

    /// <summary>The swap of whoever asks, and its time when they did.</summary>
    public required string Asks { get; set; }
    public DateTimeOffset AsksStart { get; set; }

    /// <summary>The swap of whoever is asked, and its time then.</summary>
    public required string Asked { get; set; }
    public DateTimeOffset AskedStart { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>agreed, declined or withdrawn; null: not answered yet.</summary>
    public string? End { get; set; }
    public DateTimeOffset? EndedAt { get; set; }
}
