using System.Text.Json;
using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder of an adopted copy, set against the old computer.</summary>
/// <param name="There">In the copy with the length that it has at the old computer.</param>
/// <param name="Differs">In the copy with another length.</param>
/// <param name="Missing">At the old computer and not in the copy.</param>
/// <param name="Extra">In the copy and not at the old computer.</param>
public sealed record FolderAdopted(string Folder, Amount There, Amount Differs, Amount Missing, Amount Extra);

/// <summary>A folder of the copy that holds what would be expected one folder higher.</summary>
/// <param name="Folder">The folder that is one too many.</param>
/// <param name="Files">Files that would be in their place without it.</param>
public sealed record TooDeep(string Folder, Amount Files);

/// <summary>What an adoption took in.</summary>
/// <param name="Folders">Against the old computer; null: nothing to set it against was named.</param>
public sealed record AdoptReport(
    string Parcel, Amount Taken, IReadOnlyList<Snag> Snags, IReadOnlyList<FolderAdopted>? Folders, IReadOnlyList<TooDeep> TooDeep,
    double Seconds)
{
    /// <summary>The parcel's own id.</summary>
    public string ParcelId { get; init; } = "";

    /// <summary>The folder, which still stands; null: it was moved, and is the parcel now.</summary>
    public string? Copied { get; init; }

    /// <summary>Parcels that lie in what was adopted, and were left where they are.</summary>
    public IReadOnlyList<string> Parcels { get; init; } = [];

    /// <summary>Where what was copied was read back from; null: nothing was.</summary>
    public ReadPlaces? ReadBack { get; init; }

    /// <summary>Whether all of it was taken in, and nothing of the old computer is missing or differs.</summary>
    public bool IsWhole =>
        Snags.Count == 0 && TooDeep.Count == 0 && (Folders is null || Folders.All(f => f.Differs.Files + f.Missing.Files == 0));
}

/// <summary>
/// Takes a folder that somebody filled by hand in as a parcel: it is copied into the <c>data/</c> of a bag, or moved there where that is
/// asked for, is read and hashed, and has an account from then on.
/// A trip from the old computer afterwards keeps what is the same, brings what is missing, and counts apart what is not at the source.
/// May be killed and run again.
/// </summary>
/// <param name="moves">It is moved in one step, and nothing is left where it stood.</param>
public sealed partial class Adoption(IDepot depot, DepotPath parcel, int atOnce, Odometer progress, IWork work, bool moves = false)
{
    private const int MostUnproven = 4000;

    private readonly ParcelPaths _paths = new(parcel);
    private readonly ReadTally _tally = new();
    private readonly List<(Entry Entry, string Why)> _notBack = [];
    private readonly List<(Entry Entry, Claim Claim)> _unproven = [];
    private readonly List<Snag> _snags = [];
    private readonly PerFolder<Amounts> _sums = new();

    // Parcels that are left where they are.
    private readonly List<DepotPath> _parcels = [];
    private long _aside;

