namespace YardRelay.Peers;

/// <summary>
/// A real file system on a disk of its own, mounted where the test may: a file in memory plays the disk. It can hold less than it says,
/// so that the kernel takes what is written, and the disk does not.
/// </summary>
public sealed class SmallDisk : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly string _behind, _disk;
    private readonly List<string> _mounted = [];

    /// <param name="bytes">What it says that it holds.</param>
    /// <param name="holds">What it holds; less than that: it fails once that is full.</param>
    public SmallDisk(long bytes, long? holds = null)
    {
        (_behind, _disk, At) = (_folder.Make("behind"), _folder["behind/disk"], _folder.Make("mount"));
        Mount("-t", "tmpfs", "-o", $"size={holds ?? (bytes * 2)}", "tmpfs", _behind);
        using (var disk = File.Create(_disk)) disk.SetLength(bytes);
        // Without a journal, so that what fails is what was written and nothing else.
        Must("/usr/sbin/mkfs.ext4", "-q", "-O", "^has_journal", "-m", "0", _disk);
        Mount("-o", "loop", _disk, At);
    }

    /// <summary>Whether a test may mount something: most containers forbid it.</summary>
    public static bool MayBeMade { get; } = TryMount();

    private static bool TryMount()
    {
        using var folder = new TempFolder();
        if (Run.To("mount", "-t", "tmpfs", "tmpfs", folder.At).Exit != 0) return false;
        Run.Quietly("umount", folder.At);
        return File.Exists("/dev/loop-control");
    }

    private const int MostTries = 100;
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(100);

    public string At { get; }

    private static void Must(string program, params string[] args)
    {
        var done = Run.To(program, args);
        if (done.Exit != 0) throw new InvalidOperationException(done.All);
    }

    /// <summary>
    /// Does it once nobody has a file open there: a program that another test begins at this moment has all that is open here, for as long
    /// as it takes to become that program.
    /// </summary>
    private static void MustOnceFree(string program, params string[] args)
    {
        for (var tries = 0; Run.To(program, args) is { Exit: not 0 } busy; tries++)
        {
            if (tries == MostTries) throw new InvalidOperationException(busy.All);
            Thread.Sleep(Pause);
        }
    }

    private void Mount(params string[] args)
    {
        Must("mount", args);
        _mounted.Add(args[^1]);
    }

    /// <summary>From now on it holds what it says, and more.</summary>
    public void Mend() => Must("mount", "-o", "remount,size=1g", _behind);

    /// <summary>From now on nothing can be written to it.</summary>
    public void Shut() => MustOnceFree("mount", "-o", "remount,ro", At);

    /// <summary>Takes it away and mounts it again: what is in memory only is gone.</summary>
    public void MountAgain()
    {
        MustOnceFree("umount", At);
        Must("mount", "-o", "loop", _disk, At);
    }

    public void Dispose()
    {
        foreach (var mounted in Enumerable.Reverse(_mounted)) Run.Quietly("umount", "-l", mounted);
        _folder.Dispose();
    }
}
