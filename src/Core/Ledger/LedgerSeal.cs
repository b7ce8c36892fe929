using System.Security.Cryptography;
using System.Text;

namespace YardRelay.Core.Ledger;

/// <summary>
/// What a service's key says of a head: ECDSA over P-256 with SHA-256 (FIPS 186-5), so that whoever can write the records but has not the
/// key cannot make a history anew unseen.
/// </summary>
public static class LedgerSeal
{
    private const int FingerprintDigits = 32;

    /// <summary>What is signed.</summary>
    /// <param name="chain">Key of the refresh, or of the service's own chain.</param>
    public static byte[] TextOf(string chain, LedgerHead head) => Encoding.UTF8.GetBytes($"yardrelay ledger head 1\n{chain}\n{head}\n");

    /// <summary>Whether a signature is that key's, of that head.</summary>
    /// <param name="signature">Base64.</param>
    /// <param name="publicKey">SubjectPublicKeyInfo, Base64.</param>
    public static bool Holds(string chain, LedgerHead head, string signature, string publicKey)
    {
        try
        {
            using var key = ECDsa.Create();
            key.ImportSubjectPublicKeyInfo(Convert.FromBase64String(publicKey), out _);
            return key.VerifyData(TextOf(chain, head), Convert.FromBase64String(signature), HashAlgorithmName.SHA256);
        }
        catch (Exception strange) when (strange is FormatException or CryptographicException)
        {
            return false;
        }
    }

    /// <summary>What a key is known by: the first 128 bits of the SHA-256 of its SubjectPublicKeyInfo, in hexadecimal.</summary>
    /// <param name="publicKey">Base64.</param>
    /// <exception cref="FormatException">It is no Base64.</exception>
    public static string FingerprintOf(string publicKey) =>
        Convert.ToHexStringLower(SHA256.HashData(Convert.FromBase64String(publicKey)))[..FingerprintDigits];
}

/// <summary>A head that was kept outside, as a line of text.</summary>
/// <param name="At">When it was written down.</param>
/// <param name="Chain">Key of the refresh, or of the service's own chain.</param>
/// <param name="Key">Fingerprint of the key that signed it.</param>
/// <param name="Signature">Base64.</param>
public sealed record KeptHead(DateTimeOffset At, string Chain, LedgerHead Head, string Key, string Signature)
{
    /// <summary><c>2026-12-01T00:00:05Z autumn 812:9f3c… 1f0a… MEUC…</c></summary>
    public override string ToString() => $"{At.UtcDateTime:yyyy-MM-dd'T'HH:mm:ss'Z'} {Chain} {Head} {Key} {Signature}";

    /// <summary>Reads what <see cref="ToString"/> writes; null: it is no such line.</summary>
    public static KeptHead? TryParse(string line) =>
        line.Trim().Split(' ') is [var at, var chain, var head, var key, var signature]
            && DateTimeOffset.TryParse(at, System.Globalization.CultureInfo.InvariantCulture, out var when)
            && LedgerHead.TryParse(head) is { } kept
            ? new(when, chain, kept, key, signature)
            : null;
}
