using System.Runtime.InteropServices;

namespace YardRelay.Files.Posix;

/// <summary>
/// macOS from 11 on, by Apple's headers of fcntl.h, sys/stat.h, sys/dirent.h, sys/mount.h, sys/xattr.h and sys/errno.h. It is built,
/// and was never run on one.
/// </summary>
/// <remarks>
/// On Apple's arm64 what follows the named arguments of a call like <c>openat(int, const char *, int, ...)</c> lies on the stack, in eight
/// bytes each, and not in a register as it does elsewhere. Registers take eight arguments; a ninth lies on the stack at that very place.
/// So such a call is given five that nobody reads before the one that matters. On Intel it lies in its register as everywhere; there the
/// calls whose structures have an inode of 64 bits bear longer names.
/// </remarks>
internal sealed unsafe partial class PosixOnApple : PosixSystem
{
    private const int RenameIfFree = 4; // RENAME_EXCL
    private const int Invalid = 22; // EINVAL
    private const int NotSupported = 45; // ENOTSUP
    private const int Whole = 1 | 2; // SYNC_VOLUME_FULLSYNC, SYNC_VOLUME_WAIT
    private const int FullSync = 51; // F_FULLFSYNC, which has no third argument
    private const int TypeName = 72;
    private const int NoFollow = 0x20; // AT_SYMLINK_NOFOLLOW

    private static readonly bool _isArm = RuntimeInformation.ProcessArchitecture == Architecture.Arm64;

    private static readonly delegate* unmanaged<int, byte*, int, nint, nint, nint, nint, nint, nuint, int> _openAtOnArm =
        (delegate* unmanaged<int, byte*, int, nint, nint, nint, nint, nint, nuint, int>)
            (_isArm ? NativeLibrary.GetExport(NativeLibrary.Load("libc"), "openat") : 0);

    public override PosixNumbers Numbers { get; } = new()
    {
        Create = 0x200,
        Exclusive = 0x800,
        NonBlock = 4,
        Directory = 0x100000,
        NoFollow = 0x100,
        CloseOnExec = 0x1000000,
        Current = -2,
        AtNoFollow = NoFollow,
        AtRemoveFolder = 0x80,
        Omit = -2,
        SeekData = 4,
        SeekHole = 3,
        WouldWait = 35,
        NoAttribute = 93,
    };

    public override StatFields Stat { get; } = new()
    {
        Device = new(0, 4),
        Mode = new(4, 2),
        Links = new(6, 2),
        Inode = new(8, 8),
        User = new(16, 4),
        Group = new(20, 4),
        Modified = new(48, 8),
        Changed = new(64, 8),
        Born = new(80, 8),
        Bytes = new(96, 8),
        Blocks = new(104, 8),
    };

    /// <summary><c>struct statfs</c>: its <c>statvfs</c> counts blocks in 32 bits.</summary>
    public override VolumeFields Volume { get; } = new(
        Unit: new(0, 4), Blocks: new(8, 8), Free: new(16, 8), Available: new(24, 8), Id: new(48, 8));

    public override int DirentName => 21;

    public override Trouble Trouble(int errno) => new(
        errno switch
        {
            0 => Fault.None,
            1 => Fault.NotOwner, // EPERM
            2 => Fault.NotThere, // ENOENT
            5 => Fault.Broken, // EIO
            13 => Fault.Shut, // EACCES
            16 or 26 => Fault.InUse, // EBUSY, ETXTBSY
            17 => Fault.Taken, // EEXIST
            18 => Fault.OtherFileSystem, // EXDEV
            20 => Fault.NotAFolder, // ENOTDIR
            21 => Fault.IsAFolder, // EISDIR
            Invalid or 92 => Fault.Invalid, // EINVAL, EILSEQ
            28 or 69 => Fault.Full, // ENOSPC, EDQUOT
            63 => Fault.NameTooLong, // ENAMETOOLONG
            66 => Fault.NotEmpty, // ENOTEMPTY
            62 => Fault.ThroughLink, // ELOOP
            NotSupported or 78 or 102 => Fault.NotSupported, // ENOTSUP, ENOSYS, EOPNOTSUPP
            60 => Fault.TimedOut, // ETIMEDOUT
            70 => Fault.GoneMeanwhile, // ESTALE
            _ => Fault.Other,
        },
        errno);

    public override int OpenAt(int folder, byte* name, int flags, uint mode) =>
        _isArm ? OpenAtOnArm(folder, name, flags, mode) : OpenAtOnIntel(folder, name, flags, mode);

    public override int StatAt(int folder, byte* name, byte* into) =>
        _isArm ? StatAtOnArm(folder, name, into, NoFollow) : StatAtOnIntel(folder, name, into, NoFollow);

    public override int StatOf(int handle, byte* into) => _isArm ? StatOnArm(handle, into) : StatOnIntel(handle, into);

