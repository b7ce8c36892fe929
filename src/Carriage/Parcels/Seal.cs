using YardRelay.Carriage.Sealing;
using YardRelay.Core;

namespace YardRelay.Carriage.Parcels;

/// <summary>None of the keys at hand opens the parcel.</summary>
public sealed record ParcelSealed(string Parcel) : Problem("parcel.sealed",
    $"The parcel '{Parcel}' is sealed, and none of the keys at hand opens it. Give --identity FILE with a key that it is sealed to, or "
        + $"--passphrase-file FILE with its passphrase; on the computer that it was carried from the hand finds its key by itself.");

/// <summary>
/// What a sealed parcel is sealed with: a key of its own, made by its first trip, and the recipients that may open its packs without us.
/// </summary>
/// <param name="Key">The parcel's own key; null where it was not opened, which is enough to verify.</param>
/// <param name="To">The other recipients.</param>
internal sealed record Seal(AgeIdentity? Key, IReadOnlyList<AgeRecipient> To)
{
    private const string ToLine = "# sealed to ";

    /// <summary>Whom packs and lists are sealed to.</summary>
    public IReadOnlyList<AgeRecipient> Recipients { get; } = Key is null ? To : [Key.Recipient, .. To];

    public AgeIdentity NeedKey() => Key ?? throw new InvalidOperationException("The parcel was not opened with a key.");

    /// <summary>The key as a file, with the recipients: what a sealed key file holds, and what the first computer keeps.</summary>
    public string Text() => string.Concat(To.Select(r => $"{ToLine}{r}\n")) + NeedKey().Secret() + "\n";

    public static Seal? TryParse(string text)
    {
        var to = text.Split('\n')
            .Where(l => l.StartsWith(ToLine, StringComparison.Ordinal))
            .Select(l => AgeRecipient.TryParse(l[ToLine.Length..])).ToList();
        return AgeIdentity.TryParseFile(text) is [var key] && to.TrueForAll(t => t is not null)
            ? new(key, [.. to.OfType<AgeRecipient>()])
            : null;
    }
}

/// <summary>The keys at hand, and where this computer keeps those of the parcels that were carried from it.</summary>
/// <param name="Identities">Keys that a parcel may be sealed to.</param>
/// <param name="Passphrase">A passphrase that may open a parcel's key.</param>
/// <param name="Folder">Where keys of parcels are kept; null: nowhere.</param>
/// <param name="Own">The very key of the parcel at hand, as the report of its first trip gave it.</param>
public sealed record SealKeys(IReadOnlyList<AgeIdentity> Identities, string? Passphrase = null, string? Folder = null, string? Own = null)
{
    /// <summary>No key at all.</summary>
    public static readonly SealKeys None = new([]);

    /// <summary>The place under a person's home for the state of programs (XDG Base Directory), or what the platform has for it.</summary>
    public static string UsualFolder =>
        Path.Combine(
            Environment.GetEnvironmentVariable("XDG_STATE_HOME") is { Length: > 0 } state
                ? state
                : OperatingSystem.IsLinux()
                ? Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), ".local", "state")
                : Environment.GetFolderPath(Environment.SpecialFolder.LocalApplicationData),
            "yardhand",
            "keys");
}

/// <summary>How a first trip seals what it makes.</summary>
/// <param name="To">Recipients that may open it; with a passphrase there need be none.</param>
/// <param name="Passphrase">A person's passphrase; it seals the parcel's key, never its packs.</param>
public sealed record SealingWish(IReadOnlyList<AgeRecipient> To, string? Passphrase);
