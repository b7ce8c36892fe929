using System.Buffers;
using System.Security.Cryptography;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What became of one file: an entry, or a snag. <paramref name="WasStaged"/>: it went to the depot now, and was not there already.
/// </summary>
internal readonly record struct Carried(Entry? Entry, Snag? Snag, bool WasRead, bool WasStaged)
{
    /// <summary>It is still to be read back, once the medium has it.</summary>
    public bool IsUnproven { get; init; }
}

/// <summary>Carries files of a source into an open parcel, each by itself.</summary>
internal sealed partial class FileCarrier(IDepot depot, ParcelPaths paths, TripOptions options, Odometer progress, IWork work) : ICarrier
{
    private readonly bool _hasMedium = depot.HasMedium;
    private readonly OpenContents _contents = new(depot, paths, provesThem: true);
    private long _aside;

    private readonly Lanes _lanes = new(options.AtOnce, progress, work);

    // Files wait for a lane by themselves, so that it is taken the moment it is free: answers of a share come in bursts, and the walk is
    // one after the other.
    private readonly IGate _ahead = work.Gate(4 * Math.Max(options.AtOnce, Lanes.Most));

    public int AtOnce => 4 * Math.Max(options.AtOnce, Lanes.Most);

    // Nothing is only gathered here, so nobody has to be hurried: it waits without a clock.
    public Task<bool> HasPlaceAsync(TimeSpan patience, CancellationToken cancel)
    {
        var waiting = _ahead.WaitAsync(cancel);
        return waiting.IsCompletedSuccessfully ? HasIt : AfterAsync(waiting);

        static async Task<bool> AfterAsync(Task waiting)
        {
            await waiting;
            return true;
        }
    }

    private static readonly Task<bool> HasIt = Task.FromResult(true);

    public void FreePlace() => _ahead.Release();

    public Task NoteAsync(Entry entry, CancellationToken cancel) =>
        entry.Kind == EntryKind.Folder
            ? _lanes.TakeAsync(() => depot.MakeFoldersAsync(paths.Data.Join(entry.Path), cancel), cancel)
            : Task.CompletedTask;

    public void Hurry()
    {
    }

    public void Finish()
    {
    }

    public async ValueTask DisposeAsync()
    {
        Went();
        await _allWent.Task;
        _lanes.Dispose();
        _ahead.Dispose();
    }

    /// <summary>Opens a file of a walk to read it; null with why that fails.</summary>
    public static OpenFile? TryOpen(TreeItem item, out Trouble trouble) =>
        item.Parent.Opened.TryOpenFile(item.Name, FileUse.ReadQuietly, out trouble);

    public static Snag Replaced(Entry template) =>
        new(template.Shown, SnagKind.ChangedWhileRead, 0, "It was replaced by something that is no file. Run another trip.");

    private async Task<Carried> TryAsync(TreeItem item, Entry template, Entry? old, CancellationToken cancel)
    {
        Snag? last = null;
        for (var attempt = 0; attempt < options.TriesPerFile; attempt++)
        {
            var file = TryOpen(item, out var trouble);
            if (file is null) return new(null, Unopened(template, trouble), false, false);
            using (file)
            {
                NodeFacts facts = default;
                try
                {
                    facts = file.Facts();
                    if (facts.Kind != NodeKind.File) return new(null, Replaced(template), false, false);
                    var (carried, snag, wasThere) = await CarryAsync(file, facts, template, old, cancel);
                    if (carried is not null) return Staged(carried, old, wasThere);
                    last = snag;
                    if (snag!.Kind is not (SnagKind.ChangedWhileRead or SnagKind.DamagedInDepot)) break;
                }
                catch (SourceBrokeException broke)
                {
                    last = broke.InnerException is ChangedWhileReadException
                        ? new(
                            template.Shown,
                            SnagKind.ChangedWhileRead,
                            facts.Bytes,
                            $"It changed during each of {options.TriesPerFile} reads. Close the program that writes to it, then run "
                                + $"another trip.")
                        : new(template.Shown, SnagKind.Unreadable, facts.Bytes, $"The disk could not be read: {broke.Message}");
                    if (last.Kind == SnagKind.Unreadable) break;
                }
                catch (FileTroubleException broke)
                {
                    return new(null, Unopened(template, broke.Trouble), false, false);
                }
            }
        }
        return new(null, last, false, false);
    }

