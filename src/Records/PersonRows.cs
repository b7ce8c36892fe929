namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

/// <summary>A personal link: it opens one person's page of one swap, on the first device that opens it.</summary>
public sealed class LinkRow
{
    /// <summary>SHA-256 of the secret in the link, in hexadecimal; the secret itself is nowhere.</summary>
    public required string Sha256 { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }
    public required string MadeBy { get; set; }

    /// <summary>How it came to the person: <c>mail</c>, to the address on record; <c>organisation</c>, which said who it
    /// is; <c>paper</c>, through the hands of who made it.</summary>
    public string Way { get; set; } = "paper";
    public DateTimeOffset MadeAt { get; set; }
    public DateTimeOffset Expires { get; set; }
    public DateTimeOffset? WithdrawnAt { get; set; }

    /// <summary>When it was opened, and bound to the device that did; null: not yet.</summary>
    public DateTimeOffset? OpenedAt { get; set; }

    /// <summary>When its page was last looked at.</summary>
    public DateTimeOffset? SeenAt { get; set; }
}

/// <summary>How often links that open nothing were tried, by day and cause; nothing about who tried.</summary>
public sealed class LinkRefusalRow
{
    public DateOnly Day { get; set; }

    /// <summary>unknown, expired, withdrawn or elsewhere.</summary>
    public required string Cause { get; set; }
    public long Count { get; set; }
}

/// <summary>A notice to a person: what was to be sent, and what became of it.</summary>
public sealed class NoticeRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Swap { get; set; }

    /// <summary>The same notice again has the same key; a notice sent again by hand has one of its own.</summary>
    public required string Key { get; set; }
    public required string Moment { get; set; }
    public required string Language { get; set; }
    public required string To { get; set; }
    public required string Subject { get; set; }

    /// <summary>Start of the appointment that it told.</summary>
    public DateTimeOffset? Start { get; set; }
    public DateTimeOffset MadeAt { get; set; }

    /// <summary>After that it is no longer tried.</summary>
    public DateTimeOffset LastUseful { get; set; }

    /// <summary>When it is tried next; null: not any more.</summary>
    public DateTimeOffset? TryAt { get; set; }

    /// <summary>
    /// Set while it is handed to the mail server: whoever finds it so long after knows that nobody knows whether it went.
    /// </summary>
    public DateTimeOffset? HandedAt { get; set; }
    public int Tries { get; set; }
    public DateTimeOffset? SentAt { get; set; }

    /// <summary>When the mail server, or one behind it, said that it cannot be delivered.</summary>
    public DateTimeOffset? BouncedAt { get; set; }
    public string? Trouble { get; set; }

    /// <summary>Digest of the personal link in it.</summary>
    public string? Link { get; set; }
}

/// <summary>A refresh's own text for a moment, in a language.</summary>
public sealed class NoticeTextRow
{
    public required string Refresh { get; set; }
    public required string Moment { get; set; }
    public required string Language { get; set; }
    public required string Text { get; set; }
}
