using System.Buffers;
using System.Security.Cryptography;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Posix;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Carriage.Trips;

/// <summary>How one name of a parcel ended on the new computer.</summary>
internal enum Landed
{
    Restored,
    Replaced,
    Stood,
    Stayed,
    Beside,
    Open,
}

/// <summary>What became of one name. <paramref name="Name"/> is the one it has now.</summary>
internal readonly record struct Touchdown(Landed How, byte[] Name, Snag? Snag = null, Damage? Damage = null);

/// <summary>
/// Puts single files and links into a folder of the new computer. A file gets its name only when it is whole, with time, mode and
/// attributes, and only where nothing stands.
/// </summary>
internal sealed class FileRestorer(IContents contents, Workplace workplace, Odometer progress)
{
    private const int MostBeside = 1000;
    private const int AtOnceBytes = 256 * 1024;

    public async Task<Touchdown> RestoreAsync(Entry entry, PosixHandle folder, byte[] name, ClashRule clash, CancellationToken cancel)
    {
        progress.Now(entry.Shown);
        var stands = PosixFile.TryStat(folder.Number, name, out _);
        if (stands is { Kind: NodeKind.File } same && same.Bytes == entry.Bytes && await HasContentAsync(folder, name, entry, cancel))
            return Done(new(Landed.Stood, name), entry.Bytes);
        if (Stays(clash, stands, entry)) return Done(new(Landed.Stayed, name), entry.Bytes);
        PosixHandle? file = null;
        byte[]? temporary = null;
        try
        {
            file = PosixFile.TryOpen(folder.Number, "."u8, Libc.Unnamed | Libc.ReadWrite, out var errno);
            if (file is null)
            {
                // File systems without unnamed files get one in our own folder.
                temporary = workplace.TemporaryName();
                file = PosixFile.Open(workplace.Folder.Number, temporary, Libc.ReadWrite | Libc.Create | Libc.Exclusive);
            }
            if (await FillAsync(entry, file, cancel) is { } damage) return Done(new(Landed.Open, name, null, damage), 0);
            var lost = Dress(entry, file);
            if (Replaces(clash, stands))
            {
                temporary ??= workplace.TemporaryName();
                var there = PosixFile.TryStat(workplace.Folder.Number, temporary, out _) is not null
                    || PosixFile.TryGiveName(file, workplace.Folder.Number, temporary, out errno);
                if (there && PosixFile.TryRename(workplace.Folder.Number, temporary, folder.Number, name, replace: true, out errno))
                    return Done(new(Landed.Replaced, name, lost), 0);
                return Done(
                    new(
                        Landed.Open,
                        name,
                        new(
                            entry.Shown,
                            SnagKind.NotRestored,
                            entry.Bytes,
                            new PosixException(errno, "It could not take the place of what stands").Message + ".")),
                    0);
            }
            for (var number = 0; number <= MostBeside; number++)
            {
                var target = number == 0 ? name : BesideName.Of(name, number);
                var named = temporary is null
                    ? PosixFile.TryGiveName(file, folder.Number, target, out errno)
                    : PosixFile.TryHardLink(workplace.Folder.Number, temporary, folder.Number, target, out errno);
                if (named) return Done(new(number == 0 ? Landed.Restored : Landed.Beside, target, lost), 0);
                if (errno != PosixException.Exists)
                    return Done(
                        new(
                            Landed.Open,
                            name,
                            new(
                                entry.Shown,
                                SnagKind.NotRestored,
                                entry.Bytes,
                                new PosixException(errno, "It could not be given its name").Message + ".")),
                        0);
                if (number > 0
                    && PosixFile.TryStat(folder.Number, target, out _) is { Kind: NodeKind.File } twin
                    && twin.Bytes == entry.Bytes
                    && await HasContentAsync(folder, target, entry, cancel))
                    return Done(new(Landed.Beside, target, lost), 0);
            }
            return Done(new(Landed.Open, name, new(entry.Shown, SnagKind.NotRestored, entry.Bytes, "Every name beside it is taken.")), 0);
        }
        catch (PosixException broke)
        {
            var why = broke.Errno is PosixException.NoSpace or PosixException.QuotaPassed
                ? "The new computer's disk is full. Make room, then restore again: it goes on where it stopped."
                : broke.Message + ".";
            return Done(new(Landed.Open, name, new(entry.Shown, SnagKind.NotRestored, entry.Bytes, why)), 0);
        }
        finally
        {
            file?.Dispose();
            if (temporary is not null) PosixFile.TryRemove(workplace.Folder.Number, temporary, isFolder: false, out _);
        }

        Touchdown Done(Touchdown landing, long moved)
        {
            progress.Moved(moved);
            progress.Done();
            return landing;
        }
    }

    /// <summary>Whether what stands, stays. A folder is never given up for a file.</summary>
    private static bool Stays(ClashRule clash, NodeFacts? stands, Entry entry) =>
        stands is { } there
            && (clash == ClashRule.Stay
                || (clash == ClashRule.Newer && there.Kind is NodeKind.File or NodeKind.Link && !IsNewer(entry.Modified, there.Modified)));

