using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Sealing;

namespace YardRelay.Carriage.Parcels;

/// <summary>Reads the lists of a parcel, sealed or not.</summary>
internal static class ParcelLists
{
    /// <summary>A list from its start; null where it is not there.</summary>
    /// <param name="hashed">Given what digests the list as it is stored, while it is read.</param>
    /// <exception cref="SealBrokenException">It was changed after it was sealed, or sealed by somebody else.</exception>
    public static async Task<Stream?> OpenAsync(
        IDepot depot, ParcelPaths paths, string below, CancellationToken cancel, Action<HashedStream>? hashed = null)
    {
        var opened = await depot.OpenAsync(paths.At(below), cancel);
        if (!opened.IsOk) return null;
        var stored = hashed is null ? opened.Value : new HashedStream(opened.Value);
        if (stored is HashedStream told) hashed!(told);
        if (!paths.IsSealed(below)) return stored;
        // Only the swap's own key counts here, which nobody knows who has not opened the parcel: a list that somebody slipped in does not
        // open.
        try
        {
            return await OpenedStream.OpenAsync(stored, [paths.Seal!.NeedKey()], null, cancel)
                ?? throw new SealBrokenException($"{paths.NameOf(below)} is not sealed to the parcel's key.");
        }
        catch
        {
            await opened.Value.DisposeAsync();
            throw;
        }
    }

    /// <summary>A whole small list; null where it is not there.</summary>
    public static async Task<byte[]?> ReadAsync(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        await using var stream = await OpenAsync(depot, paths, below, cancel);
        if (stream is null) return null;
        using var into = new MemoryStream();
        await stream.CopyToAsync(into, cancel);
        return into.ToArray();
    }
}
