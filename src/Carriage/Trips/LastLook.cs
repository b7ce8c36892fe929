using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>What a last look found.</summary>
/// <param name="Trip">The last trip, whose parcel was held against the source.</param>
/// <param name="Seen">Files at the source, without those that stay behind.</param>
/// <param name="Changed">Of them, those that the parcel has in another state, or not at all, or that could not be looked at.</param>
/// <param name="Gone">Files of the parcel that no longer stand at the source.</param>
/// <param name="Examples">Some of both, by path.</param>
public sealed record LastLookReport(int Trip, Amount Seen, Amount Changed, Amount Gone, IReadOnlyList<string> Examples)
{
    /// <summary>The parcel has all that stands at the source, as it stands there.</summary>
    public bool IsSame => Changed.Files == 0 && Gone.Files == 0;
}

/// <summary>
/// Looks, before the only other copy is destroyed, whether a source still is what the last trip left in its parcel: by names and facts, as
/// the next trip would. Nothing is read, written or believed beyond the parcel's own lists.
/// </summary>
/// <param name="list">What was carried; what stays behind by it is not looked at.</param>
public sealed class LastLook(IDepot depot, DepotPath parcel, CarryList list, SealKeys keys, Odometer progress, IWork work)
{
    private const int MostExamples = 20;
    private readonly Dictionary<(ulong Device, ulong Inode), string> _firstNames = [];
    private readonly HashSet<string> _told = new(StringComparer.Ordinal);
    private readonly List<string> _examples = [];
    private Amount _seen, _changed, _gone;

    /// <summary>Looks.</summary>
    /// <returns>The report; or <see cref="NoParcel"/>, <see cref="ParcelUnfinished"/>, <see cref="ListDamaged"/>,
    /// <see cref="SourceUnusable"/>, <see cref="ParcelUnknown"/>.</returns>
    /// <exception cref="DepotUnreachableException">The depot went away.</exception>
    public async Task<Result<LastLookReport>> RunAsync(TreeRoot from, CancellationToken cancel)
    {
        if (Sources.Unusable(from) is { } unusable) return unusable;
        var found = await new ParcelOpening(depot, parcel, keys, work).TryOpenAsync(needsKey: true, cancel);
        if (!found.IsOk) return found.Problem;
        if (found.Value is not { } opened) return new NoParcel(parcel.Text, depot.Address);
        var paths = opened.Paths;
        if (await DepotTree.HasFileAsync(depot, paths.At(ParcelPaths.OpenTrip), cancel)
            || !await DepotTree.HasFileAsync(depot, paths.At(ParcelPaths.TagManifest), cancel))
            return new ParcelUnfinished("A trip is under way or broke off. Run the trip again, then look.");
        if (NameRule.TryParse((string?)opened.Info["names"]) is not { } names)
            return new ParcelUnknown($"The parcel writes names by the rule '{opened.Info["names"]}'. Use a newer yardhand.");
        var digests = await ListDigests.ReadAsync(depot, paths, cancel);
        foreach (var needed in new[] { ParcelPaths.Entries, ParcelPaths.Snags, ParcelPaths.Trips })
            if (await digests.WrongAsync(depot, paths, needed, cancel) is not null)
                return new ListDamaged(parcel.Text, paths.NameOf(needed));
        try
        {
            foreach (var told in await TextAsync(paths, ParcelPaths.Snags, cancel))
                if (JsonSerializer.Deserialize<Snag>(told, TripJson.Lines) is { } snag) _told.Add(snag.Path);
            var trips = (await TextAsync(paths, ParcelPaths.Trips, cancel)).Count;
            var twins = ParcelOpening.TwinsOf(opened.Info);
            if (twins is not null) await KeepAsync(paths, twins, cancel);
            using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
            await CompareAsync(new TreeReader(from, names, twins, afresh: true), entries, cancel);
            return new LastLookReport(trips, _seen, _changed, _gone, _examples);
        }
        catch (SourceBrokeException shut)
        {
            return new SourceUnusable(from.Path, shut.Message + ".");
        }
        catch (SealBrokenException)
        {
            return new ListDamaged(parcel.Text, paths.NameOf(ParcelPaths.Entries));
        }
    }

    private async Task CompareAsync(TreeReader tree, EntryReader entries, CancellationToken cancel)
    {
        foreach (var item in tree.Walk(cancel))
        {
            var key = item.IsFolder && !item.Stored.IsRoot ? item.Stored.Text + "/" : item.Stored.Text;
            for (; entries.Current is { } before && DepotPath.CompareUtf8(before.Key, key) < 0; await entries.NextAsync(cancel))
                Miss(before);
            var known = entries.Current?.Key == key ? entries.Current : null;
            if (known is not null) await entries.NextAsync(cancel);
            if (!item.Stored.IsRoot) Meet(item, known);
        }
        for (; entries.Current is { } before; await entries.NextAsync(cancel)) Miss(before);
    }

    private void Miss(Entry entry)
    {
        // What the parcel has, and a carry list of today leaves behind, is no change at the source.
        if (entry.Kind != EntryKind.File || entry.GoneSince is not null || Stays(entry.Shown, isFolder: false)) return;
        _gone += Amount.File(entry.Bytes);
        Example(entry.Shown);
    }

    private void Meet(TreeItem item, Entry? known)
    {
        var shown = PercentText.Encode(item.Raw);
        if (Stays(shown, item.IsFolder)) return;
        var bytes = item.Facts is { Kind: NodeKind.File } file ? file.Bytes : 0;
        if (!item.IsFolder) _seen += Amount.File(bytes);
        progress.Done(1);
        if (item.Trouble is not null || item.Facts is not { } facts)
        {
            // What could not be looked at before either was told then, and somebody gave it up by name.
            if (!_told.Contains(shown + (item.IsFolder ? "/" : ""))) Change(shown, 0);
            return;
        }
        var sameAs = facts is { Kind: NodeKind.File or NodeKind.Link, Links: > 1 }
            && !_firstNames.TryAdd((facts.Device, facts.Inode), item.Stored.Text)
            ? _firstNames[(facts.Device, facts.Inode)]
            : null;
        // A folder is another one with each name that comes and goes: what is in it tells.
        var isSame = facts.Kind switch
        {
            NodeKind.Folder => known is { Kind: EntryKind.Folder, GoneSince: null },
            NodeKind.File or NodeKind.Link => SourceMerge.IsSame(known, facts, sameAs),
            _ => true,
        };
        if (!isSame && !(known is null or { GoneSince: not null } && _told.Contains(shown))) Change(shown, bytes);
    }

    private bool Stays(string shown, bool isFolder) =>
        !list.IsEverything && list.Of(shown, isFolder, out _) == CarryVerdict.Leave;

    private void Change(string shown, long bytes)
    {
        _changed += Amount.File(bytes);
        Example(shown);
    }

    private void Example(string shown)
    {
        if (_examples.Count < MostExamples) _examples.Add(shown);
    }

    private async Task<List<string>> TextAsync(ParcelPaths paths, string below, CancellationToken cancel) =>
        [.. System.Text.Encoding.UTF8.GetString(await ParcelLists.ReadAsync(depot, paths, below, cancel) ?? [])
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)];

    private async Task KeepAsync(ParcelPaths paths, TwinNames twins, CancellationToken cancel)
    {
        using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        for (; entries.Current is { } entry; await entries.NextAsync(cancel)) twins.Keep(entry.Path.Text);
    }
}