    /// <summary>Whether ours takes the place of what stands, once it is known that this one does not stay.</summary>
    private static bool Replaces(ClashRule clash, NodeFacts? stands) =>
        clash is ClashRule.Ours or ClashRule.Newer && stands is { Kind: NodeKind.File or NodeKind.Link };

    /// <summary>What a clash rule says where something else stands than ours.</summary>
    public static Landed Decide(ClashRule clash, NodeFacts? stands, Entry entry) =>
        Stays(clash, stands, entry) ? Landed.Stayed : Replaces(clash, stands) ? Landed.Replaced : Landed.Beside;

    private static bool IsNewer(Stamp a, Stamp b) => a.Seconds != b.Seconds ? a.Seconds > b.Seconds : a.Nanos > b.Nanos;

    private async Task<Damage?> FillAsync(Entry entry, PosixHandle file, CancellationToken cancel)
    {
        try
        {
            return await FillFromAsync(entry, file, cancel);
        }
        catch (SealBrokenException broken)
        {
            return new(DamageKind.Changed, contents.PlaceOf(entry), broken.Message);
        }
    }

    private async Task<Damage?> FillFromAsync(Entry entry, PosixHandle file, CancellationToken cancel)
    {
        var place = contents.PlaceOf(entry);
        var opened = await contents.OpenAsync(entry, cancel);
        if (!opened.TryGet(out var stream, out _)) return new(DamageKind.Missing, place, "It is listed, and it is not in the depot.");
        await using (stream)
        {
            using var digest = StreamDigest.For(entry.Bytes);
            var buffer = ArrayPool<byte>.Shared.Rent((int)Math.Clamp(entry.Bytes + 1, 1, AtOnceBytes));
            try
            {
                long at = 0;
                var inOne = false;
                while (await stream.ReadAsync(buffer, cancel) is > 0 and var got)
                {
                    if (at + got > entry.Bytes) return new(DamageKind.Changed, place, "It is longer than what was staged.");
                    digest.Append(buffer.AsSpan(0, got));
                    Write(entry, file, at, buffer.AsSpan(0, got));
                    inOne = at == 0 && got == entry.Bytes;
                    at += got;
                    progress.Moved(got);
                }
                if (entry.Data is not null) PosixFile.SetLength(file, entry.Bytes);
                if (digest.Finish() != entry.Sha256) return new(DamageKind.Changed, place, "Its content is not what was staged.");
                // The second sum of the account is taken from what the new disk gives back, not from what was meant to be written. What is
                // still at hand is compared, which is the faster way to the same.
                if (inOne) return GivesBack(file, buffer.AsSpan(0, (int)entry.Bytes)) ? null : throw BadDisk();
            }
            finally
            {
                ArrayPool<byte>.Shared.Return(buffer);
            }
        }
        PosixFile.Seek(file, 0);
        using var back = new PosixReadStream(file, entry.Bytes, leaveOpen: true);
        return (await Digest.OfAsync(back, null, cancel)).Sha256 == entry.Sha256 ? null : throw BadDisk();
    }

    private static PosixException BadDisk() => new(5, "The new disk gives back something else than was written");

    private static bool GivesBack(PosixHandle file, ReadOnlySpan<byte> content)
    {
        var back = ArrayPool<byte>.Shared.Rent(content.Length + 1);
        try
        {
            PosixFile.Seek(file, 0);
            var got = 0;
            while (got < back.Length && PosixFile.Read(file, back.AsSpan(got)) is > 0 and var more) got += more;
            return content.SequenceEqual(back.AsSpan(0, got));
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(back);
        }
    }

    /// <summary>Writes a piece; of a sparse file only what lies in its data, so that holes stay holes.</summary>
    private static void Write(Entry entry, PosixHandle file, long at, ReadOnlySpan<byte> piece)
    {
        if (entry.Data is null)
        {
            PosixFile.WriteAll(file, piece);
            return;
        }
        foreach (var (offset, bytes) in entry.Data)
        {
            var (from, to) = (Math.Max(offset, at), Math.Min(offset + bytes, at + piece.Length));
            if (from >= to) continue;
            PosixFile.Seek(file, from);
            PosixFile.WriteAll(file, piece[(int)(from - at)..(int)(to - at)]);
        }
    }

    /// <summary>
    /// Attributes before mode (a read-only mode may forbid them), mode before time (it does not touch the time, but the order is plain).
    /// </summary>
    public static Snag? Dress(Entry entry, PosixHandle file)
    {
        var lost = (entry.Attributes ?? []).Where(a => !PosixFile.TrySetAttribute(file, a.Key, a.Value)).Select(a => a.Key).ToList();
        PosixFile.SetMode(file, entry.Mode);
        PosixFile.SetModified(file, entry.Modified);
        return lost.Count == 0
            ? null
            : new(
                entry.Shown,
                SnagKind.AttributeLost,
                entry.Bytes,
                $"Restored, but its attribute {string.Join(", ", lost)} could not be set: the file system or the rights forbid it.",
                CountsAsFile: false);
    }

