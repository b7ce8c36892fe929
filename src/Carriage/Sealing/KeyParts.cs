using System.Security.Cryptography;

namespace YardRelay.Carriage.Sealing;

/// <summary>
/// A secret key split so that any two of its parts make it again and one alone says nothing: a line through the secret, byte by byte in
/// GF(2^8)
/// with the polynomial of AES, each part one point of it (Shamir, How to Share a Secret, 1979).
/// </summary>
public static class KeyParts
{
    private const string Prefix = "yard-key-part-";
    private const int NameBytes = 4;

    /// <summary>Most parts of one key.</summary>
    public const int Most = 20;

    /// <summary>Splits a key.</summary>
    /// <param name="parts">How many, 2 to <see cref="Most"/>.</param>
    public static IReadOnlyList<string> Split(AgeIdentity key, int parts)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(parts, 2);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(parts, Most);
        var slope = RandomNumberGenerator.GetBytes(32);
        return [.. Enumerable.Range(1, parts).Select(x =>
        {
            byte[] bytes = [(byte)x, .. NameOf(key), .. key.Scalar];
            for (var i = 0; i < 32; i++) bytes[1 + NameBytes + i] ^= Times(slope[i], (byte)x);
            return Bech32.Encode(Prefix, bytes);
        })];
    }

    /// <summary>Joins two parts; null where one is mistyped, both are the same, or they are of different keys.</summary>
    public static AgeIdentity? TryJoin(string one, string other)
    {
        if (Bech32.TryDecode(Prefix, one.Trim()) is not { Length: 1 + NameBytes + 32 } a
            || Bech32.TryDecode(Prefix, other.Trim()) is not { Length: 1 + NameBytes + 32 } b
            || a[0] == b[0]
            || a[0] == 0
            || b[0] == 0)
            return null;
        var (secret, over) = (new byte[32], Inverse((byte)(a[0] ^ b[0])));
        for (var i = 0; i < 32; i++)
        {
            var (ya, yb) = (a[1 + NameBytes + i], b[1 + NameBytes + i]);
            secret[i] = (byte)(ya ^ Times(Times((byte)(ya ^ yb), over), a[0]));
        }
        var key = new AgeIdentity(secret);
        return NameOf(key).AsSpan().SequenceEqual(a.AsSpan(1, NameBytes)) && NameOf(key).AsSpan().SequenceEqual(b.AsSpan(1, NameBytes))
            ? key
            : null;
    }

    private static byte[] NameOf(AgeIdentity key) => SHA256.HashData(key.Recipient.Point)[..NameBytes];

    private static byte Times(byte a, byte b)
    {
        var product = 0;
        for (int x = a, bit = 0; bit < 8; bit++)
        {
            if (((b >> bit) & 1) == 1) product ^= x;
            x <<= 1;
            if (x > 0xFF) x ^= 0x11B;
        }
        return (byte)product;
    }

    private static byte Inverse(byte a)
    {
        // a^254 = 1/a, since a^255 = 1 for every a but 0.
        byte inverse = 1;
        for (var i = 0; i < 254; i++) inverse = Times(inverse, a);
        return inverse;
    }
}
