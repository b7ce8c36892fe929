using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying.Folders;

namespace YardRelay.Carriage.Trips;

/// <summary>Folders of a computer with their sizes, to pick from.</summary>
/// <param name="Deeper">Folders that lie deeper than the tree goes; they count in theirs.</param>
public sealed record FoldersFound(IReadOnlyList<FolderNode> Folders, int Deeper);

/// <summary>Looks at folders and sums up what is in them; reads no content.</summary>
public sealed class FolderTree(Odometer progress)
{
    /// <summary>How deep the tree goes.</summary>
    public const int Deepest = 5;

    /// <summary>Most folders in it.</summary>
    public const int Most = 1500;

    /// <summary>Looks.</summary>
    public Result<FoldersFound> Run(TreeRoot from, CancellationToken cancel)
    {
        if (Sources.Unusable(from) is { } unusable) return unusable;
        var taker = new FolderTreeTaker(Deepest);
        try
        {
            foreach (var item in new TreeReader(from, NameRule.Plain).Walk(cancel))
            {
                if (item.Raw.Length == 0) continue;
                var depth = item.Raw.AsSpan().Count((byte)'/') + 1;
                if (item.IsFolder)
                {
                    taker.Enter(depth > Deepest ? "" : PercentText.Encode(item.Raw), depth);
                    continue;
                }
                var bytes = item.Facts is { Kind: NodeKind.File } file ? file.Bytes : 0;
                taker.File(depth, bytes, Survey.TimeOf(item.Facts));
                progress.Done();
                progress.Moved(bytes);
            }
        }
        catch (SourceBrokeException broke)
        {
            return new SourceUnusable(from.Path, broke.Message + ".");
        }
        return new FoldersFound(taker.Finish(Most), taker.Deeper);
    }
}