    /// <summary>Adopts.</summary>
    /// <param name="folder">
    /// The folder in the same depot; the depot's own: all that lies in it but parcels and what is the system's.
    /// </param>
    /// <param name="against">Folder of the old computer to set it against; null: none.</param>
    /// <returns>The report; or what stands in the way, with nothing moved or copied.</returns>
    public async Task<Result<AdoptReport>> RunAsync(DepotPath folder, TreeRoot? against, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        if (against is not null && Sources.Unusable(against) is { } unusable) return unusable;
        if (await RefusedAsync(folder, cancel) is { } refused) return refused;
        var opening = new ParcelOpening(depot, parcel, SealKeys.None, work);
        var stands = await opening.TryOpenAsync(needsKey: false, cancel);
        if (!stands.IsOk) return stands.Problem;
        var begun = stands.Value is not null && await IsBegunAsync(folder, cancel);
        if (stands.Value is not null && !begun) return new AdoptStandsProblem(parcel);
        if (await LookAsync(folder, begun, cancel) is { } unfit) return unfit;

        var taken = await ParcelLock.TakeAsync(depot, _paths, work, cancel);
        if (!taken.TryGet(out var held, out var problem)) return problem;
        await using (held)
        {
            var made = await opening.OpenOrMakeAsync(null, cancel);
            if (!made.TryGet(out var opened, out problem)) return problem;
            var books = new ParcelBooks(depot, _paths, work);
            var marker = new TripBegun(1, work.Time.GetUtcNow(), moves ? null : folder.Text);
            await books.SaveTextAsync(ParcelPaths.OpenTrip, TripJson.Write(marker), cancel);
            if (moves && (await depot.ListAsync(_paths.Data, cancel)).Count == 0)
            {
                await depot.RemoveAsync(_paths.Data, cancel);
                if (!await depot.MoveAsync(folder, _paths.Data, cancel)) return new AdoptMoveProblem(folder);
            }
            using var entries = new NewEntries(depot, _paths, null, differs: true, work);
            await TakeInAsync(moves ? _paths.Data : folder, entries, cancel);
            if (begun && !moves) await NameLeftAsync(folder, cancel);
            var seconds = work.Time.GetElapsedTime(started).TotalSeconds;
            var folders = _sums.All.Select(f =>
                new FolderCarried(f.Key, f.Value.Carried + f.Value.Open, f.Value.Carried, f.Value.Open, Amount.None));
            var carried = _sums.All.Aggregate(Amount.None, (sum, f) => sum + f.Value.Carried);
            var report = new TripReport(1, [.. folders], _snags, carried, Amount.None, seconds, [])
            {
                NotGivenBack = [.. _notBack.Select(n => new Damage(DamageKind.Changed, $"data/{n.Entry.Path}", n.Why))]
            };
            await books.CloseAsync(report, opened.Info, null, [], entries, new HashSet<string>(), cancel);
            var (compared, deep) = against is null ? (null, []) : await CompareAsync(against, cancel);
            return new AdoptReport(parcel.Text, carried, _snags, compared, deep, work.Time.GetElapsedTime(started).TotalSeconds)
            {
                ParcelId = opened.Id,
                Copied = moves ? null : folder.Text,
                Parcels = [.. _parcels.Select(p => p.Text)],
                ReadBack = _tally.Places,
            };
        }
    }

    /// <summary>Why that folder is none to be taken in; null: it may be.</summary>
    private async Task<Problem?> RefusedAsync(DepotPath folder, CancellationToken cancel)
    {
        if (folder.IsRoot && moves) return new AdoptTopProblem();
        if (!folder.IsRoot && (parcel.IsIn(folder) || folder.IsIn(parcel))) return new AdoptFolderProblem(folder, parcel);
        if (await ParcelGround.IsParcelAsync(depot, folder, cancel)) return new AdoptParcelProblem(folder, folder);
        return await ParcelGround.AboveAsync(depot, folder, cancel) is { } above ? new AdoptParcelProblem(folder, above) : null;
    }

    /// <summary>
    /// Names what a run that broke off had copied, and that is in the folder no more: it may be the only one, so it stays where it is.
    /// </summary>
    private async Task NameLeftAsync(DepotPath folder, CancellationToken cancel)
    {
        await using var there = DepotTree.FilesAsync(depot, folder, cancel, IsLeft).GetAsyncEnumerator(cancel);
        var more = await there.MoveNextAsync();
        await foreach (var (path, bytes) in DepotTree.FilesAsync(depot, _paths.Data, cancel))
        {
            var below = path.Below(_paths.Data);
            while (more && there.Current.Path.Below(folder).CompareTo(below) < 0) more = await there.MoveNextAsync();
            if (more && there.Current.Path.Below(folder) == below) continue;
            _snags.Add(new(
                below.Text,
                SnagKind.GoneWhileRead,
                bytes,
                "It was copied before this broke off, and is in the folder no more. The copy stays in the parcel, in no list; the next "
                    + "trip enters it.",
                CountsAsFile: false));
        }
    }

