using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>The way of a sealed parcel from the old computer to its end, ordered on the command line and done by real hands.</summary>
public sealed class ParcelTests : IDisposable
{
    private readonly Yard _yard = new();

    private TempFolder Folder => _yard.Folder;

    private JsonNode Json(params string[] args) => JsonNode.Parse(_yard.Line([.. args, "--json"]))!;

    private void Order(string kind, params string[] more)
    {
        _yard.Line(["swap", "order", kind, .. more]);
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
    }

    [Fact]
    public async Task A_sealed_parcel_is_carried_looked_at_landed_elsewhere_restored_in_part_reported_and_purged()
    {
        await _yard.StartServiceAsync();
        await _yard.StartCloudAsync();
        foreach (var (name, text) in new[]
        {
            ("ida/Documents/letter.txt", "Dear Sol"),
            ("ida/Documents/tides.csv", "high,low"),
            ("ida/Pictures/gull.jpg", "gull"),
            ("ida/.cache/junk", "junk")
        })
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Folder[$"disks/KB-1/{name}"])!);
            await File.WriteAllTextAsync(Folder[$"disks/KB-1/{name}"], text, TestContext.Current.CancellationToken);
        }
        Run.Must("mkfifo", Folder["disks/KB-1/ida/Documents/queue"]);
        Directory.CreateDirectory(Folder["disks/KB-11/imoreau/Documents"]);
        await File.WriteAllTextAsync(
            Folder["disks/KB-11/imoreau/Documents/letter.txt"], "another letter", TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(
            Folder["roster.csv"],
            "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\n",
            TestContext.Current.CancellationToken);
        var recipient = Run.Must(Run.Bin("yardhand"), "key", "make", "--out", Folder["recovery.key"]).Trim();
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        _yard.Line("depot", "set", "cloud", "--name", "Cloud", "--address", _yard.CloudAddress, "--hold-days", "0", "--seal-to", recipient);
        _yard.Line("catalogue", "set", "x", "--program", "X*", "--offer", "X 2");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        await _yard.EnrolAsync();
        var hand = _yard.Work();
        Order("survey", "--all");
        Order("first-trip", "--all");
        Json("snag", "list").AsArray().Single()!["ways"]!.AsArray().Select(w => (string?)w).ShouldBe(["waive"]);
        _yard.Line("snag", "waive-all", "--kind", "pipe", "--reason", "a pipe holds nothing").ShouldContain("1 waived");

        // The new computer has no key of its own: it gets the parcel's with its order.
        Yard.Kill(hand);
        Directory.Delete(Folder["hand-state"], recursive: true);
        _yard.Work();
        var parcel = (string)Json("swap", "show", "spring-0001")["parcel"]!["name"]!;
        Directory.GetFiles(Folder[$"cloud/{parcel}/data"]).ShouldAllBe(f => f.EndsWith(".tar.age"));
        _yard.Line("swap", "landing", "spring-0001", "--account", "ida=imoreau", "--first", "ida/Pictures")
            .ShouldContain("home of imoreau");
        Order("look", "spring-0001");
        var foreseen = Json("swap", "landing", "spring-0001")["foreseen"]!["folders"]!.AsArray().Single()!;
        (
            (string?)foreseen["to"],
            (int?)foreseen["new"]!["files"],
            (int?)foreseen["beside"]!["files"]).ShouldBe(("imoreau", 2, 1), _yard.Said);
        Order("restore", "spring-0001");
        (await File.ReadAllTextAsync(Folder["disks/KB-11/imoreau/Documents/letter.txt"], TestContext.Current.CancellationToken))
            .ShouldBe("another letter");
        (await File.ReadAllTextAsync(
            Folder["disks/KB-11/imoreau/Documents/letter (old computer).txt"], TestContext.Current.CancellationToken))
            .ShouldBe("Dear Sol");
        File.Delete(Folder["disks/KB-11/imoreau/Documents/tides.csv"]);
        _yard.Line("swap", "restore-part", "spring-0001", "--only", "ida/Documents/tides.csv");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        (await File.ReadAllTextAsync(Folder["disks/KB-11/imoreau/Documents/tides.csv"], TestContext.Current.CancellationToken))
            .ShouldBe("high,low");

        var report = _yard.Line("swap", "report", "spring-0001");
        foreach (var said in new[] { "Every file is accounted for", "Caches", "given up: ida/Documents/queue: a pipe holds nothing (kit)" })
            report.ShouldContain(said);
        _yard.Line("swap", "report", "spring-0001", "--to", Folder["report.pdf"]);
        Run.Must("pdftotext", Folder["report.pdf"], "-").ShouldContain("Ida Moreau");

        _yard.TryLine("swap", "purge", "spring-0001", "--confirm", parcel).Err.ShouldContain("not signed off");
        _yard.Line("step", "set", "spring-0001", "old-tag", "--tag", "KB-1");
        _yard.Line("step", "set", "spring-0001", "new-tag", "--tag", "KB-11");
        _yard.WorkSteps("spring-0001");
        _yard.Line("swap", "sign-off", "spring-0001");
        _yard.Line("signoff", "show", "spring-0001", "--to", Folder["signed.json"]);
        _yard.Line("signoff", "check", Folder["signed.json"]).ShouldContain("Not changed: Kit");
        await File.WriteAllTextAsync(
            Folder["forged.json"],
            (await File.ReadAllTextAsync(Folder["signed.json"], TestContext.Current.CancellationToken))
                .Replace("\"prints\"", "\"none needed\"", StringComparison.Ordinal),
            TestContext.Current.CancellationToken);
        _yard.TryLine("signoff", "check", Folder["forged.json"]).Err.ShouldContain("not what was signed");
        _yard.Line("signoff", "reopen", "spring-0001", "--reason", "wrong printer").ShouldContain("Not signed as technician");
        _yard.Line("signoff", "check", Folder["signed.json"]).ShouldContain("void since entry");
        _yard.Line("swap", "sign-off", "spring-0001");
        _yard.TryLine("swap", "purge", "spring-0001", "--confirm", "ida").Err.ShouldContain(parcel);
        _yard.Line("swap", "purge", "spring-0001", "--confirm", parcel);
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        Directory.Exists(Folder[$"cloud/{parcel}"]).ShouldBeFalse(_yard.Said);
        _yard.Line("swap", "report", "spring-0001").ShouldContain("Purged on");
        _yard.Line("ledger", "check").ShouldContain("The ledger is whole");
    }

    public void Dispose() => _yard.Dispose();
}
