using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>The target of a restore cannot be used.</summary>
public sealed record TargetUnusable(string Folder, string Why) : Problem("restore.target", $"Nothing can be restored to '{Folder}': {Why}");

/// <summary>The disk of the target did not take what was written to it.</summary>
public sealed record TargetNotTaken(string Folder, string Why)
    : Problem(
        "restore.not-taken",
        $"The disk of '{Folder}' did not take what was restored: {Why} Nothing of it counts. Look at the disk, then restore again: what "
            + "was written is written anew.");

/// <summary>
/// Brings a parcel into a folder of the new computer. Nothing that stands is changed; no link is followed; nothing is written outside.
/// May be killed at any moment: run again, it ends in the same state.
/// </summary>
public sealed class Restore(
    IDepot depot, DepotPath parcel, int atOnce, Odometer progress, IWork work, LandingPlan? landing = null, SealKeys? keys = null)
{
    private ParcelPaths _paths = new(parcel);
    private readonly PerFolder<Sum> _folders = new();
    private readonly List<Snag> _snags = [];
    private readonly List<Damage> _damages = [];
    private readonly List<KeptBeside> _beside = [];
    private readonly List<ClashDecided> _clashes = [];
    private readonly LandingPlan _plan = landing ?? LandingPlan.Original;
    private readonly HashSet<string> _missing = new((landing ?? LandingPlan.Original).Named, StringComparer.Ordinal);
    private const int MostClashes = 1000;

    /// <summary>A folder of the target that is being filled.</summary>
    private sealed record Frame(
        Entry? Entry, DepotPath Stored, byte[] Raw, SharedFolder Folder, bool IsOurs, SharedFolder? Elsewhere = null);

    private readonly record struct Step(Entry Entry, Frame Frame, byte[] Name, Task<Touchdown>? Work, Touchdown? Ready, bool EndOfFrame);

    /// <summary>Restores.</summary>
    /// <param name="to">An existing folder, or one whose parent is there.</param>
    /// <param name="cancel">Stops; run again to go on.</param>
    public async Task<Result<RestoreReport>> RunAsync(TreeRoot to, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        var found = await new ParcelOpening(depot, parcel, keys ?? SealKeys.None, work).TryOpenAsync(needsKey: true, cancel);
        if (!found.IsOk) return found.Problem;
        if (found.Value is not { } opened) return new NoParcel(parcel.Text, depot.Address);
        _paths = opened.Paths;
        if (!await HasAsync(ParcelPaths.TagManifest, cancel))
            return new ParcelUnfinished("The parcel's first trip is not finished. Run the trip again, then restore.");
        if (await HasAsync(ParcelPaths.OpenTrip, cancel))
            return new ParcelUnfinished("A trip is under way or broke off. Run the trip again, then restore.");
        var digests = await ListDigests.ReadAsync(depot, _paths, cancel);
        // What is listed is restored all the same: with the old computer gone it is all there is.
        if (await digests.WrongAsync(depot, _paths, ParcelPaths.Entries, cancel) is { } wrong)
            Damaged(new(DamageKind.Changed, _paths.NameOf(ParcelPaths.Entries), wrong));
        if (to.TryMake(out var trouble) is not { } root) return new TargetUnusable(to.Path, trouble.Said("open") + ".");
        using (root)
        {
            if (LandingPlaces.Missing(root, _plan) is { } nowhere) return nowhere;
            Workplace workplace;
            try
            {
                workplace = new(root, Guid.Parse(opened.Id).ToString("N")[..12]);
            }
            catch (FileTroubleException broke)
            {
                return new TargetUnusable(to.Path, broke.Message + ".");
            }
            using (workplace)
            {
                await FillAsync(root, workplace, cancel);
                if (NotTaken(to, root) is { } lost)
                {
                    workplace.NoteNotTaken();
                    return lost;
                }
                try
                {
                    workplace.Clear();
                }
                catch (FileTroubleException broke)
                {
                    return new TargetUnusable(to.Path, broke.Message + ". All is there; restore again, which tidies up.");
                }
                // Clearing our own folder touched the root's time once more. A root that stood keeps the time it bore.
                try
                {
                    if (_rootEntry is not null) FileRestorer.Dress(_rootEntry, root);
                    else root.SetModified(workplace.RootStood);
                    workplace.Forget();
                }
                catch (FileTroubleException broke) when (broke.Fault == Fault.NotOwner)
                {
                    // Somebody else owns the target; we may write into it, but not set its time.
                    if (_rootEntry is not null) _snags.Add(new("./", SnagKind.AttributeLost, 0, broke.Message + ".", CountsAsFile: false));
                    workplace.Forget();
                }
            }
            if (NotTaken(to, root) is { } atLast) return atLast;
        }
        return new RestoreReport(
            Folders(),
            _snags,
            _damages,
            _beside,
            work.Time.GetElapsedTime(started).TotalSeconds,
            _clashes,
            [.. _missing.Order(StringComparer.Ordinal)]);
    }

    private static TargetNotTaken? NotTaken(TreeRoot to, OpenFolder root)
    {
        try
        {
            root.Sync();
            return null;
        }
        catch (FileTroubleException broke)
        {
            return new(to.Path, broke.Message + ".");
        }
    }

    private Entry? _rootEntry;

    private async Task<bool> HasAsync(string below, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(_paths.At(below), cancel);
        if (opened.IsOk) await opened.Value.DisposeAsync();
        return opened.IsOk;
    }

    private async Task FillAsync(OpenFolder root, Workplace workplace, CancellationToken cancel)
    {
        var steps = work.Pipe<Step>(1024);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        using var contents = OpenContents.Of(depot, _paths, work);
        var restorer = new FileRestorer(contents, workplace, progress);
        var walking = work.Start(() => WalkAsync(root, workplace, restorer, steps.Writer, stop.Token));
        var counting = work.Start(() => CountAsync(stop.Token));
        var firstNames = new Dictionary<string, (SharedFolder Folder, byte[] Name)>(StringComparer.Ordinal);
        try
        {
            await foreach (var step in steps.Reader.ReadAllAsync(cancel))
            {
                if (step.Frame is null)
                {
                    progress.Reached();
                    continue;
                }
                if (step.EndOfFrame)
                {
                    Finish(step.Frame);
                    continue;
                }
                var landing = step.Work is not null ? await step.Work : step.Ready ?? await LinkAsync(step);
                Take(step, landing);
                var group = step.Entry.SameAs ?? step.Entry.Path.Text;
                if (_wanted.Contains(group) && landing.How is not (Landed.Open or Landed.Stayed) && !firstNames.ContainsKey(group))
                    firstNames[group] = (step.Frame.Folder.Share(), landing.Name);
            }
        }
        finally
        {
            await work.CancelAsync(stop);
            await walking.Quietly();
            await counting.Quietly();
            foreach (var (folder, _) in firstNames.Values) folder.Release();
        }

        // The parcel has the content under each name of a group, so a name whose first one is not restored, or not yet, comes by itself.
        async Task<Touchdown> LinkAsync(Step step)
        {
            var (entry, folder, clash) = (step.Entry, step.Frame.Folder.Opened, _plan.ClashOf(step.Entry.Shown));
            if (!firstNames.TryGetValue(entry.SameAs ?? entry.Path.Text, out var first))
                return await restorer.RestoreAsync(entry, folder, step.Name, clash, cancel);
            progress.Done();
            progress.Moved(entry.Bytes);
            return restorer.LinkTo(entry, first.Folder.Opened, first.Name, folder, step.Name, clash);
        }
    }

    // Paths that a later name of the same file refers to. Filled by the walk's own look ahead: a first pass over the entries.
    private readonly HashSet<string> _wanted = new(StringComparer.Ordinal);

    private async Task CountAsync(CancellationToken cancel)
    {
        long files = 0, bytes = 0;
        using var entries = await EntryReader.OpenAsync(depot, _paths, ParcelPaths.Entries, null, cancel);
        for (; entries.Current is { } entry; await entries.NextAsync(cancel))
        {
            if (entry.Kind == EntryKind.Folder || entry.GoneSince is not null || !_plan.Wants(entry.Shown)) continue;
            files++;
            bytes += entry.Bytes;
        }
        progress.Expect(files, bytes);
    }

    private async Task WalkAsync(
        OpenFolder root, Workplace workplace, FileRestorer restorer, ChannelWriter<Step> steps, CancellationToken cancel)
    {
        using var slots = new Lanes(atOnce, progress, work);
        var running = new List<Task>();
        var frames = new Stack<Frame>();
        try
        {
            using (var ahead = await EntryReader.OpenAsync(depot, _paths, ParcelPaths.Entries, null, cancel))
                for (; ahead.Current is { } entry; await ahead.NextAsync(cancel))
                    if (entry is { SameAs: { } first, GoneSince: null }) _wanted.Add(first);
            for (var round = 0; round < _plan.Rounds; round++)
            {
                await RoundAsync(round);
                // All of this comes before what is needed first is said to be there.
                if (round == _plan.First.Count - 1) await steps.WriteAsync(new(null!, null!, [], null, null, false), cancel);
            }
            steps.Complete();
        }
        catch (Exception broke)
        {
            steps.Complete(broke);
        }
        finally
        {
            await Task.WhenAll(running).Quietly();
        }

        async Task RoundAsync(int round)
        {
            using var entries = await EntryReader.OpenAsync(
                depot,
                _paths,
                ParcelPaths.Entries,
                round > 0
                    ? null
                    : line => Damaged(new(
                        DamageKind.Wrong, ParcelPaths.Entries, $"This line is no entry, or points outside the parcel: {line}")),
                cancel);
            frames.Push(new(null, DepotPath.Root, [], new(root), false));
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                if (entry.GoneSince is not null) continue;
                LandingPlan.Found(_missing, entry.Shown);
                if (entry.Path.IsRoot)
                {
                    if (entry.Kind == EntryKind.Folder && workplace.RootWasEmpty && _plan.Only.Count == 0) _rootEntry = entry;
                    continue;
                }
                if (!_plan.IsIn(round, entry.Shown, entry.Kind == EntryKind.Folder)) continue;
                while (!entry.Path.IsIn(frames.Peek().Stored)) await EndAsync();
                // A parcel made by hand may name files without their folders.
                while (frames.Peek().Stored != entry.Path.Parent)
                {
                    var top = frames.Peek().Stored;
                    var next = entry.Path.Parent.Below(top).Text.Split('/')[0];
                    if (!await EnterAsync(null, top / next, System.Text.Encoding.UTF8.GetBytes(next))) break;
                }
                if (frames.Peek().Stored != entry.Path.Parent)
                {
                    if (entry.Kind != EntryKind.Folder)
                        await steps.WriteAsync(
                            new(
                                entry,
                                frames.Peek(),
                                LastPart(entry),
                                null,
                                new(Landed.Open, [], new(entry.Shown, SnagKind.NotRestored, entry.Bytes, "Its folder could not be made.")),
                                false),
                            cancel);
                    continue;
                }
                var frame = frames.Peek();
                var name = LastPart(entry);
                switch (entry.Kind)
                {
                    case EntryKind.Folder:
                        await EnterAsync(entry, entry.Path, name);
                        break;
                    case EntryKind.Link:
                        await steps.WriteAsync(
                            new(
                                entry,
                                frame,
                                name,
                                null,
                                restorer.MakeLink(entry, frame.Folder.Opened, name, _plan.ClashOf(entry.Shown)),
                                false),
                            cancel);
                        break;
                    // Of a file with several names one is carried over and the others are linked to it: in this round or another.
                    case EntryKind.File when entry.SameAs is not null || (_plan.Rounds > 1 && _wanted.Contains(entry.Path.Text)):
                        await steps.WriteAsync(new(entry, frame, name, null, null, false), cancel);
                        break;
                    default:
                        await slots.WaitAsync(cancel);
                        var restoring = work.Start(async () =>
                        {
                            try
                            {
                                return await restorer.RestoreAsync(entry, frame.Folder.Opened, name, _plan.ClashOf(entry.Shown), cancel);
                            }
                            finally
                            {
                                slots.Release();
                            }
                        });
                        running.RemoveAll(t => t.IsCompleted);
                        running.Add(restoring);
                        await steps.WriteAsync(new(entry, frame, name, restoring, null, false), cancel);
                        break;
                }
            }
            while (frames.Count > 1) await EndAsync();
            frames.Clear();
        }

        ValueTask EndAsync()
        {
            var frame = frames.Pop();
            return steps.WriteAsync(new(null!, frame, [], null, null, true), cancel);
        }

        // Makes or enters a folder; where something else stands, one beside it.
        async Task<bool> EnterAsync(Entry? entry, DepotPath stored, byte[] name)
        {
            var parent = frames.Peek();
            SharedFolder? elsewhere = null;
            if (_plan.MoveOf(entry?.Shown ?? PercentText.Encode(System.Text.Encoding.UTF8.GetBytes(stored.Text))) is { } move)
            {
                var to = PercentText.TryDecode(move.To) ?? [];
                var slash = Array.LastIndexOf(to, (byte)'/');
                if (LandingPlaces.Reach(root, slash < 0 ? [] : to[..slash], out var why) is not { } reached)
                {
                    await FailAsync(why);
                    return false;
                }
                elsewhere = reached;
                (parent, name) = (parent with { Folder = reached, Raw = slash < 0 ? [] : to[..slash] }, to[(slash + 1)..]);
            }
            for (var number = 0; number < 1000; number++)
            {
                var target = number == 0 ? name : BesideName.Of(name, number);
                byte[] raw = parent.Raw.Length == 0 ? target : [.. parent.Raw, (byte)'/', .. target];
                var stands = parent.Folder.Opened.TryFacts(target, out _);
                if (stands is { Kind: not NodeKind.Folder }) continue;
                var ours = workplace.WasMade(raw) || (stands is { } there && workplace.GoesOn && LooksMade(entry, there));
                if (stands is null)
                {
                    workplace.Note(raw);
                    ours = parent.Folder.Opened.TryMakeFolder(target, NotDressed, out var trouble);
                    if (!ours && trouble.Fault != Fault.Taken)
                    {
                        await FailAsync(trouble.Said("The folder could not be made"));
                        return false;
                    }
                }
                var open = parent.Folder.Opened.TryOpenFolder(target, FolderUse.List, out var openErrno);
                if (open is null)
                {
                    await FailAsync(openErrno.Said("The folder could not be opened"));
                    return false;
                }
                if (number > 0)
                    lock (_beside)
                        _beside.Add(new(
                            PercentText.Encode(raw.AsSpan(0, raw.Length - target.Length)) + PercentText.Encode(name) + "/",
                            PercentText.Encode(target)));
                if (ours && entry is null) ours = false;
                frames.Push(new(entry, stored, raw, new(open), ours, elsewhere));
                if (entry is not null) lock (_folders) _folders.Of(entry.Shown + "/");
                return true;
            }
            await FailAsync("every name beside it is taken");
            return false;

            ValueTask FailAsync(string why)
            {
                lock (_snags) _snags.Add(new(stored.Text + "/", SnagKind.NotRestored, 0, why + ".", CountsAsFile: false));
                return ValueTask.CompletedTask;
            }
        }
    }

    // A folder that we made and not dressed yet, which tells that it is ours also where a power cut took the note of it.
    private const ushort NotDressed = 0x3C0;

    private static bool LooksMade(Entry? entry, NodeFacts stands) =>
        stands.Mode == NotDressed || (entry is not null && stands.Mode == entry.Mode && stands.Modified == entry.Modified);

    private static byte[] LastPart(Entry entry)
    {
        var raw = entry.RawPath;
        return raw[(Array.LastIndexOf(raw, (byte)'/') + 1)..];
    }

    private void Damaged(Damage damage)
    {
        lock (_damages) _damages.Add(damage);
    }

    private void Finish(Frame frame)
    {
        try
        {
            if (frame is { IsOurs: true, Entry: { } entry } && FileRestorer.Dress(entry, frame.Folder.Opened) is { } lost)
                lock (_snags) _snags.Add(lost);
        }
        catch (FileTroubleException broke)
        {
            lock (_snags) _snags.Add(new(frame.Entry!.Shown + "/", SnagKind.AttributeLost, 0, broke.Message + ".", CountsAsFile: false));
        }
        frame.Folder.Release();
        frame.Elsewhere?.Release();
    }

    private FolderRestored[] Folders() => [.. _folders.All.Select(f => (f.Key, Sum: f.Value)).Select(f =>
        new FolderRestored(
            f.Key,
            f.Sum.Restored + f.Sum.Stood + f.Sum.Beside + f.Sum.Stayed + f.Sum.Open,
            f.Sum.Restored,
            f.Sum.Stood,
            f.Sum.Beside,
            f.Sum.Open,
            f.Sum.Stayed))];

    private void Take(Step step, Touchdown landing)
    {
        if (landing.Snag is { } snag) lock (_snags) _snags.Add(snag);
        if (landing.Damage is { } damage) Damaged(damage);
        if (landing.How == Landed.Beside)
            lock (_beside) _beside.Add(new(step.Entry.Shown, PercentText.Encode(landing.Name)));
        if (landing.How is Landed.Replaced or Landed.Stayed && _clashes.Count < MostClashes)
            _clashes.Add(new(step.Entry.Shown, landing.How == Landed.Replaced));
        var one = Amount.File(step.Entry.Bytes);
        lock (_folders)
        {
            var sum = _folders.Of(step.Entry.Shown);
            if (landing.How is Landed.Restored or Landed.Replaced) sum.Restored += one;
            else if (landing.How == Landed.Stayed) sum.Stayed += one;
            else if (landing.How == Landed.Stood) sum.Stood += one;
            else if (landing.How == Landed.Beside) sum.Beside += one;
            else sum.Open += one;
        }
    }

    /// <summary>The running sums of one folder.</summary>
    private sealed class Sum
    {
        public Amount Restored, Stood, Beside, Stayed, Open;
    }
}
