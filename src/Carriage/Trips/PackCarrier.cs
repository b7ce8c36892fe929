using System.Buffers;
using System.Security.Cryptography;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// Carries files of a source into the packs of a sealed parcel: gathers them to packs, and makes several packs side by side.
/// </summary>
internal sealed partial class PackCarrier : ICarrier
{
    private const int MostMembers = 4096;
    private const long MostHeapBytes = 96L << 20;

    private readonly IDepot _depot;
    private readonly ParcelPaths _paths;
    private readonly PackList _packs;
    private readonly PackContents _contents;
    private readonly TripOptions _options;
    private readonly Odometer _progress;
    private readonly IWork _work;
    private readonly OpenFolder _root;
    private readonly IGate _places;
    private readonly IGate _slots;
    private readonly Lock _gate = new();
    private Batch _batch;
    private readonly List<Task> _staging = [];
    private readonly CancellationTokenSource _stop;
    private int _coming;
    private int _underWay;
    private bool _finishing;

    /// <summary>Members of a pack to be, and where its outcome will be told.</summary>
    private sealed class Batch(IWork work)
    {
        public readonly List<Member> Members = [];
        public readonly TaskCompletionSource<Outcome> Done = work.Promise<Outcome>();
        public long Bytes;
        public int Files;

        /// <summary>Adds a member and says where its content will begin.</summary>
        public long Add(Member member)
        {
            var start = Bytes + member.HeaderBytes;
            Members.Add(member);
            Bytes += member.Length;
            if (member.Facts is not null) Files++;
            return start;
        }
    }

    /// <summary>How a pack ended: its number, or why it is not in the depot.</summary>
    private sealed record Outcome(int Pack, SnagKind Kind, string? Why);

    public PackCarrier(
        IDepot depot, ParcelPaths paths, PackList packs, TreeRoot from, TripOptions options, Odometer progress, IWork work,
        CancellationToken cancel)
    {
        (_depot, _paths, _packs, _options, _progress, _work) = (depot, paths, packs, options, progress, work);
        (_places, _slots, _batch) = (work.Gate(3 * MostMembers), work.Gate(Math.Clamp(work.Cores, 1, 4)), new(work));
        _root = from.Open();
        _contents = new(depot, paths, work);
        _stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
    }

    public int AtOnce => 3 * MostMembers;

    public Task<bool> HasPlaceAsync(TimeSpan patience, CancellationToken cancel) => _places.WaitAsync(patience, cancel);

    public void FreePlace() => _places.Release();

    public Task<Carried> CarryAsync(TreeItem item, Entry template, Entry? old, CancellationToken cancel)
    {
        Interlocked.Increment(ref _coming);
        return TryAsync(item, template, old, cancel);
    }

    // Up to its place in a pack a file goes on the thread of the walk, so that packs have the order of the walk.
    private async Task<Carried> TryAsync(TreeItem item, Entry template, Entry? old, CancellationToken cancel)
    {
        var (facts, done) = Look(item, template);
        try
        {
            if (done is null
                && old is { Kind: EntryKind.File, GoneSince: null }
                && old.Bytes == facts.Bytes
                && old.Modified == facts.Modified)
                done = await _work.Start(() => CompareAsync(item, template, old, cancel));
        }
        catch
        {
            // Whatever becomes of it: nobody may wait for it.
            lock (_gate) Came();
            throw;
        }
        finally
        {
            item.Parent.Release();
        }
        if (done is { } known)
        {
            lock (_gate) Came();
            return known;
        }
        Snag? last = null;
        for (var attempt = 0; attempt < _options.TriesPerFile; attempt++)
        {
            _progress.Now(template.Shown);
            var (entry, snag) = facts.Bytes > PackPiece.Most
                ? await _work.Start(() => CarryLargeAsync(item, template, facts, attempt > 0, cancel))
                : await CarrySmallAsync(item, template, facts, attempt > 0, cancel);
            if (entry is not null) return new(entry, null, true, true);
            last = snag;
            if (snag!.Kind is not SnagKind.ChangedWhileRead) break;
            (facts, var gone) = LookAgain(item, template);
            if (gone is { } ended) return ended;
        }
        if (last!.Kind == SnagKind.ChangedWhileRead)
            last = last with
            {
                Reason =
                    $"It changed during each of {_options.TriesPerFile} reads. Close the program that writes to it, then run another trip."
            };
        return new(null, last, false, false);
    }

    private static (NodeFacts Facts, Carried? Done) Look(TreeItem item, Entry template)
    {
        using var file = FileCarrier.TryOpen(item, out var trouble);
        return LookAt(file, trouble, template);
    }

