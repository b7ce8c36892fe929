namespace YardRelay.Files.Simulated;

/// <summary>An open folder of a simulated disk.</summary>
internal sealed class SimulatedFolder(SimulatedDisk disk, ulong number) : OpenFolder(new SimulatedHandle(disk, number))
{
    public override List<byte[]> Names()
    {
        lock (disk.Gate)
        {
            disk.Must("list", number);
            return [.. disk[number].Names.Keys.Select(n => n.Bytes)];
        }
    }

    public override void Look(Action<byte[], NodeFacts?, Trouble> found, bool afresh = false)
    {
        lock (disk.Gate)
        {
            foreach (var name in Names())
            {
                var facts = TryFacts(name, afresh, out var trouble);
                found(name, facts, trouble);
            }
        }
    }

    public override NodeFacts? TryFacts(ReadOnlySpan<byte> name, out Trouble trouble) => TryFacts(name, afresh: false, out trouble);

    private NodeFacts? TryFacts(ReadOnlySpan<byte> name, bool afresh, out Trouble trouble)
    {
        lock (disk.Gate)
            return Asked("look", name, out trouble) && disk.Find(number, name, out trouble) is { } found
                ? disk.Said(found, afresh).Facts(found)
                : null;
    }

    public override OpenFolder? TryOpenFolder(ReadOnlySpan<byte> path, FolderUse use, out Trouble trouble)
    {
        lock (disk.Gate)
        {
            if (!Asked("open", path, out trouble) || disk.Find(number, path, out trouble) is not { } found) return null;
            if (disk[found].Kind == NodeKind.Folder) return new SimulatedFolder(disk, found);
            trouble = new(disk[found].Kind == NodeKind.Link && path.Contains((byte)'/') ? Fault.ThroughLink : Fault.NotAFolder);
            return null;
        }
    }

    public override OpenFile? TryOpenFile(ReadOnlySpan<byte> path, FileUse use, out Trouble trouble, ushort mode = 0x180)
    {
        lock (disk.Gate)
        {
            if (!Asked("open", path, out trouble)) return null;
            var found = disk.Find(number, path, out trouble);
            if (found is null && trouble.Fault == Fault.NotThere && use.HasFlag(FileUse.Make)) return Make(path, mode, out trouble);
            if (found is null) return null;
            var kind = disk[found.Value].Kind;
            trouble = use.HasFlag(FileUse.MakeNew) ? new(Fault.Taken)
                : kind == NodeKind.Link ? new(Fault.ThroughLink)
                : kind == NodeKind.Folder && use.HasFlag(FileUse.Write) ? new(Fault.IsAFolder)
                : default;
            if (trouble.Fault != Fault.None) return null;
            disk.Said(found.Value, afresh: true);
            return new SimulatedFile(disk, found.Value);
        }
    }

    private SimulatedFile? Make(ReadOnlySpan<byte> path, ushort mode, out Trouble trouble)
    {
        var cut = path.LastIndexOf((byte)'/');
        if (disk.Find(number, cut < 0 ? [] : path[..cut], out trouble) is not { } folder) return null;
        if (!disk.MayName(folder, path[(cut + 1)..], out trouble)) return null;
        var made = disk.Make(NodeKind.File, mode);
        disk.Name(folder, path[(cut + 1)..], made, out trouble);
        return new SimulatedFile(disk, made);
    }

    public override OpenFile? TryMakeUnnamed(out Trouble trouble)
    {
        lock (disk.Gate)
        {
            if (!Asked("make", [], out trouble)) return null;
            if (!disk.IsPlain) return new SimulatedFile(disk, disk.Make(NodeKind.File, 0x180));
            trouble = new(Fault.NotSupported);
            return null;
        }
    }

    public override bool TryGiveName(OpenFile file, ReadOnlySpan<byte> name, out Trouble trouble)
    {
        lock (disk.Gate) return Asked("make", name, out trouble) && disk.Name(number, name, ((SimulatedFile)file).Number, out trouble);
    }

