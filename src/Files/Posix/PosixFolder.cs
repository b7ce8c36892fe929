using System.Runtime.InteropServices;

namespace YardRelay.Files.Posix;

/// <summary>An open folder. A way below it is gone name by name, so that none leads through a link.</summary>
internal sealed unsafe class PosixFolder(PosixHandle handle) : OpenFolder(handle)
{
    private readonly PosixHandle _handle = handle;

    // What its medium has not taken before is told to whoever had it open then.
    private (ulong Device, long Failures) _opened = Opened(handle);

    private static (ulong Device, long Failures) Opened(PosixHandle handle)
    {
        var device = handle.Facts().Device;
        return (device, handle.Files.Unsynced.Of(device).Count);
    }

    private PosixSystem System => _handle.System;

    private PosixNumbers Numbers => _handle.System.Numbers;

    public override List<byte[]> Names()
    {
        // A list keeps where it stopped: each has an opening of its own.
        var number = NulEnded.With("."u8, at => System.OpenAt(_handle.Number, (byte*)at, Numbers.Directory | Numbers.CloseOnExec, 0));
        if (number < 0) throw _handle.Thrown("list folder");
        var list = System.OpenList(number);
        if (list == 0)
        {
            var why = _handle.Thrown("list folder");
            _ = PosixCalls.close(number);
            throw why;
        }
        try
        {
            var names = new List<byte[]>();
            while (true)
            {
                // The end and an error are told apart by errno alone, which is nothing before each call.
                var found = System.Next(list);
                if (found is null && Marshal.GetLastPInvokeError() != 0) throw _handle.Thrown("list folder");
                if (found is null) return names;
                var name = MemoryMarshal.CreateReadOnlySpanFromNullTerminated(found + System.DirentName);
                if (!PosixHandle.IsSelfOrAbove(name)) names.Add(name.ToArray());
            }
        }
        finally
        {
            _ = PosixCalls.closedir(list);
        }
    }

    public override void Look(Action<byte[], NodeFacts?, Trouble> found, bool afresh = false)
    {
        foreach (var name in Names())
        {
            var facts = TryFacts(name, out var trouble);
            // A system asks a server anew when a file is opened, and not otherwise.
            if (afresh && facts?.Kind == NodeKind.File)
                using (var opened = TryOpenFile(name, FileUse.ReadQuietly, out _))
                    if (opened is not null) facts = TryFacts(name, out trouble);
            found(name, facts, trouble);
        }
    }

    public override NodeFacts? TryFacts(ReadOnlySpan<byte> name, out Trouble trouble) => _handle.TryFacts(name, out trouble);

    public override OpenFolder? TryOpenFolder(ReadOnlySpan<byte> path, FolderUse use, out Trouble trouble) =>
        TryOpen(path, Numbers.Directory, 0, out trouble) is { } opened ? new PosixFolder(opened) : null;

    public override OpenFile? TryOpenFile(ReadOnlySpan<byte> path, FileUse use, out Trouble trouble, ushort mode = 0x180)
    {
        var flags = (use & (FileUse.Read | FileUse.Write)) switch
        {
            FileUse.Read => PosixCalls.ReadOnly | Numbers.NonBlock,
            FileUse.Write => PosixCalls.WriteOnly,
            _ => PosixCalls.ReadWrite,
        };
        if (use.HasFlag(FileUse.MakeNew)) flags |= Numbers.Create | Numbers.Exclusive;
        else if (use.HasFlag(FileUse.Make)) flags |= Numbers.Create;
        return TryOpen(path, flags, mode, out trouble) is { } opened ? new PosixFile(opened) : null;
    }

    private PosixHandle? TryOpen(ReadOnlySpan<byte> path, int flags, uint mode, out Trouble trouble)
    {
        var cut = path.LastIndexOf((byte)'/');
        if (cut < 0) return _handle.TryOpen(path, flags, mode, out trouble);
        PosixHandle? above = null;
        try
        {
            foreach (var range in path[..cut].Split((byte)'/'))
            {
                var below = (above ?? _handle).TryOpen(path[range], Numbers.Directory, 0, out trouble);
                above?.Dispose();
                above = below;
                if (above is null) return null;
            }
            return above!.TryOpen(path[(cut + 1)..], flags, mode, out trouble);
        }
        finally
        {
            above?.Dispose();
        }
    }

    public override OpenFile? TryMakeUnnamed(out Trouble trouble)
    {
        trouble = new(Fault.NotSupported);
        return null;
    }

    public override bool TryGiveName(OpenFile file, ReadOnlySpan<byte> name, out Trouble trouble)
    {
        trouble = new(Fault.NotSupported);
        return false;
    }

    public override bool TryMakeFolder(ReadOnlySpan<byte> name, ushort mode, out Trouble trouble) =>
        Done(NulEnded.With(name, at => PosixCalls.mkdirat(_handle.Number, (byte*)at, mode)), out trouble);

    public override bool TryRename(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, bool replace, out Trouble trouble)
    {
        var (source, target) = (name.ToArray(), newName.ToArray());
        var there = (PosixFolder)to;
        if (replace) return Renamed(source, there, target, out trouble);
        var answer = 0;
        var hasCall = NulEnded.With(target, at => NulEnded.With(source, it =>
            System.TryRenameIfFree(_handle.Number, (byte*)it, there._handle.Number, (byte*)at, out answer)));
        if (hasCall) return Done(answer, out trouble) && there.Changed();
        // A further name is given only where none stands, and the first one taken away after it. A folder has no further name: between the
        // look and the call somebody else may make an empty one, which gives way then.
        if (TryFacts(source, out trouble) is not { } facts) return false;
        if (facts.Kind != NodeKind.Folder)
        {
            if (TryHardLink(source, to, target, out trouble))
                return TryRemove(source, isFolder: false, out trouble) || (there.TryRemove(target, isFolder: false, out _) && false);
            if (trouble.Fault is not (Fault.NotOwner or Fault.NotSupported)) return false;
        }
        var stands = there.TryFacts(target, out trouble) is not null;
        if (stands) trouble = new(Fault.Taken);
        return trouble.Fault == Fault.NotThere && Renamed(source, there, target, out trouble);
    }

