using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>One name of the source or of the old entries, on its way to the new entries.</summary>
/// <param name="Work">The carrying of a file that is under way; null when the outcome is known already.</param>
/// <param name="Entry">The outcome; null when there is only a snag.</param>
/// <param name="Old">What the parcel knew of this name; null when nothing.</param>
/// <param name="Same">Whether the name stands as the parcel knows it.</param>
/// <param name="Left">What the carry list leaves behind of it; null: nothing.</param>
internal readonly record struct Step(Task<Carried>? Work, Entry? Entry, Entry? Old, Snag? Snag, bool Same, LeftBehind? Left = null);

/// <summary>The entries that a trip went by are not those that the trip before left.</summary>
internal sealed class ListBrokenException() : Exception("The list of entries is not what the tag manifest says.");

/// <summary>A file that stays at the source by the carry list.</summary>
/// <param name="ForRoom">It stays for want of room in the depot, and is still to come.</param>
internal sealed record LeftBehind(string Shown, long Bytes, string Reason, bool ForRoom = false);

/// <summary>
/// Merges the walk of a source with the old entries of its parcel, in one order, and sets new and changed files on their way, several at
/// once.
/// Steps come out in the order of the walk, in batches, all that there are whenever the walk waits.
/// </summary>
internal sealed partial class SourceMerge(
    IDepot depot, ParcelPaths paths, ICarrier carrier, Displaced displaced, TripOptions options, Odometer progress, IWork work)
{
    private const int Batch = 128;

    // Of files that are on their way.
    private const int SmallBatch = 32;
    private static readonly byte[] LabelFile = System.Text.Encoding.UTF8.GetBytes(FolderDepot.LabelFile);
    private static readonly TimeSpan Patience = TimeSpan.FromMilliseconds(20);

    private readonly Channel<List<Step>> _out = work.Pipe<List<Step>>(256 + carrier.AtOnce);
    private readonly IContents _contents = OpenContents.Of(depot, paths, work, provesThem: true);
    private readonly Dictionary<(ulong Device, ulong Inode), string> _firstNames = [];
    private readonly bool _chooses = !options.CarryList.IsEverything;
    private PlacesOnTheWay? _places;
    private readonly List<DepotPath> _shut = [];
    private readonly TaskCompletionSource<bool> _allAreDone = work.Promise<bool>();
    private readonly Stack<Entry> _goneFiles = new();
    private readonly Stack<string> _newFiles = new();
    private readonly List<Entry> _beside = [];
    private readonly List<DepotPath> _mounts = [];
    private ulong _device;
    // The walk itself, and what it set on its way.
    private int _running = 1;
    private List<Step> _batch = new(Batch);

    /// <summary>What was found, in order; ends, or fails, as the merge does.</summary>
    public ChannelReader<List<Step>> Steps => _out.Reader;

    /// <summary>Folders at which another file system is mounted, as far as the walk came.</summary>
    public IEnumerable<string> Mounts => _mounts.Select(m => m.Text);

    /// <summary>Walks the source to its end. Never throws: what broke comes out of <see cref="Steps"/>.</summary>
    /// <param name="twins">Where the depot takes some names for one: takes up what the parcel has; null: it tells all.</param>
    /// <param name="trip">Number of this trip, for what is found deleted.</param>
    public async Task RunAsync(TreeRoot from, NameRule names, TwinNames? twins, int trip, CancellationToken cancel)
    {
        Exception? broke = null;
        try
        {
            if (twins is not null) await KeepAsync(twins, cancel);
            if (options.Places is { } rules) _places = new(from, rules);
            await using var old = await KnownEntries.OpenAsync(depot, paths, options.LooksAtDepot, work, cancel);
            foreach (var item in new TreeReader(from, names, twins, options.Pass.Touches, afresh: options.IsClosing).Walk(cancel))
            {
                var key = item.IsFolder && !item.Stored.IsRoot ? item.Stored.Text + "/" : item.Stored.Text;
                for (; old.Current is { } before && DepotPath.CompareUtf8(before.Key, key) < 0; await old.NextAsync())
                    await PassAsync(before, trip, cancel);
                var found = old.Current?.Key == key ? old.Current : null;
                if (found is not null) await old.NextAsync();
                await MeetAsync(item, key, found, trip, cancel);
            }
            for (; old.Current is { } before; await old.NextAsync()) await PassAsync(before, trip, cancel);
            await displaced.MoveAsync(_beside, trip, cancel);
            await FlushAsync(cancel);
            if (options.EntriesAreListed is { } listed && old.Sha256 != listed) throw new ListBrokenException();
        }
        catch (Exception why)
        {
            broke = why;
        }
        finally
        {
            carrier.Finish();
            Done();
            await _allAreDone.Task;
            _contents.Dispose();
            // What was staged is to be known, however this ends.
            if (_batch.Count > 0) _out.Writer.TryWrite(_batch);
            _out.Writer.Complete(broke);
        }
    }

    private async Task KeepAsync(TwinNames twins, CancellationToken cancel)
    {
        // Where the list may lack names, what lies in the depot says them itself: a new name must not land in what it is one with there.
        if (!await IsListedAsync(cancel))
            await foreach (var (path, _, _) in DepotTree.AllAsync(depot, paths.Data, cancel)) twins.Keep(path.Below(paths.Data).Text);
        using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        for (; entries.Current is { } entry; await entries.NextAsync(cancel)) twins.Keep(entry.Path.Text);
    }

    private bool IsLabel(TreeItem item) =>
        options.SourceLabel is not null && item.Depth == 1 && !item.IsFolder && item.Name.AsSpan().SequenceEqual(LabelFile);

    /// <summary>Whether the entries are just what the trip before left.</summary>
    private async Task<bool> IsListedAsync(CancellationToken cancel)
    {
        if (options.EntriesAreListed is not { } listed) return false;
        if (!(await depot.OpenAsync(paths.At(ParcelPaths.Entries), cancel)).TryGet(out var list, out _)) return false;
        await using (list) return (await Digest.OfAsync(list, null, cancel)).Sha256 == listed;
    }

    /// <summary>A name of the source, with what the parcel knows or has under it.</summary>
    private async ValueTask MeetAsync(TreeItem item, string key, Entry? found, int trip, CancellationToken cancel)
    {
        var customary = _places?.Meet(item) ?? (IsLabel(item) ? "the label of the disk itself" : null);
        // What lies there without a word is carried anew, whatever it is.
        var unlisted = found is { Unlisted: true } ? found : null;
        var known = unlisted is null ? found : null;
        if (!(item.IsFolder ? options.Pass.Touches(item.Stored) : options.Pass.Holds(item.Stored)))
        {
            if (item.IsFolder) _shut.Add(item.Stored);
            if (known is not null) await PutAsync(new(null, known, known, null, true), cancel);
            return;
        }
        if (await IsForLaterAsync(item, known, customary, trip, cancel))
        {
            if (unlisted is not null) await PassAsync(unlisted, trip, cancel);
            return;
        }
        if (found is { Kind: EntryKind.File } && item.Facts?.Kind == NodeKind.Link)
        {
            await displaced.MoveAsync([found], trip, cancel);
            known = null;
        }
        // A folder may be known from a pass that had lost the list, while the file that it was still lies in the parcel.
        else if (known is null or { Kind: EntryKind.Link } or { GoneSince: not null } || (item.IsFolder && _goneFiles.Count > 0))
            await MakeWayAsync(item, key, trip, cancel);
        await LookAsync(item, known, cancel);
    }

    /// <summary>Whether a name stays by the carry list, or comes in the next walk only, when what is there has made way.</summary>
    /// <param name="customary">Why it stays by the rules for places; null: it does not.</param>
    private async ValueTask<bool> IsForLaterAsync(
        TreeItem item, Entry? known, string? customary, int trip, CancellationToken cancel)
    {
        if (customary is not null)
        {
            await LeaveAsync(item, PercentText.Encode(item.Raw), known, customary, trip, cancel);
            return true;
        }
        if (_chooses
            && !item.Stored.IsRoot
            && PercentText.Encode(item.Raw) is var shown
            && options.CarryList.Of(shown, item.IsFolder, out var because) == CarryVerdict.Leave)
        {
            await LeaveAsync(item, shown, known, because!, trip, cancel);
            return true;
        }
        if (known is not { Kind: EntryKind.File, GoneSince: null }
            || item.Facts is not { Kind: NodeKind.File } standing
            || !options.KeepsBeside(known, standing))
            return false;
        _beside.Add(known);
        await PutAsync(new(null, known, known, null, true), cancel);
        return true;
    }

    // A file and a folder of one name are never far apart in the order: between "a" and "a/" lie only names that begin with "a".
    private async ValueTask MakeWayAsync(TreeItem item, string key, int trip, CancellationToken cancel)
    {
        while (_goneFiles.TryPeek(out var near) && !key.StartsWith(near.Path.Text, StringComparison.Ordinal)) _goneFiles.Pop();
        while (_newFiles.TryPeek(out var near) && !key.StartsWith(near, StringComparison.Ordinal)) _newFiles.Pop();
        if (item.Facts?.Kind == NodeKind.File) _newFiles.Push(item.Stored.Text);
        if (item.IsFolder && _goneFiles.FirstOrDefault(f => f.Path == item.Stored) is { } inTheWay)
            await displaced.MoveAsync([inTheWay], trip, cancel);
    }

    private async ValueTask PassAsync(Entry before, int trip, CancellationToken cancel)
    {
        while (_goneFiles.TryPeek(out var near) && !before.Key.StartsWith(near.Path.Text, StringComparison.Ordinal)) _goneFiles.Pop();
        if (before.Kind == EntryKind.File) _goneFiles.Push(before);
        if (before.Unlisted)
        {
            // A trip left it that could not bring it to its end, or somebody put it there: it stays, and from now on it is known.
            var staged = await Leftovers.AsStagedAsync(depot, paths, before, options.WasNotTaken, work, cancel);
            if (staged.Sha256 is not null)
                await PutAsync(new(null, staged with { GoneSince = trip, Unlisted = false }, null, null, false), cancel);
            return;
        }
        if (before.Kind == EntryKind.Folder && _newFiles.Contains(before.Path.Text)) await displaced.MoveAsync([before], trip, cancel);
        // Whether it is what a trip that broke off brought last, or was damaged since, nobody can tell: that trip wrote no digest.
        if (!options.TrustsDepot && before.Kind == EntryKind.File && !_shut.Any(before.Path.IsIn))
            before = await Leftovers.AsStagedAsync(depot, paths, before, options.WasNotTaken, work, cancel);
        await PassOnAsync(before, trip, cancel);
    }

    // A file that the parcel has from an earlier trip stays there, counted apart like one that was deleted; a folder is nothing to count.
    private ValueTask LeaveAsync(TreeItem item, string shown, Entry? known, string because, int trip, CancellationToken cancel)
    {
        var left = item.IsFolder ? null : new LeftBehind(shown, item.Facts is { Kind: NodeKind.File } size ? size.Bytes : 0, because);
        return known is null || known.GoneSince is not null
            ? PutAsync(new(null, known, known, null, true, left), cancel)
            : PutAsync(new(null, known with { GoneSince = trip }, null, null, false, left), cancel);
    }

    // What lies in a folder that could not be listed is not gone, it is only not seen.
    private async ValueTask PassOnAsync(Entry before, int trip, CancellationToken cancel)
    {
        var lost = before.Kind == EntryKind.File && options.Doubts(before) ? await LostAsync(before, cancel) : null;
        await PutAsync(
            before.GoneSince is not null || _shut.Any(before.Path.IsIn)
                ? new(null, before, before, lost, true)
                : new(null, before with { GoneSince = trip }, null, lost, false),
            cancel);
    }

    // Nothing can bring it anew from here.
    private async Task<Snag?> LostAsync(Entry before, CancellationToken cancel) =>
        before.Sha256 is null || await FileCarrier.ReadBackAsync(_contents, before, cancel) == (before.Sha256, before.Bytes)
            ? null
            : new(
                before.Shown,
                SnagKind.DamagedInDepot,
                before.Bytes,
                "The depot does not give it back as it was staged, and it no longer stands at the source. A second copy may still have it.",
                CountsAsFile: false);

    private async ValueTask LookAsync(TreeItem item, Entry? known, CancellationToken cancel)
    {
        if (item.Facts is not { } facts || item.Trouble is not null)
        {
            _shut.Add(item.Stored);
            var why = item.Trouble!.Trouble.IsForbidden
                ? "No right to look into it. Run the hand with the rights of its owner, or as administrator."
                : item.Trouble.Message + ".";
            await PutAsync(
                new(null, known, known, new(PercentText.Encode(item.Raw) + (item.IsFolder ? "/" : ""), SnagKind.Unreadable, 0, why), true),
                cancel);
            return;
        }
        SeeMount(item, facts);
        var sameAs = FirstNameOf(item, facts);
        if (IsSame(known, facts, sameAs) && !(facts.Kind == NodeKind.File && options.Doubts(known!)))
        {
            if (facts.Kind == NodeKind.File) progress.Moved(facts.Bytes);
            await PutAsync(new(null, known, known, null, true), cancel);
            return;
        }
        var template = new Entry
        {
            Path = item.Stored,
            Raw = PercentText.Encode(item.Raw) == item.Stored.Text ? null : item.Raw,
            Kind = KindOf(facts.Kind),
            Mode = facts.Mode,
            Modified = facts.Modified,
            Changed = facts.Changed,
            Inode = facts.Inode,
            Bytes = facts.Kind == NodeKind.File ? facts.Bytes : 0,
            SameAs = sameAs,
        };
        switch (facts.Kind)
        {
            case NodeKind.Folder:
                // Over a slow link a folder takes as long as a small file: the walk does not wait for it.
                var folder = EntryFacts.Dressed(template, item.Opened!, facts);
                await WaitForPlaceAsync(cancel);
                Interlocked.Increment(ref _running);
                var noted = NoteAsync(folder, cancel);
                await PutAsync(
                    noted.IsCompletedSuccessfully ? new(null, folder, known, null, false) : new(noted, null, known, null, false), cancel);
                break;
            case NodeKind.Link:
                var (link, snag) = ReadLink(item, template);
                if (link is not null) await carrier.NoteAsync(link, cancel);
                await PutAsync(new(null, link, known, snag, false), cancel);
                break;
            case NodeKind.File when options.Room is { } room
                && !room.TryTake(facts.Bytes - (known is { Kind: EntryKind.File } ? known.Bytes : 0)):
                await PutAsync(new(null, known, known, null, true, new(template.Shown, facts.Bytes, "", ForRoom: true)), cancel);
                break;
            case NodeKind.File:
                await WaitForPlaceAsync(cancel);
                Interlocked.Increment(ref _running);
                item.Parent.Share();
                var work = CarryAsync(item, template, known, cancel);
                await PutAsync(new(work, null, known, null, false), cancel);
                break;
            default:
                var (kind, what) = facts.Kind switch
                {
                    NodeKind.Pipe => (SnagKind.Pipe, "a named pipe"),
                    NodeKind.Socket => (SnagKind.Socket, "a socket"),
                    _ => (SnagKind.Device, "a device")
                };
                await PutAsync(
                    new(
                        null,
                        null,
                        known,
                        new(template.Shown, kind, 0, $"It is {what} and has no content to carry. Waive it if the person does not need it."),
                        false),
                    cancel);
                break;
        }
    }

    /// <summary>The first name of the same file or link that the walk met; null: this is the first.</summary>
    private string? FirstNameOf(TreeItem item, in NodeFacts facts) =>
        facts is { Kind: NodeKind.File or NodeKind.Link, Links: > 1 }
            && !_firstNames.TryAdd((facts.Device, facts.Inode), item.Stored.Text)
            ? _firstNames[(facts.Device, facts.Inode)]
            : null;

    private void SeeMount(TreeItem item, in NodeFacts facts)
    {
        if (facts.Kind != NodeKind.Folder) return;
        if (item.Stored.IsRoot) _device = facts.Device;
        else if (facts.Device != _device && !(_mounts.Count > 0 && item.Stored.IsIn(_mounts[^1]))) _mounts.Add(item.Stored);
    }

    private async Task<Carried> NoteAsync(Entry folder, CancellationToken cancel)
    {
        try
        {
            await carrier.NoteAsync(folder, cancel);
            return new(folder, null, false, false);
        }
        finally
        {
            carrier.FreePlace();
            Done();
        }
    }

    private static (Entry?, Snag?) ReadLink(TreeItem item, Entry template)
    {
        try
        {
            return (template with { Target = item.Parent.Opened.ReadLink(item.Name) }, null);
        }
        catch (FileTroubleException broke)
        {
            return (null, new(template.Shown, SnagKind.GoneWhileRead, 0, broke.Message + "."));
        }
    }

    private async Task<Carried> CarryAsync(TreeItem item, Entry template, Entry? known, CancellationToken cancel)
    {
        try
        {
            return await carrier.CarryAsync(item, template, known, cancel);
        }
        finally
        {
            carrier.FreePlace();
            Done();
        }
    }

    private static EntryKind KindOf(NodeKind kind) => kind switch
    {
        NodeKind.Folder => EntryKind.Folder,
        NodeKind.Link => EntryKind.Link,
        _ => EntryKind.File
    };

    /// <summary>Whether what stands at the source is what the parcel knows of it.</summary>
    internal static bool IsSame(Entry? known, in NodeFacts facts, string? sameAs) =>
        known is { GoneSince: null }
            && facts.Kind is NodeKind.File or NodeKind.Folder or NodeKind.Link
            && known!.Kind == KindOf(facts.Kind)
            && known.Changed == facts.Changed
            && known.Inode == facts.Inode
        && known.Modified == facts.Modified
            && known.Mode == facts.Mode
            && (facts.Kind != NodeKind.File || known.Bytes == facts.Bytes)
            && known.SameAs == sameAs;
}
