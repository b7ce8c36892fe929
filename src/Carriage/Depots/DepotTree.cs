using System.Runtime.CompilerServices;

namespace YardRelay.Carriage.Depots;

/// <summary>A file or folder of a depot.</summary>
internal readonly record struct DepotItem(DepotPath Path, DepotName Name)
{
    /// <summary>What most ask.</summary>
    public void Deconstruct(out DepotPath path, out bool isFolder, out long bytes) =>
        (path, isFolder, bytes) = (Path, Name.IsFolder, Name.Bytes);
}

/// <summary>Reads a folder of a depot with all below it.</summary>
internal static class DepotTree
{
    /// <summary>All files below a folder, in the order of their paths' bytes.</summary>
    public static async IAsyncEnumerable<(DepotPath Path, long Bytes)> FilesAsync(
        IDepot depot, DepotPath folder, [EnumeratorCancellation] CancellationToken cancel, Func<DepotPath, bool>? without = null)
    {
        await foreach (var (path, isFolder, bytes) in AllAsync(depot, folder, cancel, without))
            if (!isFolder) yield return (path, bytes);
    }

    /// <summary>All files and folders below a folder, each folder before what is in it, in the order of their paths' bytes.</summary>
    /// <param name="without">Folders and files of which nothing is wanted; null: all are.</param>
    public static IAsyncEnumerable<DepotItem> AllAsync(
        IDepot depot, DepotPath folder, CancellationToken cancel, Func<DepotPath, bool>? without = null) =>
        AllAsync(depot, folder, depot.ListAsync(folder, cancel), without, cancel);

    // Over a slow link each answer takes its time: the next folders are asked for while one is gone through.
    private static async IAsyncEnumerable<DepotItem> AllAsync(
        IDepot depot, DepotPath folder, Task<IReadOnlyList<DepotName>> listing, Func<DepotPath, bool>? without,
        [EnumeratorCancellation] CancellationToken cancel)
    {
        var names = (await listing).Where(n => without is null || !without(folder / n.Name)).ToList();
        names.Sort((a, b) => DepotPath.CompareUtf8(a.IsFolder ? a.Name + "/" : a.Name, b.IsFolder ? b.Name + "/" : b.Name));
        var ahead = new Queue<Task<IReadOnlyList<DepotName>>>();
        using var next = names.Where(n => n.IsFolder).GetEnumerator();
        foreach (var name in names)
        {
            yield return new(folder / name.Name, name);
            if (!name.IsFolder) continue;
            while (ahead.Count < MostAhead && next.MoveNext()) ahead.Enqueue(depot.ListAsync(folder / next.Current.Name, cancel));
            await foreach (var below in AllAsync(depot, folder / name.Name, ahead.Dequeue(), without, cancel)) yield return below;
        }
    }

    private const int MostAhead = 4;

    /// <summary>Whether one name stands, and the other, which it had before, does not any more.</summary>
    public static async Task<bool> HasMovedAsync(this IDepot depot, DepotPath from, DepotPath to, CancellationToken cancel) =>
        (await depot.ListAsync(to.Parent, cancel)).Any(n => n.Name == to.Name)
            && !(await depot.ListAsync(from.Parent, cancel)).Any(n => n.Name == from.Name);

    /// <summary>Whether a file stands there.</summary>
    public static async Task<bool> HasFileAsync(IDepot depot, DepotPath path, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(path, cancel);
        if (opened.IsOk) await opened.Value.DisposeAsync();
        return opened.IsOk;
    }

    /// <summary>A whole small file as bytes; null when it is not there.</summary>
    public static async Task<byte[]?> ReadAsync(IDepot depot, DepotPath path, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(path, cancel);
        if (!opened.IsOk) return null;
        await using var stream = opened.Value;
        using var into = new MemoryStream();
        await stream.CopyToAsync(into, cancel);
        return into.ToArray();
    }
}
