using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Packs;

/// <summary>Where a parcel keeps the content of a person's files.</summary>
internal interface IContents : IDisposable
{
    /// <summary>Opens the content of a file from its start; <see cref="NotInDepot"/> where a part of it is missing.</summary>
    Task<Result<Stream>> OpenAsync(Entry entry, CancellationToken cancel);

    /// <summary>What to name, by its path in the bag, when a file's content is not what was staged.</summary>
    string PlaceOf(Entry entry);
}

/// <summary>An open parcel: each file by itself under <c>data/</c>.</summary>
/// <param name="depot">Where it lies.</param>
/// <param name="paths">Its paths.</param>
/// <param name="provesThem">What is read proves that it is there: past what this computer keeps in memory.</param>
internal sealed class OpenContents(IDepot depot, ParcelPaths paths, bool provesThem = false) : IContents
{
    public static IContents Of(IDepot depot, ParcelPaths paths, IWork work, bool provesThem = false) =>
        paths.Seal is null ? new OpenContents(depot, paths, provesThem) : new PackContents(depot, paths, work);

    public async Task<Result<Stream>> OpenAsync(Entry entry, CancellationToken cancel)
    {
        var path = paths.Data.Join(entry.Path);
        if (!provesThem) return await depot.OpenAsync(path, cancel);
        return (await depot.OpenBackAsync(path, cancel)).TryGet(out var back, out var problem) ? back.Stream : problem;
    }

    public string PlaceOf(Entry entry) => $"data/{entry.Path}";

    public void Dispose()
    {
    }
}
