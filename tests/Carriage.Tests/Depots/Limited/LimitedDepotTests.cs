using Microsoft.Extensions.Time.Testing;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots.Limited;

public sealed class LabelledDiskTests
{
    [Fact]
    public async Task Only_the_disk_with_the_label_is_taken_and_an_empty_place_to_mount_it_is_not_filled()
    {
        using var folder = new TempFolder();
        using (var empty = DepotAddress.Open($"file://{folder.At}#KB%20disk%203").Value)
        {
            (await Should.ThrowAsync<DepotUnreachableException>(() =>
                empty.MakeFoldersAsync(DepotPath.Of("ida"), TestContext.Current.CancellationToken))).Message
                .ShouldContain("no disk labelled 'KB disk 3' is there");
            Directory.GetFileSystemEntries(folder.At).ShouldBeEmpty();
        }
        FolderDepot.Label(TreeRoot.Here(folder.At), "KB disk 3").ShouldBeNull();
        FolderDepot.Label(TreeRoot.Here(folder.At), "KB disk 3").ShouldBeNull("the same again");
        FolderDepot.Label(TreeRoot.Here(folder.At), "KB disk 4")!.Message.ShouldContain("keeps it");
        FolderDepot.Label(TreeRoot.Here(folder.At), " ")!.Code.ShouldBe("disk.label");
        using (var right = DepotAddress.Open($"file://{folder.At}#KB%20disk%203").Value)
            await right.MakeFoldersAsync(DepotPath.Of("ida"), TestContext.Current.CancellationToken);
        using var wrong = DepotAddress.Open($"file://{folder.At}#KB%20disk%204").Value;
        (await Should.ThrowAsync<DepotUnreachableException>(() => wrong.ProbeAsync(TestContext.Current.CancellationToken))).Message
            .ShouldContain("labelled 'KB disk 3', not 'KB disk 4'");
        Directory.Exists(folder["ida"]).ShouldBeTrue();
    }
}

public sealed class LimitedDepotTests
{
    /// <summary>Moves a clock by hand until a task is done, and says how much time that took by this clock.</summary>
    private static async Task<TimeSpan> ElapsedAsync(FakeTimeProvider clock, Task work, TimeSpan most)
    {
        var started = clock.GetTimestamp();
        while (!work.IsCompleted && clock.GetElapsedTime(started) < most)
        {
            clock.Advance(TimeSpan.FromMilliseconds(10));
            await Task.Delay(1, TestContext.Current.CancellationToken);
        }
        return clock.GetElapsedTime(started);
    }

    [Fact]
    public async Task Several_at_once_together_go_no_faster_than_the_gate_and_not_much_slower()
    {
        var clock = new FakeTimeProvider();
        var gate = new RateGate(new ThreadWork(clock)) { BytesPerSecond = 1_000_000 };
        async Task SendAsync()
        {
            for (var i = 0; i < 25; i++) await gate.PassAsync(40_000, TestContext.Current.CancellationToken);
        }

        var took = await ElapsedAsync(clock, Task.WhenAll(SendAsync(), SendAsync(), SendAsync()), TimeSpan.FromSeconds(10));
        took.TotalSeconds.ShouldBeInRange(2.4, 4.0, "3 MB at 1 MB/s, half a second in advance");
    }

    [Fact]
    public async Task Nothing_passes_while_nothing_may_and_what_waits_goes_on_when_the_rate_changes()
    {
        var clock = new FakeTimeProvider();
        var gate = new RateGate(new ThreadWork(clock)) { BytesPerSecond = 0 };
        var passing = gate.PassAsync(10, TestContext.Current.CancellationToken).AsTask();
        (await ElapsedAsync(clock, passing, TimeSpan.FromSeconds(3))).TotalSeconds.ShouldBeGreaterThanOrEqualTo(3);
        passing.IsCompleted.ShouldBeFalse();
        gate.BytesPerSecond = null;
        (await ElapsedAsync(clock, passing, TimeSpan.FromSeconds(3))).TotalSeconds.ShouldBeLessThan(1);
        passing.IsCompletedSuccessfully.ShouldBeTrue();
    }
}
