using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder of a parcel as a restore would find it.</summary>
/// <param name="New">Would be made.</param>
/// <param name="Stands">The same content stands there.</param>
/// <param name="Beside">Something else stands there; ours would lie beside it.</param>
/// <param name="Replaced">Ours would take the place of what stands.</param>
/// <param name="Stayed">What stands, would stay.</param>
public sealed record FolderForeseen(string Folder, string To, Amount New, Amount Stands, Amount Beside, Amount Replaced, Amount Stayed);

/// <summary>What a restore would do. Nothing was written.</summary>
/// <param name="NeedsBytes">Room that it needs on the new computer.</param>
/// <param name="FreeBytes">Room that is there; null: not known.</param>
/// <param name="NotInParcel">What the landing plan names, and the parcel has not.</param>
public sealed record LandingForeseen(
    IReadOnlyList<FolderForeseen> Folders, long NeedsBytes, long? FreeBytes, IReadOnlyList<string> NotInParcel, double Seconds)
{
    /// <summary>Whether there is room, and everything that the plan names is there.</summary>
    public bool Fits => (FreeBytes is null || NeedsBytes <= FreeBytes) && NotInParcel.Count == 0;
}

/// <summary>
/// Looks what a restore would do, before anything is written: reads the parcel's entries, and of the new computer what stands where
/// something would land.
/// </summary>
public sealed class LandingPreview(
    IDepot depot, DepotPath parcel, Odometer progress, IWork work, LandingPlan plan, SealKeys? keys = null)
{
    private readonly PerFolder<Sum> _folders = new();

    /// <summary>Takes a parcel whose last trip broke off as it was left, as <see cref="Restore.TakesUnfinished"/> says.</summary>
    public bool TakesUnfinished { get; init; }

    /// <summary>Looks.</summary>
    /// <param name="to">Where would be restored to; it need not be there.</param>
    public async Task<Result<LandingForeseen>> RunAsync(TreeRoot to, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        var opening = await ParcelToLand.OpenAsync(depot, parcel, keys, plan, TakesUnfinished, work, cancel);
        if (!opening.TryGet(out var found, out var refused)) return refused;
        using var opened = found;
        if (opened.ListWrong is not null) return new ListDamaged(parcel.Text, opened.Paths.NameOf(ParcelPaths.Entries));
        var meetings = await MeetingsAsync(opened, cancel);
        var (needs, missing) = (0L, plan.Named.ToHashSet(StringComparer.Ordinal));
        OpenFolder? root = null;
        try
        {
            root = to.TryOpen(out _);
            using var entries = await opened.EntriesAsync(null, cancel);
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                var shown = entry.Shown;
                if (entry.GoneSince is not null) continue;
                LandingPlan.Found(missing, shown);
                if (entry.Kind == EntryKind.Folder || !plan.Wants(shown)) continue;
                progress.Now(shown);
                var sum = _folders.Of(shown);
                var one = Amount.File(entry.Bytes);
                var target = PercentText.TryDecode(plan.TargetOf(shown)) ?? entry.RawPath;
                var slash = Array.LastIndexOf(target, (byte)'/');
                using var folder = root is null
                    ? null
                    : root.TryOpenFolder(slash < 0 ? [] : target.AsSpan(0, slash), FolderUse.List, out _);
                var stands = folder is null ? null : folder.TryFacts(target.AsSpan(slash + 1), out _);
                var how = meetings.Before(entry, target) is { Is: true } before
                    ? before.Sha256 == entry.Sha256 && entry.Sha256 is not null ? Landed.Stood : Landed.Beside
                    : await HowAsync(entry, folder, target[(slash + 1)..], stands, cancel);
                meetings.Came(entry, target, how);
                sum.Add(how, one);
                if (how is not (Landed.Stood or Landed.Stayed)) needs += entry.Bytes;
                progress.Done();
            }
        }
        finally
        {
            root?.Dispose();
        }
        return new LandingForeseen(
            [.. _folders.All.Select(f => new FolderForeseen(
                f.Key,
                f.Key == "." ? "." : plan.TargetOf(f.Key),
                f.Value.New,
                f.Value.Stands,
                f.Value.Beside,
                f.Value.Replaced,
                f.Value.Stayed))],
            needs,
            FreeAt(to),
            [.. missing.Order(StringComparer.Ordinal)],
            work.Time.GetElapsedTime(started).TotalSeconds);
    }

    private async Task<Landed> HowAsync(Entry entry, OpenFolder? folder, byte[] name, NodeFacts? stands, CancellationToken cancel) =>
        stands is not { } there ? Landed.Restored
        : await IsSameAsync(entry, folder!, name, there, cancel) ? Landed.Stood
        : FileRestorer.Decide(plan.ClashOf(entry.Shown), stands, entry);

    // Whether the disk takes two names for one is not known before something is written to it; what a plan brings together is.
    private async Task<Meetings> MeetingsAsync(ParcelToLand opened, CancellationToken cancel)
    {
        var meetings = new Meetings(plan);
        if (plan.Moves.Count == 0) return meetings;
        using var entries = await opened.EntriesAsync(null, cancel);
        for (; entries.Current is { } entry; await entries.NextAsync(cancel)) meetings.Look(entry);
        return meetings;
    }

    /// <summary>What is free where a folder is, or will be made.</summary>
    private static long FreeAt(TreeRoot to)
    {
        while (true)
        {
            using var open = to.TryOpen(out var trouble);
            if (open is not null) return open.Room().FreeBytes;
            if (to.Files.Above(to.Path) is not { } above) throw new FileTroubleException(trouble, $"open {to.Path}");
            to = to with { Path = above };
        }
    }

    private static async Task<bool> IsSameAsync(Entry entry, OpenFolder folder, byte[] name, NodeFacts stands, CancellationToken cancel) =>
        entry.Kind == EntryKind.Link
        ? stands.Kind == NodeKind.Link && folder.ReadLink(name).AsSpan().SequenceEqual(entry.Target)
        : stands.Kind == NodeKind.File && stands.Bytes == entry.Bytes && await FileRestorer.HasContentAsync(folder, name, entry, cancel);

    private sealed class Sum
    {
        public Amount New, Stands, Beside, Replaced, Stayed;

        public void Add(Landed how, Amount one)
        {
            switch (how)
            {
                case Landed.Restored: New += one; break;
                case Landed.Stood: Stands += one; break;
                case Landed.Beside: Beside += one; break;
                case Landed.Replaced: Replaced += one; break;
                default: Stayed += one; break;
            }
        }
    }
}
