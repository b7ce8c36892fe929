using System.Buffers;
using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files.Linux;

/// <summary>An open folder of Linux.</summary>
internal sealed unsafe class LinuxFolder(LinuxHandle handle) : OpenFolder(handle)
{
    private readonly LinuxHandle _handle = handle;

    private bool _isListed;

    public override List<byte[]> Names()
    {
        var names = new List<byte[]>();
        List(at => names.Add(NameAt(at)));
        return names;
    }

    public override void Look(Action<byte[], NodeFacts?, Trouble> found, bool afresh = false)
    {
        var number = _handle.Number;
        List(at =>
        {
            var facts = LinuxHandle.Facts(number, (byte*)at, out var trouble, afresh);
            found(NameAt(at), facts, trouble);
        });
    }

    private static byte[] NameAt(nint at) => MemoryMarshal.CreateReadOnlySpanFromNullTerminated((byte*)at).ToArray();

    /// <summary>Has <paramref name="found"/> told where in memory each name stands, ended by NUL, for as long as the call lasts.</summary>
    private void List(Action<nint> found)
    {
        // The kernel keeps where a list stopped; each of ours begins at its start.
        if (_isListed && PosixCalls.lseek(_handle.Number, 0, Libc.SeekStart) < 0) throw LinuxTrouble.Thrown("list folder");
        _isListed = true;
        var buffer = ArrayPool<byte>.Shared.Rent(64 * 1024);
        try
        {
            fixed (byte* at = buffer)
            {
                while (true)
                {
                    var got = Libc.getdents64(_handle.Number, at, (nuint)buffer.Length);
                    if (got < 0) throw LinuxTrouble.Thrown("list folder");
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

    public override NodeFacts? TryFacts(ReadOnlySpan<byte> name, out Trouble trouble)
    {
        Span<byte> ended = name.Length < 1024 ? stackalloc byte[name.Length + 1] : new byte[name.Length + 1];
        name.CopyTo(ended);
        ended[name.Length] = 0;
        fixed (byte* at = ended) return LinuxHandle.Facts(_handle.Number, at, out trouble);
    }

    public override OpenFolder? TryOpenFolder(ReadOnlySpan<byte> path, FolderUse use, out Trouble trouble)
    {
        var flags = use == FolderUse.Pass ? Libc.PathOnly | Libc.Directory : Libc.Directory;
        LinuxHandle? opened = null;
        trouble = default;
        if (use == FolderUse.ListQuietly) opened = TryOpen(path, flags | Libc.NoAccessTime, 0, out trouble);
        opened ??= TryOpen(path, flags, 0, out trouble);
        return opened is null ? null : new LinuxFolder(opened);
    }

    public override OpenFile? TryOpenFile(ReadOnlySpan<byte> path, FileUse use, out Trouble trouble, ushort mode = 0x180)
    {
        var flags = (use & (FileUse.Read | FileUse.Write)) switch
        {
            FileUse.Read => PosixCalls.ReadOnly | Libc.NonBlock,
            FileUse.Write => PosixCalls.WriteOnly,
            _ => PosixCalls.ReadWrite,
        };
        if (use.HasFlag(FileUse.MakeNew)) flags |= Libc.Create | Libc.Exclusive;
        else if (use.HasFlag(FileUse.Make)) flags |= Libc.Create;
        var isQuiet = use.HasFlag(FileUse.ReadQuietly);
        var opened = TryOpen(path, isQuiet ? flags | Libc.NoAccessTime : flags, mode, out trouble);
        // Only its owner may leave the time of the last access alone.
        if (opened is null && isQuiet && trouble.Fault == Fault.NotOwner) opened = TryOpen(path, flags, mode, out trouble);
        return opened is null ? null : new LinuxFile(opened);
    }

    // The kernel takes 4,095 bytes of a path at once; folders may lie deeper.
    private const int LongestHop = 4000;

    private LinuxHandle? TryOpenInHops(ReadOnlySpan<byte> path, int flags, uint mode, out Trouble trouble)
    {
        var cut = path[..LongestHop].LastIndexOf((byte)'/');
        trouble = new(Fault.NameTooLong);
        if (cut <= 0 || TryOpen(path[..cut], Libc.PathOnly | Libc.Directory, 0, out trouble) is not { } above) return null;
        using var folder = new LinuxFolder(above);
        return folder.TryOpen(path[(cut + 1)..], flags, mode, out trouble);
    }

    private LinuxHandle? TryOpen(ReadOnlySpan<byte> path, int flags, uint mode, out Trouble trouble)
    {
        trouble = new(Fault.Invalid);
        if (LeadsUp(path)) return null;
        if (path.IsEmpty) path = "."u8;
        if (path.Length > LongestHop) return TryOpenInHops(path, flags, mode, out trouble);
        Span<byte> ended = path.Length < 1024 ? stackalloc byte[path.Length + 1] : new byte[path.Length + 1];
        path.CopyTo(ended);
        ended[path.Length] = 0;
        fixed (byte* at = ended)
        {
            var number = path.Contains((byte)'/')
                ? Libc.OpenBeneath(_handle.Number, at, flags, mode)
                : Libc.openat(_handle.Number, at, flags | Libc.NoFollow | Libc.CloseOnExec, mode);
            trouble = number < 0 ? LinuxTrouble.Last : default;
            return number < 0 ? null : new(number);
        }
    }

    public override OpenFile? TryMakeUnnamed(out Trouble trouble)
    {
        var opened = TryOpen([], Libc.Unnamed | PosixCalls.ReadWrite, 0x180, out trouble);
        return opened is null ? null : new LinuxFile(opened);
    }

    public override bool TryGiveName(OpenFile file, ReadOnlySpan<byte> name, out Trouble trouble)
    {
        var self = Encoding.ASCII.GetBytes($"/proc/self/fd/{((LinuxFile)file).Number}");
        return Done(
            NulEnded.With(name, at => NulEnded.With(self, from =>
                PosixCalls.linkat(Libc.AtCurrent, (byte*)from, _handle.Number, (byte*)at, Libc.AtFollow))),
            out trouble);
    }

    public override bool TryMakeFolder(ReadOnlySpan<byte> name, ushort mode, out Trouble trouble) =>
        Done(NulEnded.With(name, at => PosixCalls.mkdirat(_handle.Number, (byte*)at, mode)), out trouble);

    public override bool TryRename(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, bool replace, out Trouble trouble)
    {
        var source = name.ToArray();
        return Done(
            NulEnded.With(newName, at => NulEnded.With(source, it =>
                Libc.renameat2(_handle.Number, (byte*)it, Of(to), (byte*)at, replace ? 0 : Libc.RenameNoReplace))),
            out trouble);
    }

    public override bool TryHardLink(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, out Trouble trouble)
    {
        var source = name.ToArray();
        return Done(
            NulEnded.With(newName, at => NulEnded.With(source, it =>
                PosixCalls.linkat(_handle.Number, (byte*)it, Of(to), (byte*)at, 0))),
            out trouble);
    }

    public override bool TryRemove(ReadOnlySpan<byte> name, bool isFolder, out Trouble trouble) =>
        Done(
            NulEnded.With(name, at => PosixCalls.unlinkat(_handle.Number, (byte*)at, isFolder ? Libc.AtRemoveFolder : 0)), out trouble);

    public override byte[] ReadLink(ReadOnlySpan<byte> name)
    {
        var buffer = new byte[4096];
        var got = NulEnded.With(name, at =>
        {
            fixed (byte* into = buffer) return PosixCalls.readlinkat(_handle.Number, (byte*)at, into, (nuint)buffer.Length);
        });
        return got < 0 ? throw LinuxTrouble.Thrown("read link") : buffer[..(int)got];
    }

    public override void MakeLink(ReadOnlySpan<byte> name, ReadOnlySpan<byte> target)
    {
        var ended = target.ToArray();
        var done = NulEnded.With(name, at => NulEnded.With(ended, to => PosixCalls.symlinkat((byte*)to, _handle.Number, (byte*)at)));
        if (done < 0) throw LinuxTrouble.Thrown("make link");
    }

    public override void SetLinkModified(ReadOnlySpan<byte> name, Stamp modified)
    {
        var done = NulEnded.With(name, at =>
        {
            var times = stackalloc PosixCalls.TimeSpec[2];
            times[0] = new() { Nanos = Libc.Omit };
            times[1] = new() { Seconds = modified.Seconds, Nanos = modified.Nanos };
            return PosixCalls.utimensat(_handle.Number, (byte*)at, times, Libc.AtNoFollow);
        });
        if (done < 0) throw LinuxTrouble.Thrown("set times");
    }

    public override bool TrySetLinkOwner(ReadOnlySpan<byte> name, NodeOwner owner) =>
        NulEnded.With(name, at => PosixCalls.fchownat(_handle.Number, (byte*)at, owner.User, owner.Group, Libc.AtNoFollow)) == 0;

    public override NodeIdentity Identity()
    {
        Libc.StatX s;
        Libc.StatFs on;
        byte ended = 0;
        if (Libc.statx(_handle.Number, &ended, Libc.AtEmptyPath, Libc.BasicStats | Libc.BirthTime, &s) < 0)
            throw LinuxTrouble.Thrown("stat");
        if (Libc.fstatfs(_handle.Number, &on) < 0) throw LinuxTrouble.Thrown("ask for the file system");
        return new(
            on.Id == 0 ? null : FormattableString.Invariant($"{on.Type:x}-{on.Id:x16}"),
            s.Inode,
            (s.Mask & Libc.BirthTime) != 0 ? new(s.Born.Seconds, s.Born.Nanos) : null,
            s.User);
    }

    public override Room Room()
    {
        Libc.StatFs s;
        if (Libc.fstatfs(_handle.Number, &s) < 0) throw LinuxTrouble.Thrown("ask for room");
        var each = s.BlockBytes;
        return new((long)s.Blocks * each, (long)s.Available * each, (long)(s.Blocks - Math.Min(s.Free, s.Blocks)) * each);
    }

    public override void Sync()
    {
        if (Libc.syncfs(_handle.Number) < 0) throw LinuxTrouble.Thrown("bring onto the disk");
    }

    public override bool KeepsModes => LinuxMedia.KeepsModes(_handle.Number);

    public override ReadFrom ReadsFrom => LinuxMedia.Of(_handle.Number);

    private static int Of(OpenFolder folder) => ((LinuxFolder)folder).Number;

    private int Number => _handle.Number;

    private static bool Done(int answer, out Trouble trouble)
    {
        trouble = answer < 0 ? LinuxTrouble.Last : default;
        return answer == 0;
    }
}
