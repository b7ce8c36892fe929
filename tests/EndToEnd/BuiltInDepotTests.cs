using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using YardRelay.Files;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// The depot of the service itself: real hands carry to it and restore from it, the service verifies beside it, and nobody else gets in.
/// </summary>
public sealed class BuiltInDepotTests : IDisposable
{
    private readonly Yard _yard = new();

    private TempFolder Folder => _yard.Folder;

    private JsonNode Json(params string[] args) => JsonNode.Parse(_yard.Line([.. args, "--json"]))!;

    private async Task<int> AskAsync(string method, string path, string? ticket)
    {
        using var http = new HttpClient();
        using var request = new HttpRequestMessage(new(method), new Uri(_yard.Address + path));
        if (ticket is not null)
            request.Headers.Authorization = new AuthenticationHeaderValue(
                "Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes("order:" + ticket)));
        if (method == "PUT") request.Content = new ByteArrayContent([1]);
        if (method == "PROPFIND") request.Headers.Add("Depth", "0");
        return (int)(await http.SendAsync(request, TestContext.Current.CancellationToken)).StatusCode;
    }

    [Fact]
    public async Task Hands_carry_to_the_service_itself_which_verifies_beside_the_depot_and_lets_nobody_else_in()
    {
        await _yard.StartServiceAsync();
        foreach (var (tag, name) in new[] { ("KB-1", "ida"), ("KB-2", "sol") })
            for (var i = 0; i < 40; i++)
            {
                Directory.CreateDirectory(Folder[$"disks/{tag}/{name}/Documents"]);
                await File.WriteAllTextAsync(
                    Folder[$"disks/{tag}/{name}/Documents/{i}.txt"], $"{name} {i}", TestContext.Current.CancellationToken);
            }
        await File.WriteAllBytesAsync(
            Folder["disks/KB-1/ida/Documents/film.mov"], new byte[45_000_000], TestContext.Current.CancellationToken);
        Directory.CreateDirectory(Folder["disks/KB-11"]);
        await File.WriteAllTextAsync(
            Folder["roster.csv"],
            "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\nk2,Sol Okafor,North Quay,renew,KB-2,KB-12\n",
            TestContext.Current.CancellationToken);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        _yard.Line("depot", "set", "own", "--name", "Yard store", "--address", "built-in");
        _yard.Line("depot", "list").ShouldContain("an order");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        await _yard.EnrolAsync();
        _yard.Work();
        _yard.Line("swap", "order", "first-trip", "spring-0001");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        var shown = Json("swap", "show", "spring-0001");
        shown["orders"]!.AsArray()
            .Select(o => ((string?)o!["kind"], (string?)o["tag"], (string?)o["state"]))
            .ShouldContain(("verify", "the service", "done"), _yard.Said);
        ((bool?)shown["parcel"]!["verified"]).ShouldBe(true);
        // What was carried was read back from the service's own disk, if it lies on one.
        using (var depot = TreeRoot.Here(Folder["state/depot"]).Open())
            ((string?)shown["orders"]!.AsArray().Single(o => (string?)o!["kind"] == "first-trip")!["words"])!
                .Contains("read back from the disk itself", StringComparison.Ordinal)
                .ShouldBe(depot.ReadsFrom == ReadFrom.Medium, shown.ToJsonString());
        File.Exists(Folder["state/depot/spring/Ida-Moreau 0001/data/ida/Documents/film.mov"]).ShouldBeTrue();

        // A byte that changed in the depot is found by the service, and the next trip brings the file anew.
        await File.WriteAllTextAsync(
            Folder["state/depot/spring/Ida-Moreau 0001/data/ida/Documents/7.txt"], "ida x", TestContext.Current.CancellationToken);
        _yard.Line("swap", "order", "verify", "spring-0001", "--by-service");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        _yard.Line("swap", "show", "spring-0001").ShouldContain("1 file of the parcel is damaged");
        _yard.Line("swap", "order", "top-up-trip", "spring-0001");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        (await File.ReadAllTextAsync(
            Folder["state/depot/spring/Ida-Moreau 0001/data/ida/Documents/7.txt"], TestContext.Current.CancellationToken))
            .ShouldBe("ida 7");
        _yard.Line("swap", "order", "restore", "spring-0001");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        (await File.ReadAllTextAsync(Folder["disks/KB-11/ida/Documents/39.txt"], TestContext.Current.CancellationToken)).ShouldBe("ida 39");

        // A folder that somebody filled by hand, with one file another and one missing, becomes the parcel of the other swap.
        Directory.CreateDirectory(Folder["state/depot/Old shares/Sol/sol/Documents"]);
        for (var i = 0; i < 39; i++)
            await File.WriteAllTextAsync(
                Folder[$"state/depot/Old shares/Sol/sol/Documents/{i}.txt"],
                i == 3 ? "another text" : $"sol {i}",
                TestContext.Current.CancellationToken);
        _yard.Line("swap", "adopt", "spring-0002", "Old shares/Sol");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        ((string?)Json("swap", "show", "spring-0002")["orders"]!.AsArray().Single(o => (string?)o!["kind"] == "adopt")!["words"])
            .ShouldBe("39 files taken in: 38 as at the old computer, 1 differ, 1 are missing, 0 are only here. "
                + "'Old shares/Sol' still stands where it stood.", _yard.Said);
        _yard.Line("swap", "order", "top-up-trip", "spring-0002");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        Json("swap", "show", "spring-0002")["total"]!["inDepot"]!["files"]!.GetValue<int>().ShouldBe(40);
        Directory.GetFiles(Folder["state/depot/Old shares/Sol/sol/Documents"]).Length.ShouldBe(39, "somebody's folder stays theirs");

        // Without a ticket, with a made-up one, with somebody's token, after the order's end: nothing.
        foreach (var ticket in new[] { null, "", "guessed", "CfDJ8" + new string('A', 200) })
            foreach (var (method, path) in new[]
            {
                ("GET", "/depot/spring/Ida-Moreau%200001/data/ida/Documents/7.txt"),
                ("PROPFIND", "/depot/"),
                ("PUT", "/depot/spring/x"),
                ("DELETE", "/depot/spring")
            })
                (await AskAsync(method, path, ticket)).ShouldBe(401, $"{method} {path}");
        Directory.GetFileSystemEntries(Folder["state/depot"])
            .Select(Path.GetFileName).Order()
            .ShouldBe([".yard-dav", "Old shares", "spring"]);
    }

    public void Dispose() => _yard.Dispose();
}