    public static Snag Unopened(Entry template, Trouble trouble) => trouble.Fault switch
    {
        Fault.NotThere =>
            new(
                template.Shown,
                SnagKind.GoneWhileRead,
                template.Bytes,
                "It vanished between the look and the read. If it is gone for good, the next trip will not see it any more."),
        Fault.ThroughLink =>
            new(template.Shown, SnagKind.ChangedWhileRead, template.Bytes, "It was replaced by a link. Run another trip."),
        Fault.Shut or Fault.NotOwner =>
            new(
                template.Shown,
                SnagKind.Unreadable,
                template.Bytes,
                "No right to read it. Run the hand with the rights of its owner, or as administrator."),
        _ => new(template.Shown, SnagKind.Unreadable, template.Bytes, trouble.Said("It cannot be opened") + "."),
    };

    /// <param name="wasThere">The depot had it, and nothing was sent.</param>
    private Carried Staged(Entry entry, Entry? old, bool wasThere) =>
        new(entry, null, true, entry.Sha256 != old?.Sha256 || old?.GoneSince is not null || (!wasThere && options.Doubts(old!)))
        {
            IsUnproven = !wasThere && IsProvenLater(entry.Bytes)
        };

    /// <summary>
    /// Same length and time but touched: most often a mode or an owner. One read tells, and spares the way to the depot.
    /// </summary>
    public static bool MayBeThere(Entry? old, in NodeFacts facts) =>
        old is { Kind: EntryKind.File, GoneSince: null } && old.Bytes == facts.Bytes && (old.Adopted || old.Modified == facts.Modified);

    private DepotPath NextAside() => paths.At(ParcelPaths.Aside) / $"{Interlocked.Increment(ref _aside)}";

    // A file that is large is brought onto the medium by itself; of small ones many at once.
    private bool IsProvenLater(long bytes) => options.ReadBack && _hasMedium && bytes < Content.LeastToGoOn;

