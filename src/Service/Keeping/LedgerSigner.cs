using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using YardRelay.Core.Ledger;

namespace YardRelay.Service.Keeping;

/// <summary>
/// Signs the heads of ledgers with a key that comes from <see cref="ServiceKey"/> (HKDF of RFC 5869, into a scalar of P-256), so that it is
/// in no database either, and the same on every computer that the service runs on.
/// </summary>
internal sealed class LedgerSigner : IDisposable
{
    private const int Bytes = 32;

    // The order of P-256 (FIPS 186-5): a scalar is less.
    private static readonly byte[] Order = Convert.FromHexString("FFFFFFFF00000000FFFFFFFFFFFFFFFFBCE6FAADA7179E84F3B9CAC2FC632551");

    private readonly ECDsa _key;
    private readonly Lock _one = new();

    public LedgerSigner(X509Certificate2 service)
    {
        using var key = service.GetRSAPrivateKey() ?? throw new CryptographicException("The service's key has no private part.");
        var secret = key.ExportRSAPrivateKey();
        byte[] scalar;
        var tries = 0;
        do scalar = HKDF.DeriveKey(HashAlgorithmName.SHA256, secret, Bytes, info: Encoding.UTF8.GetBytes($"yardrelay ledger {tries++}"));
        while (scalar.AsSpan().SequenceCompareTo(Order) >= 0 || scalar.All(b => b == 0));
        CryptographicOperations.ZeroMemory(secret);
        _key = ECDsa.Create(new ECParameters { Curve = ECCurve.NamedCurves.nistP256, D = scalar });
        PublicKey = Convert.ToBase64String(_key.ExportSubjectPublicKeyInfo());
    }

    /// <summary>SubjectPublicKeyInfo, Base64.</summary>
    public string PublicKey { get; }

    /// <summary>Signs a head.</summary>
    /// <returns>Base64.</returns>
    public string Sign(string chain, LedgerHead head)
    {
        lock (_one) return Convert.ToBase64String(_key.SignData(LedgerSeal.TextOf(chain, head), HashAlgorithmName.SHA256));
    }

    public void Dispose() => _key.Dispose();
}
