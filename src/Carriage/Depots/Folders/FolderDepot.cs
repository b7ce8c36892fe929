using System.Text;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots.Folders;

/// <summary>
/// A depot that is a folder: a local disk, a mounted network share, a removable disk. No path is ever followed through a link.
/// </summary>
public sealed partial class FolderDepot : IDepot
{
    private readonly TreeRoot _folder;
    private readonly Lock _opening = new();
    private readonly FoldersMade _made;
    private readonly FoldersHeld _held = new();
    private readonly IWork _work;
    private OpenFolder? _root;
    private volatile bool _sparesNothing;
    private ReadFrom? _from;

    private readonly string? _label;
    private readonly DepotModes _modes;

    /// <summary>A depot in <paramref name="folder"/>, an absolute path; the folder must be there when the depot is used.</summary>
    /// <param name="label">What the disk is labelled, so that another disk, or an empty place to mount one, is refused; null: any will
    /// do.</param>
    /// <param name="work">How it waits; null: on this program's threads.</param>
    /// <param name="modes">Who may reach what is staged.</param>
    public FolderDepot(TreeRoot folder, string? label = null, IWork? work = null, DepotModes modes = DepotModes.Private)
    {
        _modes = modes;
        (_folder, _label, _work) = (
            folder.Path.Length > 1 ? folder with { Path = folder.Path.TrimEnd('/') } : folder, label, work ?? ThreadWork.Here);
        _made = new(_work);
    }

    /// <inheritdoc/>
    public string Address => "file://" + _folder.Path + _modes.InAddress() + (_label is null ? "" : "#" + Uri.EscapeDataString(_label));

    /// <inheritdoc/>
    public TreeRoot? Ground => _folder;

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
        if (root is null && trouble.Fault != Fault.NotThere) throw Broke(trouble, "open");
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

    private DepotUnreachableException Broke(Trouble trouble, string what) => new(
        Address,
        trouble.Said(what)
            + (trouble.Fault == Fault.Shut
                ? ". What another account staged there is that account's alone, unless the depot's address says ?modes=group or "
                    + "?modes=as-mounted."
                : "."));

    private static byte[] Bytes(DepotPath path) => Encoding.UTF8.GetBytes(path.Text);

    // Some mounted shares, once they have refused a name, refuse everything for some seconds.
    // They are waited for; whether they work again is answered.
    private bool Recover(DepotPath folder, CancellationToken cancel)
    {
        var (name, made) = (folder / $"again-{_work.NewId():N}", false);
        for (var wait = 50; wait < 10_000; wait *= 2)
        {
            // Closed before it is removed: a share may refuse to remove what is open, or what it has only just closed.
            if (!made)
                using (var file = Root.TryOpenFile(Bytes(name), FileUse.Make, out _, _modes.OfFile()))
                    made = file is not null;
            if (made && RemoveTree(name)) return true;
            if (IsStopped(wait, cancel)) break;
        }
        RemoveTree(name);
        return false;
    }

    /// <summary>Waits so many milliseconds; true: it was stopped meanwhile.</summary>
    private bool IsStopped(int wait, CancellationToken cancel) => _work.Wait(async () =>
    {
        await Task.Delay(TimeSpan.FromMilliseconds(wait), _work.Time, cancel).Quietly();
        return cancel.IsCancellationRequested;
    });