    /// <summary>One try. <c>WasThere</c>: the depot had it, and nothing was sent.</summary>
    private async Task<(Entry? Entry, Snag? Snag, bool WasThere)> CarryAsync(
        OpenFile file, NodeFacts facts, Entry template, Entry? old, CancellationToken cancel)
    {
        progress.Now(template.Shown);
        using var digest = StreamDigest.For(facts.Bytes);
        var entry = EntryFacts.Described(template, file, facts, options.Traces);
        if (MayBeThere(old, facts))
        {
            var same = await HashAsync(new WatchedStream(file, facts, progress, digest), cancel);
            if (digest.Finish() == old!.Sha256
                && same == facts.Bytes
                && ((options.TrustsDepot && !options.Doubts(old))
                    || await ReadBackAsync(_contents, old, cancel) == (old.Sha256, old.Bytes)))
                return (entry with { Sha256 = old.Sha256 }, null, true);
            progress.Moved(-facts.Bytes);
        }

        WatchedStream? reading = null;
        var (sha256, wasProven) = ((string?)null, false);
        var atHand = facts.Bytes <= AtHand.Most ? await AtHand.ReadAsync(reading = new(file, facts, progress, digest), cancel) : null;
        var path = paths.Data.Join(template.Path);
        // A large file goes on where an earlier trip stopped inside it: what lies aside bears the name of this very state of it, and
        // reading back would find any other.
        var content = new Content(atHand is null ? Open : atHand.Open, facts.Bytes, goesOn: options.ReadBack)
        {
            SettlesFirst = options.ReadBack && _hasMedium && !IsProvenLater(facts.Bytes),
            Sha256 = options.ReadBack ? Sha256 : null,
            GaveBack = from =>
            {
                wasProven = true;
                options.Tally.Add(from, facts.Bytes);
            }
        };
        var aside = content.GoesOn ? paths.At(ParcelPaths.Aside) / (ParcelPaths.GoesOn + Mark(template, facts)) : NextAside();
        Result<long> saved;
        try
        {
            saved = await depot.SaveAsync(path, aside, content, cancel);
        }
        finally
        {
            reading?.Dispose();
        }
        if (!saved.IsOk)
        {
            progress.Moved(-(reading?.Done ?? 0));
            if (saved.Problem is DepotFull full) throw new DepotFullException(full);
            return (null, Refused(template, facts.Bytes, saved.Problem), false);
        }
        entry = entry with { Sha256 = Sha256() };
        var isBack = !options.ReadBack || wasProven || IsProvenLater(facts.Bytes) || await GivesBackAsync(
            entry,
            async back => atHand is null
                ? await Digest.OfAsync(back, null, cancel) == (entry.Sha256!, entry.Bytes)
                : await atHand.IsSameAsync(back, cancel),
            cancel);
        atHand?.LetGo();
        if (!isBack)
        {
            progress.Moved(-facts.Bytes);
            return (
                null,
                new(
                    template.Shown,
                    SnagKind.DamagedInDepot,
                    facts.Bytes,
                    "The depot gave back something else than was staged, each time. Look at the depot's disk, then run another trip."),
                false);
        }
        return (entry, null, false);

        string Sha256() => sha256 ??= digest.Finish();

        Stream Open()
        {
            sha256 = null;
            reading?.Dispose();
            progress.Moved(-(reading?.Done ?? 0));
            return reading = new(file, facts, progress, digest);
        }
    }

    private static Snag Refused(Entry template, long bytes, Problem why) => why is DepotKeptOther
        ? new(template.Shown, SnagKind.DamagedInDepot, bytes, why.Message + " Look at the disk, then run another trip.")
        : new(template.Shown, SnagKind.DepotRefused, bytes, why.Message);

    private async Task<bool> GivesBackAsync(Entry entry, Func<Stream, ValueTask<bool>> isIt, CancellationToken cancel)
    {
        if (!(await depot.OpenBackAsync(paths.Data.Join(entry.Path), cancel)).TryGet(out var back, out _)) return false;
        await using (back.Stream)
        {
            options.Tally.Add(back.From, entry.Bytes);
            return await isIt(back.Stream);
        }
    }

    private static string Mark(Entry template, NodeFacts facts)
    {
        string At(Stamp time) => FormattableString.Invariant($"{time.Seconds}.{time.Nanos}");
        var state = FormattableString.Invariant(
            $"{template.Path.Text}|{facts.Bytes}|{facts.Inode}|{At(facts.Modified)}|{At(facts.Changed)}");
        return Convert.ToHexStringLower(SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(state)))[..32];
    }

    /// <summary>Digest and length of what the parcel has of a file; of a broken one nothing that could be taken for it.</summary>
    public static async Task<(string, long)> ReadBackAsync(IContents contents, Entry entry, CancellationToken cancel)
    {
        try
        {
            var opened = await contents.OpenAsync(entry, cancel);
            if (!opened.TryGet(out var stream, out _)) return ("", -1);
            await using (stream) return await Digest.OfAsync(stream, null, cancel);
        }
        catch (SealBrokenException)
        {
            return ("", -1);
        }
    }

    public static async Task<long> HashAsync(WatchedStream stream, CancellationToken cancel)
    {
        var buffer = ArrayPool<byte>.Shared.Rent(256 * 1024);
        try
        {
            long done = 0;
            while (await stream.ReadAsync(buffer, cancel) is > 0 and var got) done += got;
            return done;
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }
}
