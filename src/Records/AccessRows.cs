namespace YardRelay.Records;

#pragma warning disable CS1591 // Rows mirror the words of the design; docs/architecture.md draws them.

public sealed class AccountRow
{
    public required string Name { get; set; }
    public required string Shown { get; set; }
    public required string Role { get; set; }
    public required string Password { get; set; }
    public required List<string> Sites { get; set; }

    /// <summary>Keys of the refreshes that it reaches; empty: all.</summary>
    public List<string> Refreshes { get; set; } = [];

    /// <summary>Key of the person whose own it is, in the one refresh that it reaches; null: nobody's own.</summary>
    public string? Person { get; set; }

    /// <summary>Since when nobody gets in by it; null: it is in use.</summary>
    public DateTimeOffset? DisabledAt { get; set; }
}

public sealed class TokenRow
{
    public required string Sha256 { get; set; }
    public string? Account { get; set; }
    public string? Hand { get; set; }
    public required string Label { get; set; }

    /// <summary>A browser holds it in a cookie, and not a program.</summary>
    public bool IsBrowser { get; set; }
    public DateTimeOffset? MadeAt { get; set; }

    /// <summary>When it was last used, to the minute.</summary>
    public DateTimeOffset? SeenAt { get; set; }
    public DateTimeOffset Expires { get; set; }
}

/// <summary>The chain of what is of the whole service; there is one.</summary>
public sealed class ServiceRow
{
    /// <summary>What stands in the ledger where else the key of a refresh does; no refresh has it.</summary>
    public const string OfAll = "-";

    public required string Key { get; set; }
    public long LedgerNumber { get; set; }
    public required string LedgerSha256 { get; set; }
    public string? LedgerSignature { get; set; }
}

public sealed class GuessRow
{
    /// <summary>Digest of what is counted: a name, a network, a device.</summary>
    public required string Of { get; set; }
    public int Count { get; set; }

    /// <summary>Since when; seconds since 1970.</summary>
    public long Since { get; set; }
}

public sealed class CodeRow
{
    public required string Sha256 { get; set; }
    public required string Refresh { get; set; }
    public required string Tag { get; set; }
    public DateTimeOffset Expires { get; set; }
    public DateTimeOffset? UsedAt { get; set; }
}

public sealed class HandRow
{
    public required string Id { get; set; }
    public required string Refresh { get; set; }
    public required string Tag { get; set; }
    public required string Host { get; set; }
    public DateTimeOffset EnrolledAt { get; set; }

    /// <summary>Version of the program; null: it did not say.</summary>
    public string? Version { get; set; }

    /// <summary>When it was last heard of, to the minute.</summary>
    public DateTimeOffset? SeenAt { get; set; }

    // It is no hand any more: another was enrolled in its place, or somebody withdrew it.
    public DateTimeOffset? ReplacedAt { get; set; }
    public string? WithdrawnBy { get; set; }
}
