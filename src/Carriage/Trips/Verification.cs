using System.Security.Cryptography;
using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// Reads every byte of a parcel and holds it against its lists: tag manifest, manifest, entries and what the depot really has.
/// All four come in one order, so that memory stays bounded. Changes nothing.
/// </summary>
/// <param name="share">Of the files under <c>data/</c>, how many are read, 0 to 1; the others are looked for only. The lists are always
/// read.</param>
/// <param name="seed">Which files these are; another seed takes others.</param>
/// <param name="changedOnly">Reads only files that are new or changed since the parcel was last found whole; the others are looked
/// for.</param>
public sealed class Verification(
    IDepot depot, DepotPath parcel, int atOnce, Odometer progress, IWork work, double share = 1, int seed = 1, SealKeys? keys = null,
    bool changedOnly = false)
{
    private ParcelPaths _paths = new(parcel);
    /// <summary>Most damages that are named; the others are counted.</summary>
    public const int MostNamed = 10_000;

    private readonly List<Damage> _damages = [];
    private readonly ReadTally _read = new();
    private long _moreDamages;

    /// <summary>Verifies.</summary>
    /// <returns>The report, whole or not; or <see cref="NoParcel"/>.</returns>
    public async Task<Result<VerifyReport>> RunAsync(CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        var atTop = await depot.ListAsync(_paths.Root, cancel);
        if (!atTop.Any(n => n.Name is "data" or "yard" or ParcelPaths.Manifest or ParcelPaths.TagManifest or ParcelPaths.Bagit))
            return new NoParcel(parcel.Text, depot.Address);
        var found = await new ParcelOpening(depot, parcel, keys ?? SealKeys.None, work).TryOpenAsync(needsKey: false, cancel);
        if (!found.IsOk) Say(DamageKind.Wrong, ParcelPaths.Info, found.Problem.Message);
        else if (found.Value is { } opened) _paths = opened.Paths;
        if (await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.OpenTrip), cancel) is not null)
            Say(DamageKind.Wrong, ParcelPaths.OpenTrip, "A trip is under way or broke off. Run the trip again, then verify.");
        await VerifyTagsAsync(atTop, cancel);
        if (_paths.Seal is null) await VerifyEntriesAsync(cancel);
        else if (_paths.Seal.Key is not null) await VerifyPacksAsync(cancel);
        var payload = await VerifyPayloadAsync(cancel);
        await VerifyOxumAsync(payload, cancel);
        return new VerifyReport(
            payload,
            [.. _damages.OrderBy(d => DepotPath.TryParse(d.Path) ?? DepotPath.Root)],
            work.Time.GetElapsedTime(started).TotalSeconds,
            _passedOver,
            _moreDamages)
        {
            Read = _read.Places,
            State = (await ParcelStates.ReadAsync(depot, parcel, cancel))?.Now
        };
    }

    private long _passedOver;

    /// <summary>
    /// Notes in the parcel what was found: damages for the next trip to mend; or, where every byte was found whole, that it was. A depot
    /// that may only be read is left as it is.
    /// </summary>
    public async Task NoteAsync(VerifyReport report, CancellationToken cancel)
    {
        await Doubts.SaveAsync(depot, parcel, report, work, cancel);
        if (!report.IsWhole || share < 1) return;
        using var file = new TagFile(work);
        await foreach (var line in ReadManifestAsync(report: false, cancel)) file.WriteText(line.Text);
        try
        {
            await file.MustSaveAsync(depot, new(parcel), ParcelPaths.Verified, cancel);
        }
        catch (IOException)
        {
            // The next verification reads all.
        }
    }

    // The file's own digest is as good as a die, and falls the same for the same seed.
    private bool IsRead(ManifestLine line) =>
        share >= 1 || ((uint)(Convert.ToUInt32(line.Sha256[..8], 16) ^ (seed * 2654435761L)) + 0.5) / (1L << 32) < share;

    private void Say(DamageKind kind, string path, string reason)
    {
        lock (_damages)
        {
            if (_damages.Count < MostNamed) _damages.Add(new(kind, path, reason));
            else _moreDamages++;
        }
    }

    private async Task VerifyTagsAsync(IReadOnlyList<DepotName> atTop, CancellationToken cancel)
    {
        var listed = new Dictionary<string, string>(StringComparer.Ordinal);
        var text = await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.TagManifest), cancel);
        if (text is null) Say(DamageKind.Missing, ParcelPaths.TagManifest, "It lists all other lists; without it none can be trusted.");
        foreach (var line in Encoding.UTF8.GetString(text ?? []).Split('\n', StringSplitOptions.RemoveEmptyEntries))
        {
            if (ManifestLine.TryParse(Encoding.UTF8.GetBytes(line)) is not { } tag || tag.Path.IsIn(DepotPath.Of("data")))
                Say(
                    DamageKind.Wrong,
                    ParcelPaths.TagManifest,
                    $"This line is none of a tag manifest: {line[..Math.Min(120, line.Length)]}");
            else if (!listed.TryAdd(tag.Path.Text, tag.Sha256)) Say(DamageKind.Wrong, ParcelPaths.TagManifest, $"{tag.Path} stands twice.");
        }
        if (text is not null)
            foreach (var needed in _paths.TagFiles.Where(n => !listed.ContainsKey(n)))
                Say(DamageKind.Wrong, ParcelPaths.TagManifest, $"It does not list {needed}.");

        var there = atTop.Where(n => !n.IsFolder).Select(n => n.Name).ToHashSet(StringComparer.Ordinal);
        foreach (var folder in atTop.Where(n => n.IsFolder && n.Name != "data"))
            await foreach (var (path, _) in DepotTree.FilesAsync(depot, _paths.Root / folder.Name, cancel))
                there.Add(path.Below(_paths.Root).Text);
        foreach (var extra in there.Where(t => !listed.ContainsKey(t) && !ParcelPaths.IsPassing(t)))
            Say(DamageKind.Extra, extra, "No tag manifest lists it.");
        foreach (var (tag, expected) in listed)
        {
            var opened = await depot.OpenBackAsync(_paths.At(tag), cancel);
            if (!opened.TryGet(out var back, out _))
            {
                Say(DamageKind.Missing, tag, "The tag manifest lists it, and it is not there.");
                continue;
            }
            await using (back.Stream)
                if ((await Digest.OfAsync(back.Stream, null, cancel)).Sha256 != expected)
                    Say(DamageKind.Changed, tag, "Its content is not what the tag manifest says.");
        }
        if (await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Bagit), cancel) is { } bagit
            && !Encoding.UTF8.GetString(bagit).StartsWith("BagIt-Version: ", StringComparison.Ordinal))
            Say(DamageKind.Wrong, ParcelPaths.Bagit, "It is not a BagIt declaration.");
    }

    /// <summary>Entries against manifest: the same payload files with the same digests.</summary>
    private async Task VerifyEntriesAsync(CancellationToken cancel)
    {
        using var entries = await EntryReader.OpenAsync(
            depot,
            _paths,
            ParcelPaths.Entries,
            line => Say(DamageKind.Wrong, ParcelPaths.Entries, $"This line is no entry, or points outside the parcel: {line}"),
            cancel);
        if (entries.Current is null && await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Entries), cancel) is null) return;
        await using var manifest = ReadManifestAsync(report: false, cancel).GetAsyncEnumerator(cancel);
        var more = await manifest.MoveNextAsync();
        for (; entries.Current is not null || more;)
        {
            while (entries.Current is { Kind: not EntryKind.File }) await entries.NextAsync(cancel);
            if (entries.Current is not { } entry && !more) return;
            var order = entries.Current is null
                ? 1
                : !more
                ? -1
                : DepotPath.Of("data").Join(entries.Current.Path).CompareTo(manifest.Current.Path);
            if (order < 0) Say(DamageKind.Wrong, ParcelPaths.Entries, $"It has data/{entries.Current!.Path}, which the manifest lacks.");
            else if (order > 0) Say(DamageKind.Wrong, ParcelPaths.Entries, $"It lacks {manifest.Current.Path}, which the manifest has.");
            else if (entries.Current!.Sha256 != manifest.Current.Sha256)
                Say(DamageKind.Wrong, ParcelPaths.Entries, $"It has another digest for data/{entries.Current.Path} than the manifest.");
            if (order <= 0) await entries.NextAsync(cancel);
            if (order >= 0) more = await manifest.MoveNextAsync();
        }
    }

    /// <summary>Entries of a sealed parcel against its manifest: each pack that a file lies in is listed.</summary>
    private async Task VerifyPacksAsync(CancellationToken cancel)
    {
        var listed = new HashSet<string>(StringComparer.Ordinal);
        await foreach (var line in ReadManifestAsync(report: false, cancel)) listed.Add(line.Path.Name);
        try
        {
            using var entries = await EntryReader.OpenAsync(
                depot,
                _paths,
                ParcelPaths.Entries,
                line => Say(
                    DamageKind.Wrong, _paths.NameOf(ParcelPaths.Entries), "A line of it is no entry, or points outside the parcel."),
                cancel);
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                if (entry.Kind != EntryKind.File) continue;
                if (entry.Packs is null) Say(DamageKind.Wrong, _paths.NameOf(ParcelPaths.Entries), "It has a file that lies in no pack.");
                foreach (var piece in entry.Packs ?? [])
                    if (listed.Add(piece.Name))
                        Say(
                            DamageKind.Wrong,
                            _paths.NameOf(ParcelPaths.Entries),
                            $"A file of it lies in data/{piece.Name}, which the manifest lacks.");
            }
        }
        catch (SealBrokenException broken)
        {
            Say(DamageKind.Changed, _paths.NameOf(ParcelPaths.Entries), broken.Message);
        }
    }

    /// <summary>The manifest in the order of its paths. One of another program may be in any order: that one is sorted in memory.</summary>
    private async IAsyncEnumerable<ManifestLine> ReadManifestAsync(
        bool report, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        var sorted = true;
        await foreach (var (line, inOrder) in ReadManifestAsItStandsAsync(ParcelPaths.Manifest, false, cancel))
            if (!inOrder) sorted = false;
        if (sorted)
        {
            await foreach (var (line, _) in ReadManifestAsItStandsAsync(ParcelPaths.Manifest, report, cancel)) yield return line;
            yield break;
        }
        var all = new List<ManifestLine>();
        await foreach (var (line, _) in ReadManifestAsItStandsAsync(ParcelPaths.Manifest, report, cancel)) all.Add(line);
        foreach (var line in all.OrderBy(l => l.Path)) yield return line;
    }

    private async IAsyncEnumerable<(ManifestLine Line, bool InOrder)> ReadManifestAsItStandsAsync(
        string list, bool report, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(_paths.At(list), cancel);
        if (!opened.TryGet(out var stream, out _))
        {
            if (report) Say(DamageKind.Missing, ParcelPaths.Manifest, "Without it nothing says what belongs to the parcel.");
            yield break;
        }
        using var lines = new LineReader(stream);
        DepotPath? last = null;
        while (await lines.NextAsync(cancel) is { } bytes)
        {
            if (bytes.IsEmpty) continue;
            if (ManifestLine.TryParse(bytes.Span) is not { } line || !line.Path.IsIn(DepotPath.Of("data")) || line.Path.Text == "data")
            {
                if (report)
                    Say(
                        DamageKind.Wrong,
                        ParcelPaths.Manifest,
                        $"A manifest names files under data/ only, as 'digest  path'; this line does not: "
                            + $"{Encoding.UTF8.GetString(bytes.Span[..Math.Min(160, bytes.Length)])}");
                continue;
            }
            if (last is { } before && before == line.Path && report)
                Say(DamageKind.Wrong, ParcelPaths.Manifest, $"{line.Path} stands twice.");
            yield return (line, last is not { } previous || previous.CompareTo(line.Path) <= 0);
            last = line.Path;
        }
    }

    private async Task<Amount> VerifyPayloadAsync(CancellationToken cancel)
    {
        var whole = Amount.None;
        using var slots = new Lanes(atOnce, progress, work);
        var running = new Queue<Task<Amount>>();
        await using var manifest = ReadManifestAsync(report: true, cancel).GetAsyncEnumerator(cancel);
        await using var there = DepotTree.FilesAsync(depot, _paths.Data, cancel).GetAsyncEnumerator(cancel);
        await using var before = ReadManifestAsItStandsAsync(ParcelPaths.Verified, false, cancel).GetAsyncEnumerator(cancel);
        bool listed = await manifest.MoveNextAsync(), found = await there.MoveNextAsync(), was = changedOnly
            && await before.MoveNextAsync();
        while (listed || found)
        {
            var order = !listed ? 1 : !found ? -1 : manifest.Current.Path.CompareTo(there.Current.Path.Below(_paths.Root));
            if (order < 0) Say(DamageKind.Missing, manifest.Current.Path.Text, "The manifest lists it, and it is not in the depot.");
            else if (order > 0)
                Say(DamageKind.Extra, there.Current.Path.Below(_paths.Root).Text, "It is in the depot, and no manifest lists it.");
            else if (!IsRead(manifest.Current) || await WasWholeAsync(manifest.Current))
                (_passedOver, whole) = (_passedOver + 1, whole + Amount.File(there.Current.Bytes));
            else
            {
                await slots.WaitAsync(cancel);
                var (line, bytes) = (manifest.Current, there.Current.Bytes);
                running.Enqueue(work.Start(() => VerifyFileAsync(line, bytes, slots, cancel)));
                while (running.Count > 4 * Lanes.Most || (running.Count > 0 && running.Peek().IsCompleted))
                    whole += await running.Dequeue();
            }
            if (order <= 0) listed = await manifest.MoveNextAsync();
            if (order >= 0) found = await there.MoveNextAsync();
        }
        while (running.Count > 0) whole += await running.Dequeue();
        return whole;

        async ValueTask<bool> WasWholeAsync(ManifestLine line)
        {
            while (was && before.Current.Line.Path.CompareTo(line.Path) < 0) was = await before.MoveNextAsync();
            return was && before.Current.Line.Path == line.Path && before.Current.Line.Sha256 == line.Sha256;
        }
    }

    private async Task<Amount> VerifyFileAsync(ManifestLine line, long bytes, Lanes slots, CancellationToken cancel)
    {
        try
        {
            progress.Now(line.Path.Text);
            var opened = await depot.OpenBackAsync(_paths.Root.Join(line.Path), cancel);
            if (!opened.TryGet(out var back, out _))
            {
                Say(DamageKind.Missing, line.Path.Text, "It is listed, but no file can be read there.");
                return Amount.None;
            }
            await using (back.Stream)
            {
                var (digest, read) = await Digest.OfAsync(back.Stream, progress, cancel);
                if (digest != line.Sha256) Say(DamageKind.Changed, line.Path.Text, "Its content is not what was staged.");
                _read.Add(back.From, read);
                progress.Done();
                return Amount.File(read);
            }
        }
        catch (FileTroubleException broke)
        {
            // One bad place on a disk is no reason to know nothing of the others.
            Say(DamageKind.Changed, line.Path.Text, $"It cannot be read: {broke.Message}.");
            return Amount.File(bytes);
        }
        finally
        {
            slots.Release();
        }
    }

    private async Task VerifyOxumAsync(Amount payload, CancellationToken cancel)
    {
        if (_damages.Count > 0 || await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.BagInfo), cancel) is not { } info) return;
        var said = Encoding.UTF8.GetString(info)
            .Split('\n')
            .FirstOrDefault(l => l.StartsWith("Payload-Oxum: ", StringComparison.Ordinal))?["Payload-Oxum: ".Length..].Trim();
        if (said is not null && said != $"{payload.Bytes}.{payload.Files}")
            Say(
                DamageKind.Wrong,
                ParcelPaths.BagInfo,
                $"It says {said} for bytes and files, and there are {payload.Bytes}.{payload.Files}.");
    }
}
