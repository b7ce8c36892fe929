using System.IO.MemoryMappedFiles;
using YardRelay.Files.Linux;
using YardRelay.Files.Posix;
using YardRelay.Peers;

namespace YardRelay.Files.Tests;

/// <summary>A real disk that does not hold what the kernel took for it, asked by each side.</summary>
public sealed class FailingDiskTests : IDisposable
{
    private readonly SmallDisk _disk;

    public FailingDiskTests()
    {
        Assert.SkipUnless(SmallDisk.MayBeMade, "Nothing may be mounted here.");
        _disk = new(64 << 20, holds: 6 << 20);
    }

    private TreeRoot Root(bool byPosix) => new(byPosix ? PosixFileSystem.Here : new LinuxFileSystem(), _disk.At);

    private static void Write(OpenFolder folder, string name, int bytes)
    {
        using var file = folder.OpenFileAt(System.Text.Encoding.UTF8.GetBytes(name), FileUse.MakeNew);
        var content = new byte[bytes];
        new Random(name.Length).NextBytes(content);
        file.Write(0, content);
    }

    [Theory, InlineData(false), InlineData(true)]
    public void What_the_disk_did_not_take_is_told_to_whoever_had_it_open_though_the_files_are_closed(bool byPosix)
    {
        using var top = Root(byPosix).Open();
        for (var i = 0; i < 200; i++) Write(top, $"file {i}", 100_000);
        Should.Throw<FileTroubleException>(top.Sync).Fault.ShouldBeOneOf(Fault.Broken, Fault.Full);
    }

    [Theory, InlineData(false), InlineData(true)]
    public void What_it_takes_is_there_when_it_is_mounted_anew(bool byPosix)
    {
        using (var top = Root(byPosix).Open())
        {
            top.TryMakeFolder("kept"u8, 0x1ED, out _).ShouldBeTrue();
            using (var kept = top.OpenFolderAt("kept"u8)) Write(kept, "letter", 100_000);
            top.TryRename("kept"u8, top, "kept on"u8, replace: false, out _).ShouldBeTrue();
            top.Sync();
        }
        _disk.MountAgain();
        using var again = Root(byPosix).Open();
        using var letter = again.OpenFileAt("kept on/letter"u8, FileUse.Read);
        letter.Facts().Bytes.ShouldBe(100_000);
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task What_another_program_changes_in_its_memory_after_a_sync_leaves_a_trace(bool byPosix)
    {
        using var top = Root(byPosix).Open();
        Write(top, "mail", 8192);
        using var map = MemoryMappedFile.CreateFromFile(Path.Combine(_disk.At, "mail"), FileMode.Open);
        using var content = map.CreateViewAccessor();
        content.Write(5000, (byte)1);
        top.Sync();
        var before = top.TryFacts("mail"u8, out _)!.Value.Modified;
        await Task.Delay(50, TestContext.Current.CancellationToken);
        content.Write(5000, (byte)2);
        top.TryFacts("mail"u8, out _)!.Value.Modified.ShouldNotBe(before);
    }

    public void Dispose() => _disk.Dispose();
}
