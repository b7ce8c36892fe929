using System.Text.Json;
using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>The source cannot be carried at all.</summary>
public sealed record SourceUnusable(string Folder, string Why) : Problem("carry.source", $"'{Folder}' cannot be carried: {Why}");

/// <summary>
/// One trip: brings a parcel up to what stands in a source folder. Walk and old entries are merged in one order; new and changed files are
/// carried side by side,
/// their outcomes taken in order, so that entries, manifest and account are written in bounded memory. May be killed at any moment; the
/// next trip goes on.
/// </summary>
public sealed partial class Trip(IDepot depot, DepotPath parcel, TripOptions options, Odometer progress, IWork work)
{
    private ParcelPaths _paths = new(parcel);
    private PerFolder<Sum> _sums = new();
    private readonly List<Snag> _snags = [];
    private readonly SortedDictionary<string, Amount> _reasons = new(StringComparer.Ordinal);
    private readonly ForWantOfRoom _noRoom = new();
    private Amount _added;
    private Amount _kept;
    private int _trip;
    private readonly ClosingLooks _looks = new(options.IsClosing);

    /// <summary>Makes the trip.</summary>
    /// <param name="from">Folder to carry; its content lies directly under <c>data/</c>.</param>
    /// <param name="cancel">Stops the trip; what is staged stays staged.</param>
    /// <returns>The report; or <see cref="ParcelLocked"/>, <see cref="SourceUnusable"/>, <see cref="ParcelUnknown"/>,
    /// <see cref="NothingChosen"/>.</returns>
    /// <exception cref="DepotUnreachableException">The depot went away.</exception>
    /// <exception cref="DepotFullException">The depot filled up; the trip goes on when run again.</exception>
    public async Task<Result<TripReport>> RunAsync(TreeRoot from, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        if (Sources.Unusable(from) is { } unusable) return unusable;
        if (Sources.Mislabelled(from, options.SourceLabel) is { } mislabelled) return mislabelled;
        if (Sources.Entangled(from, depot, options.CarryList) is { } entangled) return entangled;
        if (IdleLines.IsNothingChosen(from, options.CarryList) is { } nothing) return nothing;
        var taken = await ParcelLock.TakeAsync(depot, _paths, work, cancel);
        if (!taken.TryGet(out var held, out var problem)) return problem;
        await using (held)
        {
            using var both = CancellationTokenSource.CreateLinkedTokenSource(cancel, held.Lost);
            try
            {
                return await RunLockedAsync(from, started, both.Token);
            }
            catch (SourceBrokeException shut)
            {
                return new SourceUnusable(from.Path, shut.Message + ".");
            }
            catch (OperationCanceledException) when (held.Lost.IsCancellationRequested)
            {
                throw new DepotUnreachableException(depot.Address, "the lease on the parcel was lost.");
            }
        }
    }

