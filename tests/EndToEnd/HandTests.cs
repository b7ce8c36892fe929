using System.Diagnostics;
using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>The hand as a program, the way a technician runs it.</summary>
public sealed class HandTests : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly string _hand = Run.Bin("yardhand");

    private string Depot => "file://" + _folder["depot"];

    private Ran Carry(string from = "source") => Run.To(_hand, "carry", "--from", _folder[from], "--depot", Depot, "--parcel", "ida");

    private Ran Verify() => Run.To(_hand, "verify", "--depot", Depot, "--parcel", "ida");

    private Ran Restore(string to = "target") => Run.To(_hand, "restore", "--depot", Depot, "--parcel", "ida", "--to", _folder[to]);

    [Fact]
    public void The_exit_code_tells_all_accounted_snags_damage_wrong_use_and_unreachable()
    {
        _folder.Make("depot");
        File.WriteAllText(Path.Combine(_folder.Make("source"), "letter.txt"), "letter");
        Carry().Exit.ShouldBe(0);
        Verify().Exit.ShouldBe(0);
        Restore().Exit.ShouldBe(0);
        Run.Must("mkfifo", _folder["source/pipe"]);
        var snags = Carry();
        (snags.Exit, snags.Out.Split('\n').Count(l => l.StartsWith("snag: pipe: ", StringComparison.Ordinal))).ShouldBe((1, 1));
        Verify().Exit.ShouldBe(0, "old snags do not make a parcel damaged");
        File.WriteAllText(_folder["depot/ida/data/letter.txt"], "LETTER");
        var damage = Verify();
        (damage.Exit, damage.Out.Contains("changed: data/letter.txt: ")).ShouldBe((1, true));
        var json = Run.To(_hand, "verify", "--depot", Depot, "--parcel", "ida", "--json");
        (json.Exit, (string?)JsonNode.Parse(json.Out)!["damages"]![0]!["path"]).ShouldBe((1, "data/letter.txt"));
        foreach (var wrong in new string[][]
        {
            ["carry"],
            ["fly"],
            ["carry", "--from", "/no/such", "--depot", Depot, "--parcel", "x"],
            ["verify", "--depot", "gopher://x", "--parcel", "x"],
            ["verify", "--depot", Depot, "--parcel", "../x"]
        })
            Run.To(_hand, wrong).Exit.ShouldBe(2, string.Join(' ', wrong));
        Run.To(_hand, "verify", "--depot", "file:///no/such/share", "--parcel", "x").Exit.ShouldBe(3);
        var unplugged = Run.To(_hand, "carry", "--from", _folder["source"], "--depot", "http://127.0.0.1:9/", "--parcel", "x");
        (unplugged.Exit, unplugged.Err.Contains("cannot be reached")).ShouldBe((3, true));
    }

    [Fact]
    public void A_computer_that_does_not_take_what_is_only_passing_is_told_so_in_words()
    {
        _folder.Make("depot");
        File.WriteAllText(Path.Combine(_folder.Make("source"), "letter.txt"), "letter");
        Carry().Exit.ShouldBe(0);
        File.WriteAllText(_folder["source/late.txt"], "late");
        var nowhere = new Dictionary<string, string> { ["TMPDIR"] = _folder["nowhere"] };
        var refused = Run.With(nowhere, _hand, "carry", "--from", _folder["source"], "--depot", Depot, "--parcel", "ida");
        (refused.Exit, refused.Err.TrimEnd().Count('\n')).ShouldBe((1, 0), refused.All);
        refused.Err.ShouldContain($"temporary files, {_folder["nowhere"]}");
        refused.Err.ShouldContain("TMPDIR");
        Carry().Exit.ShouldBe(0, "nothing of it stands in the way");
        Verify().Exit.ShouldBe(0);
    }

    [Fact]
    public void A_file_and_a_folder_that_may_not_be_read_are_named_and_the_rest_is_carried()
    {
        Run.Must("chmod", "0777", _folder.At, _folder.Make("depot"));
        Directory.CreateDirectory(Path.Combine(_folder.Make("source"), "shut"));
        foreach (var name in new[] { "open.txt", "closed.txt", "shut/inside.txt" }) File.WriteAllText(_folder[$"source/{name}"], name);
        Run.Must("chmod", "0755", _folder["source"]);
        Run.Must("chmod", "0000", _folder["source/closed.txt"], _folder["source/shut"]);
        string[] args = ["carry", "--from", _folder["source"], "--depot", Depot, "--parcel", "ida", "--json"];
        var ran = Environment.UserName == "root"
            ? Run.To("setpriv", [
                "--reuid=65534",
                "--regid=65534",
                "--clear-groups",
                "env",
                "HOME=/tmp",
                "DOTNET_CLI_HOME=/tmp",
                "dotnet",
                Run.Dll("yardhand"),
                .. args
            ])
            : Run.To(_hand, args);
        ran.Exit.ShouldBe(1, ran.All);
        var report = JsonNode.Parse(ran.Out)!;
        report["snags"]!.AsArray()
            .Select(s => ((string?)s!["path"], (string?)s["kind"]))
            .ShouldBe([("closed.txt", "unreadable"), ("shut/", "unreadable")], ignoreOrder: true);
        ((long?)report["carried"]!["files"], (long?)report["open"]!["files"], (long?)report["seen"]!["files"]).ShouldBe((1, 2, 3));
    }

    [Fact]
    public void Killed_at_any_of_twenty_moments_a_trip_goes_on_and_ends_in_the_same_parcel()
    {
        _folder.Make("depot");
        Many(_folder["source"], 900, seed: 5);
        var random = new Random(20);
        for (var i = 0; i < 20; i++)
            KillAfter(
                TimeSpan.FromMilliseconds(random.Next(120, 700)),
                "carry",
                "--from",
                _folder["source"],
                "--depot",
                Depot,
                "--parcel",
                "ida");
        Carry().Exit.ShouldBe(0);
        var verified = Verify();
        verified.Exit.ShouldBe(0, verified.All);
        Run.Must(_hand, "carry", "--from", _folder["source"], "--depot", Depot, "--parcel", "once");
        foreach (var file in new[] { "manifest-sha256.txt", "yard/snags.jsonl" })
            File.ReadAllBytes(_folder[$"depot/ida/{file}"]).ShouldBe(File.ReadAllBytes(_folder[$"depot/once/{file}"]));
        Run.Must("diff", "-r", _folder["depot/ida/data"], _folder["depot/once/data"]);
        Restore().Exit.ShouldBe(0);
        SampleTrees.Differences(_folder["source"], _folder["target"]).ShouldBeEmpty();
    }

    [Fact]
    public void Killed_at_any_moment_a_sealed_trip_and_its_restore_go_on_too()
    {
        _folder.Make("depot");
        Many(_folder["source"], 900, seed: 8);
        Run.Must("touch", "-d", "2020-02-02 02:02:02.123456789", _folder["source"]);
        var recipient = Run.Must(_hand, "key", "make", "--out", _folder["recovery.key"]).Trim();
        string[] carry = ["carry", "--from", _folder["source"], "--depot", Depot, "--parcel", "ida", "--seal-to", recipient];
        var random = new Random(22);
        for (var i = 0; i < 10; i++) KillAfter(TimeSpan.FromMilliseconds(random.Next(120, 900)), carry);
        Run.Must(_hand, carry);
        var verified = Verify();
        verified.Exit.ShouldBe(0, verified.All);
        string[] restore = [
            "restore", "--depot", Depot, "--parcel", "ida", "--to", _folder["target"], "--identity", _folder["recovery.key"]
        ];
        for (var i = 0; i < 10; i++) KillAfter(TimeSpan.FromMilliseconds(random.Next(120, 900)), restore);
        Run.Must(_hand, restore);
        SampleTrees.Differences(_folder["source"], _folder["target"]).ShouldBeEmpty();
    }

    [Fact]
    public void Killed_at_any_of_twenty_moments_a_restore_goes_on_and_ends_in_the_same_tree()
    {
        _folder.Make("depot");
        Many(_folder["source"], 900, seed: 6);
        SampleTrees.MakeHostile(_folder["source/odd"], 3, 90);
        Run.Must("touch", "-d", "2020-02-02 02:02:02.123456789", _folder["source"]);
        Carry().Exit.ShouldBe(0);
        var random = new Random(21);
        for (var i = 0; i < 20; i++)
            KillAfter(
                TimeSpan.FromMilliseconds(random.Next(120, 700)),
                "restore",
                "--depot",
                Depot,
                "--parcel",
                "ida",
                "--to",
                _folder["target"]);
        var last = Restore();
        last.Exit.ShouldBe(0, last.All);
        SampleTrees.Differences(_folder["source"], _folder["target"]).ShouldBeEmpty();
    }

    [Fact]
    public void What_an_administrator_restores_belongs_to_whoever_owns_the_home()
    {
        _folder.Make("depot");
        File.WriteAllText(Path.Combine(_folder.Make("source/Letters"), "ida.txt"), "letter");
        Carry().Exit.ShouldBe(0);
        var isRoot = Environment.IsPrivilegedProcess;
        if (isRoot) Run.Must("chown", "1234:1235", _folder.Make("target"));
        Restore().Exit.ShouldBe(0);
        var owner = Run.To("stat", "-c", "%u:%g", _folder["target/Letters"], _folder["target/Letters/ida.txt"]).Out;
        var self = Run.To("stat", "-c", "%u:%g", _folder["source"]).Out.Trim();
        owner.Split('\n', StringSplitOptions.RemoveEmptyEntries).ShouldAllBe(o => o == (isRoot ? "1234:1235" : self));
        var wrong = Run.To(_hand, "restore", "--depot", Depot, "--parcel", "ida", "--to", _folder["other"], "--owner", "no such account");
        (wrong.Exit, Directory.Exists(_folder["other"])).ShouldBe((2, false), wrong.All);
    }

    [Fact]
    public void Where_a_killed_trip_can_never_be_made_again_what_it_had_brought_is_restored_and_nothing_is_called_whole()
    {
        var depot = _folder.Make("depot");
        Many(_folder["source"], 900, seed: 8);
        KillOnce(
            () => Directory.Exists(Path.Combine(depot, "ida/data")) && Directory.EnumerateFiles(
                Path.Combine(depot, "ida/data"), "*", SearchOption.AllDirectories).Skip(100).Any(),
            "carry", "--from", _folder["source"], "--depot", Depot, "--parcel", "ida");
        (Restore().Exit, Restore().Err).ShouldSatisfyAllConditions(
            said => said.Exit.ShouldBe(1), said => said.Err.ShouldContain("restore with --unfinished"));
        var ran = Run.To(_hand, "restore", "--depot", Depot, "--parcel", "ida", "--to", _folder["target"], "--unfinished");
        ran.Exit.ShouldBe(1, ran.All);
        ran.Out.ShouldContain("What was not brought, nobody can say.");
        ran.Out.ShouldNotContain("accounted for");
        var there = Directory.GetFiles(_folder["target"], "*", SearchOption.AllDirectories);
        there.Length.ShouldBeGreaterThan(100);
        foreach (var path in there.Select(f => Path.GetRelativePath(_folder["target"], f)))
            File.ReadAllBytes(Path.Combine(_folder["target"], path)).ShouldBe(File.ReadAllBytes(Path.Combine(_folder["source"], path)));
        Carry().Exit.ShouldBe(0, "a restore takes nothing from the parcel that a trip needs");
        Verify().Exit.ShouldBe(0);
    }

    [Fact]
    public async Task Of_two_hands_on_one_parcel_one_is_refused_and_the_parcel_stays_whole()
    {
        _folder.Make("depot");
        Many(_folder["source"], 1500, seed: 7);
        var both = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ => Task.Run(() => Carry())));
        both.Select(b => b.Exit).ShouldContain(0);
        foreach (var refused in both.Where(b => b.Exit != 0)) refused.Err.ShouldContain("being written to by process");
        Verify().Exit.ShouldBe(0);
    }

    [Fact]
    public void A_real_tree_of_this_machine_goes_over_a_share_and_comes_back_bit_for_bit()
    {
        // Links of both kinds and modes of all sorts, as distributions ship them.
        var least = Seeds.Large(6_000, whole: 20_000);
        var roots = new[] { "/usr/share", "/usr/lib" };
        var parts = new List<string>();
        long names = 0, bytes = 0;
        foreach (var part in roots.SelectMany(r => Directory.GetDirectories(r)).Order(StringComparer.Ordinal))
        {
            var (n, b) = Measure(part);
            if (n < 2 || b > 60_000_000 || bytes + b > 700_000_000) continue;
            parts.Add(part);
            names += n;
            bytes += b;
            if (names > least * 1.15) break;
        }
        names.ShouldBeGreaterThan(least);
        Directory.CreateDirectory(_folder["source"]);
        File.WriteAllLines(_folder["parts"], parts.Select(p => p[1..]));
        Run.Must("sh", "-c", $"tar -C / --posix -cf - -T '{_folder["parts"]}' | tar -xpf - -C '{_folder["source"]}'");
        using var cloud = Run.Start(Run.Bin("yardstand"), ["cloud", "--folder", _folder["cloud"]]);
        try
        {
            var address = cloud.StandardOutput.ReadLine()!.Split(' ')[^1];
            Run.To(_hand, "carry", "--from", _folder["source"], "--depot", address, "--parcel", "real").Exit.ShouldBe(0);
            var verified = Run.To(_hand, "verify", "--depot", address, "--parcel", "real");
            verified.Exit.ShouldBe(0, verified.All);
            Run.To(_hand, "restore", "--depot", address, "--parcel", "real", "--to", _folder["target"]).Exit.ShouldBe(0);
        }
        finally
        {
            cloud.Kill(entireProcessTree: true);
        }
        SampleTrees.Differences(_folder["source"], _folder["target"]).ShouldBeEmpty();

        static (long, long) Measure(string part)
        {
            var sizes = Run.To("find", part, "-printf", "%s\n").Out.Split('\n', StringSplitOptions.RemoveEmptyEntries);
            return (sizes.Length, sizes.Sum(s => long.Parse(s)));
        }
    }

    private static void KillAfter(TimeSpan time, params string[] args)
    {
        using var process = Run.Start("dotnet", [Run.Dll("yardhand"), .. args]);
        process.WaitForExit(time);
        if (!process.HasExited) process.Kill();
        process.WaitForExit();
    }

    private static void KillOnce(Func<bool> isSo, params string[] args)
    {
        using var process = Run.Start("dotnet", [Run.Dll("yardhand"), .. args]);
        SpinWait.SpinUntil(() => process.HasExited || isSo(), Run.Patience).ShouldBeTrue();
        process.HasExited.ShouldBeFalse("it was to be killed on its way");
        process.Kill();
        process.WaitForExit();
    }

    private static void Many(string folder, int files, int seed)
    {
        var random = new Random(seed);
        for (var i = 0; i < files; i++)
        {
            var at = Path.Combine(folder, $"d{i % 23}", $"e{i % 5}", $"f{i}");
            Directory.CreateDirectory(Path.GetDirectoryName(at)!);
            var content = new byte[random.Next(0, 60_000)];
            random.NextBytes(content);
            File.WriteAllBytes(at, content);
            File.SetLastWriteTimeUtc(at, DateTime.UnixEpoch.AddSeconds(random.Next(1_000_000_000)).AddTicks(random.Next(10_000_000)));
        }
    }

    public void Dispose() => _folder.Dispose();
}
