using System.Buffers;
using System.Text;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.Folders;

/// <summary>
/// A depot that is a folder: a local disk, a mounted network share, a removable disk. No path is ever followed through a link.
/// </summary>
public sealed class FolderDepot : IDepot
{
    private readonly TreeRoot _folder;
    private readonly Lock _opening = new();
    private readonly FoldersMade _made = new();
    private OpenFolder? _root;

    /// <summary>The file in a depot's folder that bears the label of its disk.</summary>
    public const string LabelFile = "yard-disk.txt";

    private readonly string? _label;

    /// <summary>A depot in <paramref name="folder"/>, an absolute path; the folder must be there when the depot is used.</summary>
    /// <param name="label">What the disk is labelled, so that another disk, or an empty place to mount one, is refused; null: any will
    /// do.</param>
    public FolderDepot(TreeRoot folder, string? label = null) =>
        (_folder, _label) = (folder.Path.Length > 1 ? folder with { Path = folder.Path.TrimEnd('/') } : folder, label);

    /// <summary>Labels the disk. One that bears another label keeps it.</summary>
    /// <returns>What is wrong; null: it bears the label now.</returns>
    public static Problem? Label(TreeRoot folder, string label)
    {
        if (label.Length is 0 or > 60 || label.Any(char.IsControl) || label != label.Trim())
            return new DiskLabelProblem();
        try
        {
            using var open = folder.Open();
            if (LabelOf(open) is { } stands) return stands == label ? null : new DiskLabelledProblem(stands, LabelFile);
            using var file = open.TryOpenFile(Encoding.UTF8.GetBytes(LabelFile), FileUse.MakeNew, out var trouble, 0x1B6);
            if (file is null) return new DiskWriteProblem(trouble.Said("make " + LabelFile));
            file.Write(0, Encoding.UTF8.GetBytes(label + "\n"));
            return null;
        }
        catch (FileTroubleException broke)
        {
            return new DiskWriteProblem(broke.Message);
        }
    }

    private static string? LabelOf(OpenFolder folder)
    {
        using var file = folder.TryOpenFile(Encoding.UTF8.GetBytes(LabelFile), FileUse.Read, out var trouble);
        // What cannot be read may still bear a label.
        if (file is null && trouble.Fault != Fault.NotThere) throw new FileTroubleException(trouble, "read " + LabelFile);
        if (file?.Facts() is not { Kind: NodeKind.File, Bytes: < 1000 } facts) return null;
        using var text = new StreamReader(new FileReadStream(file, facts.Bytes, leaveOpen: true), Encoding.UTF8);
        return text.ReadToEnd().Trim();
    }

    /// <inheritdoc/>
    public string Address => "file://" + _folder.Path + (_label is null ? "" : "#" + Uri.EscapeDataString(_label));

    private OpenFolder Root
    {
        get
        {
            lock (_opening) return _root ??= Opened();
        }
    }

    private OpenFolder Opened()
    {
        var root = _folder.TryOpen(out var trouble);
        if (root is null && trouble.Fault != Fault.NotThere) throw new DepotUnreachableException(Address, trouble.Said("open") + ".");
        if (root is null && _label is null)
            throw new DepotUnreachableException(Address, "the folder is not there. Is the share or disk mounted?");
        if (_label is null) return root!;
        string? stands = null;
        try
        {
            if (root is not null && (stands = LabelOf(root)) == _label) return root;
        }
        catch (FileTroubleException broke)
        {
            root?.Dispose();
            throw new DepotUnreachableException(Address, broke.Message + ".", broke);
        }
        root?.Dispose();
        throw new DepotUnreachableException(
            Address,
            stands is null
                ? $"no disk labelled '{_label}' is there. Plug it in and mount it; a new disk is labelled with 'yardhand label'."
                : $"the disk there is labelled '{stands}', not '{_label}'. Plug the right one in.");
    }

    private static byte[] Bytes(DepotPath path) => Encoding.UTF8.GetBytes(path.Text);

