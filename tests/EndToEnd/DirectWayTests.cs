using System.Diagnostics;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>Old hand to new hand without a depot between: paired by a code, and whole whatever is killed.</summary>
public sealed class DirectWayTests : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly List<Process> _running = [];

    private static string Hand => Run.Dll("yardhand");

    private (Process Receiver, string Code, string At) Receive()
    {
        var receiver = Run.Start("dotnet", [Hand, "receive", "--into", _folder["spool"], "--listen", "127.0.0.1", "--port", "0"]);
        _running.Add(receiver);
        string Line(string of)
        {
            for (string? line; (line = receiver.StandardOutput.ReadLine()) is not null;)
                if (line.StartsWith(of, StringComparison.Ordinal)) return line[of.Length..].Trim();
            throw new InvalidOperationException(receiver.StandardError.ReadToEnd());
        }

        var (code, at) = (Line("Code"), Line("At"));
        _ = receiver.StandardOutput.ReadToEndAsync();
        return (receiver, code, at);
    }

    private static Dictionary<string, string> With(string code) => new() { ["YARD_DIRECT_CODE"] = code };

    private Ran Carry(string at, string? code) =>
        Run.With(code is null ? null : With(code), "dotnet", Hand, "carry", "--from", _folder["source"], "--depot", at, "--parcel", "ida");

    [Fact]
    public void A_parcel_goes_straight_to_the_new_computer_though_both_ends_are_killed_at_five_moments_each()
    {
        SampleTrees.MakeHostile(_folder.Make("source"), 11, 150);
        var film = new byte[60_000_000];
        new Random(2).NextBytes(film);
        File.WriteAllBytes(_folder["source/film.mov"], film);
        var random = new Random(4);
        var (receiver, code, at) = Receive();
        for (var moment = 0; moment < 5; moment++)
        {
            using var sender = Run.Start(
                "dotnet", [Hand, "carry", "--from", _folder["source"], "--depot", at, "--parcel", "ida"], With(code));
            if (!sender.WaitForExit(random.Next(400, 1500))) sender.Kill();
            sender.WaitForExit();
            var again = Run.Start("dotnet", [Hand, "carry", "--from", _folder["source"], "--depot", at, "--parcel", "ida"], With(code));
            Thread.Sleep(random.Next(300, 1200));
            receiver.Kill();
            receiver.WaitForExit();
            again.Kill();
            again.WaitForExit();
            again.Dispose();
            // A new receiver has a new code, and what came so far lies there.
            (receiver, code, at) = Receive();
        }
        var carried = Carry(at, code);
        carried.Exit.ShouldBe(0, carried.All);
        Run.Must("dotnet", Hand, "verify", "--depot", "file://" + _folder["spool"], "--parcel", "ida").ShouldContain("whole");
        Run.Must("dotnet", Hand, "restore", "--depot", "file://" + _folder["spool"], "--parcel", "ida", "--to", _folder["target"]);
        SampleTrees.Differences(_folder["source"], _folder["target"]).ShouldBeEmpty();
        Directory.GetFileSystemEntries(_folder["spool"]).Select(Path.GetFileName).Order().ShouldBe([".yard-dav", "ida"]);
    }

    [Fact]
    public void Without_the_right_code_nothing_is_sent_and_nothing_received()
    {
        File.WriteAllText(Path.Combine(_folder.Make("source"), "letter.txt"), "letter");
        var (_, code, at) = Receive();
        var none = Carry(at, null);
        (none.Exit, none.Err.Contains("yardhand receive", StringComparison.Ordinal)).ShouldBe((2, true), none.All);
        Carry(at, "AAAA-BBBB").Exit.ShouldBe(2);
        var wrong = Carry(at, (code[0] == 'A' ? "B" : "A") + code[1..]);
        (wrong.Exit, wrong.Err.Contains("has another code", StringComparison.Ordinal)).ShouldBe((3, true), wrong.All);
        // Whoever takes any certificate still needs the password that comes of the code.
        Run.Must(
            "curl", "-sk", "-o", _folder["answer"], "-w", "%{http_code}", "-T", _folder["source/letter.txt"], "-u", "hand:guess",
            at.Replace("direct://", "https://", StringComparison.Ordinal) + "/letter.txt")
            .ShouldBe("401");
        Directory.GetFileSystemEntries(_folder["spool"]).Select(Path.GetFileName).ShouldBe([".yard-dav"]);
        Carry(at, code.ToLowerInvariant().Replace("-", " ", StringComparison.Ordinal)).Exit.ShouldBe(0);
    }

    [Fact]
    public void What_a_killed_try_of_the_folder_left_there_is_gone_when_it_receives_again()
    {
        File.WriteAllText(Path.Combine(_folder.Make("spool/yard-probe-96f7ebac0419"), "case"), "");
        _folder.Make("elsewhere");
        Directory.CreateSymbolicLink(_folder["spool/yard-probe-of-another"], _folder["elsewhere"]);
        File.WriteAllText(_folder["elsewhere/letter"], "not ours");
        Receive();
        Directory.GetFileSystemEntries(_folder["spool"]).Select(Path.GetFileName).ShouldBe([".yard-dav"]);
        File.ReadAllText(_folder["elsewhere/letter"]).ShouldBe("not ours");
    }

    public void Dispose()
    {
        foreach (var process in _running)
        {
            if (!process.HasExited) process.Kill();
            process.Dispose();
        }
        _folder.Dispose();
    }
}
