using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots.WebDav;

/// <summary>
/// Whether a share keeps parts of a file where they belong (PUT with Content-Range; RFC 9110, section 14.5, leaves it to the server).
/// Some take such a part for the whole file and report success: so a small file is put in parts and read back, once.
/// </summary>
internal sealed class PartsProbe(IWork work) : IDisposable
{
    private readonly IGate _one = work.Gate(1);
    private bool? _kept;

    /// <summary>Whether parts are kept; asks the share the first time.</summary>
    /// <param name="folder">A folder that is there, in which a small file may come and go.</param>
    public async Task<bool> AreKeptAsync(WebDavDepot depot, DepotPath folder, CancellationToken cancel)
    {
        if (_kept is { } known) return known;
        await _one.WaitAsync(cancel);
        try
        {
            return _kept ??= await AskAsync(depot, folder / $"parts-{work.NewId():N}", cancel);
        }
        finally
        {
            _one.Release();
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _one.Dispose();

    private static async Task<bool> AskAsync(WebDavDepot depot, DepotPath file, CancellationToken cancel)
    {
        try
        {
            // Begun by a part, gone on with, and a part sent twice, as after a lost reply.
            return await depot.PutBytesAsync(file, "quay"u8.ToArray(), 0, 12, cancel)
                && await depot.PutBytesAsync(file, "side"u8.ToArray(), 4, 12, cancel)
                && await depot.PutBytesAsync(file, "side"u8.ToArray(), 4, 12, cancel)
                && await depot.PutBytesAsync(file, "yard"u8.ToArray(), 8, 12, cancel)
                && await DepotTree.ReadAsync(depot, file, cancel) is { } back && back.AsSpan().SequenceEqual("quaysideyard"u8);
        }
        finally
        {
            await depot.RemoveAsync(file, CancellationToken.None);
        }
    }
}
