using System.Buffers;
using System.Text;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.Folders;

/// <content>How a file comes to be there: written aside, brought onto the medium where that matters, and named.</content>
public sealed partial class FolderDepot
{
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
            {
                using (var reading = content.Open(from)) Copy(reading, file, from, content.Bytes, cancel);
                if (content.SettlesFirst) Settle(file);
            }
            if (content.SettlesFirst) MustGiveBack(aside, content);
            whole = TryName(path, aside, content, cancel, out var why);
            return whole ? Task.FromResult<Result<long>>(content.Bytes) : Refuse(why, path, content.Bytes);
        }
        catch (FileTroubleException broke)
            when (broke.Fault is Fault.Full or Fault.NameTooLong
                or Fault.Invalid)
        {
            return Refuse(broke.Trouble, path, content.Bytes);
        }
        catch (NotGivenBackException)
        {
            return Task.FromResult<Result<long>>(new DepotKeptOther(path.Text));
        }
        // Stopped, or the disk went away: what lies aside is the beginning of what comes next time.
        catch (OperationCanceledException) when (content.GoesOn)
        {
            goesOn = true;
            throw;
        }
        catch (FileTroubleException broke)
        {
            goesOn = content.GoesOn;
            throw new DepotUnreachableException(Address, broke.Message + ".", broke);
        }
        finally
        {
            if (!whole && !goesOn && !RemoveTree(aside) && Recover(aside.Parent, cancel)) RemoveTree(aside);
        }
    }

    /// <summary>Gives what lies aside, whole, the name under which it is seen.</summary>
    private bool TryName(DepotPath path, DepotPath aside, Content content, CancellationToken cancel, out Trouble trouble)
    {
        using var asideHeld = Hold(aside.Parent, out trouble);
        using var toHeld = Hold(path.Parent, out trouble);
        if (asideHeld is null || toHeld is null) return false;
        var (asideFolder, to) = (asideHeld.Folder, toHeld.Folder);
        var (asideName, name) = (Encoding.UTF8.GetBytes(aside.Name), Encoding.UTF8.GetBytes(path.Name));
        var replaces = Replaces(asideFolder, asideName, to, name, out var whole, out trouble);
        if (replaces) whole = TakePlace(out trouble);
        // A mounted share says "busy" while its server still lets go of the file that stood there, or of the one just closed.
        for (var wait = 50; !whole
            && trouble.Fault == Fault.InUse
            && wait < 10_000
            && !IsStopped(wait, cancel); wait *= 2)
            whole = TakePlace(out trouble);
        if (!whole && trouble.Fault == Fault.Broken && Recover(aside.Parent, cancel))
        {
            whole = TakePlace(out trouble);
            // All else works, and this name fails again: it is the name that the share will not have.
            if (!whole && trouble.Fault == Fault.Broken && Recover(aside.Parent, cancel))
                trouble = new(Fault.Invalid);
        }
        return whole;

        // What stood there gives way only to what is on the medium.
        bool TakePlace(out Trouble why)
        {
            if (!content.SettlesFirst)
            {
                using var written = asideFolder.TryOpenFile(asideName, FileUse.Write, out why);
                if (written is null) return false;
                Settle(written);
                MustGiveBack(aside, content);
            }
            return asideFolder.TryRename(asideName, to, name, replace: true, out why);
        }
    }

    /// <summary>Reads back from the medium what lies aside, before anything gives way to it.</summary>
    private void MustGiveBack(DepotPath aside, Content content)
    {
        if (content.Sha256 is not { } known || !HasMedium) return;
        using var file = Root.OpenFileAt(Bytes(aside), FileUse.Read);
        var from = file.Forget(content.Bytes);
        using var back = new FileReadStream(file, content.Bytes, leaveOpen: true);
        if (Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(back)) != known()) throw new NotGivenBackException();
        content.GaveBack?.Invoke(from);
    }

    private sealed class NotGivenBackException : Exception;

    /// <summary>A folder to put names into, held open; null: why it cannot be had.</summary>
    private FoldersHeld.Held? Hold(DepotPath folder, out Trouble trouble)
    {
        var why = default(Trouble);
        var held = _held.Take(folder, () =>
        {
            var opened = Root.TryOpenFolder(Bytes(folder), FolderUse.Pass, out why);
            if (opened is not null || why.Fault != Fault.NotThere) return opened;
            // Somebody took folders away since they were made.
            _made.ForgetAll();
            MakeAll(folder);
            return Root.TryOpenFolder(Bytes(folder), FolderUse.Pass, out why);
        });
        trouble = why;
        return held;
    }

    /// <summary>Gives it its name where none stands; true: something does, or it must be taken for that.</summary>
    private bool Replaces(
        OpenFolder asideFolder, byte[] asideName, OpenFolder to, byte[] name, out bool whole, out Trouble trouble)
    {
        (whole, trouble) = (false, default);
        if (!_sparesNothing)
        {
            whole = asideFolder.TryRename(asideName, to, name, replace: false, out trouble);
            _sparesNothing = trouble.Fault is Fault.Invalid or Fault.NotSupported;
        }
        if (!_sparesNothing) return trouble.Fault == Fault.Taken;
        // A mounted share may know no renaming that spares what stands.
        var stands = to.TryFacts(name, out var looked) is not null || looked.Fault != Fault.NotThere;
        if (!stands) whole = asideFolder.TryRename(asideName, to, name, replace: true, out trouble);
        return stands;
    }

    private void Settle(OpenFile file)
    {
        try
        {
            file.Sync();
        }
        catch (FileTroubleException broke) when (broke.Fault is Fault.Invalid or Fault.NotSupported)
        {
            // A mounted share may know no such question.
        }
        catch (FileTroubleException broke) when (broke.Fault != Fault.Full)
        {
            throw new DepotNotTakenException(Address, broke);
        }
    }

    /// <summary>The file aside, open behind what stands there already where the content goes on; else new.</summary>
    private OpenFile? OpenAside(DepotPath aside, Content content, CancellationToken cancel, out long from, out Trouble trouble)
    {
        from = 0;
        using var held = Hold(aside.Parent, out trouble);
        if (held is null) return null;
        var (folder, name) = (held.Folder, Encoding.UTF8.GetBytes(aside.Name));
        if (content.GoesOn && folder.TryOpenFile(name, FileUse.Write, out trouble) is { } begun)
        {
            if (begun.Facts() is { Kind: NodeKind.File } facts && facts.Bytes <= content.Bytes)
            {
                from = facts.Bytes;
                return begun;
            }
            begun.Dispose();
        }
        var file = folder.TryOpenFile(name, FileUse.MakeNew, out trouble, _modes.OfFile());
        if (file is null && trouble.Fault == Fault.Taken)
        {
            RemoveTree(aside);
            file = folder.TryOpenFile(name, FileUse.MakeNew, out trouble, _modes.OfFile());
        }
        if (file is null && trouble.Fault is Fault.Broken or Fault.InUse && Recover(aside.Parent, cancel))
            file = folder.TryOpenFile(name, FileUse.Make, out trouble, _modes.OfFile());
        if (file is not null && _modes == DepotModes.Group) LetIn(file, _modes.OfFile());
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
        _ => throw Broke(trouble, $"save {path}"),
    });
}
