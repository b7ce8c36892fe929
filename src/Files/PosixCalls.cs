using System.Runtime.InteropServices;

namespace YardRelay.Files;

/// <summary>
/// The calls of POSIX.1-2024 that each system has under the same name and with the same arguments, in its libc or libSystem: for each
/// side that asks such a system. What differs, or is more than that, each has for itself.
/// </summary>
internal static unsafe partial class PosixCalls
{
    public const int ReadOnly = 0;
    public const int WriteOnly = 1;
    public const int ReadWrite = 2;

    /// <summary>LOCK_EX and LOCK_NB.</summary>
    public const int LockAtOnce = 2 | 4;

    /// <summary>LOCK_UN.</summary>
    public const int Unlock = 8;

    [StructLayout(LayoutKind.Sequential)]
    public struct TimeSpec
    {
        public long Seconds;
        public long Nanos;
    }

    /// <summary>The beginning of <c>struct passwd</c> of pwd.h.</summary>
    [StructLayout(LayoutKind.Sequential)]
    public struct Account
    {
        public byte* Name;
        public byte* Secret;
        public uint User;
        public uint Group;
    }

    [LibraryImport("libc", SetLastError = true)]
    public static partial int close(int handle);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int dup(int handle);

    [LibraryImport("libc", SetLastError = true)]
    public static partial nint pread(int handle, byte* into, nuint size, long offset);

    [LibraryImport("libc", SetLastError = true)]
    public static partial nint pwrite(int handle, byte* from, nuint size, long offset);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int ftruncate(int handle, long bytes);

    [LibraryImport("libc", SetLastError = true)]
    public static partial long lseek(int handle, long offset, int whence);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int fsync(int handle);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int flock(int handle, int how);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int fchmod(int handle, uint mode);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int fchown(int handle, uint user, uint group);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int fchownat(int folder, byte* path, uint user, uint group, int flags);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int futimens(int handle, TimeSpec* times);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int utimensat(int folder, byte* path, TimeSpec* times, int flags);

    [LibraryImport("libc", SetLastError = true)]
    public static partial nint readlinkat(int folder, byte* path, byte* into, nuint size);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int symlinkat(byte* target, int folder, byte* path);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int linkat(int fromFolder, byte* from, int toFolder, byte* to, int flags);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int mkdirat(int folder, byte* path, uint mode);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int renameat(int fromFolder, byte* from, int toFolder, byte* to);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int unlinkat(int folder, byte* path, int flags);

    [LibraryImport("libc", SetLastError = true)]
    public static partial int closedir(nint list);

    [LibraryImport("libc", SetLastError = true)]
    public static partial Account* getpwnam(byte* name);

    [LibraryImport("libc", SetLastError = true)]
    public static partial byte* realpath(byte* path, byte* into);

    [LibraryImport("libc")]
    public static partial void free(void* memory);
}