    /// <summary>Whether what stands there is this very adoption, broken off: no other trip's beginning, and no parcel.</summary>
    private async Task<bool> IsBegunAsync(DepotPath folder, CancellationToken cancel)
    {
        if (await DepotTree.HasFileAsync(depot, _paths.At(ParcelPaths.TagManifest), cancel)) return false;
        var (isThere, hasData) = (
            (await depot.ListAsync(folder, cancel)).Count > 0, (await depot.ListAsync(_paths.Data, cancel)).Count > 0);
        // What is moved stands in one place or the other.
        if (moves) return isThere != hasData;
        if (!hasData) return isThere;
        try
        {
            return await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.OpenTrip), cancel) is { } text
                && (string?)System.Text.Json.Nodes.JsonNode.Parse(text)?["adopts"] == folder.Text;
        }
        catch (JsonException)
        {
            return false;
        }
    }

    /// <summary>Looks through all of it first: a parcel in it, nothing at all, or too little room. Null: it may begin.</summary>
    private async Task<Problem?> LookAsync(DepotPath folder, bool begun, CancellationToken cancel)
    {
        if (folder.IsRoot)
            foreach (var name in await depot.ListAsync(folder, cancel))
                if (name.IsFolder
                    && folder / name.Name != parcel
                    && await ParcelGround.IsParcelAsync(depot, folder / name.Name, cancel))
                    _parcels.Add(folder / name.Name);
        var (names, bytes) = (0L, 0L);
        await foreach (var item in DepotTree.AllAsync(depot, folder, cancel, IsLeft))
        {
            if (item is { Name: { IsFolder: false, Name: "parcel.json" }, Path.Parent: { Name: "yard" } yard })
                return new AdoptParcelProblem(folder, yard.Parent);
            (names, bytes) = (names + 1, bytes + item.Name.Bytes);
        }
        // Of one that broke off, what is moved stands in the parcel already; what is copied must still be there.
        if (names == 0 && !(begun && moves)) return new AdoptNothingProblem(folder);
        return moves ? null : await NoRoomAsync(folder, bytes, cancel);
    }

    private bool IsLeft(DepotPath path) => path == parcel || _parcels.Contains(path) || (path.Parent.IsRoot && IsTheSystems(path.Name));

    // What systems and this program itself put at the top of a disk.
    private static bool IsTheSystems(string name) => name is FolderDepot.LabelFile or "lost+found" or "System Volume Information"
        or "$RECYCLE.BIN" or ".Spotlight-V100" or ".fseventsd" or ".Trashes" or ".TemporaryItems" or ".DocumentRevisions-V100"
        || name.StartsWith(".Trash-", StringComparison.Ordinal);

    private async Task<Problem?> NoRoomAsync(DepotPath folder, long bytes, CancellationToken cancel)
    {
        try
        {
            return (await depot.RoomAsync(cancel)).FreeBytes is { } free && free < bytes ? new AdoptRoomProblem(folder, bytes, free) : null;
        }
        catch (DepotUnreachableException)
        {
            // It does not say; where it fills up, it does.
            return null;
        }
    }

    private sealed class Amounts
    {
        public Amount Carried, Open;
    }

    /// <summary>
    /// Reads and hashes each file, several at once, copies it where it is not moved, and enters all in the order of their paths.
    /// </summary>
    private async Task TakeInAsync(DepotPath from, NewEntries entries, CancellationToken cancel)
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var found = work.Pipe<(Entry Entry, Task<Result<Claim>>? Reading)>(4 * Lanes.Most);
        using var slots = new Lanes(atOnce, progress, work);
        var now = new Stamp(work.Time.GetUtcNow().ToUnixTimeSeconds(), 0);
        var walking = work.Start(() => WalkAsync(from, now, found.Writer, slots, stop.Token));
        try
        {
            await entries.AddAsync(
                new() { Path = DepotPath.Root, Kind = EntryKind.Folder, Mode = 0x1C0, Modified = now, Adopted = true }, false, cancel);
            await foreach (var (entry, reading) in found.Reader.ReadAllAsync(cancel))
            {
                if ((reading is null ? Met(entry) : Taken(entry, await reading)) is { } known) await entries.AddAsync(known, false, cancel);
                if (_unproven.Count >= MostUnproven) await ProveAsync(cancel);
            }
            await ProveAsync(cancel);
        }
        finally
        {
            // What is still being copied ends before the parcel is let go.
            await work.CancelAsync(stop);
            await walking.Quietly();
            while (found.Reader.TryRead(out var left))
                if (left.Reading is { } running) await running.Quietly();
        }
    }

    private async Task WalkAsync(
        DepotPath from, Stamp now, ChannelWriter<(Entry Entry, Task<Result<Claim>>? Reading)> found, Lanes slots, CancellationToken cancel)
    {
        Task<Result<Claim>>? reading = null;
        try
        {
            await foreach (var item in DepotTree.AllAsync(depot, from, cancel, moves ? null : IsLeft))
            {
                var (path, isFolder, _) = item;
                var entry = new Entry
                {
                    Path = path.Below(from),
                    Kind = isFolder ? EntryKind.Folder : EntryKind.File,
                    Mode = item.Name.Mode ?? (ushort)(isFolder ? 0x1C0 : 0x180),
                    Modified = item.Name.Modified ?? now,
                    Adopted = true
                };
                reading = null;
                if (!isFolder)
                {
                    await slots.WaitAsync(cancel);
                    reading = work.Start(() => InSlotAsync(path, _paths.Data.Join(entry.Path), slots, cancel));
                }
                else if (!moves) await depot.MakeFoldersAsync(_paths.Data.Join(entry.Path), cancel);
                await found.WriteAsync((entry, reading), cancel);
            }
            found.Complete();
        }
        catch (Exception broke)
        {
            // It may have begun and not come into the pipe any more.
            if (reading is not null) await reading.Quietly();
            found.Complete(broke);
        }
    }

    private Entry Met(Entry folder)
    {
        _sums.Of(folder.Shown + "/");
        return folder;
    }

    /// <summary>A file that was read, and copied where it is not moved; null: it is not there, and a snag says why.</summary>
    private Entry? Taken(Entry entry, Result<Claim> read)
    {
        var sum = _sums.Of(entry.Shown);
        if (read.TryGet(out var claim, out var why))
        {
            var whole = entry with { Sha256 = claim.Sha256, Bytes = claim.Bytes };
            sum.Carried += Amount.File(claim.Bytes);
            if (!moves) _unproven.Add((whole, claim));
            progress.Done();
            return whole;
        }
        sum.Open += Amount.File(0);
        _snags.Add(why is NotInDepot
            ? new(
                entry.Shown,
                SnagKind.Unreadable,
                0,
                "It is no file that the depot lets read: a link, or something that went away. Look at it, then run a trip from the old "
                    + "computer.")
            : new(entry.Shown, SnagKind.DepotRefused, 0, why.Message));
        return null;
    }

    /// <summary>Reads back what was copied.</summary>
    private async Task ProveAsync(CancellationToken cancel)
    {
        if (_unproven.Count == 0) return;
        await depot.SettleAsync(cancel);
        foreach (var (at, why) in await new Proof(depot, _tally, atOnce, work).FailsAsync(_unproven.ConvertAll(u => u.Claim), cancel))
        {
            var (entry, _) = _unproven[at];
            var (sum, amount) = (_sums.Of(entry.Shown), Amount.File(entry.Bytes));
            (sum.Carried, sum.Open) = (sum.Carried - amount, sum.Open + amount);
            _notBack.Add((entry, why));
            _snags.Add(new(entry.Shown, SnagKind.DamagedInDepot, entry.Bytes, $"{why} Look at the depot's disk, then run a trip."));
        }
        _unproven.Clear();
    }

    private async Task<Result<Claim>> InSlotAsync(DepotPath from, DepotPath to, Lanes slots, CancellationToken cancel)
    {
        try
        {
            progress.Now(from.Text);
            if (!(await depot.OpenAsync(from, cancel)).TryGet(out var stream, out var absent)) return absent;
            await using (stream)
            {
                var (sha256, bytes) = await Digest.OfAsync(stream, progress, cancel);
                Claim claim = new(to, sha256, bytes);
                return moves ? claim : await CopyAsync(from, claim, cancel);
            }
        }
        finally
        {
            slots.Release();
        }
    }

    private async Task<Result<Claim>> CopyAsync(DepotPath from, Claim to, CancellationToken cancel)
    {
        var content = new Content(() => work.Wait(() => depot.OpenAsync(from, cancel)).Value, to.Bytes)
        {
            SettlesFirst = depot.HasMedium && to.Bytes >= Content.LeastToGoOn,
            Sha256 = () => to.Sha256
        };
        var aside = _paths.At(ParcelPaths.Aside) / $"adopt-{Interlocked.Increment(ref _aside)}";
        var saved = await depot.SaveAsync(to.Path, aside, content, cancel);
        if (saved.IsOk) return to;
        return saved.Problem is DepotFull full ? throw new DepotFullException(full) : saved.Problem;
    }
}