    public override bool TryMakeFolder(ReadOnlySpan<byte> name, ushort mode, out Trouble trouble)
    {
        lock (disk.Gate)
            return Asked("make", name, out trouble)
                && disk.MayName(number, name, out trouble)
                && disk.Name(number, name, disk.Make(NodeKind.Folder, mode), out trouble);
    }

    public override bool TryRename(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, bool replace, out Trouble trouble)
    {
        lock (disk.Gate)
            return Asked("rename", name, out trouble)
                && disk.Rename(number, name, ((SimulatedFolder)to).Number, newName, replace, out trouble);
    }

    public override bool TryHardLink(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, out Trouble trouble)
    {
        lock (disk.Gate)
        {
            if (!Asked("make", name, out trouble) || disk.Find(number, name, out trouble) is not { } found) return false;
            var folder = ((SimulatedFolder)to).Number;
            if (!disk.MayName(folder, newName, out trouble)) return false;
            if (disk[found].Kind != NodeKind.Folder && !disk.IsPlain) return disk.Name(folder, newName, found, out trouble);
            trouble = new(Fault.NotOwner);
            return false;
        }
    }

    public override bool TryRemove(ReadOnlySpan<byte> name, bool isFolder, out Trouble trouble)
    {
        lock (disk.Gate) return Asked("remove", name, out trouble) && disk.Remove(number, name, isFolder, out trouble);
    }

    public override byte[] ReadLink(ReadOnlySpan<byte> name)
    {
        lock (disk.Gate)
        {
            if (!Asked("look", name, out var trouble) || disk.Find(number, name, out trouble) is not { } found)
                throw new FileTroubleException(trouble, "read link");
            return disk[found].Kind == NodeKind.Link ? disk[found].Target : throw new FileTroubleException(new(Fault.Invalid), "read link");
        }
    }

    public override void MakeLink(ReadOnlySpan<byte> name, ReadOnlySpan<byte> target)
    {
        lock (disk.Gate)
        {
            var trouble = target.IsEmpty ? new(Fault.NotThere) : disk.IsPlain ? new(Fault.NotOwner) : default(Trouble);
            if (trouble.Fault != Fault.None || !Asked("make", name, out trouble) || !disk.MayName(number, name, out trouble))
                throw new FileTroubleException(trouble, "make link");
            var made = disk.Make(NodeKind.Link, 0x1FF);
            var bytes = target.ToArray();
            disk.Change(made, n => n with { Target = bytes, Mode = 0x1FF });
            disk.Name(number, name, made, out _);
        }
    }

    public override void SetLinkModified(ReadOnlySpan<byte> name, Stamp modified)
    {
        lock (disk.Gate)
        {
            if (!Asked("write", name, out var trouble) || disk.Find(number, name, out trouble) is not { } found)
                throw new FileTroubleException(trouble, "set times");
            disk.Change(found, n => n with { Modified = modified });
        }
    }

    public override bool TrySetLinkOwner(ReadOnlySpan<byte> name, NodeOwner owner)
    {
        lock (disk.Gate)
        {
            if (!Asked("write", name, out var trouble) || disk.Find(number, name, out trouble) is not { } found) return false;
            disk.Change(found, n => n with { Owner = owner });
            return true;
        }
    }

    public override NodeIdentity Identity()
    {
        lock (disk.Gate) return new(disk.Identity, number, null, 1000);
    }

    public override Room Room()
    {
        lock (disk.Gate) return disk.Room();
    }

    public override void Sync()
    {
        lock (disk.Gate) disk.Sync(number, all: true);
    }

    public override ReadFrom ReadsFrom => ReadFrom.Medium;

    public override bool KeepsModes => !disk.IsPlain;

    private ulong Number => number;

    private bool Asked(string what, ReadOnlySpan<byte> name, out Trouble trouble) =>
        (trouble = disk.Ask(what, number, name)).Fault == Fault.None;
}
