using Microsoft.Extensions.Time.Testing;
using YardRelay.Files.Simulated;
using YardRelay.Peers;

namespace YardRelay.Files.Tests.Simulated;

public sealed class SimulatedDiskTests
{
    public static IEnumerable<TheoryDataRow<int>> Lives => Seeds.Of(40).Select(s => new TheoryDataRow<int>(s));

    [Theory, MemberData(nameof(Lives))]
    public void The_same_calls_get_the_same_answers_as_from_Linux_and_leave_the_same_tree(int seed)
    {
        using var folder = new TempFolder();
        using var real = TreeRoot.Here(folder.At).Open();
        using var simulated = new SimulatedDisk(TimeProvider.System).At("/").Open();
        var (there, here) = (new RandomCalls(real, seed), new RandomCalls(simulated, seed));
        for (var call = 0; call < 300; call++) here.Next().ShouldBe(there.Next(), $"call {call}");
        SeenTree.Of(simulated).ShouldBe(SeenTree.Of(real));
    }

    [Fact]
    public void Each_change_bears_a_later_time_than_the_one_before_however_still_the_clock_stands()
    {
        using var top = new SimulatedDisk(new FakeTimeProvider()).At("/").Open();
        using var file = top.OpenFileAt("file"u8, FileUse.MakeNew);
        var before = file.Facts().Changed;
        file.Write(0, "x"u8);
        file.Facts().Changed.ShouldNotBe(before);
    }

    [Fact]
    public void A_call_that_a_test_has_fail_changes_nothing()
    {
        var disk = new SimulatedDisk(TimeProvider.System);
        using var top = disk.At("/").Open();
        top.OpenFileAt("file"u8, FileUse.MakeNew).Dispose();
        disk.Fails = call => call is { What: "rename", Path: "/file" } ? Fault.Broken : Fault.None;
        top.TryRename("file"u8, top, "other"u8, replace: false, out var trouble).ShouldBeFalse();
        trouble.Fault.ShouldBe(Fault.Broken);
        top.Names().ShouldHaveSingleItem().ShouldBe("file"u8.ToArray());
    }

    [Fact]
    public void A_full_disk_says_so_and_keeps_what_it_has()
    {
        var disk = new SimulatedDisk(TimeProvider.System) { Bytes = 10_000 };
        using var top = disk.At("/").Open();
        using var file = top.OpenFileAt("file"u8, FileUse.Read | FileUse.MakeNew);
        file.Write(0, new byte[5000]);
        Should.Throw<FileTroubleException>(() => file.Write(5000, new byte[5000])).Fault.ShouldBe(Fault.Full);
        file.Facts().Bytes.ShouldBe(5000);
    }
}
