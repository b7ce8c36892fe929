using System.Buffers;
using System.Runtime.InteropServices;

namespace YardRelay.Carriage.Posix;

/// <summary>An open file or folder of the system, closed once.</summary>
internal sealed class PosixHandle : SafeHandle
{
    private readonly int _number;

    public PosixHandle(int number) : base(-1, ownsHandle: true)
    {
        _number = number;
        SetHandle(number);
    }

    public override bool IsInvalid => handle == -1;

    /// <summary>The descriptor; valid while this object is reachable and not disposed.</summary>
    public int Number => IsClosed ? throw new ObjectDisposedException(nameof(PosixHandle)) : _number;

    protected override bool ReleaseHandle() => Libc.close(_number) == 0;
}

/// <summary>The calls of <see cref="Libc"/> with names as byte spans and errors as <see cref="PosixException"/>.</summary>
internal static unsafe class PosixFile
{
    private const uint BasicStats = 0x7ff;

    /// <summary>Runs <paramref name="call"/> with a NUL at the end of the name.</summary>
    private static T Named<T>(ReadOnlySpan<byte> name, Func<nint, T> call)
    {
        Span<byte> ended = name.Length < 1024 ? stackalloc byte[name.Length + 1] : new byte[name.Length + 1];
        name.CopyTo(ended);
        ended[name.Length] = 0;
        fixed (byte* at = ended) return call((nint)at);
    }

    private static string Text(ReadOnlySpan<byte> name) => System.Text.Encoding.UTF8.GetString(name);

    public static PosixHandle? TryOpen(int folder, ReadOnlySpan<byte> name, int flags, out int errno, uint mode = 0x180)
    {
        Span<byte> ended = name.Length < 1024 ? stackalloc byte[name.Length + 1] : new byte[name.Length + 1];
        name.CopyTo(ended);
        ended[name.Length] = 0;
        fixed (byte* at = ended)
        {
            var number = Libc.openat(folder, at, flags | Libc.CloseOnExec, mode);
            errno = number < 0 ? Marshal.GetLastPInvokeError() : 0;
            return number < 0 ? null : new(number);
        }
    }

    public static PosixHandle Open(int folder, ReadOnlySpan<byte> name, int flags, uint mode = 0x180) =>
        TryOpen(folder, name, flags, out var errno, mode) ?? throw new PosixException(errno, $"open {Text(name)}");

    /// <summary>Opens beneath <paramref name="folder"/>, refusing any link on the way; an empty path is the folder itself.</summary>
    public static PosixHandle? TryOpenBeneath(int folder, ReadOnlySpan<byte> path, int flags, out int errno, uint mode = 0x180)
    {
        if (path.IsEmpty) path = "."u8;
        Span<byte> ended = path.Length < 1024 ? stackalloc byte[path.Length + 1] : new byte[path.Length + 1];
        path.CopyTo(ended);
        ended[path.Length] = 0;
        fixed (byte* at = ended)
        {
            var number = Libc.OpenBeneath(folder, at, flags, mode);
            errno = number < 0 ? Marshal.GetLastPInvokeError() : 0;
            return number < 0 ? null : new(number);
        }
    }

    public static PosixHandle OpenBeneath(int folder, ReadOnlySpan<byte> path, int flags, uint mode = 0x180) =>
        TryOpenBeneath(folder, path, flags, out var errno, mode) ?? throw new PosixException(errno, $"open {Text(path)}");

    /// <summary>Facts of a name in a folder; an empty name: of the open handle itself.</summary>
    public static NodeFacts? TryStat(int folder, ReadOnlySpan<byte> name, out int errno)
    {
        Span<byte> ended = name.Length < 1024 ? stackalloc byte[name.Length + 1] : new byte[name.Length + 1];
        name.CopyTo(ended);
        ended[name.Length] = 0;
        fixed (byte* at = ended) return Facts(folder, at, name.IsEmpty ? Libc.AtEmptyPath : 0, out errno);
    }

    private static NodeFacts? Facts(int folder, byte* name, int flags, out int errno)
    {
        Libc.StatX s;
        var done = Libc.statx(folder, name, Libc.AtNoFollow | flags, BasicStats, &s);
        errno = done < 0 ? Marshal.GetLastPInvokeError() : 0;
        if (done < 0) return null;
        var kind = (s.Mode & 0xF000) switch
        {
            0x4000 => NodeKind.Folder,
            0x8000 => NodeKind.File,
            0xA000 => NodeKind.Link,
            0x1000 => NodeKind.Pipe,
            0xC000 => NodeKind.Socket,
            _ => NodeKind.Device,
        };
        return new(kind, (ushort)(s.Mode & 0xFFF), (long)s.Bytes, (long)s.Blocks, s.Links, ((ulong)s.DeviceMajor << 32)
            | s.DeviceMinor, s.Inode,
            new(s.Modified.Seconds, s.Modified.Nanos), new(s.Changed.Seconds, s.Changed.Nanos));
    }

