using System.Buffers;
using System.Text;
using YardRelay.Carriage.Posix;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.Folders;

/// <summary>
/// A depot that is a folder: a local disk, a mounted network share, a removable disk. No path is ever followed through a link.
/// </summary>
public sealed class FolderDepot : IDepot
{
    private readonly string _folder;
    private readonly Lock _opening = new();
    private readonly FoldersMade _made = new();
    private PosixHandle? _root;

    /// <summary>The file in a depot's folder that bears the label of its disk.</summary>
    public const string LabelFile = "yard-disk.txt";

    private readonly string? _label;

    /// <summary>A depot in <paramref name="folder"/>, an absolute path; the folder must be there when the depot is used.</summary>
    /// <param name="label">What the disk is labelled, so that another disk, or an empty place to mount one, is refused; null: any will
    /// do.</param>
    public FolderDepot(string folder, string? label = null) =>
        (_folder, _label) = (folder.Length > 1 ? folder.TrimEnd('/') : folder, label);

    /// <summary>Labels the disk. One that bears another label keeps it.</summary>
    /// <returns>What is wrong; null: it bears the label now.</returns>
    public static Problem? Label(string folder, string label)
    {
        if (label.Length is 0 or > 60 || label.Any(char.IsControl) || label != label.Trim())
            return new DiskLabelProblem();
        try
        {
            if (LabelOf(folder) is { } stands)
                return stands == label
                    ? null
                    : new DiskLabelledProblem(stands, LabelFile);
            File.WriteAllText(Path.Combine(folder, LabelFile), label + "\n");
            return null;
        }
        catch (Exception broke) when (broke is IOException or UnauthorizedAccessException)
        {
            return new DiskWriteProblem(broke.Message);
        }
    }

    private static string? LabelOf(string folder) =>
        Path.Combine(folder, LabelFile) is var file && File.Exists(file) && new FileInfo(file).Length < 1000
            ? File.ReadAllText(file).Trim()
            : null;

    /// <inheritdoc/>
    public string Address => "file://" + _folder + (_label is null ? "" : "#" + Uri.EscapeDataString(_label));

