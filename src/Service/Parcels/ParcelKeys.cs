using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace YardRelay.Service.Parcels;

/// <summary>
/// Keeps the keys of sealed parcels: encrypted in the records, in plain only on the way to a hand with an order of that swap, never logged.
/// </summary>
internal sealed class ParcelKeys(IDataProtectionProvider protection)
{
    private readonly IDataProtector _protector = protection.CreateProtector("parcel key");

    public string Seal(string key) => _protector.Protect(key);

    /// <summary>The key; null where the service's own keys that it was encrypted with are gone.</summary>
    public string? Open(string kept)
    {
        try
        {
            return _protector.Unprotect(kept);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
