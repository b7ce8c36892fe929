using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.DataProtection.XmlEncryption;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Keeping;

/// <summary>
/// The keys of cookies, tickets and depots' secrets: in the database, where all processes find them, and encrypted there by a key that
/// is not in it (<see cref="ServiceKey"/>).
/// </summary>
internal static class KeyRing
{
    // What the library writes of a key, documented at "Key management in ASP.NET Core", names its secret in this namespace.
    private static readonly XNamespace DataProtection = "http://schemas.asp.net/2015/03/dataProtection";

    /// <summary>Sets the ring up.</summary>
    public static void Add(IServiceCollection services, X509Certificate2 key)
    {
        services.AddSingleton(key);
        services.AddDataProtection().SetApplicationName("yardrelay").PersistKeysToDbContext<YardDb>()
            .ProtectKeysWithCertificate(key).UnprotectKeysWithAnyCertificate(key);
    }

    /// <summary>Encrypts what an earlier version kept in plain, and makes sure that this computer opens every key.</summary>
    /// <param name="anew">Throws away what it does not open.</param>
    /// <exception cref="BadSettingException">There is one that it does not open.</exception>
    public static async Task PrepareAsync(IServiceProvider services, YardDb db, string file, bool anew, CancellationToken cancel)
    {
        var rows = await db.DataProtectionKeys.ToListAsync(cancel);
        var encryptor = new CertificateXmlEncryptor(
            services.GetRequiredService<X509Certificate2>(), services.GetRequiredService<ILoggerFactory>());
        foreach (var row in rows) row.Xml = Encrypted(row.Xml, encryptor);
        await db.SaveChangesAsync(cancel);
        var strange = services.GetRequiredService<IKeyManager>().GetAllKeys().Where(k => !k.IsRevoked && !Opens(k)).ToList();
        if (strange.Count == 0) return;
        if (!anew)
            throw new BadSettingException(
                $"The database's keys were encrypted by another computer's key than '{file}'. Copy that file here; or, where it is lost, "
                    + "start once with '--key-anew yes': everybody signs in again, and what opens depots must be given anew.");
        db.DataProtectionKeys.RemoveRange(rows.Where(r => strange.Exists(k => r.Xml?.Contains($"\"{k.KeyId}\"") == true)));
        await db.SaveChangesAsync(cancel);
    }

    private static bool Opens(IKey key)
    {
        try
        {
            return key.CreateEncryptor() is not null;
        }
        catch (Exception shut) when (shut is CryptographicException or InvalidOperationException)
        {
            return false;
        }
    }

    /// <summary>A key's text, its secret encrypted; as it is where it is so already.</summary>
    private static string? Encrypted(string? xml, IXmlEncryptor encryptor)
    {
        if (xml is null) return null;
        var key = XElement.Parse(xml);
        var open = key.Descendants().Where(e => e.Attribute(DataProtection + "requiresEncryption")?.Value == "true").ToList();
        foreach (var secret in open)
        {
            var sealedOne = encryptor.Encrypt(secret);
            secret.ReplaceWith(new XElement(
                DataProtection + "encryptedSecret",
                new XAttribute("decryptorType", sealedOne.DecryptorType.AssemblyQualifiedName!),
                sealedOne.EncryptedElement));
        }
        return open.Count == 0 ? xml : key.ToString(SaveOptions.DisableFormatting);
    }
}
