using System.Security.Cryptography;
using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Packs;

/// <summary>The packs of a sealed parcel: which stand in it, which its entries need, and the manifest of those.</summary>
internal sealed class PackList(IDepot depot, ParcelPaths paths)
{
    private readonly SortedDictionary<int, (long Bytes, string? Sha256)> _there = [];
    private readonly HashSet<int> _needed = [];
    private readonly Lock _gate = new();
    private int _last;

    /// <summary>Files and bytes under <c>data/</c>, of what the entries need or of all.</summary>
    public Amount Payload { get; private set; }

    /// <summary>Looks what is there, and takes from the manifest what it says of each.</summary>
    /// <param name="doubted">Packs among others of which another digest than the listed one was found: theirs is taken anew, for what of
    /// them cannot come anew.</param>
    /// <param name="digests">What the manifest must be to be believed; null: nothing says.</param>
    public async Task OpenAsync(ListDigests? digests, IReadOnlySet<string> doubted, CancellationToken cancel)
    {
        foreach (var name in await depot.ListAsync(paths.Data, cancel))
            if (!name.IsFolder && PackPiece.TryNumber(name.Name) is { } number) _there[number] = (name.Bytes, null);
        var manifest = await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Manifest), cancel) ?? [];
        // What a changed one says of a pack is not to be believed: its digest is taken from the pack.
        if (digests?.Of(ParcelPaths.Manifest) is { } listed && listed != Convert.ToHexStringLower(SHA256.HashData(manifest))) manifest = [];
        foreach (var line in Encoding.UTF8.GetString(manifest).Split('\n'))
            if (ManifestLine.TryParse(Encoding.UTF8.GetBytes(line)) is { } known
                && PackPiece.TryNumber(known.Path.Name) is { } number
                && !doubted.Contains(known.Path.Name)
                && _there.TryGetValue(number, out var pack))
                _there[number] = pack with { Sha256 = known.Sha256 };
        _last = _there.Count == 0 ? 0 : _there.Keys.Max();
        Payload = new(_there.Count, _there.Values.Sum(p => p.Bytes));
    }

    /// <summary>Numbers for new packs, one after the other.</summary>
    /// <returns>The first of them.</returns>
    public int Number(int packs)
    {
        lock (_gate) return (_last += packs) - packs + 1;
    }

    public void Add(int number, long bytes, string sha256)
    {
        lock (_gate) _there[number] = (bytes, sha256);
    }

    /// <summary>All that is there is needed: the entries that would tell are lost.</summary>
    public void NeedAll() => _needed.UnionWith(_there.Keys);

    /// <summary>An entry needs these.</summary>
    public void Need(Entry entry)
    {
        foreach (var piece in entry.Packs ?? []) _needed.Add(piece.Pack);
    }

    /// <summary>
    /// Writes the manifest of all that is needed. A pack that came before its trip broke off has no digest yet and is read.
    /// </summary>
    public async Task WriteAsync(TagFile manifest, CancellationToken cancel)
    {
        Payload = Amount.None;
        foreach (var number in _needed.Order())
        {
            if (!_there.TryGetValue(number, out var pack)) continue;
            if (pack.Sha256 is null && (await depot.OpenAsync(paths.Data / PackPiece.NameOf(number), cancel)).TryGet(out var stream, out _))
                await using (stream) _there[number] = pack = pack with { Sha256 = (await Digest.OfAsync(stream, null, cancel)).Sha256 };
            manifest.WriteText(new ManifestLine(pack.Sha256!, DepotPath.Of("data") / PackPiece.NameOf(number)).Text);
            Payload += Amount.File(pack.Bytes);
        }
    }

    /// <summary>Removes what no entry needs: packs whose files all came anew, and what a trip that broke off left half told.</summary>
    /// <returns>Whether there were any.</returns>
    public async Task<bool> RemoveOthersAsync(CancellationToken cancel)
    {
        var others = _there.Keys.Where(n => !_needed.Contains(n)).ToList();
        foreach (var number in others)
        {
            await depot.RemoveAsync(paths.Data / PackPiece.NameOf(number), cancel);
            _there.Remove(number);
        }
        return others.Count > 0;
    }
}