    public static NodeFacts Stat(PosixHandle handle) =>
        TryStat(handle.Number, [], out var errno) ?? throw new PosixException(errno, "stat");

    /// <summary>The names in an open folder, without <c>.</c> and <c>..</c>, in the system's order.</summary>
    public static List<byte[]> Names(PosixHandle folder)
    {
        var names = new List<byte[]>();
        List(folder, at => names.Add(NameAt(at)));
        return names;
    }

    /// <summary>The same with what the system says of each, or why it says nothing.</summary>
    public static void Look(PosixHandle folder, Action<byte[], NodeFacts?, int> found)
    {
        var number = folder.Number;
        List(folder, at =>
        {
            var facts = Facts(number, (byte*)at, 0, out var errno);
            found(NameAt(at), facts, errno);
        });
    }

    private static byte[] NameAt(nint at) => MemoryMarshal.CreateReadOnlySpanFromNullTerminated((byte*)at).ToArray();

    /// <summary>Has <paramref name="found"/> told where in memory each name stands, ended by NUL, for as long as the call lasts.</summary>
    private static void List(PosixHandle folder, Action<nint> found)
    {
        var buffer = ArrayPool<byte>.Shared.Rent(64 * 1024);
        try
        {
            fixed (byte* at = buffer)
            {
                while (true)
                {
                    var got = Libc.getdents64(folder.Number, at, (nuint)buffer.Length);
                    if (got < 0) throw PosixException.Last("list folder");
                    if (got == 0) return;
                    // struct linux_dirent64: inode 8, offset 8, record length 2, type 1, name ended by NUL.
                    for (var offset = 0; offset < got; offset += *(ushort*)(at + offset + 16))
                    {
                        var name = at + offset + 19;
                        if (*name != '.' || !(name[1] == 0 || (name[1] == '.' && name[2] == 0))) found((nint)name);
                    }
                }
            }
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    public static byte[] ReadLink(int folder, ReadOnlySpan<byte> name)
    {
        var buffer = new byte[4096];
        var got = Named(name, at =>
        {
            fixed (byte* into = buffer) return Libc.readlinkat(folder, (byte*)at, into, (nuint)buffer.Length);
        });
        return got < 0 ? throw PosixException.Last("read link") : buffer[..(int)got];
    }

    public static void MakeLink(ReadOnlySpan<byte> target, int folder, ReadOnlySpan<byte> name)
    {
        var ended = target.ToArray();
        var done = Named(name, at => Named(ended, to => Libc.symlinkat((byte*)to, folder, (byte*)at)));
        if (done < 0) throw PosixException.Last("make link");
    }

    /// <summary>Gives an open file a name, only where none stands; works for files made without one.</summary>
    public static bool TryGiveName(PosixHandle file, int folder, ReadOnlySpan<byte> name, out int errno)
    {
        var self = System.Text.Encoding.ASCII.GetBytes($"/proc/self/fd/{file.Number}");
        var done = Named(name, at => Named(self, from => Libc.linkat(Libc.AtCurrent, (byte*)from, folder, (byte*)at, Libc.AtFollow)));
        errno = done < 0 ? Marshal.GetLastPInvokeError() : 0;
        return done == 0;
    }

    public static bool TryHardLink(int fromFolder, ReadOnlySpan<byte> from, int toFolder, ReadOnlySpan<byte> to, out int errno)
    {
        var source = from.ToArray();
        var done = Named(to, at => Named(source, it => Libc.linkat(fromFolder, (byte*)it, toFolder, (byte*)at, 0)));
        errno = done < 0 ? Marshal.GetLastPInvokeError() : 0;
        return done == 0;
    }

    public static bool TryMakeFolder(int folder, ReadOnlySpan<byte> name, uint mode, out int errno)
    {
        var done = Named(name, at => Libc.mkdirat(folder, (byte*)at, mode));
        errno = done < 0 ? Marshal.GetLastPInvokeError() : 0;
        return done == 0;
    }

    public static bool TryRename(int fromFolder, ReadOnlySpan<byte> from, int toFolder, ReadOnlySpan<byte> to, bool replace, out int errno)
    {
        var source = from.ToArray();
        var done = Named(to, at =>
            Named(source, it => Libc.renameat2(fromFolder, (byte*)it, toFolder, (byte*)at, replace ? 0 : Libc.RenameNoReplace)));
        errno = done < 0 ? Marshal.GetLastPInvokeError() : 0;
        return done == 0;
    }

    public static bool TryRemove(int folder, ReadOnlySpan<byte> name, bool isFolder, out int errno)
    {
        var done = Named(name, at => Libc.unlinkat(folder, (byte*)at, isFolder ? Libc.AtRemoveFolder : 0));
        errno = done < 0 ? Marshal.GetLastPInvokeError() : 0;
        return done == 0;
    }

    public static void SetModified(PosixHandle handle, Stamp modified)
    {
        var times = stackalloc Libc.TimeSpec[2];
        times[0] = new() { Nanos = 0x3ffffffe }; // UTIME_OMIT: the access time stays
        times[1] = new() { Seconds = modified.Seconds, Nanos = modified.Nanos };
        if (Libc.futimens(handle.Number, times) < 0) throw PosixException.Last("set times");
    }

    public static void SetLinkModified(int folder, ReadOnlySpan<byte> name, Stamp modified)
    {
        var done = Named(name, at =>
        {
            var times = stackalloc Libc.TimeSpec[2];
            times[0] = new() { Nanos = 0x3ffffffe };
            times[1] = new() { Seconds = modified.Seconds, Nanos = modified.Nanos };
            return Libc.utimensat(folder, (byte*)at, times, Libc.AtNoFollow);
        });
        if (done < 0) throw PosixException.Last("set times");
    }

    public static void SetMode(PosixHandle handle, ushort mode)
    {
        if (Libc.fchmod(handle.Number, mode) < 0) throw PosixException.Last("set mode");
    }

    public static void SetLength(PosixHandle handle, long bytes)
    {
        if (Libc.ftruncate(handle.Number, bytes) < 0) throw PosixException.Last("set length");
    }

    public static int Read(PosixHandle handle, Span<byte> into)
    {
        fixed (byte* at = into)
        {
            var got = Libc.read(handle.Number, at, (nuint)into.Length);
            return got < 0 ? throw PosixException.Last("read") : (int)got;
        }
    }

    public static void WriteAll(PosixHandle handle, ReadOnlySpan<byte> from)
    {
        while (!from.IsEmpty)
        {
            fixed (byte* at = from)
            {
                var done = Libc.write(handle.Number, at, (nuint)from.Length);
                if (done < 0) throw PosixException.Last("write");
                from = from[(int)done..];
            }
        }
    }

    public static void Seek(PosixHandle handle, long offset)
    {
        if (Libc.lseek(handle.Number, offset, 0) < 0) throw PosixException.Last("seek");
    }

    /// <summary>
    /// The stretches that hold data, or null when the whole file does or the file system cannot tell. Leaves the offset at the start.
    /// </summary>
    public static List<(long Offset, long Bytes)>? DataStretches(PosixHandle handle, long bytes)
    {
        var found = new List<(long, long)>();
        for (long at = 0; at < bytes;)
        {
            var data = Libc.lseek(handle.Number, at, Libc.SeekData);
            if (data < 0) break; // ENXIO: only a hole is left
            var hole = Libc.lseek(handle.Number, data, Libc.SeekHole);
            if (hole < 0) return null;
            hole = Math.Min(hole, bytes);
            if (hole > data) found.Add((data, hole - data));
            at = Math.Max(hole, data + 1);
        }
        Seek(handle, 0);
        return found.Count == 1 && found[0] == (0, bytes) ? null : found;
    }

    /// <summary>Extended attributes by name; empty where the file system has none.</summary>
    public static SortedDictionary<string, byte[]>? Attributes(PosixHandle handle)
    {
        var size = Libc.flistxattr(handle.Number, null, 0);
        if (size <= 0) return null;
        var names = new byte[size];
        fixed (byte* at = names) size = Libc.flistxattr(handle.Number, at, (nuint)names.Length);
        if (size <= 0) return null;
        var found = new SortedDictionary<string, byte[]>(StringComparer.Ordinal);
        foreach (var range in names.AsSpan(0, (int)size).Split((byte)0))
        {
            var name = names.AsSpan()[range];
            if (name.IsEmpty) continue;
            var value = new byte[64 * 1024];
            var ended = name.ToArray();
            var got = Named(name, at =>
            {
                fixed (byte* into = value) return Libc.fgetxattr(handle.Number, (byte*)at, into, (nuint)value.Length);
            });
            if (got >= 0) found[Text(ended)] = value[..(int)got];
        }
        return found.Count == 0 ? null : found;
    }

    /// <summary>Sets one extended attribute; false when the file system or the rights forbid it.</summary>
    public static bool TrySetAttribute(PosixHandle handle, string name, byte[] value)
    {
        fixed (byte* from = value)
        {
            var at = (nint)from;
            return Named(System.Text.Encoding.UTF8.GetBytes(name), n =>
                Libc.fsetxattr(handle.Number, (byte*)n, (byte*)at, (nuint)value.Length, 0)) == 0;
        }
    }

    /// <summary>Takes one extended attribute away; false when it is not there, or the rights forbid it.</summary>
    public static bool TryRemoveAttribute(PosixHandle handle, string name) =>
        Named(System.Text.Encoding.UTF8.GetBytes(name), n => Libc.fremovexattr(handle.Number, (byte*)n)) == 0;

    /// <summary>Asks the system to bring all that was written to the file system of this handle onto the disk.</summary>
    public static void Sync(PosixHandle handle) => _ = Libc.syncfs(handle.Number);
}
