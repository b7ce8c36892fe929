using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

// All that crosses over is plain numbers and pointers: the calls can be compiled ahead.
[assembly: DisableRuntimeMarshalling]

namespace YardRelay.Files.Linux;

/// <summary>
/// The system's own calls, for what the framework cannot say: names as bytes, links never followed, nanoseconds, holes, attributes.
/// </summary>
internal static unsafe partial class Libc
{
    public const int AtCurrent = -100;
    public const int Create = 0x40;
    public const int Exclusive = 0x80;
    public const int NonBlock = 0x800;
    public const int Directory = 0x10000;
    public const int NoFollow = 0x20000;
    public const int NoAccessTime = 0x40000;
    public const int CloseOnExec = 0x80000;
    public const int PathOnly = 0x200000;
    public const int Unnamed = 0x400000 | Directory;
    public const int AtNoFollow = 0x100;
    public const int AtRemoveFolder = 0x200;
    public const int AtFollow = 0x400;
    public const int AtEmptyPath = 0x1000;

    /// <summary><c>AT_STATX_FORCE_SYNC</c>: a server is asked, whatever is still known of its answer before.</summary>
    public const int AtForceSync = 0x2000;
    public const uint RenameNoReplace = 1;
    public const uint BasicStats = 0x7ff;
    public const uint BirthTime = 0x800;

    /// <summary>ENODATA.</summary>
    public const int NoAttribute = 61;

    /// <summary>UTIME_OMIT: this time stays.</summary>
    public const long Omit = 0x3ffffffe;

    /// <summary>POSIX_FADV_DONTNEED.</summary>
    public const int NotNeeded = 4;

    /// <summary>EWOULDBLOCK.</summary>
    public const int WouldWait = 11;

    public const int MapRead = 1;
    public const int MapShared = 1;

    public const int SeekStart = 0;
    public const int SeekData = 3;
    public const int SeekHole = 4;
    private const ulong ResolveNoSymlinks = 0x04;
    private const ulong ResolveBeneath = 0x08;
    private const long OpenAt2Number = 437;

    [StructLayout(LayoutKind.Sequential)]
    private struct OpenHow
    {
        public ulong Flags;
        public ulong Mode;
        public ulong Resolve;
    }

    /// <summary><c>struct statx</c> of linux/stat.h.</summary>
    [StructLayout(LayoutKind.Sequential, Size = 256)]
    public struct StatX
    {
        public uint Mask;
        public uint BlockBytes;
        public ulong Attributes;
        public uint Links;
        public uint User;
        public uint Group;
        public ushort Mode;
        public ushort Spare;
        public ulong Inode;
        public ulong Bytes;
        public ulong Blocks;
        public ulong AttributesMask;
        public TimeX Accessed;
        public TimeX Born;
        public TimeX Changed;
        public TimeX Modified;
        public uint RawMajor;
        public uint RawMinor;
        public uint DeviceMajor;
        public uint DeviceMinor;
    }

    [StructLayout(LayoutKind.Sequential)]
    public struct TimeX
    {
        public long Seconds;
        public uint Nanos;
        public int Spare;
    }

    /// <summary><c>struct statfs</c> of sys/vfs.h on 64-bit systems.</summary>
    [StructLayout(LayoutKind.Sequential, Size = 120)]
    public struct StatFs
    {
        public long Type;
        public long BlockBytes;
        public ulong Blocks;
        public ulong Free;
        public ulong Available;
        public ulong Files;
        public ulong FreeFiles;
        public ulong Id;
    }

    /// <summary>Opens beneath a folder, never through a link and never out of it.</summary>
    public static int OpenBeneath(int folder, byte* path, int flags, uint mode)
    {
        var how = new OpenHow
        {
            Flags = (ulong)(uint)(flags | CloseOnExec),
            Mode = (flags & (Create | (Unnamed & ~Directory))) != 0 ? mode : 0,
            Resolve = ResolveNoSymlinks | ResolveBeneath
        };
        return (int)openat2(OpenAt2Number, folder, path, &how, (nuint)sizeof(OpenHow));
    }

    [LibraryImport("libc", EntryPoint = "syscall", SetLastError = true)]
    private static partial long openat2(long number, int folder, byte* path, OpenHow* how, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int openat(int folder, byte* path, int flags, uint mode);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int statx(int folder, byte* path, int flags, uint mask, StatX* into);

    [LibraryImport("libc", SetLastError = true)]
    public static partial nint getdents64(int handle, byte* into, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int renameat2(int fromFolder, byte* from, int toFolder, byte* to, uint flags);

    [LibraryImport("libc", SetLastError = true)]
    public static partial nint flistxattr(int handle, byte* into, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    public static partial nint fgetxattr(int handle, byte* name, byte* into, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int fsetxattr(int handle, byte* name, byte* value, nuint size, int flags);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int fremovexattr(int handle, byte* name);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int syncfs(int handle);

    [LibraryImport("libc", EntryPoint = "posix_fadvise64")]
    public static partial int posix_fadvise(int handle, long offset, long bytes, int advice);

    [LibraryImport("libc", EntryPoint = "mmap64", SetLastError = true)]
    public static partial nint mmap(nint address, nuint bytes, int use, int flags, int handle, long offset);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int munmap(nint address, nuint bytes);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int mincore(nint address, nuint bytes, byte* pages);

    [LibraryImport("libc", EntryPoint = "fstatfs64", SetLastError = true)]
    public static partial int fstatfs(int handle, StatFs* into);
}
