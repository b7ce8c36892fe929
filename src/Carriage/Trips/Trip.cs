using System.Text.Json;
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
        var books = new ParcelBooks(depot, _paths, time);
        var opened = await books.OpenAsync(cancel);
        if (!opened.TryGet(out var info, out var problem)) return problem;
        var names = NameRule.TryParse((string?)info["names"]);
        if (names is null) return new ParcelUnknown($"The parcel writes names by the rule '{info["names"]}', which this program does not know. Use a newer yardhand.");

        var trips = await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Trips), cancel) ?? [];
        var trip = trips.AsSpan().Count((byte)'\n') + 1;
        var brokeOff = await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.OpenTrip), cancel) is not null;
        await depot.RemoveAsync(_paths.At(ParcelPaths.Aside), cancel);
        await books.SaveTextAsync(ParcelPaths.OpenTrip, JsonSerializer.Serialize(new TripBegun(trip, time.GetUtcNow()), TripJson.Lines), cancel);
        var journal = new Journal(depot, _paths, time, options.JournalEvery, options.JournalFiles);
        if (brokeOff) await journal.FoldAsync(cancel);

        using var count = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var counting = Task.Run(() => CountAsync(from, names, count.Token), CancellationToken.None);
        using var entries = new NewEntries(depot, _paths, brokeOff || trip == 1);
        try
        {
            using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            var merge = new SourceMerge(depot, _paths, options, progress, time);
            var merging = Task.Run(() => merge.RunAsync(from, names, info["tellsCase"]?.GetValue<bool>() ?? true, trip, stop.Token), CancellationToken.None);
            try
            {
                await foreach (var steps in merge.Steps.ReadAllAsync(cancel))
                {
                    foreach (var step in steps)
                    {
                        if (await TakeAsync(step, journal, cancel) is { } entry) await entries.AddAsync(entry, ReferenceEquals(entry, step.Old), cancel);
                        else if (step.Old is not null) await entries.DropAsync(cancel);
                    }
                }
            }
            catch
            {
                await stop.CancelAsync();
                await merging;
                // What is staged stays known, even when the trip ends here: also files behind the one that broke it.
                if (!cancel.IsCancellationRequested) await TryFlushAsync(journal, merge.Steps);
                throw;
            }
            await merging;
        }
        finally
        {
            await count.CancelAsync();
            await counting.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }

        var report = new TripReport(trip, _sums.Folders, _snags, _added, _kept, time.GetElapsedTime(started).TotalSeconds);
        await books.CloseAsync(report, info, trips, entries, cancel);
        return report;
    }

    private static async Task TryFlushAsync(Journal journal, ChannelReader<List<Step>> left)
    {
        try
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(10));
            while (left.TryRead(out var steps))
                foreach (var step in steps)
                    if (step.Work is { IsCompletedSuccessfully: true } work && await work is { Entry: { } entry, WasRead: true }) await journal.AddAsync(entry, limit.Token);
            await journal.FlushAsync(limit.Token);
        }
        catch (Exception broke) when (broke is IOException or OperationCanceledException)
        {
            // The depot is gone; the next trip reads these files again.
        }
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
}
