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

/// <summary>Another restore into the same folder is under way.</summary>
public sealed record TargetBusy(string Folder)
    : Problem("restore.busy", $"Another restore into '{Folder}' is under way. Wait until it is over, then run this again.");

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
public sealed partial class Restore(
    IDepot depot, DepotPath parcel, int atOnce, Odometer progress, IWork work, LandingPlan? landing = null, SealKeys? keys = null)
{
    private ParcelToLand? _parcel;
    private readonly PerFolder<Sum> _folders = new();
    private readonly List<Snag> _snags = [];
    private readonly List<Damage> _damages = [];
    private readonly List<KeptBeside> _beside = [];
    private readonly List<ClashDecided> _clashes = [];
    private readonly LandingPlan _plan = landing ?? LandingPlan.Original;
    private readonly HashSet<string> _missing = new((landing ?? LandingPlan.Original).Named, StringComparer.Ordinal);
    private const int MostClashes = 1000;
    private readonly UnsureFiles _unsure = new();
    private readonly Meetings _meetings = new(landing ?? LandingPlan.Original);
    private Owning? _giving;

    private Owning Giving => _giving ??= new(Owners);

    /// <summary>
    /// Takes a parcel whose last trip broke off as it was left: for one whose source is gone for good. What nobody can be sure of is
    /// named, and the restore never calls itself whole. Else such a parcel is refused.
    /// </summary>
    public bool TakesUnfinished { get; init; }

    /// <summary>To whom what is made belongs; null: to the account that restores.</summary>
    public OwnerRule? Owners { get; init; }

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
        var opening = await ParcelToLand.OpenAsync(depot, parcel, keys, _plan, TakesUnfinished, work, cancel);
        if (!opening.TryGet(out var found, out var refused)) return refused;
        using var opened = _parcel = found;
        // What is listed is restored all the same: with the old computer gone it is all there is.
        if (opened.ListWrong is { } wrong) Damaged(new(DamageKind.Changed, opened.Paths.NameOf(ParcelPaths.Entries), wrong));
        if (await LandAsync(to, opened, cancel) is { } unlanded) return unlanded;
        var brokeOff = opened.Unfinished is { } left ? _unsure.Of(left.Trip) : null;
        if (brokeOff is not null)
        {
            _snags.Insert(0, new("./", SnagKind.Unfinished, 0, brokeOff.Words, CountsAsFile: false));
            _snags.AddRange([.. _unsure.Snags(brokeOff), .. opened.Unfinished!.Snags]);
        }
        if (Giving.Failed is { } notGiven) _snags.Add(notGiven);
        return new RestoreReport(
            Folders(),
            _snags,
            _damages,
            _beside,
            work.Time.GetElapsedTime(started).TotalSeconds,
            _clashes,
            [.. _missing.Order(StringComparer.Ordinal)])
        { Unfinished = brokeOff };
    }

    /// <returns>Why nothing of it counts; null: it landed.</returns>
    private async Task<Problem?> LandAsync(TreeRoot to, ParcelToLand opened, CancellationToken cancel)
    {
        if (to.TryMake(out var trouble, (above, made) => Giving.Give(made, above)) is not { } root)
            return new TargetUnusable(to.Path, trouble.Said("open") + ".");
        using (root)
        {
            if (!root.TryHold()) return new TargetBusy(to.Path);
            if (LandingPlaces.Missing(root, _plan) is { } nowhere) return nowhere;
            Workplace workplace;
            try
            {
                workplace = new(root, Guid.Parse(opened.Id).ToString("N")[..12]);
            }
            catch (Exception broke) when (broke is FileTroubleException or WorkplaceOfOthersException)
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
                    return new TargetUnusable(to.Path, broke.Message + ". Restore again: what is there stays, and it tidies up.");
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
            return NotTaken(to, root);
        }
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

    private async Task FillAsync(OpenFolder root, Workplace workplace, CancellationToken cancel)
    {
        var steps = work.Pipe<Step>(1024);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        using var contents = OpenContents.Of(depot, _parcel!.Paths, work);
        var restorer = new FileRestorer(contents, workplace, progress, Giving, _parcel.Unfinished);
        var walking = work.Start(() => WalkAsync(root, workplace, restorer, steps.Writer, stop.Token));
        var counting = work.Start(() => CountAsync(stop.Token));
        var firstNames = new Dictionary<string, FirstName>(StringComparer.Ordinal);
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
                    Finish(step.Frame, restorer);
                    continue;
                }
                var group = step.Entry.SameAs ?? step.Entry.Path.Text;
                var landing = step.Work is not null
                    ? await step.Work
                    : step.Ready ?? await LinkAsync(
                        step, restorer, workplace, firstNames.TryGetValue(group, out var first) ? first : null, cancel);
                Take(step, landing);
                _meetings.Came(step.Entry, Meetings.Join(step.Frame.Raw, landing.Name), landing.How);
                if (_wanted.Contains(group) && landing.How is not (Landed.Open or Landed.Stayed) && !firstNames.ContainsKey(group))
                    firstNames[group] = new(step.Frame.Folder.Share(), landing.Name, landing.Doubt is null ? WhatOf(step.Entry) : null);
            }
        }
        finally
        {
            if (restorer.KeptNoModes) lock (_snags) _snags.Add(NoModes);
            await work.CancelAsync(stop);
            await walking.Quietly();
            await counting.Quietly();
            foreach (var first in firstNames.Values) first.Folder.Release();
        }
    }

    // The parcel has the content under each name of a group, so a name whose first one is not restored, or not yet, or is another
    // content (the file was written to between the reads of its names), comes by itself.
    private async Task<Touchdown> LinkAsync(
        Step step, FileRestorer restorer, Workplace workplace, FirstName? first, CancellationToken cancel)
    {
        var (entry, folder) = (step.Entry, step.Frame.Folder.Opened);
        var isWithOurs = _meetings.IsOurs(entry, step.Frame.Raw, folder, step.Name)
            || (_meetings.Meets(entry) && workplace.WasMade(Meetings.Join(step.Frame.Raw, step.Name)));
        Clash clash = isWithOurs ? Clash.WithOurs : _plan.ClashOf(entry.Shown);
        if (first is { } other
            && other.What == WhatOf(entry)
            && restorer.LinkTo(entry, other.Folder.Opened, other.Name, folder, step.Name, clash) is { } linked)
        {
            progress.Done();
            progress.Moved(entry.Bytes);
            return linked;
        }
        return entry.Kind == EntryKind.Link
            ? restorer.MakeLink(entry, folder, step.Name, clash.Rule)
            : await restorer.RestoreAsync(entry, folder, step.Name, clash, cancel);
    }

    /// <summary>The name of a file under which it was restored first.</summary>
    /// <param name="What">Its content; null: nobody is sure of it.</param>
    private readonly record struct FirstName(SharedFolder Folder, byte[] Name, string? What);

    private static Snag NoModes => new(
        "./",
        SnagKind.AttributeLost,
        0,
        "The disk keeps no permissions: what was restored to it has those that it gives to all.",
        CountsAsFile: false);

    private static string? WhatOf(Entry entry) => entry.Sha256 ?? (entry.Target is { } target ? Convert.ToHexString(target) : null);

    // Paths that a later name of the same file refers to. Filled by the walk's own look ahead: a first pass over the entries.
    private readonly HashSet<string> _wanted = new(StringComparer.Ordinal);

    private async Task CountAsync(CancellationToken cancel)
    {
        long files = 0, bytes = 0;
        using var entries = await _parcel!.EntriesAsync(null, cancel);
        for (; entries.Current is { } entry; await entries.NextAsync(cancel))
        {
            if (entry.Kind == EntryKind.Folder || entry.GoneSince is not null || !_plan.Wants(entry.Shown)) continue;
            files++;
            bytes += entry.Bytes;
        }
        progress.Expect(files, bytes);
    }

    private void Damaged(Damage damage)
    {
        lock (_damages) _damages.Add(damage);
    }

    private void Finish(Frame frame, FileRestorer restorer)
    {
        try
        {
            var folder = frame.Folder.Opened;
            if (frame is { IsOurs: true, Entry: { } entry }
                && FileRestorer.Dress(entry, folder, () => !folder.KeepsModes && (restorer.KeptNoModes = true)) is { } lost)
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
        var one = Amount.File(landing.Doubt?.Bytes ?? step.Entry.Bytes);
        // What no list names, and lies in a folder that bears another name in the depot, is told as where it came.
        if (landing.Doubt is { } doubt)
            _unsure.Add(step.Entry.Raw is null && step.Entry.Sha256 == UnfinishedParcel.NoDigest
                ? doubt with { Path = PercentText.Encode(Meetings.Join(step.Frame.Raw, landing.Name)) }
                : doubt);
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
