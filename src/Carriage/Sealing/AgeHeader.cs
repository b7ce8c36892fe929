using System.Security.Cryptography;
using System.Text;
using Org.BouncyCastle.Crypto.Generators;
using Org.BouncyCastle.Math.EC.Rfc7748;

namespace YardRelay.Carriage.Sealing;

/// <summary>What was read is not a file of the age v1 format, or was changed after it was sealed.</summary>
public sealed class SealBrokenException(string why) : IOException($"What was sealed cannot be opened: {why}");

/// <summary>One way into a sealed file: the file key, wrapped for somebody.</summary>
internal sealed record Stanza(string Kind, IReadOnlyList<string> Arguments, byte[] Body);

/// <summary>The header of a file of the age v1 format (age-encryption.org/v1): who can open it, and that nobody changed it.</summary>
internal static class AgeHeader
{
    private const string Intro = "age-encryption.org/v1";
    private const int LongestHeader = 64 * 1024;
    private const int HighestWork = 20;
    private const int Columns = 64;

    /// <summary>Bytes of the header that <c>Write</c> makes for so many recipients: each has the same length.</summary>
    public static int LengthFor(int recipients) => Intro.Length + 1 + (recipients * 98) + 4 + 43 + 1;

    /// <summary>A header for keys.</summary>
    public static byte[] Write(ReadOnlySpan<byte> fileKey, IReadOnlyList<AgeRecipient> recipients)
    {
        var stanzas = new List<Stanza>();
        foreach (var recipient in recipients)
        {
            var (mine, share, shared) = (RandomNumberGenerator.GetBytes(32), new byte[32], new byte[32]);
            X25519.ScalarMultBase(mine, 0, share, 0);
            X25519.ScalarMult(mine, 0, recipient.Point.ToArray(), 0, shared, 0);
            stanzas.Add(new("X25519", [Base64(share)], Wrap(fileKey, X25519Key(shared, share, recipient.Point))));
        }
        return Lay(fileKey, stanzas);
    }

    /// <summary>A header for one passphrase.</summary>
    /// <param name="work">Logarithm to base 2 of the work of scrypt (RFC 7914); 18 takes about a second and 256 MiB.</param>
    public static byte[] Write(ReadOnlySpan<byte> fileKey, string passphrase, int work)
    {
        var salt = RandomNumberGenerator.GetBytes(16);
        return Lay(fileKey, [new("scrypt", [Base64(salt), $"{work}"], Wrap(fileKey, ScryptKey(passphrase, salt, work)))]);
    }

    private static byte[] Lay(ReadOnlySpan<byte> fileKey, List<Stanza> stanzas)
    {
        var text = new StringBuilder(Intro).Append('\n');
        foreach (var stanza in stanzas)
        {
            text.Append("-> ").AppendJoin(' ', stanza.Arguments.Prepend(stanza.Kind)).Append('\n');
            var body = Base64(stanza.Body);
            for (var at = 0; at <= body.Length; at += Columns)
                text.Append(body.AsSpan(at, Math.Min(Columns, body.Length - at))).Append('\n');
        }
        text.Append("---");
        var mac = Mac(fileKey, Encoding.ASCII.GetBytes(text.ToString()));
        return Encoding.ASCII.GetBytes(text.Append(' ').Append(Base64(mac)).Append('\n').ToString());
    }

    /// <summary>Reads a header to its end, and not one byte further.</summary>
    /// <returns>The file key, or null where none of the keys opens it.</returns>
    /// <exception cref="SealBrokenException">It is no such header, or it was changed.</exception>
    public static async Task<byte[]?> ReadAsync(
        Stream from, IReadOnlyList<AgeIdentity> identities, string? passphrase, CancellationToken cancel)
    {
        var signed = new MemoryStream();
        // What is none is known by its first bytes.
        if (await LineAsync(Intro.Length) != Intro) throw new SealBrokenException("it is not in the age v1 format.");
        var stanzas = new List<Stanza>();
        string line;
        while ((line = await LineAsync()).StartsWith("-> ", StringComparison.Ordinal))
        {
            var words = line[3..].Split(' ');
            if (words.Any(w => w.Length == 0)) throw new SealBrokenException("its header is damaged.");
            var body = new StringBuilder();
            do body.Append(line = await LineAsync());
            while (line.Length == Columns);
            stanzas.Add(new(words[0], words[1..], Bytes(body.ToString())));
        }
        if (!line.StartsWith("--- ", StringComparison.Ordinal)) throw new SealBrokenException("its header is damaged.");
        var text = signed.ToArray().AsMemory(0, (int)signed.Length - line.Length - 1 + 3);
        foreach (var stanza in stanzas)
        {
            if (stanza.Kind == "scrypt" && stanzas.Count > 1)
                throw new SealBrokenException("a passphrase stands beside another key in it.");
            if (TryUnwrap(stanza, identities, passphrase) is not { } fileKey) continue;
            return CryptographicOperations.FixedTimeEquals(Mac(fileKey, text.Span), Bytes(line[4..]))
                ? fileKey
                : throw new SealBrokenException("its header was changed after it was sealed.");
        }
        return null;

        async Task<string> LineAsync(int longest = LongestHeader)
        {
            var (bytes, one) = (new List<byte>(), new byte[1]);
            while (bytes.Count <= longest && signed.Length < LongestHeader && await from.ReadAsync(one, cancel) == 1)
            {
                signed.WriteByte(one[0]);
                if (one[0] == '\n') return Encoding.ASCII.GetString([.. bytes]);
                bytes.Add(one[0]);
            }
            throw new SealBrokenException("its header has no end.");
        }
    }

