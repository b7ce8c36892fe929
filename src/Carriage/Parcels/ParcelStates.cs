using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Parcels;

/// <summary>Reads in which state the lists of a parcel are; needs no key.</summary>
public static class ParcelStates
{
    /// <summary>How it is, and what its trips say of before; null: no trip has ended there, as far as its lists say.</summary>
    public static async Task<ParcelHistory?> ReadAsync(IDepot depot, DepotPath parcel, CancellationToken cancel)
    {
        var paths = new ParcelPaths(parcel);
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.TagManifest), cancel) is not { } tags) return null;
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Trips), cancel) is not { } trips) return null;
        var (found, last) = (new Dictionary<int, string>(), 0);
        foreach (var line in Encoding.UTF8.GetString(trips).Split('\n', StringSplitOptions.RemoveEmptyEntries))
            try
            {
                using var trip = JsonDocument.Parse(line);
                last = trip.RootElement.GetProperty("trip").GetInt32();
                if (trip.RootElement.TryGetProperty("found", out var before) && before.GetString() is { } sha256) found[last] = sha256;
            }
            catch (Exception wrong) when (wrong is JsonException or InvalidOperationException or KeyNotFoundException or FormatException)
            {
                // It names no trip. That it is not as it was, its digest tells.
            }
        return last == 0 ? null : new(new(last, DigestOf(Lines(tags))), found);
    }

    internal static IEnumerable<ManifestLine> Lines(byte[] tags) =>
        Encoding.UTF8.GetString(tags).Split('\n').Select(l => ManifestLine.TryParse(Encoding.UTF8.GetBytes(l))).OfType<ManifestLine>();

    /// <summary>The digest of a state by the lines of its tag manifest.</summary>
    internal static string DigestOf(IEnumerable<ManifestLine> lines)
    {
        var text = string.Concat(lines.Where(l => l.Path.Parent.Text != ParcelPaths.Keys).OrderBy(l => l.Path).Select(l => l.Text));
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
    }
}
