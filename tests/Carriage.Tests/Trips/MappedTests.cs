using System.IO.MemoryMappedFiles;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Files.Simulated;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>Programs that write to files by way of memory, which leaves a trace in a file's times only now and then.</summary>
public sealed class MappedTests
{
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task What_a_program_changes_in_memory_after_a_trip_comes_with_the_next_one(bool seals)
    {
        // The depot is elsewhere: to bring it onto its medium would bring the source onto its own.
        var elsewhere = new SimulatedDisk(TimeProvider.System);
        elsewhere.At("/depot").TryMake(out _)!.Dispose();
        using var given = new Given { Seals = seals };
        given.Depot.Dispose();
        given.Depot = new FolderDepot(elsewhere.At("/depot"));
        var file = Path.Combine(given.Source, "mail.db");
        File.WriteAllBytes(file, new byte[64 * 1024]);
        using (var map = MemoryMappedFile.CreateFromFile(file, FileMode.Open))
        using (var content = map.CreateViewAccessor())
        {
            content.Write(5000, (byte)1);
            // So long that the file's time counts as old.
            await Task.Delay(100, TestContext.Current.CancellationToken);
            (await given.CarryAsync()).IsWhole.ShouldBeTrue();
            content.Write(5000, (byte)2);
        }

        (await given.CarryAsync()).IsWhole.ShouldBeTrue();

        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        File.ReadAllBytes(Path.Combine(given.Target, "mail.db"))[5000].ShouldBe((byte)2);
    }
}
