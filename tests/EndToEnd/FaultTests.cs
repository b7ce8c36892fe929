using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// Programs that die in the middle, shares that fill up or go away: what was done stays done, and work goes on by itself.
/// </summary>
public sealed class FaultTests : IDisposable
{
    private readonly Yard _yard = new();

    private TempFolder Folder => _yard.Folder;

    private async Task SetUpAsync(int files = 1500, string kind = "renew,KB-1,KB-11")
    {
        await _yard.StartServiceAsync();
        await _yard.StartCloudAsync("--delay-ms", "2");
        await File.WriteAllTextAsync(
            Folder["roster.csv"], "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay," + kind + "\n");
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", DateTime.UtcNow.ToString("yyyy-MM-dd"), "--days", "2", "--zone",
            "UTC");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        _yard.Line("depot", "set", "cloud", "--name", "Cloud share", "--address", _yard.CloudAddress);
        var random = new Random(4);
        for (var i = 0; i < files; i++)
        {
            var content = new byte[random.Next(10, 20_000)];
            random.NextBytes(content);
            var at = Folder[$"disks/KB-1/Documents/{i % 12}/{i}.dat"];
            Directory.CreateDirectory(Path.GetDirectoryName(at)!);
            await File.WriteAllBytesAsync(at, content);
        }
        Folder.Make("disks/KB-11");
        await _yard.EnrolAsync();
    }

    private JsonNode Swap() => JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!;

    private async Task UntilMovingAsync(long files) =>
        await _yard.UntilAsync(_ => Task.FromResult((long?)Swap()["swap"]!["moving"]?["files"] >= files), $"{files} files have moved");

    [Fact]
    public async Task A_hand_and_a_service_that_are_killed_in_the_middle_go_on_and_every_file_is_accounted_for()
    {
        await SetUpAsync();
        // Some 15 MB at so much in a second: however fast the hand is, both ways take long enough to be broken off in the middle.
        _yard.Line("depot", "set", "cloud", "--name", "Cloud share", "--address", _yard.CloudAddress, "--limit", "30");
        var hand = _yard.Work();
        _yard.Line("swap", "order", "survey", "--all");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        _yard.Line("swap", "order", "first-trip", "--all");
        await UntilMovingAsync(100);
        Yard.Kill(hand);
        hand = _yard.Work();
        // While nobody keeps the books the hand works on; what it has to say is said when they are open again.
        foreach (var service in System.Diagnostics.Process.GetProcessesByName("dotnet").Where(p => IsServiceOfThisYard(p)))
            Yard.Kill(service);
        await Task.Delay(1500, TestContext.Current.CancellationToken);
        await _yard.StartServiceAsync();
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        _yard.Line("swap", "order", "restore", "--all");
        await UntilMovingAsync(50);
        Yard.Kill(hand);
        _yard.Work();
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        var total = Swap()["total"]!;
        (
            (long?)total["old"]!["files"],
            (long?)total["inDepot"]!["files"],
            (long?)total["onNew"]!["files"],
            (long?)total["unexplained"]).ShouldBe((1500, 1500, 1500, 0));
        SampleTrees.Differences(Folder["disks/KB-1"], Folder["disks/KB-11"]).ShouldBeEmpty();
        _yard.Line("ledger", "check").ShouldContain("The ledger is whole");
        Run.To(Run.Bin("yardhand"), "verify", "--depot", _yard.CloudAddress, "--parcel", (string)Swap()["parcel"]!["name"]!).Exit
            .ShouldBe(0, _yard.Said);
    }

    [Fact]
    public async Task A_second_copy_comes_by_itself_after_each_verify_and_is_the_second_proof_before_a_computer_is_set_up_afresh()
    {
        await SetUpAsync(60, "reimage,KB-1,");
        var second = Folder.Make("safe");
        _yard.Line("depot", "set", "safe", "--name", "Disk in the safe", "--address", $"file://{second}");
        _yard.Line("depot", "set", "cloud", "--name", "Cloud share", "--address", _yard.CloudAddress, "--copy-to", "safe");
        _yard.Work();
        _yard.Line("swap", "order", "first-trip", "--all");
        int Copies() =>
            Swap()["orders"]!.AsArray().Count(o =>
                (string?)o!["kind"] == "second-copy"
                    && ((string?)o["words"])?.Contains("is whole and was read back", StringComparison.Ordinal) == true);
        await _yard.UntilAsync(_ => Task.FromResult(Copies() == 1), "the second copy is made");
        _yard.Line("old", "show", "KB-1").ShouldNotContain("verified in one way only");
        // The first copy's disk dies: the second one is the same bag, and is all that is needed.
        var parcel = (string)Swap()["parcel"]!["name"]!;
        Run.To(Run.Bin("yardhand"), "restore", "--depot", $"file://{second}", "--parcel", parcel, "--to", Folder["new"]).Exit.ShouldBe(0);
        SampleTrees.Differences(Folder["disks/KB-1"], Folder["new"]).ShouldBeEmpty();
        // A later trip makes it old: it is brought up once more.
        await File.WriteAllTextAsync(Folder["disks/KB-1/Documents/late.txt"], "late", TestContext.Current.CancellationToken);
        _yard.Line("swap", "order", "top-up-trip", "--all");
        await _yard.UntilAsync(_ => Task.FromResult(Copies() == 2), "the second copy is brought up");
        File.ReadAllText(Path.Combine(second, parcel, "data/Documents/late.txt")).ShouldBe("late");
    }

    [Fact]
    public async Task What_a_sealed_first_trip_had_brought_before_the_old_computer_died_comes_to_the_new_one_and_is_named()
    {
        // A pack takes some thousands of files, and is brought as a whole: here are four.
        await SetUpAsync(files: 1);
        for (var i = 0; i < 14_000; i++)
        {
            Directory.CreateDirectory(Folder[$"disks/KB-1/Notes/{i % 40}"]);
            File.WriteAllText(Folder[$"disks/KB-1/Notes/{i % 40}/{i}"], $"note {i}");
        }
        var recipient = Run.To(Run.Bin("yardhand"), "key", "make", "--out", Folder["recovery.key"]).Out.Trim();
        void Limit(string rate) => _yard.Line(
            "depot", "set", "cloud", "--name", "Cloud share", "--address", _yard.CloudAddress, "--seal-to", recipient, "--limit", rate);
        Limit("25");
        var hand = _yard.Work();
        _yard.Line("swap", "order", "first-trip", "--all");
        await UntilMovingAsync(8100);
        Yard.Kill(hand);
        _yard.Line("swap", "lost", "KB-1").ShouldContain("broke off");
        _yard.TryLine("swap", "order", "restore", "spring-0001").All.ShouldContain("its files are not staged and verified");
        _yard.Line("detour", "disk-died", "spring-0001", "--why", "it clicks").ShouldContain("nothing says how it must be");
        Limit("400");
        // The key that opens the parcel was on the computer that died; the service had been told it when the parcel was begun.
        _yard.Work();
        _yard.Line("swap", "order", "restore", "spring-0001");
        _yard.TryLine("swap", "wait", "--seconds", Yard.OrderPatience);
        var there = Directory.GetFiles(Folder["disks/KB-11"], "*", SearchOption.AllDirectories);
        there.Length.ShouldBeInRange(3000, 13_999, _yard.Said);
        foreach (var file in there)
            File.ReadAllBytes(file).ShouldBe(File.ReadAllBytes(file.Replace("KB-11", "KB-1", StringComparison.Ordinal)));
        var (total, snags) = (Swap()["total"]!, Swap()["snags"]!.AsArray());
        ((long?)total["inDepot"]!["files"], (long?)total["onNew"]!["files"]).ShouldBe((there.Length, there.Length));
        snags.Select(s => (string)s!["reason"]!).ShouldContain(r => r.Contains("No trip before it ended", StringComparison.Ordinal));
        _yard.Line("swap", "report", "spring-0001").ShouldContain("on the new computer");
    }

    private bool IsServiceOfThisYard(System.Diagnostics.Process process) =>
        File.Exists($"/proc/{process.Id}/cmdline")
            && File.ReadAllText($"/proc/{process.Id}/cmdline") is var line
            && line.Contains("yardrelay.dll", StringComparison.Ordinal)
            && line.Contains(_yard.Address, StringComparison.Ordinal);

    [Fact]
    public async Task A_trip_to_a_share_that_fills_up_or_goes_away_ends_with_what_to_do_and_goes_on_when_there_is_room()
    {
        for (var i = 0; i < 300; i++)
        {
            Directory.CreateDirectory(Folder[$"old/Pictures/{i % 5}"]);
            await File.WriteAllBytesAsync(
                Folder[$"old/Pictures/{i % 5}/{i}.jpg"], new byte[4000 + i], TestContext.Current.CancellationToken);
        }
        Ran Carry() => Run.To(Run.Bin("yardhand"), "carry", "--from", Folder["old"], "--depot", _yard.CloudAddress, "--parcel", "ida");
        var small = await _yard.StartCloudAsync("--quota-bytes", "600000");
        var full = Carry();
        full.Exit.ShouldBe(1, full.All);
        full.Err.ShouldContain("has no room for a file of");
        full.Err.ShouldContain("run the trip again");
        Run.To(Run.Bin("yardhand"), "restore", "--depot", _yard.CloudAddress, "--parcel", "ida", "--to", Folder["new"]).Err
            .ShouldContain("Run the trip again");
        Yard.Kill(small);
        Carry().Exit.ShouldBe(3);
        await _yard.StartCloudAsync("--fail-every", "7");
        var whole = Carry();
        whole.Exit.ShouldBe(0, whole.All);
        whole.Out.ShouldContain("Every file is accounted for: 300 files");
        Run.To(Run.Bin("yardhand"), "verify", "--depot", _yard.CloudAddress, "--parcel", "ida").Exit.ShouldBe(0);
        Run.To(Run.Bin("yardhand"), "restore", "--depot", _yard.CloudAddress, "--parcel", "ida", "--to", Folder["new"]).Exit.ShouldBe(0);
        SampleTrees.Differences(Folder["old"], Folder["new"]).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_snag_that_was_mended_is_explained_by_the_next_trip_and_a_replaced_hand_ends_with_a_word()
    {
        await SetUpAsync(20);
        Run.Must("mkfifo", Folder["disks/KB-1/Documents/print-queue"]);
        var hand = _yard.Work();
        _yard.Line("swap", "order", "first-trip", "--all");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        var swap = Swap();
        ((string?)swap["snags"]![0]!["path"], (long?)swap["total"]!["unexplained"]).ShouldBe(("Documents/print-queue", 1));
        File.Delete(Folder["disks/KB-1/Documents/print-queue"]);
        await File.WriteAllTextAsync(Folder["disks/KB-1/Documents/print-queue"], "printed", TestContext.Current.CancellationToken);
        _yard.Line("swap", "order", "top-up-trip", "--all");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        ((long?)Swap()["total"]!["unexplained"], (long?)Swap()["total"]!["inDepot"]!["files"]).ShouldBe((0, 21));
        // Another hand at the same computer: the first one is told, and stops by itself.
        Directory.Delete(Folder["hands"], recursive: true);
        await _yard.EnrolAsync();
        await _yard.UntilAsync(_ => Task.FromResult(hand.HasExited), "the replaced hand ends");
        hand.ExitCode.ShouldBe(3);
    }

    [Fact]
    public async Task No_log_holds_a_password_a_token_a_code_or_the_name_of_a_file_also_when_told_to_say_everything()
    {
        await _yard.StartServiceAsync("Verbose");
        await _yard.StartCloudAsync();
        await File.WriteAllTextAsync(
            Folder["roster.csv"],
            "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\n",
            TestContext.Current.CancellationToken);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", DateTime.UtcNow.ToString("yyyy-MM-dd"), "--days", "2", "--zone",
            "UTC");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        _yard.Line("depot", "set", "cloud", "--name", "Cloud share", "--address", _yard.CloudAddress);
        Directory.CreateDirectory(Folder["disks/KB-1/Documents"]);
        await File.WriteAllTextAsync(Folder["disks/KB-1/Documents/divorce-papers.txt"], "private", TestContext.Current.CancellationToken);
        Run.Must("mkfifo", Folder["disks/KB-1/Documents/secret-pipe"]);
        Folder.Make("disks/KB-11");
        await _yard.EnrolAsync();
        _yard.Work();
        _yard.Line("swap", "order", "first-trip", "--all");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        var snag = (string)Swap()["snags"]![0]!["id"]!;
        _yard.Line("snag", "waive", "spring-0001", snag, "--reason", "a pipe called secret-pipe");
        _yard.TryLine("sign-in", _yard.Address, "--name", "kit", "--password-file", Folder["none"]);
        var code = (string)JsonNode.Parse(await File.ReadAllTextAsync(
            Folder["codes.json"], TestContext.Current.CancellationToken))![0]!["code"]!;
        var tokens = Directory.GetFiles(Folder["hands"], "hand.json", SearchOption.AllDirectories)
            .Append(Folder["connection.json"])
            .Select(f => (string)JsonNode.Parse(File.ReadAllText(f))!["token"]!).ToList();
        var service = string.Join('\n', _yard.Said.Split('\n').Where(l => l.StartsWith("yardrelay", StringComparison.Ordinal)));
        service.Length.ShouldBeGreaterThan(2000);
        foreach (var secret in new[]
        {
            "kestrel-bay-ferries",
            "divorce",
            "secret-pipe",
            "Moreau",
            code,
            code.Replace("-", "", StringComparison.Ordinal)
        }.Concat(tokens))
            service.ShouldNotContain(secret, Case.Insensitive);
    }

    public void Dispose() => _yard.Dispose();
}
