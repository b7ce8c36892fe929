using System.Net.Http.Json;
using System.Text;
using Microsoft.AspNetCore.Http;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

/// <summary>Paths that somebody made up who has the ticket of one parcel, as they come over the network.</summary>
public sealed class DepotPathTests(OnSqlite service) : IClassFixture<OnSqlite>
{
    private const int Many = 1500;

    private static readonly string[] Methods =
        ["GET", "HEAD", "PUT", "DELETE", "MKCOL", "PROPFIND", "PROPPATCH", "COPY", "MOVE", "LOCK", "OPTIONS", "POST"];

    [Fact]
    public async Task No_path_leads_a_ticket_out_of_its_parcel()
    {
        var refresh = await service.RefreshAsync();
        (await service.Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Own", "built-in")))
            .EnsureSuccessStatusCode();
        var hand = await service.HandAsync(refresh, "KB-1");
        (await service.OrderAsync($"{refresh}-0001", new("first-trip"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        var (own, other) = (order.Parcel!.Split('/')[1], $"{refresh}-other");
        Directory.CreateDirectory(Path.Combine(service.DepotFolder, refresh, own, "data"));
        Directory.CreateDirectory(Path.Combine(service.DepotFolder, refresh, other, "data"));
        File.WriteAllText(Path.Combine(service.DepotFolder, refresh, other, "data", "secret"), "another's");
        foreach (var above in new[] { service.DepotFolder, Path.GetDirectoryName(service.DepotFolder)! })
            File.WriteAllText(Path.Combine(above, "secret"), "another's");
        var before = Others();

        // What a path is made of, and what takes it for something else on its way.
        string[] pieces =
        [
            refresh, own, other, "data", "secret", "..", ".", "%2e%2e", "%2E.", ".%2e", "%252e%252e", "%2f", "%5c", "\\", "..%2f", "%00",
            "%0a", "..;", "....", "", own.ToUpperInvariant(), own + "%20", own + ".", "%c0%ae%c0%ae", "~", "yard-probe-..", "yard-probe-1"
        ];
        var random = new Random(7);
        string AnyPath() => (random.Next(2) == 0 ? "" : $"{refresh}/{own}/") + string.Join('/', random.GetItems(pieces, random.Next(1, 9)));
        for (var turn = 0; turn < Many; turn++)
        {
            var (method, path, to) = (Methods[random.Next(Methods.Length)], AnyPath(), AnyPath());
            var answer = (await AskAsync(order, method, path, to)).Response;
            using var said = new StreamReader(answer.Body);
            (await said.ReadToEndAsync()).ShouldNotContain("another's", customMessage: $"{method} {path}");
            answer.StatusCode.ShouldNotBe(500, $"{method} {path} to {to}");
            Others().ShouldBe(before, $"{method} {path} to {to}");
        }
        // Plain paths of its own do what they should: the ticket was good all the time.
        Directory.CreateDirectory(Path.Combine(service.DepotFolder, refresh, own));
        (await AskAsync(order, "PUT", $"{refresh}/{own}/mine", "")).Response.StatusCode.ShouldBe(201);

        string[] Others() =>
        [
            File.ReadAllText(Path.Combine(Path.GetDirectoryName(service.DepotFolder)!, "secret")),
            .. Directory.EnumerateFileSystemEntries(service.DepotFolder, "*", SearchOption.AllDirectories)
                .Select(f => Path.GetRelativePath(service.DepotFolder, f))
                .Where(f => !f.StartsWith($"{refresh}/{own}", StringComparison.Ordinal)
                    && !f.StartsWith("yard-probe-", StringComparison.Ordinal)
                    && !f.StartsWith(".yard-dav", StringComparison.Ordinal))
                .Select(f => Path.Combine(service.DepotFolder, f) is var at && File.Exists(at) ? $"{f}: {File.ReadAllText(at)}" : f)
                .Order(StringComparer.Ordinal)
        ];
    }

    private Task<HttpContext> AskAsync(OrderTaken order, string method, string path, string to) => service.AskRawAsync(http =>
    {
        http.Request.Method = method;
        // As a server hands it on, once decoded, before it has taken any ".." out.
        http.Request.Path = "/depot/" + Uri.UnescapeDataString(path);
        http.Request.Headers.Authorization =
            "Basic " + Convert.ToBase64String(Encoding.UTF8.GetBytes($"{order.Access!.User}:{order.Access!.Password}"));
        if (method is "COPY" or "MOVE") http.Request.Headers["Destination"] = $"http://localhost/depot/{to}";
        if (method == "PROPFIND") http.Request.Headers["Depth"] = "1";
        if (method is "PUT" or "POST") http.Request.Body = new MemoryStream("mine"u8.ToArray());
    });
}
