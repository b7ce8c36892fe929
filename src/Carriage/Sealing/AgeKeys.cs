using System.Security.Cryptography;
using Org.BouncyCastle.Math.EC.Rfc7748;

namespace YardRelay.Carriage.Sealing;

/// <summary>
/// A public key that something can be sealed to: 32 bytes of X25519 (RFC 7748), written <c>age1…</c> as the age v1 format says.
/// </summary>
public sealed record AgeRecipient
{
    private const string Prefix = "age";
    private readonly byte[] _point;

    internal AgeRecipient(byte[] point) => (_point, Text) = (point, Bech32.Encode(Prefix, point));

    /// <summary>The key as people pass it on.</summary>
    public string Text { get; }

    internal ReadOnlySpan<byte> Point => _point;

    /// <summary>Reads a key; null where it is mistyped or of another kind.</summary>
    public static AgeRecipient? TryParse(string text) => Bech32.TryDecode(Prefix, text.Trim()) is { Length: 32 } point ? new(point) : null;

    /// <inheritdoc/>
    public bool Equals(AgeRecipient? other) => other?.Text == Text;

    /// <inheritdoc/>
    public override int GetHashCode() => Text.GetHashCode(StringComparison.Ordinal);

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>
/// A secret key that opens what was sealed to its recipient; written <c>AGE-SECRET-KEY-1…</c>. Its <see cref="ToString"/> shows the
/// recipient only.
/// </summary>
public sealed class AgeIdentity
{
    private const string Prefix = "age-secret-key-";
    private readonly byte[] _scalar;

    internal AgeIdentity(byte[] scalar)
    {
        _scalar = scalar;
        var point = new byte[32];
        X25519.ScalarMultBase(scalar, 0, point, 0);
        Recipient = new(point);
    }

    /// <summary>The public half.</summary>
    public AgeRecipient Recipient { get; }

    internal ReadOnlySpan<byte> Scalar => _scalar;

    /// <summary>A new key from the system's randomness.</summary>
    public static AgeIdentity Create() => new(RandomNumberGenerator.GetBytes(32));

    /// <summary>Reads a key; null where it is mistyped.</summary>
    public static AgeIdentity? TryParse(string text) => Bech32.TryDecode(Prefix, text.Trim()) is { Length: 32 } scalar ? new(scalar) : null;

    /// <summary>
    /// Reads a file of keys: one a line; empty lines and those that begin with <c>#</c> are passed over. Null where another line stands in
    /// it.
    /// </summary>
    public static IReadOnlyList<AgeIdentity>? TryParseFile(string text)
    {
        var keys = text.Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0 && l[0] != '#').Select(TryParse).ToList();
        return keys.Count > 0 && keys.TrueForAll(k => k is not null) ? [.. keys.OfType<AgeIdentity>()] : null;
    }

    /// <summary>The secret as it is kept in a file.</summary>
    public string Secret() => Bech32.Encode(Prefix, _scalar).ToUpperInvariant();

    /// <inheritdoc/>
    public override string ToString() => $"key of {Recipient}";
}
