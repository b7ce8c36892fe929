using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;

namespace YardRelay.Carriage.Depots.Direct;

/// <summary>
/// Pairs two hands: twenty characters, a hundred random bits, shown at the new computer and typed at the old one.
/// Both derive from it (HKDF-SHA256, RFC 5869) the receiver's key, so that the sender knows whom it speaks to, and a password, so that the
/// receiver does.
/// Nothing of it ever goes over the network, and it ends with the receiver.
/// </summary>
public sealed class DirectCode
{
    private const string Letters = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";
    private const int Length = 20;
    private readonly string _text;

    private DirectCode(string text) => _text = text;

    /// <summary>A new code.</summary>
    /// <param name="random">At least 20 random bytes.</param>
    public static DirectCode Create(ReadOnlySpan<byte> random)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(random.Length, Length);
        var text = new StringBuilder();
        foreach (var b in random[..Length]) text.Append(Letters[b % Letters.Length]);
        return new(text.ToString());
    }

    /// <summary>Reads a code as a person typed it: any case, with or without dashes and spaces; null where it is none.</summary>
    public static DirectCode? TryParse(string? text)
    {
        var plain = string.Concat((text ?? "").Where(c => c is not ('-' or ' ')).Select(char.ToUpperInvariant));
        return plain.Length == Length && plain.All(Letters.Contains) ? new(plain) : null;
    }

    /// <summary>Name under which the sender signs in.</summary>
    public const string User = "hand";

    /// <summary>The password that goes with it.</summary>
    public string Password => Convert.ToHexStringLower(Derive("yard direct password", 32));

    /// <summary>The receiver's public key as SubjectPublicKeyInfo (RFC 5280, section 4.1.2.7).</summary>
    public byte[] PublicKey()
    {
        using var key = Key();
        return key.ExportSubjectPublicKeyInfo();
    }

    /// <summary>A certificate of the receiver's key; the caller disposes of it.</summary>
    public X509Certificate2 Certificate(DateTimeOffset now)
    {
        using var key = Key();
        var request = new CertificateRequest("CN=yard-direct", key, HashAlgorithmName.SHA256);
        return request.CreateSelfSigned(now.AddDays(-2), now.AddDays(30));
    }

    // A scalar that is not below the order of P-256 is refused by the import; one of 2^32 is, and the next is taken.
    private ECDsa Key()
    {
        for (var attempt = 0; ; attempt++)
        {
            var scalar = Derive($"yard direct key {attempt}", 32);
            if (attempt < 8 && (BinaryPrimitives.ReadUInt32BigEndian(scalar) == uint.MaxValue || scalar.All(b => b == 0))) continue;
            return ECDsa.Create(new ECParameters { Curve = ECCurve.NamedCurves.nistP256, D = scalar });
        }
    }

    private byte[] Derive(string purpose, int bytes) =>
        HKDF.DeriveKey(HashAlgorithmName.SHA256, Encoding.ASCII.GetBytes(_text), bytes, info: Encoding.ASCII.GetBytes(purpose));

    /// <summary>The code in groups of four.</summary>
    public override string ToString() => string.Join('-', Enumerable.Range(0, Length / 4).Select(i => _text.Substring(i * 4, 4)));
}
