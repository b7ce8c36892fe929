using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What a verification found damaged, noted in the parcel (<c>yard/doubts.jsonl</c>) so that the next trip brings it anew from the old
/// computer,
/// whoever makes that trip. A finished trip takes the note away.
/// </summary>
public static class Doubts
{
    /// <summary>Stands for all that the parcel has.</summary>
    internal const string Everything = "";

    /// <summary>
    /// Notes damages beside what was in doubt before: a verification cannot speak of what no list names yet, nor of what it did not read.
    /// A parcel without any, or one that cannot be written to, is left as it is.
    /// </summary>
    public static async Task SaveAsync(IDepot depot, DepotPath parcel, VerifyReport report, IWork work, CancellationToken cancel)
    {
        if (report.IsWhole) return;
        try
        {
            var paths = new ParcelPaths(parcel);
            var before = await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Doubts), cancel) ?? [];
            await SaveAsync(depot, paths, report.Damages, report.MoreDamages, work, cancel, before);
        }
        catch (IOException)
        {
            // A depot that may only be read: whoever may write verifies again.
        }
    }

    /// <summary>Notes what is damaged.</summary>
    /// <param name="more">How many more there are that have no name; any at all put all of it in doubt.</param>
    /// <param name="before">The note that stands, to be kept; null: what it says is over.</param>
    internal static async Task SaveAsync(
        IDepot depot, ParcelPaths paths, IReadOnlyList<Damage> damages, long more, IWork work, CancellationToken cancel,
        byte[]? before = null)
    {
        using var file = new TagFile(work);
        var noted = new HashSet<string>(StringComparer.Ordinal);
        string[] earlier = System.Text.Encoding.UTF8.GetString(before ?? []).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        foreach (var line in earlier.Concat(damages.Where(d => d.Kind != DamageKind.Extra).Select(d => TripJson.Write(d))))
            if (noted.Add(line)) file.WriteText(line + "\n");
        if (more > 0) file.WriteText(TripJson.Write(new Damage(DamageKind.Changed, "data/", $"And {more:#,0} more.")) + "\n");
        await file.MustSaveAsync(depot, paths, ParcelPaths.Doubts, cancel);
    }

    /// <summary>
    /// Reads them: paths below <c>data/</c> (<see cref="Everything"/> where there were more than could be named), and <c>yard/…</c> or
    /// the bag's own names for lists. Null: nothing is in doubt.
    /// </summary>
    internal static async Task<HashSet<string>?> ReadAsync(IDepot depot, ParcelPaths paths, CancellationToken cancel)
    {
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Doubts), cancel) is not { } text) return null;
        var doubted = new HashSet<string>(StringComparer.Ordinal);
        foreach (var line in System.Text.Encoding.UTF8.GetString(text).Split('\n', StringSplitOptions.RemoveEmptyEntries))
        {
            try
            {
                if (JsonSerializer.Deserialize<Damage>(line, TripJson.Lines) is { } damage)
                    doubted.Add(damage.Path.StartsWith("data/", StringComparison.Ordinal) ? damage.Path[5..] : damage.Path);
            }
            catch (JsonException)
            {
                // A note that cannot be read doubts nothing; the next verification finds the damage again.
            }
        }
        return doubted;
    }
}
