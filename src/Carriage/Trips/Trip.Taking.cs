using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <content>What became of each name, taken in the order of the walk: into the sums, the snags and the journal.</content>
public sealed partial class Trip
{
    private async ValueTask<Entry?> TakeAsync(Step step, Journal journal, CancellationToken cancel)
    {
        if (step.Left is { ForRoom: true } waits)
        {
            _sums.Of(waits.Shown).Open += Amount.File(waits.Bytes);
            _noRoom.Add(waits.Shown, waits.Bytes);
            progress.Done();
            return step.Old;
        }
        if (step.Left is { } left)
        {
            _sums.Of(left.Shown).LeftOut += Amount.File(left.Bytes);
            _reasons[left.Reason] = _reasons.GetValueOrDefault(left.Reason) + Amount.File(left.Bytes);
        }
        var carried = step.Work is null ? new(step.Entry, step.Snag, false, !step.Same) : await step.Work;
        var (entry, snag) = (carried.Entry, carried.Snag);
        if (snag is not null) _snags.Add(snag);
        // What is lost of what is gone at the source is told, and no part of what stands there.
        if (snag is not null && (snag.CountsAsFile || entry is null))
        {
            _sums.Of(snag.Path).Open += Amount.File(snag.Bytes);
            progress.Done();
            // The older state that the parcel may hold stays there and is told by the snag; it is not what stands at the source.
            return step.Old;
        }
        if (entry is null) return null;
        if (entry.GoneSince is not null)
        {
            if (entry.Kind == EntryKind.Folder) return entry;
            _sums.Of(entry.Shown).Gone += Amount.File(entry.Bytes);
            if (step.Left is not null) return entry;
            _sums.Of(entry.Shown).Deleted += Amount.File(entry.Bytes);
            if (entry.GoneSince == _trip) _sums.Of(entry.Shown).GoneNow += Amount.File(entry.Bytes);
            return entry;
        }
        if (entry.Kind == EntryKind.Folder)
        {
            if (!entry.Path.IsRoot) _sums.Of(entry.Shown + "/");
        }
        else
        {
            Count(entry, carried.WasStaged, step.Old);
            progress.Done();
        }
        if (entry.Undressed is { } why)
            _snags.Add(new(
                entry.Shown,
                SnagKind.AttributeLost,
                entry.Bytes,
                $"It is in the depot; its attributes are not, they could not be read: {why}.",
                CountsAsFile: false));
        // Folders and links, too: of a trip that breaks off and is never made again, they are known by this alone.
        if (carried.WasRead || (entry.Kind != EntryKind.File && !step.Same)) await journal.AddAsync(entry, carried.IsUnproven, cancel);
        return step.Same ? step.Old : entry;
    }

    private void Count(Entry entry, bool wasStaged, Entry? old)
    {
        var amount = Amount.File(entry.Bytes);
        _sums.Of(entry.Shown).Carried += amount;
        if (wasStaged)
        {
            _added += amount;
            _looks.Staged(entry.Shown, entry.Bytes, old?.Bytes);
        }
        else _kept += amount;
    }

    /// <summary>It was counted as carried, and the medium does not have it.</summary>
    private void TakeBack(Entry entry, string why)
    {
        var (sum, amount) = (_sums.Of(entry.Shown), Amount.File(entry.Bytes));
        sum.Carried -= amount;
        sum.Open += amount;
        _added -= amount;
        _snags.Add(new(
            entry.Shown, SnagKind.DamagedInDepot, entry.Bytes, $"{why} Look at the depot's disk, then run another trip."));
    }

    /// <summary>The running sums of one folder.</summary>
    private sealed class Sum
    {
        public Amount Carried, Open, Gone, GoneNow, Deleted, LeftOut;
    }
}
