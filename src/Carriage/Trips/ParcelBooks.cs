using System.Text.Json;
using System.Text.Json.Nodes;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>All that says what a parcel holds, written when a trip ends.</summary>
internal sealed class ParcelBooks(IDepot depot, ParcelPaths paths, IWork work)
{
    /// <summary>Saves a small tag file and returns its digest.</summary>
    public async Task<string> SaveTextAsync(string below, string text, CancellationToken cancel)
    {
        using var file = new TagFile(work);
        file.WriteText(text);
        return await SaveAsync(file, below, cancel);
    }

    private Task<string> SaveAsync(TagFile file, string below, CancellationToken cancel) => file.MustSaveAsync(depot, paths, below, cancel);

    /// <summary>Ends a trip: everything that names the payload, in the order that keeps the parcel valid at each moment.</summary>
    /// <param name="source">Which folder was carried; null: nobody knows.</param>
    /// <param name="renewed">Key files that this trip wrote anew.</param>
    public async Task CloseAsync(
        TripReport report, JsonObject info, SourceRecord? source, byte[] trips, NewEntries entries, IReadOnlySet<string> renewed,
        CancellationToken cancel)
    {
        // The order matters: files are on disk before anything names them, then all that names them, side by side, then that there was a
        // trip;
        // the tag manifest, which makes the trip valid, comes last.
        if (entries.Differs) await Journal.SettleAsync(depot, paths, cancel);
        // The list of entries has these, too: before it is believed it is known which of them are not to be.
        if (report.NotGivenBack.Count > 0) await Doubts.SaveAsync(depot, paths, report.NotGivenBack, 0, work, cancel);
        await entries.CloseAsync(cancel);
        using var snags = new TagFile(work);
        foreach (var snag in report.Snags) snags.WriteText(TripJson.Write(snag) + "\n");
        var saving = new List<Task<(string Path, string Sha256)>>
        {
            NamedAsync(ParcelPaths.Snags, SaveAsync(snags, ParcelPaths.Snags, cancel)),
            NamedAsync(
                ParcelPaths.Account,
                SaveTextAsync(
                    ParcelPaths.Account,
                    TripJson.Write(new AccountFile(report.Trip, report.Folders, report.Reasons ?? []), indented: true) + "\n",
                    cancel)),
            NamedAsync(ParcelPaths.Info, SaveTextAsync(ParcelPaths.Info, ParcelOpening.Raised(info).ToJsonString(), cancel)),
            NamedAsync(
                ParcelPaths.BagInfo,
                SaveTextAsync(
                    ParcelPaths.BagInfo,
                    $"Bagging-Date: {work.Time.GetUtcNow():yyyy-MM-dd}\nExternal-Identifier: {info["id"]}\nPayload-Oxum: "
                        + $"{entries.Payload.Bytes}.{entries.Payload.Files}\nBag-Software-Agent: yardhand\n",
                    cancel)),
            NamedAsync(
                ParcelPaths.Bagit, SaveTextAsync(ParcelPaths.Bagit, "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n", cancel)),
        };
        if (source is not null)
            saving.Add(NamedAsync(
                ParcelPaths.Source, SaveTextAsync(ParcelPaths.Source, TripJson.Write(source, indented: true) + "\n", cancel)));
        if (entries.Differs)
        {
            saving.Add(NamedAsync(ParcelPaths.Entries, SaveAsync(entries.Entries, ParcelPaths.Entries, cancel)));
            saving.Add(NamedAsync(ParcelPaths.Manifest, SaveAsync(entries.Manifest, ParcelPaths.Manifest, cancel)));
        }
        var digests = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var (path, sha256) in await Task.WhenAll(saving)) digests[path] = sha256;
        if (!entries.Differs)
            foreach (var line in await TagDigestsAsync(cancel))
                if (line.Path.Text == paths.NameOf(ParcelPaths.Entries)) digests[ParcelPaths.Entries] = line.Sha256;
                else if (line.Path.Text == ParcelPaths.Manifest) digests[ParcelPaths.Manifest] = line.Sha256;
        var before = await TagDigestsAsync(cancel);
        using (var all = new TagFile(work))
        {
            all.Out.Write(trips);
            all.WriteText(TripJson.Write(new TripEnded(
                report.Trip, work.Time.GetUtcNow(), report.Added, report.Kept, report.Open, report.Snags.Count,
                before.Count == 0 || !report.FoundListsWhole ? null : ParcelStates.DigestOf(before)))
                + "\n");
            digests[ParcelPaths.Trips] = await SaveAsync(all, ParcelPaths.Trips, cancel);
        }
        if (paths.Seal is not null)
            foreach (var (key, sha256) in await KeyFilesAsync(renewed, cancel)) digests[key] = sha256;
        await SaveTextAsync(
            ParcelPaths.TagManifest,
            string.Concat(digests.Select(d => new ManifestLine(d.Value, DepotPath.Of(paths.NameOf(d.Key))).Text)),
            cancel);
        // Only then is the trip over: until here all of it can be had again from what was written down on the way.
        await Journal.SettleAsync(depot, paths, cancel);
        // A pack that is not gone for good would lie there for ever, in no list, once nothing says that a trip is under way.
        if (await entries.TidyAsync(cancel)) await depot.SettleAsync(cancel);
        await Task.WhenAll(
            depot.RemoveAsync(paths.At(ParcelPaths.NotTaken), cancel),
            report.NotGivenBack.Count == 0 ? depot.RemoveAsync(paths.At(ParcelPaths.Doubts), cancel) : Task.CompletedTask,
            depot.RemoveAsync(paths.At(ParcelPaths.Journal), cancel));
        await depot.RemoveAsync(paths.At(ParcelPaths.OpenTrip), cancel);
        await depot.RemoveAsync(paths.At(ParcelPaths.Aside), cancel);
        await depot.SettleAsync(cancel);
    }

    private static async Task<(string Path, string Sha256)> NamedAsync(string path, Task<string> saving) => (path, await saving);

    private async Task<List<(string, string)>> KeyFilesAsync(IReadOnlySet<string> renewed, CancellationToken cancel)
    {
        // A digest that is known stays: what was damaged since is not blessed by listing it anew.
        var found = (await TagDigestsAsync(cancel))
            .Where(l => l.Path.Parent.Text == ParcelPaths.Keys && !renewed.Contains(l.Path.Text))
            .Select(l => (l.Path.Text, l.Sha256)).ToList();
        foreach (var name in await depot.ListAsync(paths.At(ParcelPaths.Keys), cancel))
            if (!found.Exists(f => f.Item1 == $"{ParcelPaths.Keys}/{name.Name}")
                && await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Keys) / name.Name, cancel) is { } bytes)
                found.Add((
                    $"{ParcelPaths.Keys}/{name.Name}", Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes))));
        return found;
    }

    private async Task<List<ManifestLine>> TagDigestsAsync(CancellationToken cancel) =>
        [.. ParcelStates.Lines(await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.TagManifest), cancel) ?? [])];
}
