using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Core;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>The parcel's own files around a trip: what it is, opened before the trip, and all that says what it holds, written when the trip ends.</summary>
internal sealed class ParcelBooks(IDepot depot, ParcelPaths paths, TimeProvider time)
{
    /// <summary>What the parcel says of itself; a place that holds nothing yet becomes a parcel.</summary>
    /// <returns>The content of <c>yard/parcel.json</c>, or <see cref="ParcelUnknown"/>.</returns>
    public async Task<Result<JsonObject>> OpenAsync(CancellationToken cancel)
    {
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Info), cancel) is { } text)
        {
            JsonObject? known;
            try
            {
                known = JsonNode.Parse(text) as JsonObject;
            }
            catch (JsonException)
            {
                known = null;
            }
            if (known is null) return new ParcelUnknown($"The parcel's file {ParcelPaths.Info} is damaged. Verify the parcel, and restore that file from the depot's own history.");
            return (int?)known["format"] == 1 ? known : new ParcelUnknown($"The parcel has format {known["format"]}, and this program writes format 1. Use a newer yardhand.");
        }
        if ((await depot.ListAsync(paths.Data, cancel)).Count > 0 || await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Manifest), cancel) is not null)
            return new ParcelUnknown($"The folder '{paths.Root}' holds something that is no parcel of ours. Choose another name for the parcel.");
        var features = await depot.ProbeAsync(cancel);
        var info = new JsonObject
        {
            ["format"] = 1,
            ["id"] = Guid.NewGuid().ToString(),
            ["form"] = "open",
            ["names"] = new NameRule(!features.HoldsAnyName).Code,
            ["tellsCase"] = features.TellsCase,
            ["made"] = time.GetUtcNow(),
        };
        await depot.MakeFoldersAsync(paths.Data, cancel);
        await SaveTextAsync(ParcelPaths.Info, info.ToJsonString(), cancel);
        return info;
    }

    /// <summary>Saves a small tag file and returns its digest.</summary>
    public async Task<string> SaveTextAsync(string below, string text, CancellationToken cancel)
    {
        using var file = new TagFile();
        file.WriteText(text);
        return await SaveAsync(file, below, cancel);
    }

    private Task<string> SaveAsync(TagFile file, string below, CancellationToken cancel) => file.MustSaveAsync(depot, paths, below, cancel);

    /// <summary>Ends a trip: everything that names the payload, in the order that keeps the parcel valid at each moment.</summary>
    public async Task CloseAsync(TripReport report, JsonObject info, byte[] trips, NewEntries entries, CancellationToken cancel)
    {
        // The order matters: files are on disk before anything names them, and the tag manifest, which makes the trip valid, comes last.
        if (entries.Differs) await depot.SettleAsync(cancel);
        var digests = new SortedDictionary<string, string>(StringComparer.Ordinal);
        if (entries.Differs)
        {
            digests[ParcelPaths.Entries] = await SaveAsync(entries.Entries, ParcelPaths.Entries, cancel);
            digests[ParcelPaths.Manifest] = await SaveAsync(entries.Manifest, ParcelPaths.Manifest, cancel);
        }
        else
        {
            foreach (var line in await TagDigestsAsync(cancel))
                if (line.Path.Text is ParcelPaths.Entries or ParcelPaths.Manifest) digests[line.Path.Text] = line.Sha256;
        }
        using (var snags = new TagFile())
        {
            foreach (var snag in report.Snags) snags.WriteText(JsonSerializer.Serialize(snag, TripJson.Lines) + "\n");
            digests[ParcelPaths.Snags] = await SaveAsync(snags, ParcelPaths.Snags, cancel);
        }
        digests[ParcelPaths.Account] = await SaveTextAsync(ParcelPaths.Account, JsonSerializer.Serialize(new AccountFile(report.Trip, report.Folders, report.Reasons ?? []), TripJson.Pretty) + "\n", cancel);
        using (var all = new TagFile())
        {
            all.Out.Write(trips);
            all.WriteText(JsonSerializer.Serialize(new TripEnded(report.Trip, time.GetUtcNow(), report.Added, report.Kept, report.Open, report.Snags.Count), TripJson.Lines) + "\n");
            digests[ParcelPaths.Trips] = await SaveAsync(all, ParcelPaths.Trips, cancel);
        }
        digests[ParcelPaths.Info] = await SaveTextAsync(ParcelPaths.Info, info.ToJsonString(), cancel);
        digests[ParcelPaths.BagInfo] = await SaveTextAsync(ParcelPaths.BagInfo, $"Bagging-Date: {time.GetUtcNow():yyyy-MM-dd}\nExternal-Identifier: {info["id"]}\nPayload-Oxum: {entries.Payload.Bytes}.{entries.Payload.Files}\nBag-Software-Agent: yardhand\n", cancel);
        digests[ParcelPaths.Bagit] = await SaveTextAsync(ParcelPaths.Bagit, "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n", cancel);
        await SaveTextAsync(ParcelPaths.TagManifest, string.Concat(digests.Select(d => new ManifestLine(d.Value, DepotPath.Of(d.Key)).Text)), cancel);
        await depot.RemoveAsync(paths.At(ParcelPaths.Doubts), cancel);
        await depot.RemoveAsync(paths.At(ParcelPaths.Journal), cancel);
        await depot.RemoveAsync(paths.At(ParcelPaths.OpenTrip), cancel);
        await depot.RemoveAsync(paths.At(ParcelPaths.Aside), cancel);
        await depot.SettleAsync(cancel);
    }

    private async Task<List<ManifestLine>> TagDigestsAsync(CancellationToken cancel)
    {
        var lines = new List<ManifestLine>();
        foreach (var line in Encoding.UTF8.GetString(await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.TagManifest), cancel) ?? []).Split('\n'))
            if (ManifestLine.TryParse(Encoding.UTF8.GetBytes(line)) is { } parsed) lines.Add(parsed);
        return lines;
    }
}
