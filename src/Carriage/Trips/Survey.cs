using System.Text;
using YardRelay.Carriage.Computers;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Posix;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder as a survey found it.</summary>
/// <param name="Links">Symbolic links among its files.</param>
/// <param name="Unreadable">Names that could not be looked at or opened.</param>
public sealed record FolderFound(string Folder, Amount Files, long Links, long Folders, long Unreadable);

/// <summary>What a survey found: totals per folder and place, no names of files.</summary>
public sealed record Inventory(IReadOnlyList<FolderFound> Folders, ComputerFound Computer, long LargestBytes, IReadOnlyList<Snag> Snags, long? DiskBytes, long? FreeBytes, double Seconds)
{
    /// <summary>All folders together.</summary>
    public Amount Total => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Files);
}

/// <summary>Looks at a computer's folder without reading any content.</summary>
public sealed class Survey(Odometer progress, TimeProvider time)
{
    // A small file may lie in its own record and have no block; only from here on is its content missing.
    private const long Block = 4096;

    /// <summary>Surveys <paramref name="from"/>.</summary>
    /// <param name="rules">By which places are known; null: those that ship with the product.</param>
    public Result<Inventory> Run(string from, CancellationToken cancel, PlaceRules? rules = null)
    {
        var started = time.GetTimestamp();
        if (!Directory.Exists(from)) return new SourceUnusable(from, "there is no such folder.");
        var folders = new PerFolder<Sum>();
        var snags = new List<Snag>();
        long largest = 0;
        InventoryTaker places;
        try
        {
            places = new(Homes.Find(path => FoldersIn(Path.Combine(from, path))), home => FoldersOf(home, from), rules ?? PlaceRules.Standard);
            foreach (var item in new TreeReader(from, NameRule.Plain, true).Walk(cancel))
            {
                if (item.Raw.Length == 0) continue;
                var shown = PercentText.Encode(item.Raw);
                var sum = folders.Of(item.IsFolder ? shown + "/" : shown);
                if (item.Trouble is not null)
                {
                    snags.Add(new(shown + (item.IsFolder ? "/" : ""), SnagKind.Unreadable, 0, item.Trouble.Message + "."));
                    sum.Unreadable++;
                }
                var (name, depth) = (PercentText.Encode(item.Name), item.Raw.AsSpan().Count((byte)'/') + 1);
                if (item.IsFolder) places.Enter(name, depth);
                else places.File(name, depth, item.Facts is { Kind: NodeKind.File } size ? size.Bytes : 0, item.Facts is { Kind: NodeKind.File, Blocks: 0, Bytes: >= Block }, TimeOf(item.Facts));
                if (item.IsFolder) sum.Folders++;
                else sum.Files += Amount.File(item.Facts is { Kind: NodeKind.File } file ? file.Bytes : 0);
                if (item.Facts?.Kind == NodeKind.Link) sum.Links++;
                if (item.IsFolder) continue;
                progress.Done();
                if (item.Facts is not { Kind: NodeKind.File } facts) continue;
                largest = Math.Max(largest, facts.Bytes);
                progress.Moved(facts.Bytes);
                progress.Now(shown);
            }
        }
        catch (PosixException broke)
        {
            return new SourceUnusable(from, broke.Message + ".");
        }
        var disk = new DriveInfo(Path.GetFullPath(from));
        return new Inventory([.. folders.All.Select(f => new FolderFound(f.Key, f.Value.Files, f.Value.Links, f.Value.Folders, f.Value.Unreadable))], Computer(from, places.Finish()), largest, snags, disk.TotalSize, disk.AvailableFreeSpace, time.GetElapsedTime(started).TotalSeconds);
    }

    private static ComputerFound Computer(string from, IReadOnlyList<PlaceFound> places) =>
        ComputerDescription.Of(from) is { } told ? new(places, told.Programs, told.Running) : new(places, ComputerRecords.Programs(from), ComputerRecords.Running(from));

    private static IReadOnlyDictionary<string, string> FoldersOf(Home home, string from) => home.Platform switch
    {
        HomePlatform.Windows => UserFolders.OfWindows(null),
        HomePlatform.Mac => UserFolders.OfMac(),
        _ => UserFolders.OfLinux(ComputerRecords.UserDirs(Path.Combine(from, home.Path))),
    };

    // Only to tell whose homes these are; what cannot be listed shows in the walk.
    private static HashSet<string> FoldersIn(string path)
    {
        try
        {
            return [.. new DirectoryInfo(path).EnumerateFileSystemInfos().Where(f => f is DirectoryInfo { LinkTarget: null } || f.Name == ".bashrc").Select(f => f.Name)];
        }
        catch (Exception shut) when (shut is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }

    private static DateTimeOffset TimeOf(NodeFacts? facts)
    {
        // Files have had times before year 1 and after 9999.
        const long First = -62_135_596_800, Last = 253_402_300_799;
        return DateTimeOffset.FromUnixTimeSeconds(Math.Clamp(facts?.Modified.Seconds ?? 0, First, Last));
    }

    /// <summary>The running sums of one folder.</summary>
    private sealed class Sum
    {
        public Amount Files;
        public long Folders, Links, Unreadable;
    }
}
