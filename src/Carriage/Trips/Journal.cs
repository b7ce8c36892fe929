using System.Buffers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What a trip has staged but not yet entered: numbered files of entries under <c>yard/journal</c>, written after the files they name.
/// Journal last: after a crash a file too many in the parcel is found again, a line too many would be believed.
/// Goes in waves: what came is brought onto the medium at once, read back from there, and written down, while the next is being staged.
/// </summary>
internal sealed class Journal(IDepot depot, ParcelPaths paths, IWork work, TripOptions options)
{
    private readonly Proof _proof = new(depot, options.Tally, options.AtOnce, work);
    private Wave _wave = new();
    private Wave? _underWay;
    private Task _writing = Task.CompletedTask;
    private bool _isLost;
    private int _number;
    private long _since = work.Time.GetTimestamp();
    private readonly List<(Entry Entry, string Why)> _notGivenBack = [];

    /// <summary>What came since the last part was begun.</summary>
    private sealed class Wave
    {
        public readonly List<Entry> Entries = [];

        /// <summary>Those of them that are still to be read back.</summary>
        public readonly List<Entry> Unproven = [];
    }

    private DepotPath Folder => paths.At(ParcelPaths.Journal);

    /// <summary>What the medium did not give back as it was staged, and why not: no part names it.</summary>
    public IReadOnlyList<(Entry Entry, string Why)> NotGivenBack => _notGivenBack;

    /// <param name="unproven">It is still to be read back.</param>
    /// <exception cref="IOException">The depot went away, now or while an earlier part was written.</exception>
    public async ValueTask AddAsync(Entry entry, bool unproven, CancellationToken cancel)
    {
        _wave.Entries.Add(entry);
        if (unproven) _wave.Unproven.Add(entry);
        if (_wave.Entries.Count < options.JournalFiles && work.Time.GetElapsedTime(_since) <= options.JournalEvery) return;
        // One at a time: whoever stages faster than the medium takes it waits here.
        await _writing;
        (_underWay, _wave, _since) = (_wave, new(), work.Time.GetTimestamp());
        _writing = work.Start(() => WriteAsync(_underWay, cancel));
    }

    /// <summary>Writes down all that came.</summary>
    public async Task FlushAsync(CancellationToken cancel)
    {
        await _writing;
        await TryFlushAsync(cancel);
    }

    /// <summary>Writes down all that came, also what broke off before it was; not where the medium is known to take nothing.</summary>
    public async Task TryFlushAsync(CancellationToken cancel)
    {
        // Whoever stops a trip stops the part that is being written, too: what it has is written anew.
        await _writing.Quietly();
        _writing = Task.CompletedTask;
        _since = work.Time.GetTimestamp();
        if (_isLost) return;
        if (_underWay is { } brokeOff) await WriteAsync(brokeOff, cancel);
        if (_wave.Entries.Count == 0) return;
        (_underWay, _wave) = (_wave, new());
        await WriteAsync(_underWay, cancel);
    }

    /// <summary>Reads back what still is to be: what comes after is the list of all, and no part of it is written any more.</summary>
    public async Task ProveAsync(CancellationToken cancel)
    {
        await _writing;
        if (_wave.Unproven.Count == 0) return;
        await SettleAsync(depot, paths, cancel);
        await ProveAsync(_wave, cancel);
    }

    /// <summary>Forgets what was not given back: it comes anew.</summary>
    public void Restart() => _notGivenBack.Clear();

    private async Task WriteAsync(Wave wave, CancellationToken cancel)
    {
        // What a part names is on the medium before the part is: after a power cut nothing else would tell that it is not.
        try
        {
            await SettleAsync(depot, paths, cancel);
        }
        catch (DepotNotTakenException)
        {
            // A system tells it once; asked again it would know nothing of it.
            _isLost = true;
            throw;
        }
        await ProveAsync(wave, cancel);
        using (var part = new TagFile(work))
        {
            var lines = new ArrayBufferWriter<byte>(64 * 1024);
            foreach (var entry in wave.Entries) entry.Write(lines);
            part.Out.Write(lines.WrittenSpan);
            await part.MustSaveAsync(depot, paths, $"{ParcelPaths.Journal}/{_number + 1:00000000}.jsonl", cancel);
        }
        _number++;
        _underWay = null;
    }

    /// <summary>Reads back what a wave has, and takes out of it what is not there as it was staged.</summary>
    private async Task ProveAsync(Wave wave, CancellationToken cancel)
    {
        var claims = wave.Unproven.ConvertAll(e => new Claim(paths.Data.Join(e.Path), e.Sha256!, e.Bytes));
        var lost = await _proof.FailsAsync(claims, cancel);
        _notGivenBack.AddRange(lost.Select(l => (wave.Unproven[l.At], l.Why)));
        var gone = lost.Select(l => wave.Unproven[l.At]).ToHashSet<object>(ReferenceEqualityComparer.Instance);
        wave.Entries.RemoveAll(gone.Contains);
        wave.Unproven.Clear();
    }

    /// <summary>
    /// Enters what was staged and what was moved out of the way into the entries, so that the next trip is an ordinary one. Repeatable.
    /// </summary>
    public async Task FoldAsync(Displaced displaced, CancellationToken cancel)
    {
        using var entries = await JournalFold.MergeAsync(depot, paths, displaced, work, cancel);
        if (entries is null) return;
        await SettleAsync(depot, paths, cancel);
        await entries.MustSaveAsync(depot, paths, ParcelPaths.Entries, cancel);
        await depot.RemoveAsync(Folder, cancel);
        await displaced.EndAsync(cancel);
    }

    /// <summary>
    /// Brings onto the medium what a list is about to say is there. What it did not take reads as whole until the computer forgets it, so
    /// no journal says any more that it is staged.
    /// </summary>
    /// <exception cref="DepotNotTakenException">It did not take all of it.</exception>
    public static async Task SettleAsync(IDepot depot, ParcelPaths paths, CancellationToken cancel)
    {
        try
        {
            await depot.SettleAsync(cancel);
        }
        catch (DepotNotTakenException)
        {
            await depot.RemoveAsync(paths.At(ParcelPaths.Journal), cancel);
            await depot.SaveAsync(
                paths.At(ParcelPaths.NotTaken), paths.At(ParcelPaths.Aside) / "not-taken", () => new MemoryStream([(byte)'\n']), 1, cancel);
            throw;
        }
    }
}
