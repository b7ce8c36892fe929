using System.Text;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Posix;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder as a survey found it.</summary>
/// <param name="Links">Symbolic links among its files.</param>
/// <param name="Unreadable">Names that could not be looked at or opened.</param>
public sealed record FolderFound(string Folder, Amount Files, long Links, long Folders, long Unreadable);

/// <summary>What a survey found: totals per folder, no names of files.</summary>
public sealed record Inventory(IReadOnlyList<FolderFound> Folders, long LargestBytes, IReadOnlyList<Snag> Snags, long? DiskBytes, long? FreeBytes, double Seconds)
{
    /// <summary>All folders together.</summary>
    public Amount Total => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Files);
}

/// <summary>Looks at a computer's folder without reading any content.</summary>
public sealed class Survey(Odometer progress, TimeProvider time)
{
    /// <summary>Surveys <paramref name="from"/>.</summary>
    public Result<Inventory> Run(string from, CancellationToken cancel)
    {
        var started = time.GetTimestamp();
        if (!Directory.Exists(from)) return new SourceUnusable(from, "there is no such folder.");
        var folders = new PerFolder<Sum>();
        var snags = new List<Snag>();
        long largest = 0;
        try
        {
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
        return new Inventory([.. folders.All.Select(f => new FolderFound(f.Key, f.Value.Files, f.Value.Links, f.Value.Folders, f.Value.Unreadable))], largest, snags, disk.TotalSize, disk.AvailableFreeSpace, time.GetElapsedTime(started).TotalSeconds);
    }

    /// <summary>The running sums of one folder.</summary>
    private sealed class Sum
    {
        public Amount Files;
        public long Folders, Links, Unreadable;
    }
}