    // Some mounted shares, once they have refused a name, refuse everything for some seconds.
    // They are waited for; whether they work again is answered.
    private bool Recover(DepotPath folder, CancellationToken cancel)
    {
        var (name, made) = (folder / $"again-{Guid.NewGuid():N}", false);
        for (var wait = 50; wait < 10_000; wait *= 2)
        {
            // Closed before it is removed: a share may refuse to remove what is open, or what it has only just closed.
            if (!made)
                using (var file = Root.TryOpenFile(Bytes(name), FileUse.Make, out _))
                    made = file is not null;
            if (made && RemoveTree(name)) return true;
            if (cancel.WaitHandle.WaitOne(wait)) break;
        }
        RemoveTree(name);
        return false;
    }

    /// <inheritdoc/>
    public Task<DepotFeatures> ProbeAsync(CancellationToken cancel)
    {
        var tag = Guid.NewGuid().ToString("N")[..12];
        var folder = DepotPath.Of(ProbeFolder.Prefix + tag);
        var (odd, small, large) = ("a\"*:<>?\\|%41 é.", "case", "CASE");
        try
        {
            MakeAll(folder);
            using var inside = Root.OpenFolderAt(Bytes(folder));
            foreach (var name in new[] { small, large, odd })
            {
                using var made = inside.TryOpenFile(Encoding.UTF8.GetBytes(name), FileUse.Make, out var trouble);
                if (made is null && name == small)
                    throw new DepotUnreachableException(Address, $"it cannot be written to ({trouble.Said("create")}).");
                if (made is null && name == odd) Recover(folder, cancel);
            }
            var names = inside.Names().Select(Encoding.UTF8.GetString).ToHashSet();
            return Task.FromResult(new DepotFeatures(names.Contains(odd), names.Contains(small) && names.Contains(large)));
        }
        catch (FileTroubleException broke)
        {
            throw new DepotUnreachableException(Address, broke.Message + ".", broke);
        }
        finally
        {
            RemoveTree(folder);
            _made.ForgetAll();
        }
    }

