using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>A file of the walk that waits for its turn, or has it.</summary>
/// <param name="Old">What the parcel has under its name; null: nothing.</param>
/// <param name="Outcome">Told when it is done.</param>
internal sealed record FileOnItsWay(TreeItem Item, Entry Template, Entry? Old, TaskCompletionSource<Carried> Outcome);

/// <content>
/// Files wait in one line. Whoever has a lane takes as many small ones as take no longer than a moment: a handful where the depot is near,
/// one by itself where it is far and others want a lane, too.
/// </content>
internal sealed partial class FileCarrier
{
    private readonly Queue<FileOnItsWay> _line = [];
    private readonly Lock _lining = new();

    private static readonly TimeSpan Moment = TimeSpan.FromMilliseconds(4);

    // Somebody is on the way to the line already, and waits for a lane.
    private bool _isCalled;

    // The carrier itself, and whoever is on the way to the line or has files of it.
    private int _serving = 1;
    private readonly TaskCompletionSource<bool> _allWent = work.Promise<bool>();

    // Files that took a moment, of those that ended last.
    private volatile int _share = 1;

    public Task<Carried> CarryAsync(TreeItem item, Entry template, Entry? old, CancellationToken cancel)
    {
        // Whoever waits for it goes on right where it is told: nothing is held there any more.
        var file = new FileOnItsWay(item, template, old, new());
        lock (_lining)
        {
            _line.Enqueue(file);
            if (_isCalled) return file.Outcome.Task;
            _isCalled = true;
        }
        Call(cancel);
        return file.Outcome.Task;
    }

    private void Call(CancellationToken cancel)
    {
        Interlocked.Increment(ref _serving);
        _ = work.Start(() => ServeAsync(cancel));
    }

    private void Went()
    {
        if (Interlocked.Decrement(ref _serving) == 0) _allWent.TrySetResult(true);
    }

    /// <summary>Waits for a lane, and takes a share of the line through it. Throws nothing: files are told.</summary>
    private async Task ServeAsync(CancellationToken cancel)
    {
        IReadOnlyList<FileOnItsWay>? mine = null;
        Exception? broke = null;
        var done = 0;
        try
        {
            await _lanes.WaitAsync(cancel);
            mine = TakeShare(cancel);
            var began = work.Time.GetTimestamp();
            var handful = Handful.Read(mine, options, progress);
            for (; done < mine.Count; done++) Tell(mine[done], await CarryAsync(mine[done], handful, done, cancel));
            handful.LetGo();
            _share = (int)Math.Clamp(mine.Count * (Moment / work.Time.GetElapsedTime(began)), 1, Handful.Most);
        }
        catch (Exception why)
        {
            // The rest of them would find the same.
            broke = why;
        }
        if (mine is not null) _lanes.Release(mine.Count);
        foreach (var file in (mine ?? TakeAll()).Skip(done))
        {
            file.Item.Parent.Release();
            file.Outcome.SetException(broke!);
        }
        Went();
    }

    private static void Tell(FileOnItsWay file, Carried outcome)
    {
        file.Item.Parent.Release();
        file.Outcome.SetResult(outcome);
    }

    /// <summary>The first of the line, of small ones as many as take a moment; where more remain, somebody else is called.</summary>
    private List<FileOnItsWay> TakeShare(CancellationToken cancel)
    {
        var mine = new List<FileOnItsWay>(Handful.Most);
        lock (_lining)
        {
            while (mine.Count < _share && _line.TryPeek(out var next) && (mine.Count == 0 || (IsSmall(mine[0]) && IsSmall(next))))
                mine.Add(_line.Dequeue());
            _isCalled = _line.Count > 0;
            if (!_isCalled) return mine;
        }
        Call(cancel);
        return mine;

        static bool IsSmall(FileOnItsWay file) => Handful.MayHold(file.Template.Bytes);
    }

    private List<FileOnItsWay> TakeAll()
    {
        lock (_lining)
        {
            List<FileOnItsWay> all = [.. _line];
            _line.Clear();
            _isCalled = false;
            return all;
        }
    }

    private async Task<Carried> CarryAsync(FileOnItsWay file, Handful handful, int at, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        return handful[at] is { } entry && await IsStagedAsync(handful, at, entry, cancel)
            ? Staged(entry, file.Old, wasThere: false)
            : await TryAsync(file.Item, file.Template, file.Old, cancel);
    }

    /// <summary>Sends a file that was read to the depot; false: the depot did not take it, or gave back something else.</summary>
    private async Task<bool> IsStagedAsync(Handful handful, int file, Entry entry, CancellationToken cancel)
    {
        progress.Now(entry.Shown);
        var wasProven = false;
        var content = new Content(() => handful.Open(file), entry.Bytes)
        {
            Sha256 = options.ReadBack ? () => entry.Sha256! : null,
            GaveBack = from =>
            {
                wasProven = true;
                options.Tally.Add(from, entry.Bytes);
            }
        };
        var saved = await depot.SaveAsync(paths.Data.Join(entry.Path), NextAside(), content, cancel);
        if (saved.IsOk
            && (!options.ReadBack
                || wasProven
                || IsProvenLater(entry.Bytes)
                || await GivesBackAsync(entry, back => handful.IsSameAsync(file, back, cancel), cancel)))
            return true;
        handful.Keep();
        progress.Moved(-entry.Bytes);
        return false;
    }
}
