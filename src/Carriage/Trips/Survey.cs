using System.Runtime.ExceptionServices;
using YardRelay.Carriage.Computers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder as a survey found it.</summary>
/// <param name="Links">Symbolic links among its files.</param>
/// <param name="Unreadable">Names that could not be looked at or opened.</param>
public sealed record FolderFound(string Folder, Amount Files, long Links, long Folders, long Unreadable);

/// <summary>What a survey found: totals per folder and place, no names of files.</summary>
public sealed record Inventory(
    IReadOnlyList<FolderFound> Folders, ComputerFound Computer, long LargestBytes, IReadOnlyList<Snag> Snags, long? DiskBytes,
    long? FreeBytes, double Seconds)
{
    /// <summary>All folders together.</summary>
    public Amount Total => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Files);
}

/// <summary>Looks at a computer's folder without reading any content.</summary>
public sealed class Survey(Odometer progress, IWork work)
{
    // A small file may lie in its own record and have no block; only from here on is its content missing.
    private const long Block = 4096;

    /// <summary>Surveys <paramref name="from"/>.</summary>
    /// <param name="rules">By which places are known; null: those that ship with the product.</param>
    public Result<Inventory> Run(TreeRoot from, CancellationToken cancel, PlaceRules? rules = null)
    {
        var started = work.Time.GetTimestamp();
        if (Sources.Unusable(from) is { } unusable) return unusable;
        var found = new Found(progress);
        // What the platform's own records tell is read beside the walk.
        var telling = work.Start(() => Task.FromResult(ComputerDescription.Of(from.Path) is { } told
            ? (told.Programs, told.Running)
            : (ComputerRecords.Programs(from.Path), ComputerRecords.Running(from.Path))));
        try
        {
            Walk(from, batch => found.Take(batch), () => found.Begin(from, rules ?? PlaceRules.Standard), cancel);
        }
        catch (SourceBrokeException broke)
        {
            return new SourceUnusable(from.Path, broke.Message + ".");
        }
        if (from.TryOpen(out var gone) is not { } top) return new SourceUnusable(from.Path, gone.Said("open") + ".");
        Room disk;
        using (top) disk = top.Room();
        var (programs, running) = work.Wait(() => telling);
        return new Inventory(
            found.Folders(),
            new(found.Places(), programs, running, found.Platform),
            found.LargestBytes,
            found.Snags,
            disk.Bytes,
            disk.FreeBytes,
            work.Time.GetElapsedTime(started).TotalSeconds);
    }

    /// <summary>
    /// Walks on this thread and has what was found sorted on another: the system's answers are waited for while the last ones are dealt
    /// with.
    /// </summary>
    private void Walk(TreeRoot from, Action<List<TreeItem>> take, Action begin, CancellationToken cancel)
    {
        const int Batch = 256, Waiting = 64;
        // Not a collection that blocks: its waiting spins, and takes the processor from what it waits for.
        var batches = work.Pipe<List<TreeItem>>(Waiting);
        Exception? broke = null;
        var sorting = work.Start<Exception?>(async () =>
        {
            try
            {
                begin();
                await foreach (var batch in batches.Reader.ReadAllAsync(cancel)) take(batch);
            }
            catch (Exception why)
            {
                batches.Writer.TryComplete(why);
                return why;
            }
            return null;
        });
        try
        {
            var batch = new List<TreeItem>(Batch);
            foreach (var item in new TreeReader(from, NameRule.Plain, inOrder: false).Walk(cancel))
            {
                if (item.Depth == 0) continue;
                batch.Add(item);
                if (batch.Count < Batch) continue;
                if (!Add(batch)) break;
                batch = new(Batch);
            }
            Add(batch);
        }
        finally
        {
            batches.Writer.TryComplete();
            broke = work.Wait(() => sorting);
        }
        if (broke is not null) ExceptionDispatchInfo.Throw(broke);

        // False where the other side broke: what it broke with comes out at the end.
        bool Add(List<TreeItem> batch)
        {
            while (!batches.Writer.TryWrite(batch))
                if (!work.Wait(HasRoomAsync)) return false;
            return true;
        }

        async Task<bool> HasRoomAsync()
        {
            try
            {
                return await batches.Writer.WaitToWriteAsync(cancel);
            }
            catch (Exception)
            {
                return false;
            }
        }
    }

    internal static DateTimeOffset TimeOf(NodeFacts? facts)
    {
        // Files have had times before year 1 and after 9999.
        const long First = -62_135_596_800, Last = 253_402_300_799;
        return DateTimeOffset.FromUnixTimeSeconds(Math.Clamp(facts?.Modified.Seconds ?? 0, First, Last));
    }

    /// <summary>What was found so far. For one thread.</summary>
    private sealed class Found(Odometer progress)
    {
        private readonly PerFolder<Sum> _folders = new();
        private byte[] _top = [], _way = [];
        private Sum? _sum;
        private InventoryTaker _places = null!;

        public List<Snag> Snags { get; } = [];

        public long LargestBytes { get; private set; }

        public void Begin(TreeRoot from, PlaceRules rules) =>
            _places = new(
                Homes.Find(path => HomeFolders.Names(Path.Combine(from.Path, path))), home => HomeFolders.Of(home, from.Path), rules);

        public FolderFound[] Folders() =>
            [.. _folders.All.Select(f => new FolderFound(f.Key, f.Value.Files, f.Value.Links, f.Value.Folders, f.Value.Unreadable))];

        public IReadOnlyList<PlaceFound> Places() => _places.Finish();

        public HomePlatform? Platform => _places.Platform;

        public void Take(List<TreeItem> batch)
        {
            long files = 0, bytes = 0;
            foreach (var item in batch)
            {
                var sum = SumOf(item);
                if (item.Trouble is not null)
                {
                    Snags.Add(new(
                        PercentText.Encode(item.Raw) + (item.IsFolder ? "/" : ""), SnagKind.Unreadable, 0, item.Trouble.Message + "."));
                    sum.Unreadable++;
                }
                var (name, depth) = (PercentText.Encode(item.Name), item.Depth);
                if (item.IsFolder)
                {
                    _places.Enter(name, depth);
                    sum.Folders++;
                    continue;
                }
                var size = item.Facts is { Kind: NodeKind.File } file ? file.Bytes : 0;
                _places.File(name, depth, size, item.Facts is { Kind: NodeKind.File, Blocks: 0, Bytes: >= Block }, TimeOf(item.Facts));
                sum.Files += Amount.File(size);
                if (item.Facts?.Kind == NodeKind.Link) sum.Links++;
                (files, bytes, LargestBytes) = (files + 1, bytes + size, Math.Max(LargestBytes, size));
            }
            progress.Done(files);
            progress.Moved(bytes);
            if (batch.Count > 0) progress.Now(PercentText.Encode(batch[^1].Raw));
        }

        // Names come folder by folder: only where another top folder begins is it looked for.
        private Sum SumOf(TreeItem item)
        {
            var way = item.Depth == 1 ? item.IsFolder ? item.Name : [] : item.RawOfParent;
            if (_sum is not null && ReferenceEquals(way, _way)) return _sum;
            _way = way;
            var slash = Array.IndexOf(way, (byte)'/');
            var top = slash > 0 ? way.AsSpan(0, slash) : way;
            if (_sum is not null && top.SequenceEqual(_top)) return _sum;
            _top = top.ToArray();
            return _sum = _folders.Of(top.IsEmpty ? "" : PercentText.Encode(top) + "/");
        }
    }

    /// <summary>The running sums of one folder.</summary>
    private sealed class Sum
    {
        public Amount Files;
        public long Folders, Links, Unreadable;
    }
}
