using System.Text.Json;
using System.Threading.Channels;
using YardRelay.Carriage.Depots;
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
    /// <summary>Whether all of it was taken in, and nothing of the old computer is missing or differs.</summary>
    public bool IsWhole =>
        Snags.Count == 0 && TooDeep.Count == 0 && (Folders is null || Folders.All(f => f.Differs.Files + f.Missing.Files == 0));
}

/// <summary>
/// Takes a folder that somebody filled by hand in as a parcel: it becomes the <c>data/</c> of a bag, is read and hashed, and has an account
/// from then on.
/// A trip from the old computer afterwards keeps what is the same, brings what is missing, and counts apart what is not at the source.
/// May be killed and run again.
/// </summary>
public sealed class Adoption(IDepot depot, DepotPath parcel, int atOnce, Odometer progress, IWork work)
{
    private readonly ParcelPaths _paths = new(parcel);

    private sealed class Sum
    {
        public Amount There, Differs, Missing, Extra;
    }

    /// <summary>Adopts.</summary>
    /// <param name="folder">The folder in the same depot. It is moved, in one step, to be the parcel's data.</param>
    /// <param name="against">Folder of the old computer to set it against; null: none.</param>
    /// <returns>The report; or what stands in the way, with nothing moved.</returns>
    public async Task<Result<AdoptReport>> RunAsync(DepotPath folder, TreeRoot? against, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        if (against is not null && Sources.Unusable(against) is { } unusable) return unusable;
        if (folder.IsRoot || parcel.IsIn(folder) || folder.IsIn(parcel))
            return new AdoptFolderProblem(folder, parcel);
        if (await ParcelInAsync(folder, cancel) is { } inIt) return new AdoptParcelProblem(folder, inIt);
        var opening = new ParcelOpening(depot, parcel, SealKeys.None, work);
        var stands = await opening.TryOpenAsync(needsKey: false, cancel);
        if (!stands.IsOk) return stands.Problem;
        // What an adoption that broke off left has no tag manifest yet, and either the folder still stands or it is the data already.
        var (isThere, hasData) = (
            (await depot.ListAsync(folder, cancel)).Count > 0, (await depot.ListAsync(_paths.Data, cancel)).Count > 0);
        var begun = stands.Value is not null
            && isThere != hasData
            && await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.TagManifest), cancel) is null;
        if (stands.Value is not null && !begun)
            return new AdoptStandsProblem(parcel);
        if (!begun && !isThere) return new AdoptNothingProblem(folder);

        var taken = await ParcelLock.TakeAsync(depot, _paths, work, cancel);
        if (!taken.TryGet(out var held, out var problem)) return problem;
        await using (held)
        {
            var made = await opening.OpenOrMakeAsync(null, cancel);
            if (!made.TryGet(out var opened, out problem)) return problem;
            var books = new ParcelBooks(depot, _paths, work);
            await books.SaveTextAsync(ParcelPaths.OpenTrip, TripJson.Write(new TripBegun(1, work.Time.GetUtcNow())), cancel);
            if ((await depot.ListAsync(_paths.Data, cancel)).Count == 0)
            {
                await depot.RemoveAsync(_paths.Data, cancel);
                if (!await depot.MoveAsync(folder, _paths.Data, cancel))
                    return new AdoptMoveProblem(folder);
            }
            using var entries = new NewEntries(depot, _paths, null, differs: true, work);
            var (snags, sums) = (new List<Snag>(), new PerFolder<Amounts>());
            await TakeInAsync(entries, snags, sums, cancel);
            var report = new TripReport(
                1,
                [.. sums.All.Select(f =>
                    new FolderCarried(f.Key, f.Value.Carried + f.Value.Open, f.Value.Carried, f.Value.Open, Amount.None))],
                snags,
                sums.All.Aggregate(Amount.None, (sum, f) => sum + f.Value.Carried),
                Amount.None,
                work.Time.GetElapsedTime(started).TotalSeconds,
                []);
            await books.CloseAsync(report, opened.Info, null, [], entries, new HashSet<string>(), cancel);
            var (folders, deep) = against is null ? (null, []) : await CompareAsync(against, cancel);
            return new AdoptReport(parcel.Text, report.Carried, snags, folders, deep, work.Time.GetElapsedTime(started).TotalSeconds);
        }
    }

    /// <summary>The parcel that a folder is, lies in, or has directly in it; null: it is somebody's own copy.</summary>
    private async Task<DepotPath?> ParcelInAsync(DepotPath folder, CancellationToken cancel)
    {
        if (await ParcelGround.IsParcelAsync(depot, folder, cancel)) return folder;
        if (await ParcelGround.AboveAsync(depot, folder, cancel) is { } above) return above;
        foreach (var name in await depot.ListAsync(folder, cancel))
            if (name.IsFolder && await ParcelGround.IsParcelAsync(depot, folder / name.Name, cancel)) return folder / name.Name;
        return null;
    }

    private sealed class Amounts
    {
        public Amount Carried, Open;
    }

    /// <summary>Reads and hashes each file, several at once, and enters them in the order of their paths.</summary>
    private async Task TakeInAsync(NewEntries entries, List<Snag> snags, PerFolder<Amounts> sums, CancellationToken cancel)
    {
        var now = new Stamp(work.Time.GetUtcNow().ToUnixTimeSeconds(), 0);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var found = work.Pipe<(Entry Entry, Task<(string Sha256, long Bytes)?>? Reading)>(4 * Lanes.Most);
        using var slots = new Lanes(atOnce, progress, work);
        var walking = work.Start(WalkAsync);
        try
        {
            await entries.AddAsync(
                new() { Path = DepotPath.Root, Kind = EntryKind.Folder, Mode = 0x1C0, Modified = now, Adopted = true }, false, cancel);
            await foreach (var (entry, reading) in found.Reader.ReadAllAsync(cancel))
            {
                var sum = sums.Of(entry.Kind == EntryKind.Folder ? entry.Shown + "/" : entry.Shown);
                if (reading is null) await entries.AddAsync(entry, false, cancel);
                else if (await reading is { } read)
                {
                    await entries.AddAsync(entry with { Sha256 = read.Sha256, Bytes = read.Bytes }, false, cancel);
                    sum.Carried += Amount.File(read.Bytes);
                    progress.Done();
                }
                else
                {
                    sum.Open += Amount.File(0);
                    snags.Add(new(
                        entry.Shown,
                        SnagKind.Unreadable,
                        0,
                        "It is no file that the depot lets read: a link, or something that went away. Look at it, then run a trip from "
                            + "the old computer."));
                }
            }
        }
        finally
        {
            await work.CancelAsync(stop);
            await walking.Quietly();
        }

        async Task WalkAsync()
        {
            try
            {
                await foreach (var (path, isFolder, _) in DepotTree.AllAsync(depot, _paths.Data, stop.Token))
                {
                    var entry = new Entry
                    {
                        Path = path.Below(_paths.Data),
                        Kind = isFolder ? EntryKind.Folder : EntryKind.File,
                        Mode = (ushort)(isFolder ? 0x1C0 : 0x180),
                        Modified = now,
                        Adopted = true
                    };
                    Task<(string, long)?>? reading = null;
                    if (!isFolder)
                    {
                        await slots.WaitAsync(stop.Token);
                        reading = work.Start(() => ReadAsync(path, slots, stop.Token));
                    }
                    await found.Writer.WriteAsync((entry, reading), stop.Token);
                }
                found.Writer.Complete();
            }
            catch (Exception broke)
            {
                found.Writer.Complete(broke);
            }
        }
    }

    private async Task<(string, long)?> ReadAsync(DepotPath path, Lanes slots, CancellationToken cancel)
    {
        try
        {
            progress.Now(path.Text);
            if (!(await depot.OpenAsync(path, cancel)).TryGet(out var stream, out _)) return null;
            await using (stream) return await Digest.OfAsync(stream, progress, cancel);
        }
        finally
        {
            slots.Release();
        }
    }

    /// <summary>Sets the copy against the old computer by names and lengths. Contents are proven by the next trip.</summary>
    private async Task<(List<FolderAdopted>, List<TooDeep>)> CompareAsync(TreeRoot against, CancellationToken cancel)
    {
        // One number for each file keeps a large copy small in memory.
        var (copy, tops) = (new Dictionary<string, long>(StringComparer.Ordinal), new HashSet<string>(StringComparer.Ordinal));
        using (var entries = await EntryReader.OpenAsync(depot, _paths, ParcelPaths.Entries, null, cancel))
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                if (entry.Kind == EntryKind.File) copy[entry.Path.Text] = entry.Bytes;
                else if (!entry.Path.IsRoot && !entry.Path.Text.Contains('/', StringComparison.Ordinal)) tops.Add(entry.Path.Text);
            }
        var (sums, deep) = (new PerFolder<Sum>(), new SortedDictionary<string, Amount>(StringComparer.Ordinal));
        foreach (var item in new TreeReader(against, NameRule.Plain, true).Walk(cancel))
        {
            if (item.Facts is not { Kind: NodeKind.File } facts) continue;
            var sum = sums.Of(item.Stored.Text);
            if (copy.Remove(item.Stored.Text, out var bytes))
            {
                if (bytes == facts.Bytes) sum.There += Amount.File(bytes);
                else sum.Differs += Amount.File(facts.Bytes);
                continue;
            }
            sum.Missing += Amount.File(facts.Bytes);
            foreach (var top in tops)
                if (copy.TryGetValue($"{top}/{item.Stored.Text}", out var below) && below == facts.Bytes)
                    deep[top] = deep.GetValueOrDefault(top) + Amount.File(below);
        }
        foreach (var (path, bytes) in copy) sums.Of(path).Extra += Amount.File(bytes);
        return (
            [.. sums.All.Select(f => new FolderAdopted(f.Key, f.Value.There, f.Value.Differs, f.Value.Missing, f.Value.Extra))],
            [.. deep.Select(d => new TooDeep(d.Key, d.Value))]);
    }
}
