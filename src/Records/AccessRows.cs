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

    /// <summary>The identity provider that vouches for whoever it is, and who they are there; null: nobody does but the password.</summary>
    public string? Issuer { get; set; }

    /// <inheritdoc cref="Issuer"/>
    public string? Subject { get; set; }

    /// <summary>Those of their groups there that opened something here when they last signed in.</summary>
    public List<string> Groups { get; set; } = [];
}

/// <summary>A passkey of an account (Web Authentication, level 3).</summary>
public sealed class PasskeyRow
{
    /// <summary>The credential's id, in Base64url.</summary>
    public required string Id { get; set; }
    public required string Account { get; set; }

    /// <summary>What its owner calls it.</summary>
    public required string Name { get; set; }

    /// <summary>A COSE key.</summary>
    public required byte[] PublicKey { get; set; }
    public long SignCount { get; set; }
    public List<string> Transports { get; set; } = [];
    public bool IsUserVerified { get; set; }
    public bool IsBackupEligible { get; set; }
    public bool IsBackedUp { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public DateTimeOffset? UsedAt { get; set; }
}

/// <summary>A code that stands in for a passkey, once.</summary>
public sealed class RecoveryRow
{
    public required string Sha256 { get; set; }
    public required string Account { get; set; }
}

/// <summary>A program that asks to be signed in, which somebody answers in a browser (RFC 8628).</summary>
public sealed class AskingRow
{
    /// <summary>Digest of what the program fetches its token with.</summary>
    public required string Sha256 { get; set; }

    /// <summary>What both show.</summary>
    public required string Code { get; set; }
    public required string Label { get; set; }

    /// <summary>The address that it asked from.</summary>
    public string? From { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public DateTimeOffset Expires { get; set; }

    /// <summary>Digest of the session of whoever let it in; null: nobody did yet.</summary>
    public string? LetInBy { get; set; }
}

/// <summary>What a group at the identity provider opens here.</summary>
public sealed class StaffGroupRow
{
    public required string Name { get; set; }
    public required string Role { get; set; }
    public required List<string> Sites { get; set; }
    public List<string> Refreshes { get; set; } = [];
}

public sealed class TokenRow
{
    public required string Sha256 { get; set; }
    public string? Account { get; set; }
    public string? Hand { get; set; }
    public required string Label { get; set; }

    /// <summary>It was begun with a passkey, or was strengthened by one since.</summary>
    public bool IsSecond { get; set; }

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