    private int Root
    {
        get
        {
            lock (_opening)
            {
                if (_root is null && _label is not null && LabelOf(_folder) is var stands && stands != _label)
                    throw new DepotUnreachableException(
                        Address,
                        stands is null
                            ? $"no disk labelled '{_label}' is there. Plug it in and mount it; a new disk is labelled with 'yardhand "
                                + $"label'."
                            : $"the disk there is labelled '{stands}', not '{_label}'. Plug the right one in.");
                return (_root ??= PosixFile.TryOpen(Libc.AtCurrent, Encoding.UTF8.GetBytes(_folder), Libc.Directory, out var errno)
                    ?? throw new DepotUnreachableException(
                        Address,
                        errno == PosixException.NoEntry
                            ? "the folder is not there. Is the share or disk mounted?"
                            : new PosixException(errno, "open").Message + ".")).Number;
            }
        }
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
                using (var file = PosixFile.TryOpenBeneath(Root, Bytes(name), Libc.WriteOnly | Libc.Create, out _))
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
            using var inside = PosixFile.OpenBeneath(Root, Bytes(folder), Libc.Directory);
            foreach (var name in new[] { small, large, odd })
            {
                using var made = PosixFile.TryOpen(
                    inside.Number, Encoding.UTF8.GetBytes(name), Libc.WriteOnly | Libc.Create, out var errno);
                if (made is null && name == small)
                    throw new DepotUnreachableException(
                        Address, $"it cannot be written to ({new PosixException(errno, "create").Message}).");
                if (made is null && name == odd) Recover(folder, cancel);
            }
            var names = PosixFile.Names(inside).Select(Encoding.UTF8.GetString).ToHashSet();
            return Task.FromResult(new DepotFeatures(names.Contains(odd), names.Contains(small) && names.Contains(large)));
        }
        catch (PosixException broke)
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
            var file = OpenAside(aside, content, cancel, out var from, out var errno);
            if (file is null) return Refuse(errno, path, content.Bytes);
            using (file)
            using (var reading = content.Open(from)) Copy(reading, file, from, content.Bytes, cancel);
            using var asideFolder = PosixFile.OpenBeneath(Root, Bytes(aside.Parent), Libc.PathOnly | Libc.Directory);
            using var to = PosixFile.TryOpenBeneath(Root, Bytes(path.Parent), Libc.PathOnly | Libc.Directory, out var parentErrno);
            if (to is null) return Refuse(parentErrno, path, content.Bytes);
            var (asideName, name) = (Encoding.UTF8.GetBytes(aside.Name), Encoding.UTF8.GetBytes(path.Name));
            whole = PosixFile.TryRename(asideFolder.Number, asideName, to.Number, name, replace: true, out var renameErrno);
            // A mounted share says "busy" while its server still lets go of the file that stood there, or of the one just closed.
            for (var wait = 50; !whole
                && renameErrno == PosixException.Busy
                && wait < 10_000
                && !cancel.WaitHandle.WaitOne(wait); wait *= 2)
                whole = PosixFile.TryRename(asideFolder.Number, asideName, to.Number, name, replace: true, out renameErrno);
            if (!whole && renameErrno == PosixException.InputOutput && Recover(aside.Parent, cancel))
            {
                whole = PosixFile.TryRename(asideFolder.Number, asideName, to.Number, name, replace: true, out renameErrno);
                // All else works, and this name fails again: it is the name that the share will not have.
                if (!whole && renameErrno == PosixException.InputOutput && Recover(aside.Parent, cancel))
                    renameErrno = PosixException.Invalid;
            }
            return whole ? Task.FromResult<Result<long>>(content.Bytes) : Refuse(renameErrno, path, content.Bytes);
        }
        catch (PosixException broke)
            when (broke.Errno is PosixException.NoSpace or PosixException.QuotaPassed or PosixException.NameTooLong
                or PosixException.Invalid)
        {
            return Refuse(broke.Errno, path, content.Bytes);
        }
        catch (Exception broke) when (content.GoesOn && broke is OperationCanceledException or PosixException)
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
    private PosixHandle? OpenAside(DepotPath aside, Content content, CancellationToken cancel, out long from, out int errno)
    {
        var name = Bytes(aside);
        from = 0;
        if (content.GoesOn && PosixFile.TryOpenBeneath(Root, name, Libc.WriteOnly, out errno) is { } begun)
        {
            if (PosixFile.Stat(begun) is { Kind: NodeKind.File } facts && facts.Bytes <= content.Bytes)
            {
                from = facts.Bytes;
                PosixFile.Seek(begun, from);
                return begun;
            }
            begun.Dispose();
        }
        var file = PosixFile.TryOpenBeneath(Root, name, Libc.WriteOnly | Libc.Create | Libc.Exclusive, out errno, 0x1B6);
        if (file is null && errno == PosixException.Exists)
        {
            RemoveTree(aside);
            file = PosixFile.TryOpenBeneath(Root, name, Libc.WriteOnly | Libc.Create | Libc.Exclusive, out errno, 0x1B6);
        }
        if (file is null && errno is PosixException.InputOutput or PosixException.Busy && Recover(aside.Parent, cancel))
            file = PosixFile.TryOpenBeneath(Root, name, Libc.WriteOnly | Libc.Create, out errno, 0x1B6);
        return file;
    }

    // A block of nothing but zeros is left as a hole: a sparse file takes no more room here than where it comes from.
    private static void Copy(Stream content, PosixHandle file, long from, long bytes, CancellationToken cancel)
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
                    PosixFile.Seek(file, done);
                    hole = true;
                    continue;
                }
                PosixFile.WriteAll(file, buffer.AsSpan(0, got));
                hole = false;
            }
            if (!hole) return;
            // A hole at the end becomes one by its last byte; some mounted shares cannot set a length.
            PosixFile.Seek(file, bytes - 1);
            PosixFile.WriteAll(file, [0]);
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    private Task<Result<long>> Refuse(int errno, DepotPath path, long bytes) => Task.FromResult<Result<long>>(errno switch
    {
        PosixException.NoSpace or PosixException.QuotaPassed => new DepotFull(Address, bytes),
        PosixException.NameTooLong => new DepotRefused(path.Text, "the path is too long for it."),
        PosixException.IsFolder => new DepotRefused(path.Text, "a folder stands under that name."),
        PosixException.NotFolder or PosixException.TooManyLinks or PosixException.CrossDevice =>
            new DepotRefused(path.Text, "the way to it runs through a file or a link."),
        PosixException.Invalid => new DepotRefused(path.Text, "it cannot hold that name."),
        _ => throw new DepotUnreachableException(Address, new PosixException(errno, $"save {path}").Message + "."),
    });

    /// <inheritdoc/>
    public Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel)
    {
        var file = PosixFile.TryOpenBeneath(Root, Bytes(path), Libc.NonBlock, out var errno);
        if (file is null)
            return errno is PosixException.NoEntry or PosixException.NotFolder or PosixException.TooManyLinks or PosixException.CrossDevice
                or PosixException.NameTooLong
                ? Task.FromResult<Result<Stream>>(new NotInDepot(path.Text))
                : throw new DepotUnreachableException(Address, new PosixException(errno, $"open {path}").Message + ".");
        var facts = PosixFile.Stat(file);
        if (facts.Kind == NodeKind.File) return Task.FromResult<Result<Stream>>(new PosixReadStream(file, facts.Bytes));
        file.Dispose();
        return Task.FromResult<Result<Stream>>(new NotInDepot(path.Text));
    }

    /// <inheritdoc/>
    public Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel)
    {
        using var open = PosixFile.TryOpenBeneath(Root, Bytes(folder), Libc.Directory, out var errno);
        if (open is null && errno is not (PosixException.NoEntry or PosixException.NotFolder or PosixException.TooManyLinks))
            throw new DepotUnreachableException(Address, new PosixException(errno, $"list {folder}").Message + ".");
        var names = new List<DepotName>();
        if (open is null) return Task.FromResult<IReadOnlyList<DepotName>>(names);
        foreach (var name in PosixFile.Names(open))
            if (PosixFile.TryStat(open.Number, name, out _) is { } facts)
                names.Add(new(Encoding.UTF8.GetString(name), facts.Kind == NodeKind.Folder, facts.Kind == NodeKind.File ? facts.Bytes : 0));
        return Task.FromResult<IReadOnlyList<DepotName>>(names);
    }

    /// <inheritdoc/>
    public Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel)
    {
        using var parent = PosixFile.TryOpenBeneath(Root, Bytes(folder.Parent), Libc.PathOnly | Libc.Directory, out _);
        if (parent is null)
        {
            _made.ForgetAll();
            return Task.FromResult<Result<bool>>(new NotInDepot(folder.Parent.Text));
        }
        if (PosixFile.TryMakeFolder(parent.Number, Encoding.UTF8.GetBytes(folder.Name), 0x1FF, out var errno))
            return Task.FromResult<Result<bool>>(true);
        return errno switch
        {
            PosixException.Exists => Task.FromResult<Result<bool>>(false),
            PosixException.NoSpace or PosixException.QuotaPassed => Task.FromResult<Result<bool>>(new DepotFull(Address, 0)),
            _ => throw new DepotUnreachableException(Address, new PosixException(errno, $"make folder {folder}").Message + "."),
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
        using var parent = PosixFile.TryOpenBeneath(Root, Bytes(folder.Parent), Libc.PathOnly | Libc.Directory, out _);
        if (parent is not null
            && !PosixFile.TryMakeFolder(parent.Number, Encoding.UTF8.GetBytes(folder.Name), 0x1FF, out var errno)
            && errno is not (PosixException.Exists or PosixException.NameTooLong or PosixException.NoSpace or PosixException.QuotaPassed
                or PosixException.Invalid))
            throw new DepotUnreachableException(Address, new PosixException(errno, $"make folder {folder}").Message + ".");
        _made.Add(folder);
    }

    /// <inheritdoc/>
    public Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel)
    {
        using var source = PosixFile.TryOpenBeneath(Root, Bytes(from.Parent), Libc.PathOnly | Libc.Directory, out _);
        using var target = PosixFile.TryOpenBeneath(Root, Bytes(to.Parent), Libc.PathOnly | Libc.Directory, out _);
        _made.Forget(from);
        if (source is null || target is null) return Task.FromResult(false);
        var (name, newName) = (Encoding.UTF8.GetBytes(from.Name), Encoding.UTF8.GetBytes(to.Name));
        if (PosixFile.TryRename(source.Number, name, target.Number, newName, replace: false, out var errno)) return Task.FromResult(true);
        // A mounted share may know no renaming that spares what stands: looked first, then renamed; of two callers the source still lets
        // one win only.
        return Task.FromResult(errno is PosixException.Invalid or PosixException.NotSupported
            && PosixFile.TryStat(target.Number, newName, out _) is null
            && PosixFile.TryRename(source.Number, name, target.Number, newName, replace: true, out _));
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
        using var parent = PosixFile.TryOpenBeneath(Root, Bytes(path.Parent), Libc.PathOnly | Libc.Directory, out var errno);
        return parent is null ? errno == PosixException.NoEntry : RemoveName(parent.Number, Encoding.UTF8.GetBytes(path.Name));
    }

    private static bool RemoveName(int folder, byte[] name)
    {
        if (PosixFile.TryRemove(folder, name, isFolder: false, out var errno) || errno == PosixException.NoEntry) return true;
        using (var inside = PosixFile.TryOpen(folder, name, Libc.Directory | Libc.NoFollow, out _))
            if (inside is not null)
                foreach (var below in PosixFile.Names(inside)) RemoveName(inside.Number, below);
        return PosixFile.TryRemove(folder, name, isFolder: true, out _);
    }

    /// <inheritdoc/>
    public Task<DepotRoom> RoomAsync(CancellationToken cancel)
    {
        _ = Root;
        var drive = new DriveInfo(_folder);
        return Task.FromResult(new DepotRoom(drive.AvailableFreeSpace, drive.TotalSize - drive.TotalFreeSpace));
    }

    /// <inheritdoc/>
    public Task SettleAsync(CancellationToken cancel)
    {
        _ = Root;
        PosixFile.Sync(_root!);
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public void Dispose() => _root?.Dispose();
}