    private bool Renamed(byte[] name, PosixFolder to, byte[] newName, out Trouble trouble) =>
        DoneOnceLetGo(
            () => NulEnded.With(newName, at => NulEnded.With(name, it =>
                PosixCalls.renameat(_handle.Number, (byte*)it, to._handle.Number, (byte*)at))),
            out trouble)
        && to.Changed();

    public override bool TryHardLink(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, out Trouble trouble)
    {
        var source = name.ToArray();
        var there = (PosixFolder)to;
        return Done(
            NulEnded.With(newName, at => NulEnded.With(source, it =>
                PosixCalls.linkat(_handle.Number, (byte*)it, there._handle.Number, (byte*)at, 0))),
            out trouble)
            && there.Changed();
    }

    public override bool TryRemove(ReadOnlySpan<byte> name, bool isFolder, out Trouble trouble)
    {
        var stood = !isFolder && !_handle.Files.Unsynced.IsEmpty ? TryFacts(name, out _) : null;
        var removed = name.ToArray();
        if (!DoneOnceLetGo(
            () => NulEnded.With(removed, at => PosixCalls.unlinkat(_handle.Number, (byte*)at, isFolder ? Numbers.AtRemoveFolder : 0)),
            out trouble))
            return false;
        if (stood is { } gone) _handle.Files.Unsynced.Forget(gone);
        return true;
    }

    public override byte[] ReadLink(ReadOnlySpan<byte> name)
    {
        var buffer = new byte[4096];
        var got = NulEnded.With(name, at =>
        {
            fixed (byte* into = buffer) return PosixCalls.readlinkat(_handle.Number, (byte*)at, into, (nuint)buffer.Length);
        });
        return got < 0 ? throw _handle.Thrown("read link") : buffer[..(int)got];
    }

    public override void MakeLink(ReadOnlySpan<byte> name, ReadOnlySpan<byte> target)
    {
        var ended = target.ToArray();
        var done = NulEnded.With(
            name, at => NulEnded.With(ended, to => PosixCalls.symlinkat((byte*)to, _handle.Number, (byte*)at)));
        if (done < 0) throw _handle.Thrown("make link");
        Changed();
    }

    public override void SetLinkModified(ReadOnlySpan<byte> name, Stamp modified)
    {
        var done = NulEnded.With(name, at =>
        {
            var times = stackalloc PosixCalls.TimeSpec[2];
            times[0] = new() { Nanos = Numbers.Omit };
            times[1] = new() { Seconds = modified.Seconds, Nanos = modified.Nanos };
            return PosixCalls.utimensat(_handle.Number, (byte*)at, times, Numbers.AtNoFollow);
        });
        if (done < 0) throw _handle.Thrown("set times");
    }

    public override bool TrySetLinkOwner(ReadOnlySpan<byte> name, NodeOwner owner) =>
        NulEnded.With(
            name, at => PosixCalls.fchownat(_handle.Number, (byte*)at, owner.User, owner.Group, Numbers.AtNoFollow)) == 0;

    public override NodeIdentity Identity()
    {
        var into = stackalloc byte[StatFields.MostBytes];
        if (System.StatOf(_handle.Number, into) < 0) throw _handle.Thrown("stat");
        var facts = System.Stat.Read(into);
        var id = OfVolume(System.Volume.Id, "ask for the file system");
        return new(
            id == 0 ? null : FormattableString.Invariant($"posix-{id:x16}"), facts.Inode,
            System.Stat.Born is { } born ? StatFields.Time(born, into) : null, facts.Owner.User);
    }

    public override Room Room()
    {
        var into = stackalloc byte[VolumeFields.MostBytes];
        if (System.VolumeOf(_handle.Number, into) < 0) throw _handle.Thrown("ask for room");
        var volume = System.Volume;
        var (each, blocks, free) = (volume.Unit.In(into), volume.Blocks.In(into), volume.Free.In(into));
        return new((long)(blocks * each), (long)(volume.Available.In(into) * each), (long)((blocks - Math.Min(free, blocks)) * each));
    }

    private ulong OfVolume(Field field, string what)
    {
        var into = stackalloc byte[VolumeFields.MostBytes];
        return System.VolumeOf(_handle.Number, into) < 0 ? throw _handle.Thrown(what) : field.In(into);
    }

    public override void Sync()
    {
        var failures = _handle.Files.Unsynced.Sync(_opened.Device, _handle.Number);
        if (failures.Count == _opened.Failures) return;
        _opened.Failures = failures.Count;
        throw new FileTroubleException(failures.Last, "bring onto the disk");
    }

    public override bool KeepsModes => System.KeepsModes(_handle.Number);

    public override ReadFrom ReadsFrom => ReadFrom.Unknown;

    private bool Changed()
    {
        _handle.Note();
        return true;
    }

    private bool DoneOnceLetGo(Func<int> call, out Trouble trouble) =>
        Done(call(), out trouble)
        || (trouble.Fault is Fault.InUse or Fault.Taken or Fault.NotEmpty
            && _handle.Files.Unsynced.LetGo(_opened.Device)
            && Done(call(), out trouble));

    private bool Done(int answer, out Trouble trouble)
    {
        trouble = answer < 0 ? _handle.Last : default;
        return answer == 0 && Changed();
    }
}
