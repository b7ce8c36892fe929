using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Core;

namespace YardRelay.Carriage.Parcels;

/// <summary>A list of the parcel is not what the list of all lists says.</summary>
public sealed record ListDamaged(string Parcel, string List)
    : Problem(
        "parcel.list-damaged",
        $"'{List}' in the parcel '{Parcel}' is not what its tag manifest says: it was cut, changed or put back. Verify the parcel, then "
            + $"run another trip, which writes it anew; without the old computer, mend it from the second copy.");

/// <summary>What the tag manifest of a finished trip says each list is. A list is held against it before anyone believes it.</summary>
internal sealed class ListDigests
{
    private readonly Dictionary<string, string> _all;

    private ListDigests(Dictionary<string, string> all) => _all = all;

    /// <summary>Reads the tag manifest; one that is not there says nothing of any list.</summary>
    public static async Task<ListDigests> ReadAsync(IDepot depot, ParcelPaths paths, CancellationToken cancel)
    {
        var all = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var line in Encoding.UTF8.GetString(await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.TagManifest), cancel) ?? [])
            .Split('\n'))
            if (ManifestLine.TryParse(Encoding.UTF8.GetBytes(line)) is { } parsed) all[parsed.Path.Text] = parsed.Sha256;
        return new(all);
    }

    /// <summary>Of each list by its path in the bag; null: it says nothing of it.</summary>
    public string? Of(string name) => _all.GetValueOrDefault(name);

    /// <summary>What is wrong with a list, as a sentence; null: it is what it should be.</summary>
    public async Task<string?> WrongAsync(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        if (!(await depot.OpenAsync(paths.At(below), cancel)).TryGet(out var stream, out _))
            return "A finished trip leaves it, and it is not there.";
        await using (stream)
            return (await Digest.OfAsync(stream, null, cancel)).Sha256 == Of(paths.NameOf(below))
                ? null
                : "Its content is not what the tag manifest says.";
    }
}
