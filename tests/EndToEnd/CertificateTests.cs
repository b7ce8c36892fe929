using System.Net.Security;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// The service with a certificate of its own, or behind somebody who has one: browsers give a page the camera and work without a network
/// only over https.
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
        names.AddDnsName("yard.kestrelbay.example");
        var request = new CertificateRequest("CN=yard.kestrelbay.example", key, HashAlgorithmName.SHA256);
        request.CertificateExtensions.Add(names.Build());
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        await File.WriteAllTextAsync(_yard.Folder["yard.pem"], certificate.ExportCertificatePem(), TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(_yard.Folder["yard.key"], key.ExportPkcs8PrivateKeyPem(), TestContext.Current.CancellationToken);
        var address = $"https://localhost:{new Uri(_yard.Address).Port}";
        var inClear = $"http://127.0.0.1:{Ports.Free()}";
        _yard.Start(
            "yardrelay", "--urls", $"{inClear};{address}", "--state", _yard.Folder["state"], "--first", "kit:kestrel-bay-ferries",
            "--log", "Error",
            "--certificate", _yard.Folder["yard.pem"], "--certificate-key", _yard.Folder["yard.key"]);
        var shown = new List<string>();
        using var handler = new SocketsHttpHandler
        {
            AllowAutoRedirect = false,
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

        // A browser is led there and told to come by it alone; a program that is enrolled in clear goes on.
        async Task<HttpResponseMessage> GetAsync(string at, string? token = null)
        {
            using var asked = new HttpRequestMessage(HttpMethod.Get, at) { Headers = { Host = new Uri(at).Authority } };
            if (token is not null) asked.Headers.Authorization = new("Bearer", token);
            if (at.StartsWith("https", StringComparison.Ordinal)) asked.Headers.Host = "yard.kestrelbay.example";
            return await http.SendAsync(asked, TestContext.Current.CancellationToken);
        }
        var led = await GetAsync(inClear + "/");
        ((int)led.StatusCode, led.Headers.Location?.Scheme, led.Headers.Location?.Port).ShouldBe((307, "https", new Uri(address).Port));
        ((int)(await GetAsync(inClear + "/api/me", "none")).StatusCode).ShouldBe(401);
        ((int)(await GetAsync(inClear + "/health/ready")).StatusCode).ShouldBe(200);
        (await GetAsync(address + "/")).Headers.GetValues("Strict-Transport-Security").Single().ShouldContain("max-age=15552000");

        var missing = Run.To(
            Run.Bin("yardrelay"), "--urls", address, "--state", _yard.Folder["other"], "--certificate", _yard.Folder["no.pem"]);
        missing.Exit.ShouldBe(2, missing.All);
        missing.Err.ShouldContain("no.pem");
    }

    [Theory]
    [InlineData("127.0.0.1", true)]
    [InlineData("127.0.0.0/8,10.0.0.1", true)]
    [InlineData("10.0.0.1", false)]
    [InlineData(null, false)]
    public async Task What_a_proxy_says_counts_where_it_is_named(string? proxies, bool counts)
    {
        _yard.Start(
            "yardrelay",
            [
                "--urls", _yard.Address, "--state", _yard.Folder["state"], "--first", "kit:kestrel-bay-ferries", "--log", "Error",
                .. proxies is null ? Array.Empty<string>() : ["--proxies", proxies]
            ]);
        await _yard.UntilAsync(
            async h => (await h.GetAsync(new Uri(_yard.Address + "/health/ready"))).IsSuccessStatusCode, "the service is ready");
        using var http = new HttpClient();
        using var request = new HttpRequestMessage(HttpMethod.Post, _yard.Address + "/api/sessions")
        {
            Content = System.Net.Http.Json.JsonContent.Create(new { name = "kit", password = "kestrel-bay-ferries" }),
            Headers =
            {
                { "Sec-Fetch-Site", "same-origin" }, { "X-Forwarded-Proto", "https" }, { "X-Forwarded-For", "203.0.113.9" }
            }
        };
        using var signedIn = await http.SendAsync(request, TestContext.Current.CancellationToken);
        signedIn.EnsureSuccessStatusCode();
        foreach (var cookie in signedIn.Headers.GetValues("Set-Cookie"))
            cookie.Contains("; secure", StringComparison.OrdinalIgnoreCase).ShouldBe(counts, cookie);
    }

    public void Dispose() => _yard.Dispose();
}