    private (NodeFacts Facts, Carried? Done) LookAgain(TreeItem item, Entry template)
    {
        using var file = _root.TryOpenFile(item.Raw, FileUse.Read, out var trouble);
        return LookAt(file, trouble, template);
    }

    private static (NodeFacts Facts, Carried? Done) LookAt(OpenFile? file, Trouble trouble, Entry template)
    {
        if (file is null) return (default, new(null, FileCarrier.Unopened(template, trouble), false, false));
        try
        {
            var facts = file.Facts();
            return (facts, facts.Kind == NodeKind.File ? null : new Carried(null, FileCarrier.Replaced(template), false, false));
        }
        catch (FileTroubleException broke)
        {
            return (default, new(null, FileCarrier.Unopened(template, broke.Trouble), false, false));
        }
    }

    /// <summary>A file that looks as it did but for a touch: one read tells, and spares the way to the depot.</summary>
    private async Task<Carried?> CompareAsync(TreeItem item, Entry template, Entry old, CancellationToken cancel)
    {
        try
        {
            using var file = FileCarrier.TryOpen(item, out _);
            if (file is null) return null;
            var facts = file.Facts();
            return await IsThereAsync(file, facts, old, cancel)
                ? new(
                    EntryFacts.Described(template, file, facts, _options.Traces) with { Sha256 = old.Sha256, Packs = old.Packs },
                    null,
                    true,
                    false)
                : null;
        }
        catch (Exception broke) when (broke is SourceBrokeException or FileTroubleException)
        {
            // It changes right now, or cannot be read; the way into the pack says the same in better words.
            return null;
        }
    }

    public Task NoteAsync(Entry entry, CancellationToken cancel)
    {
        if (entry.Path.IsRoot) return Task.CompletedTask;
        lock (_gate) _batch.Add(new(entry, entry.RawPath, null, 0, 0));
        return Task.CompletedTask;
    }

    // What is under way ends by itself, and most often it is that for which somebody waits. Only where nothing is, the gathered files are:
    // else each would go in a pack of its own.
    public void Hurry()
    {
        lock (_gate)
            if (_underWay == 0) Dispatch();
    }

    public void Finish()
    {
        lock (_gate)
        {
            _finishing = true;
            if (_coming == 0) Dispatch();
        }
    }

    // At the end of the walk the last pack waits for those that are on their way to it, and for nobody else.
    private void Came()
    {
        if (Interlocked.Decrement(ref _coming) == 0 && _finishing) Dispatch();
    }

    /// <summary>Whether the parcel has the very content: looked at where there is a doubt.</summary>
    private async Task<bool> IsThereAsync(OpenFile file, NodeFacts facts, Entry old, CancellationToken cancel)
    {
        // Of a pack in doubt what lies between and behind its files may be what is damaged: they all move to another.
        if (old.Packs?.Any(p => _options.Doubted.Contains(p.Name)) ?? false) return false;
        using var digest = StreamDigest.For(facts.Bytes);
        await FileCarrier.HashAsync(new(file, facts, _progress, digest), cancel);
        var same = digest.Finish() == old.Sha256
            && (!_options.Doubts(old) || await FileCarrier.ReadBackAsync(_contents, old, cancel) == (old.Sha256, old.Bytes));
        if (!same) _progress.Moved(-facts.Bytes);
        return same;
    }

    private async Task<(Entry? Entry, Snag? Snag)> CarrySmallAsync(
        TreeItem item, Entry template, NodeFacts facts, bool alone, CancellationToken cancel)
    {
        var member = new Member(template with { Bytes = facts.Bytes }, item.Raw, facts, 0, facts.Bytes);
        Batch mine;
        long start;
        lock (_gate)
        {
            if (_batch.Bytes + member.Length > PackPiece.Most) Dispatch();
            mine = _batch;
            start = mine.Add(member);
            // A file that comes once more waits for no other: that one might wait for it.
            if (alone || mine.Files == MostMembers || mine.Bytes >= PackPiece.Most) Dispatch();
            if (!alone) Came();
        }
        var outcome = await mine.Done.Task.WaitAsync(cancel);
        if (Trouble(member, outcome, template, facts) is { } snag) return (null, snag);
        return (Finished(member.Entry, facts, member, [new(outcome.Pack, start, facts.Bytes)]), null);
    }

    private async Task<T> InSlotAsync<T>(Func<Task<T>> what, CancellationToken cancel)
    {
        await _slots.WaitAsync(cancel);
        try
        {
            return await what();
        }
        finally
        {
            _slots.Release();
        }
    }

    private static Snag? Trouble(Member member, Outcome outcome, Entry template, NodeFacts facts) => member.End switch
    {
        _ when outcome.Why is not null => new(template.Shown, outcome.Kind, facts.Bytes, outcome.Why),
        MemberEnd.Whole => null,
        MemberEnd.Unreadable => new(template.Shown, SnagKind.Unreadable, facts.Bytes, member.Why!),
        _ => new(template.Shown, SnagKind.ChangedWhileRead, facts.Bytes, member.Why ?? "It was not read."),
    };

