using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// A trip that a person starts themselves, beside their own work: with low priority, not on battery, resting when they ask for it.
/// </summary>
public sealed class BesideTests : IDisposable
{
    private readonly Yard _yard = new();

    private TempFolder Folder => _yard.Folder;

    private JsonNode? Moving() => JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!["swap"]!["moving"];

    private void Power(bool isMains)
    {
        foreach (var (supply, what, value) in new[]
        {
            ("AC", "type", "Mains"),
            ("AC", "online", isMains ? "1" : "0"),
            ("BAT0", "type", "Battery"),
            ("BAT0", "status", isMains ? "Charging" : "Discharging"),
            ("mouse", "type", "Battery"),
            ("mouse", "scope", "Device"),
            ("mouse", "status", "Discharging")
        })
        {
            Directory.CreateDirectory(Folder[$"power/{supply}"]);
            File.WriteAllText(Folder[$"power/{supply}/{what}"], value + "\n");
        }
    }

    /// <summary>The processes that do an order for this hand; other tests have their own beside these.</summary>
    private List<(int Process, int Nice)> Children() =>
        [.. Run.Must("ps", "-eo", "pid=,ni=,args=")
            .Split('\n')
            .Where(l => l.Contains("--order-from-input", StringComparison.Ordinal)
                && l.Contains(Folder["power"], StringComparison.Ordinal))
            .Select(l => l.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            .Select(w => (int.Parse(w[0]), int.Parse(w[1])))];

    private Task UntilAsync(Func<bool> isSo, string what) => _yard.UntilAsync(_ => Task.FromResult(isSo()), what);

    [Fact]
    public async Task It_waits_on_battery_rests_when_asked_gives_way_and_goes_on_after_a_kill()
    {
        await _yard.StartServiceAsync();
        Directory.CreateDirectory(Folder["disks/KB-1/ida/Documents"]);
        for (var i = 0; i < 20; i++)
            await File.WriteAllBytesAsync(
                Folder[$"disks/KB-1/ida/Documents/{i}.dat"],
                [.. Enumerable.Range(0, 2_000_000).Select(b => (byte)(b * (i + 1)))],
                TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(
            Folder["roster.csv"],
            "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\n",
            TestContext.Current.CancellationToken);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        // Slow enough to be looked at: 2 MB a second.
        _yard.Line("depot", "set", "own", "--name", "Yard store", "--address", "built-in", "--limit", "16");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        await _yard.EnrolAsync();
        Power(isMains: false);
        var hands = _yard.Start("yardhand", [
            "work", "--power", Folder["power"], .. Directory.GetDirectories(Folder["hands"]).SelectMany(h => new[] { "--state", h })
        ]);

        _yard.Line("swap", "order", "first-trip", "spring-0001", "--beside");
        await UntilAsync(() => (string?)Moving()?["waits"] == "battery", "it waits for mains");
        Children().ShouldHaveSingleItem().Nice.ShouldBe(10);
        var before = (long)Moving()!["bytes"]!;
        await Task.Delay(TimeSpan.FromSeconds(2), TestContext.Current.CancellationToken);
        ((long)Moving()!["bytes"]!).ShouldBe(before, "on battery nothing moves");
        Power(isMains: true);
        await UntilAsync(() => Moving() is { } m && m["waits"] is null && (long)m["bytes"]! > before + 3_000_000, "it moves on mains");

        _yard.Line("swap", "pause", "spring-0001").ShouldContain("rests");
        // The hand hears of it with what it tells next, on a busy computer late; did it never rest, soon nothing would be moving here.
        var (looked, rested) = (0L, (long)Moving()!["bytes"]!);
        while (looked != rested)
        {
            await Task.Delay(TimeSpan.FromSeconds(2), TestContext.Current.CancellationToken);
            (looked, rested) = (rested, (long)Moving().ShouldNotBeNull("it went on to its end")["bytes"]!);
        }
        await Task.Delay(TimeSpan.FromSeconds(2), TestContext.Current.CancellationToken);
        ((long)Moving()!["bytes"]!).ShouldBe(rested, "while it rests nothing moves");
        Moving()!["pausedAt"].ShouldNotBeNull();
        // Killed while it rests, the hand goes on with the same order, and still rests.
        var child = Children().Single().Process;
        Run.Must("kill", "-9", $"{child}");
        await UntilAsync(() => Children() is [{ } next] && next.Process != child, "the hand does the order anew");
        await Task.Delay(TimeSpan.FromSeconds(2), TestContext.Current.CancellationToken);
        Moving()!["pausedAt"].ShouldNotBeNull();
        _yard.Line("depot", "set", "own", "--limit", "").ShouldContain("limits: 16 → nothing");
        _yard.Line("swap", "resume", "spring-0001").ShouldContain("goes on");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        var shown = JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!;
        ((bool?)shown["parcel"]!["verified"]).ShouldBe(true, _yard.Said);
        shown["total"]!["inDepot"]!["files"]!.GetValue<int>().ShouldBe(20);
        // The service has the result a moment before the process that told it ends.
        await UntilAsync(() => Children().Count == 0, "whoever did the order has ended");
        foreach (var said in new[] { "beside the person's own work", "let rest", "let go on" })
            _yard.Line("ledger", "show").ShouldContain(said);

        // Whoever gave the order is killed: nobody goes on writing for it.
        await File.WriteAllBytesAsync(
            Folder["disks/KB-1/ida/Documents/more.dat"], new byte[30_000_000], TestContext.Current.CancellationToken);
        Power(isMains: false);
        _yard.Line("swap", "order", "top-up-trip", "spring-0001", "--beside");
        await UntilAsync(() => Children().Count == 1, "it began");
        Yard.Kill(hands);
        await UntilAsync(() => Children().Count == 0, "nobody goes on writing");
    }

    public void Dispose() => _yard.Dispose();
}
