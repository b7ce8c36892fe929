using System.Buffers;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Posix;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>The source cannot be carried at all.</summary>
public sealed record SourceUnusable(string Folder, string Why) : Problem("carry.source", $"'{Folder}' cannot be carried: {Why}");

/// <summary>The parcel is of a form that this program does not write.</summary>
public sealed record ParcelUnknown(string Why) : Problem("parcel.unknown", Why);

/// <summary>
/// One trip: brings a parcel up to what stands in a source folder. Walk and old entries are merged in one order; new and changed files are carried side by side,
/// their outcomes taken in order, so that entries, manifest and account are written in bounded memory. May be killed at any moment; the next trip goes on.
/// </summary>
public sealed class Trip(IDepot depot, DepotPath parcel, TripOptions options, Odometer progress, TimeProvider time)
{
    private readonly ParcelPaths _paths = new(parcel);
    private readonly FolderSums _sums = new();
    private readonly List<Snag> _snags = [];
    private Amount _added;
    private Amount _kept;

    /// <summary>One name of the source or of the old entries, on its way to the new entries.</summary>
    private readonly record struct Step(Task<Carried>? Work, Entry? Entry, Entry? Old, Snag? Snag, bool Same);

    /// <summary>Makes the trip.</summary>
    /// <param name="from">Folder to carry; its content lies directly under <c>data/</c>.</param>
    /// <param name="cancel">Stops the trip; what is staged stays staged.</param>
    /// <returns>The report; or <see cref="ParcelLocked"/>, <see cref="SourceUnusable"/>, <see cref="ParcelUnknown"/>.</returns>
    /// <exception cref="DepotUnreachableException">The depot went away.</exception>
    /// <exception cref="DepotFullException">The depot filled up; the trip goes on when run again.</exception>
    public async Task<Result<TripReport>> RunAsync(string from, CancellationToken cancel)
    {
        var started = time.GetTimestamp();
        if (!Directory.Exists(from)) return new SourceUnusable(from, "there is no such folder.");
        try
        {
            TreeReader.OpenRoot(from).Dispose();
        }
        catch (PosixException broke)
        {
            return new SourceUnusable(from, broke.Message + ".");
        }
        var taken = await ParcelLock.TakeAsync(depot, _paths, time, cancel);
        if (!taken.TryGet(out var held, out var problem)) return problem;
        await using (held)
        {
            using var both = CancellationTokenSource.CreateLinkedTokenSource(cancel, held.Lost);
            try
            {
                return await RunLockedAsync(from, started, both.Token);
            }
            catch (OperationCanceledException) when (held.Lost.IsCancellationRequested)
            {
                throw new DepotUnreachableException(depot.Address, "the lease on the parcel was lost.");
            }
        }
    }

