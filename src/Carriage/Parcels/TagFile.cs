using System.Security.Cryptography;
using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Parcels;

/// <summary>
/// A tag file being written: grows in a local temporary file, so that any size fits in bounded memory, and is then saved whole; sealed,
/// where the parcel seals it.
/// </summary>
internal sealed class TagFile : IDisposable
{
    private readonly Temporary _local;
    private readonly BufferedStream _out;

    public TagFile(IWork work)
    {
        _local = work.Temporary();
        _out = new(_local.Into, 128 * 1024);
    }

    public Stream Out => _out;

    public void WriteText(string text) => _out.Write(Encoding.UTF8.GetBytes(text));

    /// <summary>What was written, from its start.</summary>
    public Stream Read()
    {
        _out.Flush();
        return _local.Open();
    }

    /// <summary>Saves what was written and returns the digest of what the depot now has.</summary>
    public async Task<Result<string>> SaveAsync(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        _out.Flush();
        var (bytes, digest) = (_local.Into.Length, "");
        var seals = paths.IsSealed(below) ? paths.Seal!.Recipients : null;
        if (seals is null)
        {
            using var whole = _local.Open();
            digest = Convert.ToHexStringLower(await SHA256.HashDataAsync(whole, cancel));
        }
        HashedStream? hashed = null;
        var saved = await depot.SaveAsync(
            paths.At(below),
            paths.At(ParcelPaths.Aside) / ("tag-" + below.Replace('/', '-')),
            new Content(Open, seals is null ? bytes : SealingStream.LengthOf(bytes, seals.Count))
            {
                SettlesFirst = true,
                Sha256 = () => hashed?.Sha256 ?? digest
            },
            cancel);
        return saved.IsOk ? hashed?.Sha256 ?? digest : saved.Problem;

        Stream Open()
        {
            var local = _local.Open();
            return seals is null ? local : hashed = new HashedStream(SealingStream.To(seals, local, bytes));
        }
    }

    /// <summary>Saves what was written and returns its digest.</summary>
    /// <exception cref="DepotFullException">The depot is full.</exception>
    /// <exception cref="DepotUnreachableException">The depot does not take it.</exception>
    public async Task<string> MustSaveAsync(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        var saved = await SaveAsync(depot, paths, below, cancel);
        return saved.IsOk ? saved.Value : throw depot.Broke(saved.Problem);
    }

    public void Dispose()
    {
        // What could not be written was told when it was wanted.
        using (_local) _out.Dispose();
    }
}