    public static async Task<bool> HasContentAsync(PosixHandle folder, byte[] name, Entry entry, CancellationToken cancel)
    {
        using var file = PosixFile.TryOpen(folder.Number, name, Libc.ReadOnly | Libc.NoFollow | Libc.NonBlock, out _);
        if (file is null) return false;
        using var stream = new PosixReadStream(file, entry.Bytes, leaveOpen: true);
        return (await Digest.OfAsync(stream, null, cancel)).Sha256 == entry.Sha256;
    }

    /// <summary>A further name of a file that was restored already.</summary>
    public Touchdown LinkTo(Entry entry, PosixHandle firstFolder, byte[] firstName, PosixHandle folder, byte[] name, ClashRule clash)
    {
        var there = PosixFile.TryStat(folder.Number, name, out _);
        var isFirst = there is { } t
            && PosixFile.TryStat(firstFolder.Number, firstName, out _) is { } f
            && (t.Inode, t.Device) == (f.Inode, f.Device);
        if (!isFirst && Stays(clash, there, entry)) return new(Landed.Stayed, name);
        if (!isFirst && Replaces(clash, there))
        {
            var temporary = workplace.TemporaryName();
            var replaced = PosixFile.TryHardLink(firstFolder.Number, firstName, workplace.Folder.Number, temporary, out var broke)
                && PosixFile.TryRename(workplace.Folder.Number, temporary, folder.Number, name, replace: true, out broke);
            if (replaced) return new(Landed.Replaced, name);
            PosixFile.TryRemove(workplace.Folder.Number, temporary, isFolder: false, out _);
            return new(
                Landed.Open,
                name,
                new(
                    entry.Shown,
                    SnagKind.NotRestored,
                    entry.Bytes,
                    new PosixException(broke, "It could not take the place of what stands").Message + "."));
        }
        for (var number = 0; number <= MostBeside; number++)
        {
            var target = number == 0 ? name : BesideName.Of(name, number);
            if (PosixFile.TryHardLink(firstFolder.Number, firstName, folder.Number, target, out var errno))
                return new(number == 0 ? Landed.Restored : Landed.Beside, target);
            if (errno != PosixException.Exists)
                return new(
                    Landed.Open,
                    name,
                    new(entry.Shown, SnagKind.NotRestored, entry.Bytes, new PosixException(errno, "It could not be linked").Message + "."));
            if (PosixFile.TryStat(folder.Number, target, out _) is { } stands
                && PosixFile.TryStat(firstFolder.Number, firstName, out _) is { } first
                && stands.Inode == first.Inode
                && stands.Device == first.Device)
                return new(Landed.Stood, target);
        }
        return new(Landed.Open, name, new(entry.Shown, SnagKind.NotRestored, entry.Bytes, "Every name beside it is taken."));
    }

    /// <summary>Makes a link with its time, whole or not at all.</summary>
    public Touchdown MakeLink(Entry entry, PosixHandle folder, byte[] name, ClashRule clash)
    {
        progress.Done();
        var temporary = workplace.TemporaryName();
        try
        {
            PosixFile.MakeLink(entry.Target, workplace.Folder.Number, temporary);
            PosixFile.SetLinkModified(workplace.Folder.Number, temporary, entry.Modified);
            var there = PosixFile.TryStat(folder.Number, name, out _);
            var same = there is { Kind: NodeKind.Link } && PosixFile.ReadLink(folder.Number, name).AsSpan().SequenceEqual(entry.Target);
            if (!same && Stays(clash, there, entry)) return new(Landed.Stayed, name);
            if (!same
                && Replaces(clash, there)
                && PosixFile.TryRename(workplace.Folder.Number, temporary, folder.Number, name, replace: true, out _))
                return new(Landed.Replaced, name);
            for (var number = 0; number <= MostBeside; number++)
            {
                var target = number == 0 ? name : BesideName.Of(name, number);
                if (PosixFile.TryStat(folder.Number, target, out _) is { Kind: NodeKind.Link }
                    && PosixFile.ReadLink(folder.Number, target).AsSpan().SequenceEqual(entry.Target))
                    return new(number == 0 ? Landed.Stood : Landed.Beside, target);
                if (PosixFile.TryRename(workplace.Folder.Number, temporary, folder.Number, target, replace: false, out var errno))
                    return new(number == 0 ? Landed.Restored : Landed.Beside, target);
                if (errno == PosixException.CrossDevice)
                {
                    PosixFile.MakeLink(entry.Target, folder.Number, target);
                    PosixFile.SetLinkModified(folder.Number, target, entry.Modified);
                    return new(number == 0 ? Landed.Restored : Landed.Beside, target);
                }
                if (errno != PosixException.Exists) throw new PosixException(errno, "It could not be given its name");
            }
            throw new PosixException(PosixException.Exists, "Every name beside it is taken");
        }
        catch (PosixException broke)
        {
            return new(Landed.Open, name, new(entry.Shown, SnagKind.NotRestored, 0, broke.Message + "."));
        }
        finally
        {
            PosixFile.TryRemove(workplace.Folder.Number, temporary, isFolder: false, out _);
        }
    }
}
