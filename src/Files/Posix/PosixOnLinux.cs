using System.Runtime.InteropServices;
using YardRelay.Files.Linux;

namespace YardRelay.Files.Posix;

/// <summary>
/// Linux as far as POSIX goes: so this side is tried by the same tests as the other one. Numbers and layouts are those of the GNU C library
/// for 64-bit systems.
/// </summary>
internal sealed unsafe partial class PosixOnLinux : PosixSystem
{
    public override PosixNumbers Numbers { get; } = new()
    {
        Create = 0x40,
        Exclusive = 0x80,
        NonBlock = 0x800,
        // The two processors number these two differently.
        Directory = IsArm ? 0x4000 : 0x10000,
        NoFollow = IsArm ? 0x8000 : 0x20000,
        CloseOnExec = 0x80000,
        Current = -100,
        AtNoFollow = 0x100,
        AtRemoveFolder = 0x200,
        Omit = 0x3ffffffe,
        SeekData = 3,
        SeekHole = 4,
        WouldWait = 11,
        NoAttribute = 61,
    };

    public override StatFields Stat { get; } = new()
    {
        Device = new(0, 8),
        Inode = new(8, 8),
        Mode = new(IsArm ? 16 : 24, 4),
        Links = IsArm ? new(20, 4) : new(16, 8),
        User = new(IsArm ? 24 : 28, 4),
        Group = new(IsArm ? 28 : 32, 4),
        Bytes = new(48, 8),
        Blocks = new(64, 8),
        Modified = new(88, 8),
        Changed = new(104, 8),
        Born = null,
    };

    /// <summary><c>struct statvfs</c>.</summary>
    public override VolumeFields Volume { get; } = new(
        Unit: new(8, 8), Blocks: new(16, 8), Free: new(24, 8), Available: new(32, 8), Id: new(64, 8));

    public override int DirentName => 19;

    private static bool IsArm => RuntimeInformation.ProcessArchitecture == Architecture.Arm64;

    public override Trouble Trouble(int errno) => LinuxTrouble.Of(errno);

    public override int OpenAt(int folder, byte* name, int flags, uint mode) => openat(folder, name, flags, mode);

    public override int StatAt(int folder, byte* name, byte* into) => fstatat(folder, name, into, Numbers.AtNoFollow);

    public override int StatOf(int handle, byte* into) => fstat(handle, into);

    public override int VolumeOf(int handle, byte* into) => fstatvfs(handle, into);

    public override nint OpenList(int handle) => fdopendir(handle);

    public override byte* Next(nint list) => readdir(list);

    public override bool TryRenameIfFree(int fromFolder, byte* from, int toFolder, byte* to, out int answer)
    {
        answer = 0;
        return false;
    }

    public override int SyncFile(int handle) => PosixCalls.fsync(handle);

    // Of all media, and it waits for them; what came of it, it does not say.
    public override int SyncVolume(int handle)
    {
        sync();
        return 0;
    }

    public override bool KeepsModes(int handle) => LinuxMedia.KeepsModes(handle);

    public override nint ListAttributes(int handle, byte* into, nuint size) => flistxattr(handle, into, size);

    public override nint ReadAttribute(int handle, byte* name, byte* into, nuint size) => fgetxattr(handle, name, into, size);

    public override int SetAttribute(int handle, byte* name, byte* value, nuint size) => fsetxattr(handle, name, value, size, 0);

    public override int RemoveAttribute(int handle, byte* name) => fremovexattr(handle, name);

    [LibraryImport("libc")]
    private static partial void sync();

    [LibraryImport("libc", SetLastError = true)]
    private static partial int openat(int folder, byte* path, int flags, uint mode);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fstatat(int folder, byte* path, byte* into, int flags);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fstat(int handle, byte* into);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fstatvfs(int handle, byte* into);

    [LibraryImport("libc", SetLastError = true)]
    private static partial nint fdopendir(int handle);

    [LibraryImport("libc", SetLastError = true)]
    private static partial byte* readdir(nint list);

    [LibraryImport("libc", SetLastError = true)]
    private static partial nint flistxattr(int handle, byte* into, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    private static partial nint fgetxattr(int handle, byte* name, byte* into, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fsetxattr(int handle, byte* name, byte* value, nuint size, int flags);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fremovexattr(int handle, byte* name);
}