    private async Task<Result<TripReport>> RunLockedAsync(TreeRoot from, long started, CancellationToken cancel)
    {
        var opening = new ParcelOpening(depot, parcel, options.Keys, work);
        var opened = await opening.OpenOrMakeAsync(options.Sealing, cancel);
        if (!opened.TryGet(out var parcelAt, out var problem)) return problem;
        (var info, _paths) = parcelAt;
        options.Began?.Invoke(parcelAt.Id, _paths.Seal?.Text());
        var books = new ParcelBooks(depot, _paths, work);
        var names = NameRule.TryParse((string?)info["names"]);
        if (names is null)
            return new ParcelUnknown(
                $"The parcel writes names by the rule '{info["names"]}', which this program does not know. Use a newer yardhand.");

        // Over a slow link each answer takes its time: what does not depend on another is asked at once.
        var (reading, doubting, looking, losing, clearing) = (
            DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Trips), cancel),
            Doubts.ReadAsync(depot, _paths, cancel),
            DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.OpenTrip), cancel),
            DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.NotTaken), cancel),
            ClearAsideAsync(cancel));
        await Task.WhenAll(reading, doubting, looking, losing, clearing);
        var trips = await reading ?? [];
        var trip = _trip = trips.AsSpan().Count((byte)'\n') + 1;
        var doubted = await doubting ?? [];
        var (brokeOff, notTaken) = (await looking is not null, await losing is not null);
        var digests = brokeOff || trip == 1 ? null : await ListDigests.ReadAsync(depot, _paths, cancel);
        var tripsAreWhole = digests is null
            || digests.Of(ParcelPaths.Trips) == Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(trips));
        var looked = await SourceAsync(from, trip, digests, cancel);
        if (!looked.TryGet(out var source, out var strange)) return strange;
        await books.SaveTextAsync(ParcelPaths.OpenTrip, TripJson.Write(new TripBegun(trip, work.Time.GetUtcNow())), cancel);
        var journal = new Journal(depot, _paths, work, options);
        var displaced = new Displaced(depot, _paths, work);
        if (brokeOff)
        {
            await displaced.RecoverAsync(cancel);
            await journal.FoldAsync(displaced, cancel);
            // Of a sealed parcel's packs those that no journal tells of are taken away at the end: their files come anew.
            if (_paths.Seal is null) await Leftovers.AdoptAsync(depot, _paths, journal, trip, notTaken, work, cancel);
            await journal.FoldAsync(displaced, cancel);
        }

        if (_paths.Seal is { To.Count: > 0 } seal && doubted.Contains(ParcelOpening.RecipientsFile)) await opening.RenewAsync(seal, cancel);
        var listLost = _paths.Seal is not null && trip > 1 && await IsListLostAsync(digests, doubted, cancel);
        var (listBroken, expected, traces) = (false, digests?.Of(ParcelPaths.Entries), Traces.Begin(from, work.Time));
        using var count = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var counting = work.Start(() => CountAsync(from, names, count.Token));
        try
        {
            var (room, passes) = await PlanAsync(from, trip, brokeOff, cancel);
            for (var (differs, earlier, at) = (
                brokeOff || trip == 1 || options.ReadsAll || doubted.Count > 0 || listLost,
                Amount.None,
                0); ; (differs, at) = (true, Math.Min(at + 1, passes.Count - 1)))
            {
                var packs = _paths.Seal is null ? null : new PackList(depot, _paths);
                if (packs is not null) await packs.OpenAsync(digests, doubted, cancel);
                if (listLost) packs?.NeedAll();
                using var entries = new NewEntries(depot, _paths, packs, differs, work);
                // What stands in packs is never written over, so a trip that broke off leaves no doubt about them.
                var how = options with
                {
                    TrustsDepot = !brokeOff || packs is not null,
                    Doubted = doubted,
                    Pass = passes[at],
                    Room = room,
                    ReadsAll = (options.ReadsAll && !_looks.AreBegun) || listBroken,
                    WasNotTaken = notTaken,
                    EntriesAreListed = packs is null ? expected : null,
                    Traces = traces,
                    LooksAtDepot = (trip > 1 || brokeOff) && passes[at].Only is null,
                    KeepsBeside = source.KeepsBeside,
                };
                await using ICarrier carrier = packs is null
                    ? new FileCarrier(depot, _paths, how, progress, work)
                    : new PackCarrier(depot, _paths, packs, from, how, progress, work, cancel);
                var merge = new SourceMerge(depot, _paths, carrier, displaced, how, progress, work);
                var isBroken = false;
                // What this trip itself folds into the entries is listed nowhere yet.
                expected = null;
                try
                {
                    var twins = ParcelOpening.TwinsOf(info);
                    await PassAsync(entries, journal, merge, stop => merge.RunAsync(from, names, twins, trip, stop), cancel);
                }
                catch (ListBrokenException)
                {
                    // Nothing that it says of a file counts: each is read anew, here and in the depot.
                    listBroken = isBroken = true;
                }
                var isOver = !isBroken && !displaced.Any && passes[at].Only is null;
                if (isOver && _looks.Again(_added)) traces = Traces.Begin(from, work.Time);
                else if (isOver)
                {
                    await journal.ProveAsync(cancel);
                    foreach (var (lost, why) in journal.NotGivenBack) TakeBack(lost, why);
                    _snags.AddRange([.. _noRoom.Snags(), .. _looks.Snags]);
                    var again = Amount.Least(earlier - _looks.Twice, _kept);
                    var report = new TripReport(
                        trip,
                        Folders(),
                        _snags,
                        _added + again,
                        _kept - again,
                        work.Time.GetElapsedTime(started).TotalSeconds,
                        [.. _reasons.Select(r =>
                            new LeftOutBy(r.Key, r.Value))])
                    {
                        ParcelKey = _paths.Seal?.Text(),
                        ParcelId = parcelAt.Id,
                        Settled = source.Settled,
                        ReadBack = options.Tally.Places,
                        FoundListsWhole = !listBroken && !listLost && tripsAreWhole,
                        NotGivenBack =
                            [.. journal.NotGivenBack.Select(n => new Damage(DamageKind.Changed, $"data/{n.Entry.Path}", n.Why))],
                        IdleLines = IdleLines.Of(from, options.CarryList, _reasons.Keys),
                    };
                    await books.CloseAsync(report, info, source.Record.With(merge.Mounts), trips, entries, doubted, cancel);
                    return report;
                }
                // What is needed first is there; or something had to make way; or it is looked at once more. The entries do not know yet:
                // they are brought up to it, and the walk begins once more. All that was staged is there.
                await journal.FlushAsync(cancel);
                await journal.FoldAsync(displaced, cancel);
                journal.Restart();
                if (isBroken && packs is null)
                {
                    // What lines that are lost named, and no longer stands at the source, is in the parcel all the same.
                    await Leftovers.AdoptAsync(depot, _paths, journal, trip, notTaken, work, cancel);
                    await journal.FoldAsync(displaced, cancel);
                }
                earlier += _added;
                (_added, _kept) = (default, default);
                _snags.Clear();
                _noRoom.Clear();
                _looks.Restart();
                _reasons.Clear();
                _sums = new();
                progress.Restart();
            }
        }
        finally
        {
            await work.CancelAsync(count);
            await counting.Quietly();
        }
    }

    /// <summary>Looks whether this is what the trip before carried, and whether a person's answer settles what is doubtful.</summary>
    private async Task<Result<SourceSeen>> SourceAsync(TreeRoot from, int trip, ListDigests? digests, CancellationToken cancel)
    {
        var before = trip == 1 ? null : await SourceRecord.ReadAsync(depot, _paths, digests, cancel);
        var now = SourceRecord.Of(from, options.Computer, trip, before);
        if (trip == 1) return new SourceSeen(now, before, null);
        if (await new SourceLook(depot, _paths, options.CarryList, before).RunAsync(from, now, trip - 1, cancel) is not { } doubted)
            return new SourceSeen(now, before, null);
        if (options.Answer is not { } answer || !answer.Settles(doubted.Doubt)) return doubted;
        var settled = new SourceSettled(trip, work.Time.GetUtcNow(), answer, doubted.Doubt.Words);
        return new SourceSeen(now with { Answers = [.. now.Answers, settled] }, before, settled.Words);
    }

    /// <summary>
    /// In which passes the source is walked, and how much may be brought; null: all of it. What is needed first has passes of its own as
    /// long as most is still to come.
    /// </summary>
    private async Task<(RoomLeft? Room, IReadOnlyList<Pass> Passes)> PlanAsync(
        TreeRoot from, int trip, bool brokeOff, CancellationToken cancel)
    {
        var free = options.ByNeed ? (await depot.RoomAsync(cancel)).FreeBytes : null;
        // Lists, and what goes aside while it is written, want room, too.
        var room = free is { } bytes ? new RoomLeft(bytes - (bytes / 50) - Math.Min(64L << 20, bytes / 10)) : null;
        return (
            room, trip == 1 || brokeOff || room is not null ? Pass.Of(options.CarryList, from, room is not null) : [new Pass(Only: null)]);
    }

    /// <summary>Takes away what earlier trips left aside, but for large files that this one may go on with.</summary>
    private async Task ClearAsideAsync(CancellationToken cancel)
    {
        var aside = _paths.At(ParcelPaths.Aside);
        var begun = (await depot.ListAsync(aside, cancel)).ToLookup(n =>
            !n.IsFolder && n.Name.StartsWith(ParcelPaths.GoesOn, StringComparison.Ordinal));
        if (begun.Count == 0) return;
        if (!begun[true].Any()) await depot.RemoveAsync(aside, cancel);
        else foreach (var name in begun[false]) await depot.RemoveAsync(aside / name.Name, cancel);
    }

    // Where the sealed list of entries is lost, all comes anew, and the packs stay: what was deleted at the source lies in them and nowhere
    // else.
    private async Task<bool> IsListLostAsync(ListDigests? digests, HashSet<string> doubted, CancellationToken cancel)
    {
        var wrong = digests is not null && await digests.WrongAsync(depot, _paths, ParcelPaths.Entries, cancel) is not null;
        // Where a trip broke off, no digest says which list is the right one: it is one that opens to its end.
        var doubt = doubted.Contains(_paths.NameOf(ParcelPaths.Entries)) && (digests is not null || !await OpensAsync(cancel));
        if (wrong || doubt) await depot.RemoveAsync(_paths.At(ParcelPaths.Entries), cancel);
        return !await DepotTree.HasFileAsync(depot, _paths.At(ParcelPaths.Entries), cancel);
    }

    private async Task<bool> OpensAsync(CancellationToken cancel)
    {
        try
        {
            await using var list = await ParcelLists.OpenAsync(depot, _paths, ParcelPaths.Entries, cancel);
            if (list is null) return false;
            await list.CopyToAsync(Stream.Null, cancel);
            return true;
        }
        catch (SealBrokenException)
        {
            return false;
        }
    }

    private FolderCarried[] Folders() =>
        [.. _sums.All.Select(f => new FolderCarried(
            f.Key, f.Value.Carried + f.Value.LeftOut + f.Value.Open, f.Value.Carried, f.Value.Open, f.Value.Gone, f.Value.LeftOut,
            f.Value.GoneNow)
        { Deleted = f.Value.Deleted })];

    private async Task PassAsync(
        NewEntries entries, Journal journal, SourceMerge merge, Func<CancellationToken, Task> run, CancellationToken cancel)
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var merging = work.Start(() => run(stop.Token));
        try
        {
            await foreach (var steps in merge.Steps.ReadAllAsync(cancel))
            {
                foreach (var step in steps)
                {
                    if (await TakeAsync(step, journal, cancel) is { } entry)
                        await entries.AddAsync(entry, ReferenceEquals(entry, step.Old), cancel);
                    else if (step.Old is not null) await entries.DropAsync(cancel);
                }
            }
        }
        catch
        {
            await work.CancelAsync(stop);
            await merging;
            // What is staged stays known, even when the trip ends here, broken or stopped: also files behind the one that broke it.
            await TryFlushAsync(journal, merge.Steps);
            throw;
        }
        await merging;
    }

    private async Task TryFlushAsync(Journal journal, ChannelReader<List<Step>> left)
    {
        try
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(10), work.Time);
            await journal.TryFlushAsync(limit.Token);
            while (left.TryRead(out var steps))
                foreach (var step in steps)
                    if (step.Work is { IsCompletedSuccessfully: true } work && await work is { Entry: { } entry, WasRead: true } carried)
                        await journal.AddAsync(entry, carried.IsUnproven, limit.Token);
            await journal.TryFlushAsync(limit.Token);
        }
        catch (Exception broke) when (broke is IOException or OperationCanceledException)
        {
            // The depot is gone; the next trip reads these files again.
        }
    }

    private async Task CountAsync(TreeRoot from, NameRule names, CancellationToken cancel)
    {
        // Only for the display: how much there is in all. Not worth a second walk before the first seconds are over.
        await Task.Delay(TimeSpan.FromSeconds(3), work.Time, cancel);
        long files = 0, bytes = 0;
        var places = options.Places is { } rules ? new PlacesOnTheWay(from, rules) : null;
        foreach (var item in new TreeReader(from, names, inOrder: false).Walk(cancel))
        {
            if (places?.Meet(item) is not null
                || item.IsFolder
                || (!options.CarryList.IsEverything
                    && options.CarryList.Of(PercentText.Encode(item.Raw), false, out _) == CarryVerdict.Leave))
                continue;
            files++;
            bytes += item.Facts is { Kind: NodeKind.File } facts ? facts.Bytes : 0;
        }
        progress.Expect(files, bytes);
    }
}