    private static Entry Finished(Entry entry, NodeFacts facts, Member member, IReadOnlyList<PackPiece> pieces) =>
        entry with { Bytes = facts.Bytes, Sha256 = member.Sha256, Packs = pieces };

    /// <summary>Sets what was gathered on its way. A pack of folders and links alone waits: the entries know these.</summary>
    private void Dispatch()
    {
        if (_batch.Files == 0) return;
        var full = _batch;
        _batch = new(_work);
        _underWay++;
        _staging.RemoveAll(s => s.IsCompleted);
        _staging.Add(_work.Start(() => StageAsync(full)));
    }

    private async Task StageAsync(Batch batch)
    {
        try
        {
            batch.Done.SetResult(await InSlotAsync(() => SaveAsync(batch.Members, _packs.Number(1), _stop.Token), _stop.Token));
            TidyUp();
        }
        catch (Exception broke)
        {
            batch.Done.TrySetException(broke);
        }
        finally
        {
            lock (_gate) _underWay--;
        }
    }

    // What waited for its pack has grown old, and would be kept long after: the hand is a guest on the computer of somebody who works at
    // it.
    private static void TidyUp()
    {
        if (GC.GetTotalMemory(false) > MostHeapBytes) GC.Collect(GC.MaxGeneration, GCCollectionMode.Forced, blocking: true);
    }

    private async Task<Outcome> SaveAsync(IReadOnlyList<Member> members, int number, CancellationToken cancel)
    {
        var (path, aside) = (_paths.Data / PackPiece.NameOf(number), _paths.At(ParcelPaths.Aside) / PackPiece.NameOf(number));
        var plain = PackStream.LengthOf(members);
        var bytes = SealingStream.LengthOf(plain, _paths.Seal!.Recipients.Count);
        for (var attempt = 0; attempt < _options.TriesPerFile; attempt++)
        {
            PackStream? reading = null;
            HashedStream? hashed = null;
            var content = new Content(() =>
            {
                _progress.Moved(-(reading?.Counted ?? 0));
                reading = new(_root, members, _progress, _options.Traces);
                return hashed = new(SealingStream.To(_paths.Seal.Recipients, reading, plain));
            }, bytes)
            {
                SettlesFirst = _options.ReadBack && _depot.HasMedium
            };
            var saved = await _depot.SaveAsync(path, aside, content, cancel);
            if (!saved.IsOk)
            {
                _progress.Moved(-(reading?.Counted ?? 0));
                if (saved.Problem is DepotFull full) throw new DepotFullException(full);
                return new(number, SnagKind.DepotRefused, saved.Problem.Message);
            }
            var digest = hashed!.Sha256;
            if (!_options.ReadBack || await IsWholeAsync(path, bytes, cancel))
            {
                _packs.Add(number, bytes, digest);
                return new(number, SnagKind.DepotRefused, null);
            }
            _progress.Moved(-reading!.Counted);
        }
        return new(
            number,
            SnagKind.DamagedInDepot,
            "The depot gave back something else than was staged, each time. Look at the depot's disk, then run another trip.");
    }

    // Each piece is sealed with its place, and the header with all of it: what opens to its end is what was sealed, byte for byte. That is
    // proven faster than a digest.
    private async Task<bool> IsWholeAsync(DepotPath path, long bytes, CancellationToken cancel)
    {
        if (!(await _depot.OpenBackAsync(path, cancel)).TryGet(out var back, out _)) return false;
        await using (var stream = back.Stream)
        {
            _options.Tally.Add(back.From, bytes);
            var buffer = ArrayPool<byte>.Shared.Rent(SealingStream.Piece);
            try
            {
                await using var opened = await OpenedStream.OpenAsync(stream, [_paths.Seal!.NeedKey()], null, cancel);
                if (opened is null) return false;
                while (await opened.ReadAsync(buffer.AsMemory(0, SealingStream.Piece), cancel) > 0)
                {
                }
                return SealingStream.LengthOf(opened.Position, _paths.Seal.Recipients.Count) == bytes;
            }
            catch (SealBrokenException)
            {
                return false;
            }
            finally
            {
                ArrayPool<byte>.Shared.Return(buffer);
            }
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _work.CancelAsync(_stop);
        List<Task> staging;
        lock (_gate) staging = [.. _staging];
        await Task.WhenAll(staging).Quietly();
        _stop.Dispose();
        _root.Dispose();
        _contents.Dispose();
        _slots.Dispose();
        _places.Dispose();
    }
}