    /// <inheritdoc/>
    public Task<DepotFeatures> ProbeAsync(CancellationToken cancel)
    {
        var folder = ProbeFolder.New(_work.NewId());
        try
        {
            MakeAll(folder);
            using var inside = Root.OpenFolderAt(Bytes(folder));
            foreach (var name in ProbeNames.All)
            {
                using var made = inside.TryOpenFile(Encoding.UTF8.GetBytes(name), FileUse.Make, out var trouble, _modes.OfFile());
                if (made is not null && name == ProbeNames.Plain) LetIn(made, _modes.OfFile());
                if (made is null && name == ProbeNames.Plain)
                    throw new DepotUnreachableException(Address, $"it cannot be written to ({trouble.Said("create")}).");
                if (made is null) Recover(folder, cancel);
            }
            return Task.FromResult(ProbeNames.Of(inside.Names().Select(Encoding.UTF8.GetString).ToHashSet()) with
            {
                Modes = CameBack(inside) ? _modes : DepotModes.AsMounted
            });
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
    public Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel) =>
        Task.FromResult(Open(path, out _).TryGet(out var opened, out var problem) ? Result<Stream>.Of(opened) : problem);

    /// <inheritdoc/>
    public bool HasMedium => From == ReadFrom.Medium;

    private ReadFrom From => _from ??= Root.ReadsFrom;

    /// <inheritdoc/>
    public Task<Result<ReadBack>> OpenBackAsync(DepotPath path, CancellationToken cancel) => Task.FromResult<Result<ReadBack>>(
        Open(path, out var file).TryGet(out var opened, out var problem)
            // What never forgets what it keeps, or has it elsewhere, is not asked for each file.
            ? new ReadBack(opened, HasMedium ? file!.Forget(opened.Length) : From)
            : problem);

    private Result<FileReadStream> Open(DepotPath path, out OpenFile? file)
    {
        file = Root.TryOpenFile(Bytes(path), FileUse.Read, out var trouble);
        if (file is null)
            return trouble.Fault is Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink or Fault.OtherFileSystem
                or Fault.NameTooLong
                ? new NotInDepot(path.Text)
                : throw Broke(trouble, $"open {path}");
        try
        {
            var facts = file.Facts();
            if (facts.Kind == NodeKind.File) return new FileReadStream(file, facts.Bytes);
        }
        catch (FileTroubleException broke)
        {
            file.Dispose();
            throw new DepotUnreachableException(Address, broke.Message + ".", broke);
        }
        file.Dispose();
        return new NotInDepot(path.Text);
    }

    /// <inheritdoc/>
    public Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel)
    {
        using var open = Root.TryOpenFolder(Bytes(folder), FolderUse.List, out var trouble);
        if (open is null && trouble.Fault is not (Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink))
            throw Broke(trouble, $"list {folder}");
        var names = new List<DepotName>();
        if (open is null) return Task.FromResult<IReadOnlyList<DepotName>>(names);
        try
        {
            var keepsModes = open.KeepsModes;
            // A name of which nothing can be said is not one that is not there.
            open.Look((name, facts, why) =>
            {
                if (facts is { } known)
                    names.Add(new(
                        Encoding.UTF8.GetString(name), known.Kind == NodeKind.Folder, known.Kind == NodeKind.File ? known.Bytes : 0)
                    {
                        Modified = known.Modified,
                        Mode = keepsModes ? known.Mode : null
                    });
                else if (why.Fault != Fault.NotThere) throw new FileTroubleException(why, $"look at {Encoding.UTF8.GetString(name)}");
            });
        }
        catch (FileTroubleException broke)
        {
            throw new DepotUnreachableException(Address, $"in {folder}: {broke.Message}.", broke);
        }
        return Task.FromResult<IReadOnlyList<DepotName>>(names);
    }

