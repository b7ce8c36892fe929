using YardRelay.Files.Linux;

namespace YardRelay.Files;

/// <summary>A side of the seam: how one kind of system is asked about its files.</summary>
public abstract class FileSystem
{
    /// <summary>
    /// That of the computer on which this runs. With <c>YARD_FILES=posix</c> in its environment Linux is asked like a system that has
    /// nothing but POSIX; it is slower, and says less of where bytes come from.
    /// </summary>
    public static FileSystem OfThisComputer { get; } =
        OperatingSystem.IsMacOS() || Environment.GetEnvironmentVariable("YARD_FILES") == "posix"
            ? Posix.PosixFileSystem.Here
            : new LinuxFileSystem();

    /// <summary>Opens the folder at a path of this system, which may run through links: it is what a person named.</summary>
    public abstract OpenFolder? TryOpenRoot(string path, out Trouble trouble);

    /// <summary>The path of the folder in which a path's last name stands; null at the top.</summary>
    public abstract string? Above(string path);

    /// <summary>The path of what a path leads to, without any link on the way; the path itself where nothing can be told.</summary>
    public abstract string Resolved(string path);

    /// <summary>The account of that name with its own group; null: this computer knows none.</summary>
    public abstract NodeOwner? TryFindAccount(string name);

    /// <summary>A path's last name, as the system has it.</summary>
    public abstract byte[] NameOf(string path);
}