    /// <inheritdoc/>
    public Task<Result<long>> SaveAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        MakeAll(path.Parent);
        MakeAll(aside.Parent);
        var (whole, goesOn) = (false, false);
        try
        {
            var file = OpenAside(aside, content, cancel, out var from, out var trouble);
            if (file is null) return Refuse(trouble, path, content.Bytes);
            using (file)
            using (var reading = content.Open(from)) Copy(reading, file, from, content.Bytes, cancel);
            using var asideFolder = Root.OpenFolderAt(Bytes(aside.Parent), FolderUse.Pass);
            using var to = Root.TryOpenFolder(Bytes(path.Parent), FolderUse.Pass, out var parentTrouble);
            if (to is null) return Refuse(parentTrouble, path, content.Bytes);
            var (asideName, name) = (Encoding.UTF8.GetBytes(aside.Name), Encoding.UTF8.GetBytes(path.Name));
            whole = asideFolder.TryRename(asideName, to, name, replace: true, out var renameTrouble);
            // A mounted share says "busy" while its server still lets go of the file that stood there, or of the one just closed.
            for (var wait = 50; !whole
                && renameTrouble.Fault == Fault.InUse
                && wait < 10_000
                && !cancel.WaitHandle.WaitOne(wait); wait *= 2)
                whole = asideFolder.TryRename(asideName, to, name, replace: true, out renameTrouble);
            if (!whole && renameTrouble.Fault == Fault.Broken && Recover(aside.Parent, cancel))
            {
                whole = asideFolder.TryRename(asideName, to, name, replace: true, out renameTrouble);
                // All else works, and this name fails again: it is the name that the share will not have.
                if (!whole && renameTrouble.Fault == Fault.Broken && Recover(aside.Parent, cancel))
                    renameTrouble = new(Fault.Invalid);
            }
            return whole ? Task.FromResult<Result<long>>(content.Bytes) : Refuse(renameTrouble, path, content.Bytes);
        }
        catch (FileTroubleException broke)
            when (broke.Fault is Fault.Full or Fault.NameTooLong
                or Fault.Invalid)
        {
            return Refuse(broke.Trouble, path, content.Bytes);
        }
        catch (Exception broke) when (content.GoesOn && broke is OperationCanceledException or FileTroubleException)
        {
            // Stopped, or the disk went away: what lies aside is the beginning of what comes next time.
            goesOn = true;
            throw;
        }
        finally
        {
            if (!whole && !goesOn && !RemoveTree(aside) && Recover(aside.Parent, cancel)) RemoveTree(aside);
        }
    }

    /// <summary>The file aside, open behind what stands there already where the content goes on; else new.</summary>
    private OpenFile? OpenAside(DepotPath aside, Content content, CancellationToken cancel, out long from, out Trouble trouble)
    {
        var name = Bytes(aside);
        from = 0;
        if (content.GoesOn && Root.TryOpenFile(name, FileUse.Write, out trouble) is { } begun)
        {
            if (begun.Facts() is { Kind: NodeKind.File } facts && facts.Bytes <= content.Bytes)
            {
                from = facts.Bytes;
                return begun;
            }
            begun.Dispose();
        }
        var file = Root.TryOpenFile(name, FileUse.MakeNew, out trouble, 0x1B6);
        if (file is null && trouble.Fault == Fault.Taken)
        {
            RemoveTree(aside);
            file = Root.TryOpenFile(name, FileUse.MakeNew, out trouble, 0x1B6);
        }
        if (file is null && trouble.Fault is Fault.Broken or Fault.InUse && Recover(aside.Parent, cancel))
            file = Root.TryOpenFile(name, FileUse.Make, out trouble, 0x1B6);
        return file;
    }

    // A block of nothing but zeros is left as a hole: a sparse file takes no more room here than where it comes from.
    private static void Copy(Stream content, OpenFile file, long from, long bytes, CancellationToken cancel)
    {
        const int Block = 1 << 18;
        var buffer = ArrayPool<byte>.Shared.Rent((int)Math.Clamp(bytes, 1, Block));
        try
        {
            var hole = false;
            for (var done = from; done < bytes;)
            {
                cancel.ThrowIfCancellationRequested();
                var got = content.Read(buffer, 0, (int)Math.Min(buffer.Length, bytes - done));
                if (got == 0) throw new EndOfStreamException($"The content ended after {done} of {bytes} bytes.");
                done += got;
                if (got >= Block / 4 && !buffer.AsSpan(0, got).ContainsAnyExcept((byte)0))
                {
                    hole = true;
                    continue;
                }
                file.Write(done - got, buffer.AsSpan(0, got));
                hole = false;
            }
            if (!hole) return;
            // A hole at the end becomes one by its last byte; some mounted shares cannot set a length.
            file.Write(bytes - 1, [0]);
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    private Task<Result<long>> Refuse(Trouble trouble, DepotPath path, long bytes) => Task.FromResult<Result<long>>(trouble.Fault switch
    {
        Fault.Full => new DepotFull(Address, bytes),
        Fault.NameTooLong => new DepotRefused(path.Text, "the path is too long for it."),
        Fault.IsAFolder => new DepotRefused(path.Text, "a folder stands under that name."),
        Fault.NotAFolder or Fault.ThroughLink or Fault.OtherFileSystem =>
            new DepotRefused(path.Text, "the way to it runs through a file or a link."),
        Fault.Invalid => new DepotRefused(path.Text, "it cannot hold that name."),
        _ => throw new DepotUnreachableException(Address, trouble.Said($"save {path}") + "."),
    });

    /// <inheritdoc/>
    public Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel)
    {
        var file = Root.TryOpenFile(Bytes(path), FileUse.Read, out var trouble);
        if (file is null)
            return trouble.Fault is Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink or Fault.OtherFileSystem
                or Fault.NameTooLong
                ? Task.FromResult<Result<Stream>>(new NotInDepot(path.Text))
                : throw new DepotUnreachableException(Address, trouble.Said($"open {path}") + ".");
        var facts = file.Facts();
        if (facts.Kind == NodeKind.File) return Task.FromResult<Result<Stream>>(new FileReadStream(file, facts.Bytes));
        file.Dispose();
        return Task.FromResult<Result<Stream>>(new NotInDepot(path.Text));
    }

    /// <inheritdoc/>
    public Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel)
    {
        using var open = Root.TryOpenFolder(Bytes(folder), FolderUse.List, out var trouble);
        if (open is null && trouble.Fault is not (Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink))
            throw new DepotUnreachableException(Address, trouble.Said($"list {folder}") + ".");
        var names = new List<DepotName>();
        if (open is null) return Task.FromResult<IReadOnlyList<DepotName>>(names);
        foreach (var name in open.Names())
            if (open.TryFacts(name, out _) is { } facts)
                names.Add(new(Encoding.UTF8.GetString(name), facts.Kind == NodeKind.Folder, facts.Kind == NodeKind.File ? facts.Bytes : 0));
        return Task.FromResult<IReadOnlyList<DepotName>>(names);
    }

    /// <inheritdoc/>
    public Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel)
    {
        using var parent = Root.TryOpenFolder(Bytes(folder.Parent), FolderUse.Pass, out _);
        if (parent is null)
        {
            _made.ForgetAll();
            return Task.FromResult<Result<bool>>(new NotInDepot(folder.Parent.Text));
        }
        if (parent.TryMakeFolder(Encoding.UTF8.GetBytes(folder.Name), 0x1FF, out var trouble))
            return Task.FromResult<Result<bool>>(true);
        return trouble.Fault switch
        {
            Fault.Taken => Task.FromResult<Result<bool>>(false),
            Fault.Full => Task.FromResult<Result<bool>>(new DepotFull(Address, 0)),
            _ => throw new DepotUnreachableException(Address, trouble.Said($"make folder {folder}") + "."),
        };
    }

    /// <inheritdoc/>
    public Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel)
    {
        MakeAll(folder);
        return Task.CompletedTask;
    }

    private void MakeAll(DepotPath folder)
    {
        if (folder.IsRoot) return;
        if (_made.Has(folder)) return;
        MakeAll(folder.Parent);
        using var parent = Root.TryOpenFolder(Bytes(folder.Parent), FolderUse.Pass, out _);
        if (parent is not null
            && !parent.TryMakeFolder(Encoding.UTF8.GetBytes(folder.Name), 0x1FF, out var trouble)
            && trouble.Fault is not (Fault.Taken or Fault.NameTooLong or Fault.Full
                or Fault.Invalid))
            throw new DepotUnreachableException(Address, trouble.Said($"make folder {folder}") + ".");
        _made.Add(folder);
    }

    /// <inheritdoc/>
    public Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel)
    {
        using var source = Root.TryOpenFolder(Bytes(from.Parent), FolderUse.Pass, out _);
        using var target = Root.TryOpenFolder(Bytes(to.Parent), FolderUse.Pass, out _);
        _made.Forget(from);
        if (source is null || target is null) return Task.FromResult(false);
        var (name, newName) = (Encoding.UTF8.GetBytes(from.Name), Encoding.UTF8.GetBytes(to.Name));
        if (source.TryRename(name, target, newName, replace: false, out var trouble)) return Task.FromResult(true);
        // A mounted share may know no renaming that spares what stands: looked first, then renamed; of two callers the source still lets
        // one win only.
        return Task.FromResult(trouble.Fault is Fault.Invalid or Fault.NotSupported
            && target.TryFacts(newName, out _) is null
            && source.TryRename(name, target, newName, replace: true, out _));
    }

    /// <inheritdoc/>
    public Task RemoveAsync(DepotPath path, CancellationToken cancel)
    {
        RemoveTree(path);
        _made.Forget(path);
        return Task.CompletedTask;
    }

    /// <returns>Whether nothing is there any more.</returns>
    private bool RemoveTree(DepotPath path)
    {
        using var parent = Root.TryOpenFolder(Bytes(path.Parent), FolderUse.Pass, out var trouble);
        return parent is null ? trouble.Fault == Fault.NotThere : RemoveName(parent, Encoding.UTF8.GetBytes(path.Name));
    }

    private static bool RemoveName(OpenFolder folder, byte[] name)
    {
        if (folder.TryRemove(name, isFolder: false, out var trouble) || trouble.Fault == Fault.NotThere) return true;
        using (var inside = folder.TryOpenFolder(name, FolderUse.List, out _))
            if (inside is not null)
                foreach (var below in inside.Names()) RemoveName(inside, below);
        return folder.TryRemove(name, isFolder: true, out _);
    }

    /// <inheritdoc/>
    public Task<DepotRoom> RoomAsync(CancellationToken cancel)
    {
        var room = Root.Room();
        return Task.FromResult(new DepotRoom(room.FreeBytes, room.UsedBytes));
    }

    /// <inheritdoc/>
    public Task SettleAsync(CancellationToken cancel)
    {
        Root.Sync();
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public void Dispose() => _root?.Dispose();
}