    /// <inheritdoc/>
    public Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel)
    {
        using var parent = Root.TryOpenFolder(Bytes(folder.Parent), FolderUse.Pass, out var above);
        if (parent is null)
        {
            if (above.Fault is not (Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink or Fault.OtherFileSystem))
                throw new DepotUnreachableException(Address, above.Said($"open {folder.Parent}") + ".");
            _made.ForgetAll();
            return Task.FromResult<Result<bool>>(new NotInDepot(folder.Parent.Text));
        }
        if (TryMake(parent, folder.Name, _modes, out var trouble)) return Task.FromResult<Result<bool>>(true);
        return trouble.Fault switch
        {
            Fault.Taken => Task.FromResult<Result<bool>>(false),
            Fault.Full => Task.FromResult<Result<bool>>(new DepotFull(Address, 0)),
            _ => throw Broke(trouble, $"make folder {folder}"),
        };
    }

    /// <inheritdoc/>
    public Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel)
    {
        MakeAll(folder);
        return Task.CompletedTask;
    }

    private void MakeAll(DepotPath folder) => MakeAll(folder, _modes);

    private void MakeAll(DepotPath folder, DepotModes modes)
    {
        if (folder.IsRoot) return;
        if (_made.Has(folder)) return;
        MakeAll(folder.Parent, modes);
        using var parent = Root.TryOpenFolder(Bytes(folder.Parent), FolderUse.Pass, out _);
        if (parent is not null
            && !TryMake(parent, folder.Name, modes, out var trouble)
            && trouble.Fault is not (Fault.Taken or Fault.NameTooLong or Fault.Full
                or Fault.Invalid))
            throw Broke(trouble, $"make folder {folder}");
        _made.Add(folder);
    }

    /// <inheritdoc/>
    public Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel)
    {
        _held.LetGo();
        using var source = Root.TryOpenFolder(Bytes(from.Parent), FolderUse.Pass, out var sourceTrouble);
        using var target = Root.TryOpenFolder(Bytes(to.Parent), FolderUse.Pass, out var targetTrouble);
        _made.Forget(from);
        if (source is null || target is null) return Task.FromResult(IsNo(source is null ? sourceTrouble : targetTrouble, from));
        var (name, newName) = (Encoding.UTF8.GetBytes(from.Name), Encoding.UTF8.GetBytes(to.Name));
        if (source.TryRename(name, target, newName, replace: false, out var trouble)) return Task.FromResult(true);
        // A mounted share may know no renaming that spares what stands: looked first, then renamed; of two callers the source still lets
        // one win only.
        if (trouble.Fault is not (Fault.Invalid or Fault.NotSupported)) return Task.FromResult(IsNo(trouble, from));
        if (target.TryFacts(newName, out trouble) is not null) return Task.FromResult(false);
        if (trouble.Fault == Fault.NotThere && source.TryRename(name, target, newName, replace: true, out trouble))
            return Task.FromResult(true);
        return Task.FromResult(IsNo(trouble, from));
    }

    /// <summary>False where the answer is a plain no; what is no answer is thrown.</summary>
    private bool IsNo(Trouble trouble, DepotPath path) =>
        trouble.Fault is Fault.NotThere or Fault.Taken or Fault.NotAFolder or Fault.IsAFolder or Fault.NotEmpty or Fault.ThroughLink
            or Fault.OtherFileSystem or Fault.Invalid or Fault.NameTooLong
            ? false
            : throw Broke(trouble, $"move {path}");


    /// <inheritdoc/>
    public Task RemoveAsync(DepotPath path, CancellationToken cancel)
    {
        var gone = RemoveTree(path, out var trouble);
        _made.Forget(path);
        if (!gone) throw Broke(trouble, $"remove {path}");
        return Task.CompletedTask;
    }

    /// <returns>Whether nothing is there any more.</returns>
    private bool RemoveTree(DepotPath path) => RemoveTree(path, out _);

    private bool RemoveTree(DepotPath path, out Trouble trouble)
    {
        // A share may refuse to remove what is open.
        _held.LetGo();
        using var parent = Root.TryOpenFolder(Bytes(path.Parent), FolderUse.Pass, out trouble);
        return parent is null
            ? trouble.Fault is Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink or Fault.OtherFileSystem
            : RemoveName(parent, Encoding.UTF8.GetBytes(path.Name), out trouble);
    }

    private static bool RemoveName(OpenFolder folder, byte[] name, out Trouble trouble)
    {
        if (folder.TryRemove(name, isFolder: false, out trouble) || trouble.Fault == Fault.NotThere) return true;
        using (var inside = folder.TryOpenFolder(name, FolderUse.List, out var opened))
        {
            // No folder: what kept it from being removed is what is to be told.
            if (inside is null) return opened.Fault == Fault.NotThere;
            try
            {
                foreach (var below in inside.Names())
                    if (!RemoveName(inside, below, out trouble)) return false;
            }
            catch (FileTroubleException broke)
            {
                trouble = broke.Trouble;
                return false;
            }
        }
        return folder.TryRemove(name, isFolder: true, out trouble) || trouble.Fault == Fault.NotThere;
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
        _held.LetGo();
        try
        {
            Root.Sync();
        }
        catch (FileTroubleException broke)
        {
            throw new DepotNotTakenException(Address, broke);
        }
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _held.Dispose();
        _root?.Dispose();
    }
}
