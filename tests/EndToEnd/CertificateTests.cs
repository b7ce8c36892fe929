using System.Net.Security;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// The service with a certificate of its own: browsers give a page the camera and work without a network only over https.
/// </summary>
public sealed class CertificateTests : IDisposable
{
    private readonly Yard _yard = new();

    [Fact]
    public async Task The_service_shows_the_certificate_that_it_was_given_and_says_which_file_is_missing()
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var names = new SubjectAlternativeNameBuilder();
        names.AddDnsName("localhost");
        var request = new CertificateRequest("CN=yard.kestrelbay.example", key, HashAlgorithmName.SHA256);
        request.CertificateExtensions.Add(names.Build());
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        await File.WriteAllTextAsync(_yard.Folder["yard.pem"], certificate.ExportCertificatePem(), TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(_yard.Folder["yard.key"], key.ExportPkcs8PrivateKeyPem(), TestContext.Current.CancellationToken);
        var address = $"https://localhost:{new Uri(_yard.Address).Port}";
        _yard.Start(
            "yardrelay", "--urls", address, "--state", _yard.Folder["state"], "--first", "kit:kestrel-bay", "--log", "Error",
            "--certificate", _yard.Folder["yard.pem"], "--certificate-key", _yard.Folder["yard.key"]);
        var shown = new List<string>();
        using var handler = new SocketsHttpHandler
        {
            SslOptions = new SslClientAuthenticationOptions
            {
                RemoteCertificateValidationCallback = (_, seen, _, errors) =>
                {
                    shown.Add(seen?.GetCertHashString(HashAlgorithmName.SHA256) ?? "");
                    return (errors & SslPolicyErrors.RemoteCertificateNameMismatch) == 0;
                }
            }
        };
        using var http = new HttpClient(handler);
        await _yard.UntilAsync(
            async _ => (await http.GetAsync(new Uri(address + "/health/ready"), TestContext.Current.CancellationToken)).IsSuccessStatusCode,
            "the service is ready over https");
        shown.ShouldAllBe(s => s == certificate.GetCertHashString(HashAlgorithmName.SHA256));

        var missing = Run.To(
            Run.Bin("yardrelay"), "--urls", address, "--state", _yard.Folder["other"], "--certificate", _yard.Folder["no.pem"]);
        missing.Exit.ShouldBe(2, missing.All);
        missing.Err.ShouldContain("no.pem");
    }

    public void Dispose() => _yard.Dispose();
}
