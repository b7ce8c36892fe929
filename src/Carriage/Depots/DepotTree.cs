using System.Runtime.CompilerServices;

namespace YardRelay.Carriage.Depots;

/// <summary>Reads a folder of a depot with all below it.</summary>
internal static class DepotTree
{
    /// <summary>All files below a folder, in the order of their paths' bytes.</summary>
    public static async IAsyncEnumerable<(DepotPath Path, long Bytes)> FilesAsync(
        IDepot depot, DepotPath folder, [EnumeratorCancellation] CancellationToken cancel)
    {
        await foreach (var (path, isFolder, bytes) in AllAsync(depot, folder, cancel))
            if (!isFolder) yield return (path, bytes);
    }

    /// <summary>All files and folders below a folder, each folder before what is in it, in the order of their paths' bytes.</summary>
    public static async IAsyncEnumerable<(DepotPath Path, bool IsFolder, long Bytes)> AllAsync(
        IDepot depot, DepotPath folder, [EnumeratorCancellation] CancellationToken cancel)
    {
        var names = (await depot.ListAsync(folder, cancel)).ToList();
        names.Sort((a, b) => DepotPath.CompareUtf8(a.IsFolder ? a.Name + "/" : a.Name, b.IsFolder ? b.Name + "/" : b.Name));
        foreach (var name in names)
        {
            yield return (folder / name.Name, name.IsFolder, name.Bytes);
            if (!name.IsFolder) continue;
            await foreach (var below in AllAsync(depot, folder / name.Name, cancel)) yield return below;
        }
    }

    /// <summary>Whether one name stands, and the other, which it had before, does not any more.</summary>
    public static async Task<bool> HasMovedAsync(this IDepot depot, DepotPath from, DepotPath to, CancellationToken cancel) =>
        (await depot.ListAsync(to.Parent, cancel)).Any(n => n.Name == to.Name)
            && !(await depot.ListAsync(from.Parent, cancel)).Any(n => n.Name == from.Name);

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
