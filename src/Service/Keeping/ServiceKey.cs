using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace YardRelay.Service.Keeping;

/// <summary>
/// The key that opens the database's keys: a certificate with its private key in a PEM file that each computer has and no copy of the
/// database.
/// </summary>
internal static class ServiceKey
{
    private const int Bits = 3072;
    private const UnixFileMode Owner = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    /// <summary>Opens the file, or makes it for its owner only. Several processes at once come to the same one.</summary>
    /// <exception cref="BadSettingException">It cannot be read or made, or is no key.</exception>
    public static X509Certificate2 Open(string file)
    {
        try
        {
            if (!File.Exists(file)) Make(file);
            if (File.GetUnixFileMode(file) != Owner) File.SetUnixFileMode(file, Owner);
            return X509Certificate2.CreateFromPemFile(file);
        }
        catch (CryptographicException)
        {
            throw new BadSettingException(
                $"'{file}' is no key of the service. 'key' names the file that the service made at its first start.");
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            throw new BadSettingException($"The service's key '{file}' cannot be read or made: {gone.Message}");
        }
    }

    private static void Make(string file)
    {
        using var key = RSA.Create(Bits);
        var request = new CertificateRequest("CN=Yard Relay", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        // It proves nothing to anybody, so that it need never end.
        using var made = request.CreateSelfSigned(DateTimeOffset.UnixEpoch, new(9999, 1, 1, 0, 0, 0, TimeSpan.Zero));
        var aside = $"{file}.{Guid.NewGuid():N}";
        using (var stream = new FileStream(aside, new FileStreamOptions
        {
            Mode = FileMode.CreateNew,
            Access = FileAccess.Write,
            UnixCreateMode = Owner
        }))
        {
            using var writer = new StreamWriter(stream);
            writer.WriteLine(made.ExportCertificatePem());
            writer.WriteLine(key.ExportPkcs8PrivateKeyPem());
            writer.Flush();
            stream.Flush(flushToDisk: true);
        }
        try
        {
            File.Move(aside, file, overwrite: false);
        }
        catch (IOException) when (File.Exists(file))
        {
            // Another process was first; its is the one.
            File.Delete(aside);
        }
    }
}