    private async Task<Result<TripReport>> RunLockedAsync(string from, long started, CancellationToken cancel)
    {
        var opened = await OpenParcelAsync(cancel);
        if (!opened.TryGet(out var info, out var problem)) return problem;
        var names = NameRule.TryParse((string?)info["names"]);
        if (names is null) return new ParcelUnknown($"The parcel writes names by the rule '{info["names"]}', which this program does not know. Use a newer yardhand.");

        var trips = await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Trips), cancel) ?? [];
        var trip = trips.AsSpan().Count((byte)'\n') + 1;
        var brokeOff = await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.OpenTrip), cancel) is not null;
        await depot.RemoveAsync(_paths.At(ParcelPaths.Aside), cancel);
        await SaveTextAsync(ParcelPaths.OpenTrip, JsonSerializer.Serialize(new { trip, started = time.GetUtcNow() }), cancel);
        var journal = new Journal(depot, _paths, time, options.JournalEvery, options.JournalFiles);
        if (brokeOff) await journal.FoldAsync(cancel);

        using var count = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var counting = Task.Run(() => CountAsync(from, names, count.Token), CancellationToken.None);
        using var entries = new TagFile();
        using var manifest = new TagFile();
        var differs = brokeOff || trip == 1;
        var unchanged = 0L;
        var payload = Amount.None;
        try
        {
            var steps = Channel.CreateBounded<Step>(new BoundedChannelOptions(1024) { SingleReader = true, SingleWriter = true });
            using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            var walking = Task.Run(() => WalkAsync(from, names, info["tellsCase"]?.GetValue<bool>() ?? true, trip, steps.Writer, stop.Token), CancellationToken.None);
            var line = new ArrayBufferWriter<byte>(4096);
            try
            {
                await foreach (var step in steps.Reader.ReadAllAsync(cancel))
                {
                    var entry = await TakeAsync(step, journal, cancel);
                    if (entry is null)
                    {
                        if (step.Old is not null) differs = true;
                        continue;
                    }
                    var same = ReferenceEquals(entry, step.Old);
                    if (same && !differs)
                    {
                        unchanged++;
                        if (entry.Kind == EntryKind.File) payload += Amount.File(entry.Bytes);
                        continue;
                    }
                    if (!differs)
                    {
                        differs = true;
                        await CopyFirstAsync(unchanged, entries, manifest, cancel);
                    }
                    line.ResetWrittenCount();
                    entry.Write(line);
                    entries.Out.Write(line.WrittenSpan);
                    if (entry.Kind != EntryKind.File) continue;
                    payload += Amount.File(entry.Bytes);
                    manifest.WriteText(new ManifestLine(entry.Sha256!, DepotPath.Of("data").Join(entry.Path)).Text);
                }
            }
            catch
            {
                await stop.CancelAsync();
                await walking.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
                // What is staged stays known, even when the trip ends here: also files behind the one that broke it.
                if (!cancel.IsCancellationRequested) await TryFlushAsync(journal, steps.Reader);
                throw;
            }
            finally
            {
                await walking.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
            await walking;
        }
        finally
        {
            await count.CancelAsync();
            await counting.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }

        var report = new TripReport(trip, _sums.Folders, _snags, _added, _kept, time.GetElapsedTime(started).TotalSeconds);
        await CommitAsync(report, info, trips, payload, differs ? (entries, manifest) : null, cancel);
        return report;
    }

    private static async Task TryFlushAsync(Journal journal, ChannelReader<Step> left)
    {
        try
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(10));
            while (left.TryRead(out var step))
                if (step.Work is { IsCompletedSuccessfully: true } work && await work is { Entry: { } entry, WasRead: true }) await journal.AddAsync(entry, limit.Token);
            await journal.FlushAsync(limit.Token);
        }
        catch (Exception broke) when (broke is IOException or OperationCanceledException)
        {
            // The depot is gone; the next trip reads these files again.
        }
    }

    private async Task<Result<JsonObject>> OpenParcelAsync(CancellationToken cancel)
    {
        if (await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Info), cancel) is { } text)
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
        if ((await depot.ListAsync(_paths.Data, cancel)).Count > 0 || await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Manifest), cancel) is not null)
            return new ParcelUnknown($"The folder '{_paths.Root}' holds something that is no parcel of ours. Choose another name for the parcel.");
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
        await depot.MakeFoldersAsync(_paths.Data, cancel);
        await SaveTextAsync(ParcelPaths.Info, info.ToJsonString(), cancel);
        return info;
    }

    private void CountAsync(string from, NameRule names, CancellationToken cancel)
    {
        // Only for the display: how much there is in all. Not worth a second walk before the first seconds are over.
        if (cancel.WaitHandle.WaitOne(TimeSpan.FromSeconds(1.5))) return;
        long files = 0, bytes = 0;
        foreach (var item in new TreeReader(from, names, true).Walk(cancel))
        {
            if (item.IsFolder) continue;
            files++;
            bytes += item.Facts is { Kind: NodeKind.File } facts ? facts.Bytes : 0;
        }
        progress.Expect(files, bytes);
    }

    private async Task WalkAsync(string from, NameRule names, bool tellsCase, int trip, ChannelWriter<Step> steps, CancellationToken cancel)
    {
        var carrier = new FileCarrier(depot, _paths, options, progress, time);
        using var slots = new SemaphoreSlim(options.AtOnce);
        var firstNames = new Dictionary<(ulong, ulong), string>();
        var shut = new List<DepotPath>();
        var running = new HashSet<Task>();
        try
        {
            using var old = await EntryReader.OpenAsync(depot, _paths.At(ParcelPaths.Entries), null, cancel);
            foreach (var item in new TreeReader(from, names, tellsCase).Walk(cancel))
            {
                var key = item.IsFolder && !item.Stored.IsRoot ? item.Stored.Text + "/" : item.Stored.Text;
                for (; old.Current is { } before && DepotPath.CompareUtf8(before.Key, key) < 0; await old.NextAsync(cancel)) await PassAsync(before);
                var known = old.Current?.Key == key ? old.Current : null;
                if (known is not null) await old.NextAsync(cancel);
                await StepAsync(item, known);
            }
            for (; old.Current is { } before; await old.NextAsync(cancel)) await PassAsync(before);
            steps.Complete();
        }
        catch (Exception broke)
        {
            steps.Complete(broke);
        }
        finally
        {
            await Task.WhenAll(running).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }

        ValueTask PassAsync(Entry before) =>
            // What lies in a folder that could not be listed is not gone, it is only not seen.
            steps.WriteAsync(before.GoneSince is not null || shut.Any(before.Path.IsIn) ? new(null, before, before, null, true) : new(null, before with { GoneSince = trip }, null, null, false), cancel);

        async ValueTask StepAsync(TreeItem item, Entry? known)
        {
            var raw = PercentText.Encode(item.Raw) == item.Stored.Text ? null : item.Raw;
            if (item.Facts is not { } facts || item.Trouble is not null)
            {
                shut.Add(item.Stored);
                var why = item.Trouble!.Errno is PosixException.AccessDenied or PosixException.NotPermitted ? "No right to look into it. Run the hand with the rights of its owner, or as administrator." : item.Trouble.Message + ".";
                await steps.WriteAsync(new(null, known, known, new(PercentText.Encode(item.Raw) + (item.IsFolder ? "/" : ""), SnagKind.Unreadable, 0, why), true), cancel);
                return;
            }
            var template = new Entry
            {
                Path = item.Stored,
                Raw = raw,
                Kind = facts.Kind switch { NodeKind.Folder => EntryKind.Folder, NodeKind.Link => EntryKind.Link, _ => EntryKind.File },
                Mode = facts.Mode,
                Modified = facts.Modified,
                Changed = facts.Changed,
                Inode = facts.Inode,
                Bytes = facts.Kind == NodeKind.File ? facts.Bytes : 0,
            };
            if (facts.Kind == NodeKind.File && facts.Links > 1)
            {
                if (firstNames.TryGetValue((facts.Device, facts.Inode), out var first)) template = template with { SameAs = first };
                else firstNames[(facts.Device, facts.Inode)] = item.Stored.Text;
            }
            if (IsSame(known, template, facts))
            {
                if (facts.Kind == NodeKind.File) progress.Moved(facts.Bytes);
                await steps.WriteAsync(new(null, known, known, null, true), cancel);
                return;
            }
            switch (facts.Kind)
            {
                case NodeKind.Folder:
                    await depot.MakeFoldersAsync(_paths.Data.Join(item.Stored), cancel);
                    await steps.WriteAsync(new(null, template with { Attributes = PosixFile.Attributes(item.Opened!) }, known, null, false), cancel);
                    break;
                case NodeKind.Link:
                    Entry? link = null;
                    Snag? snag = null;
                    try
                    {
                        link = template with { Target = PosixFile.ReadLink(item.Parent.Number, item.Name) };
                    }
                    catch (PosixException broke)
                    {
                        snag = new(template.Shown, SnagKind.GoneWhileRead, 0, broke.Message + ".");
                    }
                    await steps.WriteAsync(new(null, link, known, snag, false), cancel);
                    break;
                case NodeKind.File:
                    await slots.WaitAsync(cancel);
                    item.Parent.Share();
                    var work = Task.Run(() => CarryOneAsync(item, template, known));
                    lock (running) running.Add(work);
                    _ = work.ContinueWith(done =>
                    {
                        lock (running) running.Remove(done);
                    }, CancellationToken.None, TaskContinuationOptions.ExecuteSynchronously, TaskScheduler.Default);
                    await steps.WriteAsync(new(work, null, known, null, false), cancel);
                    break;
                default:
                    var (kind, what) = facts.Kind switch { NodeKind.Pipe => (SnagKind.Pipe, "a named pipe"), NodeKind.Socket => (SnagKind.Socket, "a socket"), _ => (SnagKind.Device, "a device") };
                    await steps.WriteAsync(new(null, null, known, new(template.Shown, kind, 0, $"It is {what} and has no content to carry. Waive it if the person does not need it."), false), cancel);
                    break;
            }
        }

        async Task<Carried> CarryOneAsync(TreeItem item, Entry template, Entry? known)
        {
            try
            {
                return await carrier.CarryAsync(item, template, known, cancel);
            }
            finally
            {
                item.Parent.Release();
                slots.Release();
            }
        }
    }

    private static bool IsSame(Entry? known, Entry now, NodeFacts facts) =>
        known is { GoneSince: null } && known.Kind == now.Kind && facts.Kind is NodeKind.File or NodeKind.Folder or NodeKind.Link && known!.Changed == facts.Changed && known.Inode == facts.Inode
        && known.Modified == facts.Modified && known.Mode == facts.Mode && (now.Kind != EntryKind.File || known.Bytes == facts.Bytes) && known.SameAs == now.SameAs;

    private async ValueTask<Entry?> TakeAsync(Step step, Journal journal, CancellationToken cancel)
    {
        var carried = step.Work is null ? new(step.Entry, step.Snag, false, !step.Same) : await step.Work;
        var (entry, snag) = (carried.Entry, carried.Snag);
        if (snag is not null)
        {
            _snags.Add(snag);
            _sums.Add(snag.Folder, default, Amount.File(snag.Bytes), default);
            progress.Done();
            // The older state that the parcel may hold stays there and is told by the snag; it is not what stands at the source.
            return step.Old;
        }
        if (entry is null) return null;
        var folder = FolderSums.FolderOf(entry.Shown);
        if (entry.GoneSince is not null)
        {
            if (entry.Kind != EntryKind.Folder) _sums.Add(folder, default, default, Amount.File(entry.Bytes));
            return entry;
        }
        if (entry.Kind == EntryKind.Folder)
        {
            if (!entry.Path.IsRoot) _sums.Know(FolderSums.FolderOf(entry.Shown + "/"));
        }
        else
        {
            _sums.Add(folder, Amount.File(entry.Bytes), default, default);
            if (!carried.WasStaged) _kept += Amount.File(entry.Bytes);
            else _added += Amount.File(entry.Bytes);
            progress.Done();
        }
        if (carried.WasRead) await journal.AddAsync(entry, cancel);
        return step.Same ? step.Old : entry;
    }

    private async Task CopyFirstAsync(long lines, TagFile entries, TagFile manifest, CancellationToken cancel)
    {
        using var old = await EntryReader.OpenAsync(depot, _paths.At(ParcelPaths.Entries), null, cancel);
        for (; lines > 0 && old.Current is { } entry; lines--, await old.NextAsync(cancel))
        {
            entries.Out.Write(old.Line.Span);
            entries.Out.WriteByte((byte)'\n');
            if (entry.Kind == EntryKind.File) manifest.WriteText(new ManifestLine(entry.Sha256!, DepotPath.Of("data").Join(entry.Path)).Text);
        }
    }

    private async Task<string> SaveTextAsync(string below, string text, CancellationToken cancel)
    {
        using var file = new TagFile();
        file.WriteText(text);
        return await SaveAsync(file, below, cancel);
    }

    private async Task<string> SaveAsync(TagFile file, string below, CancellationToken cancel)
    {
        var saved = await file.SaveAsync(depot, _paths, below, cancel);
        if (saved.IsOk) return saved.Value;
        throw saved.Problem is DepotFull full ? new DepotFullException(full) : new DepotUnreachableException(depot.Address, saved.Problem.Message);
    }

    private async Task CommitAsync(TripReport report, JsonObject info, byte[] trips, Amount payload, (TagFile Entries, TagFile Manifest)? changed, CancellationToken cancel)
    {
        // The order matters: files are on disk before anything names them, and the tag manifest, which makes the trip valid, comes last.
        await depot.SettleAsync(cancel);
        var digests = new SortedDictionary<string, string>(StringComparer.Ordinal);
        if (changed is var (entries, manifest))
        {
            digests[ParcelPaths.Entries] = await SaveAsync(entries, ParcelPaths.Entries, cancel);
            digests[ParcelPaths.Manifest] = await SaveAsync(manifest, ParcelPaths.Manifest, cancel);
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
        digests[ParcelPaths.Account] = await SaveTextAsync(ParcelPaths.Account, JsonSerializer.Serialize(new { trip = report.Trip, folders = report.Folders }, TripJson.Pretty) + "\n", cancel);
        using (var all = new TagFile())
        {
            all.Out.Write(trips);
            all.WriteText(JsonSerializer.Serialize(new { trip = report.Trip, ended = time.GetUtcNow(), added = report.Added, kept = report.Kept, open = report.Open, snags = report.Snags.Count }, TripJson.Lines) + "\n");
            digests[ParcelPaths.Trips] = await SaveAsync(all, ParcelPaths.Trips, cancel);
        }
        digests[ParcelPaths.Info] = await SaveTextAsync(ParcelPaths.Info, info.ToJsonString(), cancel);
        digests[ParcelPaths.BagInfo] = await SaveTextAsync(ParcelPaths.BagInfo, $"Bagging-Date: {time.GetUtcNow():yyyy-MM-dd}\nExternal-Identifier: {info["id"]}\nPayload-Oxum: {payload.Bytes}.{payload.Files}\nBag-Software-Agent: yardhand\n", cancel);
        digests[ParcelPaths.Bagit] = await SaveTextAsync(ParcelPaths.Bagit, "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n", cancel);
        await SaveTextAsync(ParcelPaths.TagManifest, string.Concat(digests.Select(d => new ManifestLine(d.Value, DepotPath.Of(d.Key)).Text)), cancel);
        await depot.RemoveAsync(_paths.At(ParcelPaths.Journal), cancel);
        await depot.RemoveAsync(_paths.At(ParcelPaths.OpenTrip), cancel);
        await depot.RemoveAsync(_paths.At(ParcelPaths.Aside), cancel);
        await depot.SettleAsync(cancel);
    }

    private async Task<List<ManifestLine>> TagDigestsAsync(CancellationToken cancel)
    {
        var lines = new List<ManifestLine>();
        foreach (var line in System.Text.Encoding.UTF8.GetString(await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.TagManifest), cancel) ?? []).Split('\n'))
            if (ManifestLine.TryParse(System.Text.Encoding.UTF8.GetBytes(line)) is { } parsed) lines.Add(parsed);
        return lines;
    }
}