    public override int VolumeOf(int handle, byte* into) => _isArm ? VolumeOnArm(handle, into) : VolumeOnIntel(handle, into);

    public override nint OpenList(int handle) => _isArm ? OpenListOnArm(handle) : OpenListOnIntel(handle);

    public override byte* Next(nint list) => _isArm ? NextOnArm(list) : NextOnIntel(list);

    public override bool TryRenameIfFree(int fromFolder, byte* from, int toFolder, byte* to, out int answer)
    {
        answer = renameatx_np(fromFolder, from, toFolder, to, RenameIfFree);
        return answer == 0 || Marshal.GetLastPInvokeError() is not (NotSupported or Invalid);
    }

    /// <summary>Its <c>fsync</c> leaves content in the drive's own memory; not each file system knows the call that does not.</summary>
    public override int SyncFile(int handle) => fcntl(handle, FullSync) == 0 ? 0 : PosixCalls.fsync(handle);

    public override int SyncVolume(int handle) => fsync_volume_np(handle, Whole);

    /// <summary>By <c>f_fstypename</c>, sixteen bytes at 72.</summary>
    public override bool KeepsModes(int handle)
    {
        var into = stackalloc byte[VolumeFields.MostBytes];
        return VolumeOf(handle, into) == 0
            && MemoryMarshal.CreateReadOnlySpanFromNullTerminated(into + TypeName) is var type
            && (type.SequenceEqual("apfs"u8) || type.SequenceEqual("hfs"u8));
    }

    public override nint ListAttributes(int handle, byte* into, nuint size) => flistxattr(handle, into, size, 0);

    public override nint ReadAttribute(int handle, byte* name, byte* into, nuint size) => fgetxattr(handle, name, into, size, 0, 0);

    public override int SetAttribute(int handle, byte* name, byte* value, nuint size) => fsetxattr(handle, name, value, size, 0, 0);

    public override int RemoveAttribute(int handle, byte* name) => fremovexattr(handle, name, 0);

    private static int OpenAtOnArm(int folder, byte* name, int flags, uint mode)
    {
        Marshal.SetLastSystemError(0);
        var opened = _openAtOnArm(folder, name, flags, 0, 0, 0, 0, 0, mode);
        Marshal.SetLastPInvokeError(Marshal.GetLastSystemError());
        return opened;
    }

    [LibraryImport("libc", EntryPoint = "openat", SetLastError = true)]
    private static partial int OpenAtOnIntel(int folder, byte* path, int flags, uint mode);

    [LibraryImport("libc", EntryPoint = "fstatat", SetLastError = true)]
    private static partial int StatAtOnArm(int folder, byte* path, byte* into, int flags);

    [LibraryImport("libc", EntryPoint = "fstatat$INODE64", SetLastError = true)]
    private static partial int StatAtOnIntel(int folder, byte* path, byte* into, int flags);

    [LibraryImport("libc", EntryPoint = "fstat", SetLastError = true)]
    private static partial int StatOnArm(int handle, byte* into);

    [LibraryImport("libc", EntryPoint = "fstat$INODE64", SetLastError = true)]
    private static partial int StatOnIntel(int handle, byte* into);

    [LibraryImport("libc", EntryPoint = "fstatfs", SetLastError = true)]
    private static partial int VolumeOnArm(int handle, byte* into);

    [LibraryImport("libc", EntryPoint = "fstatfs$INODE64", SetLastError = true)]
    private static partial int VolumeOnIntel(int handle, byte* into);

    [LibraryImport("libc", EntryPoint = "fdopendir", SetLastError = true)]
    private static partial nint OpenListOnArm(int handle);

    [LibraryImport("libc", EntryPoint = "fdopendir$INODE64", SetLastError = true)]
    private static partial nint OpenListOnIntel(int handle);

    [LibraryImport("libc", EntryPoint = "readdir", SetLastError = true)]
    private static partial byte* NextOnArm(nint list);

    [LibraryImport("libc", EntryPoint = "readdir$INODE64", SetLastError = true)]
    private static partial byte* NextOnIntel(nint list);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int renameatx_np(int fromFolder, byte* from, int toFolder, byte* to, uint flags);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fcntl(int handle, int what);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fsync_volume_np(int handle, int flags);

    [LibraryImport("libc", SetLastError = true)]
    private static partial nint flistxattr(int handle, byte* into, nuint size, int options);

    [LibraryImport("libc", SetLastError = true)]
    private static partial nint fgetxattr(int handle, byte* name, byte* into, nuint size, uint position, int options);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fsetxattr(int handle, byte* name, byte* value, nuint size, uint position, int options);

    [LibraryImport("libc", SetLastError = true)]
    private static partial int fremovexattr(int handle, byte* name, int options);
}