    private static byte[]? TryUnwrap(Stanza stanza, IReadOnlyList<AgeIdentity> identities, string? passphrase)
    {
        if (stanza is { Kind: "X25519", Arguments: [var share64] } && Bytes(share64) is { Length: 32 } share)
        {
            foreach (var identity in identities)
            {
                var shared = new byte[32];
                X25519.ScalarMult(identity.Scalar.ToArray(), 0, share, 0, shared, 0);
                if (shared.All(b => b == 0)) throw new SealBrokenException("its header is damaged.");
                if (Unwrap(stanza.Body, X25519Key(shared, share, identity.Recipient.Point)) is { } key) return key;
            }
        }
        if (passphrase is not null
            && stanza is { Kind: "scrypt", Arguments: [var salt64, var work] }
            && Bytes(salt64) is { Length: 16 } salt
            && int.TryParse(work, out var log))
            return log is > 0 and <= HighestWork
                ? Unwrap(stanza.Body, ScryptKey(passphrase, salt, log))
                : throw new SealBrokenException($"its passphrase asks for more work than 2^{HighestWork}.");
        return null;
    }

    /// <summary>The key of the content that follows a header.</summary>
    public static byte[] PayloadKey(ReadOnlySpan<byte> fileKey, ReadOnlySpan<byte> nonce)
    {
        var key = new byte[32];
        HKDF.DeriveKey(HashAlgorithmName.SHA256, fileKey, key, nonce, "payload"u8);
        return key;
    }

    private static byte[] Mac(ReadOnlySpan<byte> fileKey, ReadOnlySpan<byte> text)
    {
        var key = new byte[32];
        HKDF.DeriveKey(HashAlgorithmName.SHA256, fileKey, key, [], "header"u8);
        return HMACSHA256.HashData(key, text);
    }

    private static byte[] X25519Key(ReadOnlySpan<byte> shared, ReadOnlySpan<byte> share, ReadOnlySpan<byte> point)
    {
        if (!shared.ContainsAnyExcept((byte)0)) throw new SealBrokenException("a key that it is sealed to is none.");
        var key = new byte[32];
        HKDF.DeriveKey(HashAlgorithmName.SHA256, shared, key, (byte[])[.. share, .. point], "age-encryption.org/v1/X25519"u8);
        return key;
    }

    private static byte[] ScryptKey(string passphrase, byte[] salt, int work) =>
        SCrypt.Generate(Encoding.UTF8.GetBytes(passphrase), [.. "age-encryption.org/v1/scrypt"u8, .. salt], 1 << work, 8, 1, 32);

    private static byte[] Wrap(ReadOnlySpan<byte> fileKey, byte[] key)
    {
        var body = new byte[fileKey.Length + 16];
        using var cipher = new ChaCha20Poly1305(key);
        cipher.Encrypt(new byte[12], fileKey, body.AsSpan(0, fileKey.Length), body.AsSpan(fileKey.Length));
        return body;
    }

    private static byte[]? Unwrap(byte[] body, byte[] key)
    {
        if (body.Length != 32) throw new SealBrokenException("its header is damaged.");
        var fileKey = new byte[16];
        using var cipher = new ChaCha20Poly1305(key);
        try
        {
            cipher.Decrypt(new byte[12], body.AsSpan(0, 16), body.AsSpan(16), fileKey);
            return fileKey;
        }
        catch (AuthenticationTagMismatchException)
        {
            return null;
        }
    }

    private static string Base64(ReadOnlySpan<byte> bytes) => Convert.ToBase64String(bytes).TrimEnd('=');

    // Only the one way to write some bytes counts: no padding, and no bits left over.
    private static byte[] Bytes(string text)
    {
        try
        {
            var bytes = Convert.FromBase64String(text.PadRight((text.Length + 3) / 4 * 4, '='));
            return Base64(bytes) == text ? bytes : throw new SealBrokenException("its header is damaged.");
        }
        catch (FormatException)
        {
            throw new SealBrokenException("its header is damaged.");
        }
    }
}
