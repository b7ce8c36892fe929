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
internal sealed class OpenContents(IDepot depot, ParcelPaths paths) : IContents
{
    public static IContents Of(IDepot depot, ParcelPaths paths, IWork work) =>
        paths.Seal is null ? new OpenContents(depot, paths) : new PackContents(depot, paths, work);

    public Task<Result<Stream>> OpenAsync(Entry entry, CancellationToken cancel) => depot.OpenAsync(paths.Data.Join(entry.Path), cancel);

    public string PlaceOf(Entry entry) => $"data/{entry.Path}";

    public void Dispose()
    {
    }
}
