using System.Buffers;
using System.Security.Cryptography;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
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

/// <summary>What became of one name.</summary>
/// <param name="Name">The one it has now.</param>
/// <param name="Doubt">It is restored as the depot has it, and no list says that it is whole.</param>
internal readonly record struct Touchdown(Landed How, byte[] Name, Snag? Snag = null, Damage? Damage = null, Snag? Doubt = null);

/// <summary>What happens where something else stands than an entry.</summary>
/// <param name="IsWithOurs">This restore put there what stands: no rule speaks of it, both are kept.</param>
internal readonly record struct Clash(ClashRule Rule, bool IsWithOurs)
{
    /// <summary>With what stood there before.</summary>
    public static implicit operator Clash(ClashRule rule) => new(rule, false);

    /// <summary>With what this restore put there.</summary>
    public static Clash WithOurs => new(ClashRule.Beside, true);
}

/// <summary>
/// Puts single files and links into a folder of the new computer. A file gets its name only when it is whole, with time, mode and
/// attributes, and only where nothing stands.
/// </summary>
internal sealed partial class FileRestorer(
    IContents contents, Workplace workplace, Odometer progress, Owning owning, UnfinishedParcel? unfinished = null)
{
    private const int MostBeside = 1000;
    private const int AtOnceBytes = 256 * 1024;

    private readonly TornFiles _torn = new(workplace);

    /// <summary>Whether a disk was met that keeps no permissions.</summary>
    public bool KeptNoModes { get; set; }

    /// <summary>Puts a file into a folder.</summary>
    /// <param name="clash">What happens where something else stands.</param>
    public async Task<Touchdown> RestoreAsync(Entry entry, OpenFolder folder, byte[] name, Clash clash, CancellationToken cancel)
    {
        progress.Now(entry.Shown);
        var landing = unfinished is null
            ? await TryRestoreAsync(entry, folder, name, clash, cancel)
            : await AsItStandsAsync(unfinished, entry, folder, name, clash, cancel);
        progress.Moved(landing.How is Landed.Stood or Landed.Stayed ? entry.Bytes : 0);
        progress.Done();
        return landing;
    }

    // Of a file that a trip brought before it broke off the depot may have another state than is listed: better that one than none.
    private async Task<Touchdown> AsItStandsAsync(
        UnfinishedParcel parcel, Entry entry, OpenFolder folder, byte[] name, Clash clash, CancellationToken cancel)
    {
        var isListed = entry.Sha256 != UnfinishedParcel.NoDigest;
        var landing = !isListed
            ? new(Landed.Open, name, null, new(DamageKind.Missing, contents.PlaceOf(entry), "It cannot be read."))
            : await TryRestoreAsync(entry, folder, name, clash, cancel);
        if (landing.Damage is not { } damage
            || (damage.Kind != DamageKind.Changed && isListed)
            || await parcel.AsItStandsAsync(entry, cancel) is not { } standing)
            return landing;
        landing = await TryRestoreAsync(standing, folder, name, clash, cancel);
        return landing with { Doubt = parcel.Doubt(entry, standing) };
    }

    private async Task<Touchdown> TryRestoreAsync(Entry entry, OpenFolder folder, byte[] name, Clash clash, CancellationToken cancel)
    {
        var stands = folder.TryFacts(name, out _);
        if (stands is { Kind: NodeKind.File } same
            && same.Bytes == entry.Bytes
            && !_torn.IsOnlyInMemory(entry, same)
            && await HasContentAsync(folder, name, entry, cancel))
            return new(Landed.Stood, name);
        if (Stays(clash.Rule, stands, entry) && !_torn.MayBe(entry, stands)) return new(Landed.Stayed, name);
        OpenFile? file = null;
        byte[]? temporary = null;
        try
        {
            file = folder.TryMakeUnnamed(out var trouble);
            if (file is null)
            {
                // File systems without unnamed files get one in our own folder.
                temporary = workplace.TemporaryName();
                file = workplace.Folder.OpenFileAt(temporary, FileUse.Read | FileUse.MakeNew);
            }
            if (await FillAsync(entry, file, cancel) is { } damage) return new(Landed.Open, name, null, damage);
            owning.Give(file, folder);
            var lost = Dress(entry, file, () => !folder.KeepsModes && (KeptNoModes = true));
            var torn = stands is not null && !clash.IsWithOurs && _torn.Has(folder, name, entry, file);
            if (!torn && Stays(clash.Rule, stands, entry)) return new(Landed.Stayed, name);
            if (!torn && !Replaces(clash.Rule, stands)) return await NameAsync(entry, file, temporary, folder, name, lost, cancel);
            return TakePlace(file, ref temporary, folder, name, out trouble)
                ? new(torn ? Landed.Restored : Landed.Replaced, name, lost)
                : Open(entry, name, trouble.Said("It could not take the place of what stands") + ".");
        }
        catch (FileTroubleException broke)
        {
            return Open(entry, name, broke.Fault is Fault.Full
                ? "The new computer's disk is full. Make room, then restore again: it goes on where it stopped."
                : broke.Message + ".");
        }
        finally
        {
            file?.Dispose();
            if (temporary is not null) workplace.Folder.TryRemove(temporary, isFolder: false, out _);
        }
    }

    /// <summary>Gives a whole file its name where none stands, or one beside it.</summary>
    private async Task<Touchdown> NameAsync(
        Entry entry, OpenFile file, byte[]? temporary, OpenFolder folder, byte[] name, Snag? lost, CancellationToken cancel)
    {
        for (var number = 0; number <= MostBeside; number++)
        {
            var target = number == 0 ? name : BesideName.Of(name, number);
            var named = temporary is null
                ? folder.TryGiveName(file, target, out var trouble)
                : TryName(temporary, folder, target, out trouble);
            if (named) return new(number == 0 ? Landed.Restored : Landed.Beside, target, lost);
            if (trouble.Fault != Fault.Taken) return Open(entry, name, trouble.Said("It could not be given its name") + ".");
            if (number == 0) continue;
            var own = temporary;
            try
            {
                if (_torn.Has(folder, target, entry, file) && TakePlace(file, ref own, folder, target, out _))
                    return new(Landed.Beside, target, lost);
            }
            finally
            {
                if (temporary is null && own is not null) workplace.Folder.TryRemove(own, isFolder: false, out _);
            }
            if (folder.TryFacts(target, out _) is { Kind: NodeKind.File } twin
                && twin.Bytes == entry.Bytes
                && await HasContentAsync(folder, target, entry, cancel))
                return new(Landed.Beside, target, lost);
        }
        return Open(entry, name, NoNameLeft);
    }

    // Not every file system spares what stands when something is named anew; those are asked before.
    private bool TryName(byte[] temporary, OpenFolder folder, byte[] name, out Trouble trouble)
    {
        if (workplace.Folder.TryRename(temporary, folder, name, replace: false, out trouble)) return true;
        if (trouble.Fault is not (Fault.Invalid or Fault.NotSupported)) return false;
        if (folder.TryFacts(name, out var looked) is null && looked.Fault == Fault.NotThere)
            return workplace.Folder.TryRename(temporary, folder, name, replace: true, out trouble);
        trouble = new(Fault.Taken);
        return false;
    }

    private const string NoNameLeft = "Every name beside it is taken.";

    private static Touchdown Open(Entry entry, byte[] name, string why) =>
        new(Landed.Open, name, new(entry.Shown, SnagKind.NotRestored, entry.Bytes, why));

    private bool TakePlace(OpenFile file, ref byte[]? temporary, OpenFolder folder, byte[] name, out Trouble trouble)
    {
        temporary ??= workplace.TemporaryName();
        trouble = default;
        var there = workplace.Folder.TryFacts(temporary, out _) is not null || workplace.Folder.TryGiveName(file, temporary, out trouble);
        return there && workplace.Folder.TryRename(temporary, folder, name, replace: true, out trouble);
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

    private async Task<Damage?> FillAsync(Entry entry, OpenFile file, CancellationToken cancel)
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

    private async Task<Damage?> FillFromAsync(Entry entry, OpenFile file, CancellationToken cancel)
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
                if (entry.Data is not null) file.SetLength(entry.Bytes);
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
        using var back = new FileReadStream(file, entry.Bytes, leaveOpen: true);
        return (await Digest.OfAsync(back, null, cancel)).Sha256 == entry.Sha256 ? null : throw BadDisk();
    }

    private static FileTroubleException BadDisk() => new(new(Fault.Broken, 5), "The new disk gives back something else than was written");

    private static bool GivesBack(OpenFile file, ReadOnlySpan<byte> content)
    {
        var back = ArrayPool<byte>.Shared.Rent(content.Length + 1);
        try
        {
            var got = 0;
            while (got < back.Length && file.Read(got, back.AsSpan(got)) is > 0 and var more) got += more;
            return content.SequenceEqual(back.AsSpan(0, got));
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(back);
        }
    }

    /// <summary>Writes a piece; of a sparse file only what lies in its data, so that holes stay holes.</summary>
    private static void Write(Entry entry, OpenFile file, long at, ReadOnlySpan<byte> piece)
    {
        if (entry.Data is null)
        {
            file.Write(at, piece);
            return;
        }
        foreach (var (offset, bytes) in entry.Data)
        {
            var (from, to) = (Math.Max(offset, at), Math.Min(offset + bytes, at + piece.Length));
            if (from >= to) continue;
            file.Write(from, piece[(int)(from - at)..(int)(to - at)]);
        }
    }

    /// <summary>
    /// Attributes before mode (a read-only mode may forbid them), mode before time (it does not touch the time, but the order is plain).
    /// </summary>
    /// <param name="keepsNoModes">Asked where permissions are refused: whether the disk keeps any; then it is said once for all.</param>
    public static Snag? Dress(Entry entry, OpenNode node, Func<bool>? keepsNoModes = null)
    {
        var hasRights = OwnersRights.AreIn(entry.Mode, entry.Attributes);
        var here = hasRights ? node.Facts().Owner : default;
        var (lost, forbidden) = (new List<string>(), new List<string>());
        foreach (var (name, value) in entry.Attributes ?? [])
            if (OwnersRights.IsPrivileged(name) && entry.Owner != here) forbidden.Add(name);
            else if (!OwnersRights.IsBookkeeping(name) && !node.TrySetAttribute(name, value)) lost.Add(name);
        if (!Took(() => node.SetMode(hasRights ? OwnersRights.Mode(entry, here, forbidden) : entry.Mode)) && keepsNoModes?.Invoke() != true)
            lost.Add("permissions");
        if (!Took(() => node.SetModified(entry.Modified))) lost.Add("time of change");
        string?[] said =
        [
            lost.Count == 0
                ? null
                : $"Restored, but its attribute {string.Join(", ", lost)} could not be set: the file system or the rights forbid it.",
            forbidden.Count == 0
                ? null
                : $"Restored without {string.Join(", ", forbidden)}: here it belongs to somebody else than at the old computer, or nobody "
                    + "knows to whom it did.",
        ];
        return lost.Count + forbidden.Count == 0
            ? null
            : new(
                entry.Shown, SnagKind.AttributeLost, entry.Bytes, string.Join(' ', said.Where(s => s is not null)), CountsAsFile: false);
    }

    // A disk or share that knows nothing of the kind refuses it; the file is whole all the same.
    private static bool Took(Action set)
    {
        try
        {
            set();
            return true;
        }
        catch (FileTroubleException refused) when (refused.Fault is Fault.NotOwner or Fault.NotSupported or Fault.Invalid)
        {
            return false;
        }
    }

    public static async Task<bool> HasContentAsync(OpenFolder folder, byte[] name, Entry entry, CancellationToken cancel)
    {
        using var file = folder.TryOpenFile(name, FileUse.Read, out _);
        if (file is null) return false;
        using var stream = new FileReadStream(file, entry.Bytes, leaveOpen: true);
        return (await Digest.OfAsync(stream, null, cancel)).Sha256 == entry.Sha256;
    }
}
