using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Checks;

/// <summary>How a check came out.</summary>
public enum Sign
{
    /// <summary>All is well.</summary>
    Good,

    /// <summary>It goes, and something has to be known.</summary>
    Note,

    /// <summary>It would not go, or not whole.</summary>
    Stop,
}

/// <summary>One thing that was looked at before a trip.</summary>
/// <param name="Check">What, stable: depot, modes, parcel, source, room, names, case, paths, largest, cannot-be-carried.</param>
/// <param name="Words">For people, with what to do.</param>
public sealed record Finding(string Check, Sign Sign, string Words)
{
    /// <summary>Whether it is about room in the depot only.</summary>
    public bool IsRoom => Check is "room" or "largest";
}

/// <summary>Whether a trip would go.</summary>
/// <param name="Carried">What it would bring, as far as the parcel has it not.</param>
public sealed record Foreseen(IReadOnlyList<Finding> Findings, Amount Carried, double Seconds)
{
    /// <summary>Whether nothing stands in the way.</summary>
    public bool Goes => Findings.All(f => f.Sign != Sign.Stop);
}

/// <summary>
/// Looks before a trip whether it will go: at the depot, the parcel's place, the room, and the names of what is to be carried. Nothing is
/// staged.
/// </summary>
public sealed class WillItGo(IDepot depot, DepotPath parcel, CarryList list, Odometer progress, IWork work, SealKeys? keys = null)
{
    /// <summary>See <see cref="TripOptions.Places"/>.</summary>
    public PlaceRules? Places { get; init; }

    /// <summary>See <see cref="TripOptions.SourceLabel"/>.</summary>
    public string? SourceLabel { get; init; }

    // A path that an old program of the new computer can still open.
    private const int LongestPath = 259;
    private const int Shown = 3;

    /// <summary>Looks.</summary>
    /// <param name="from">What would be carried.</param>
    public async Task<Result<Foreseen>> RunAsync(TreeRoot from, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        if (Sources.Unusable(from) is { } unusable) return unusable;
        if (Sources.Mislabelled(from, SourceLabel) is { } mislabelled) return mislabelled;
        if (Sources.Entangled(from, depot, list) is { } entangled) return entangled;
        var findings = new List<Finding>();
        DepotFeatures features;
        try
        {
            features = await depot.ProbeAsync(cancel);
            findings.Add(new("depot", Sign.Good, $"The depot {depot.Address} can be written to and read."));
            if (features.Modes == DepotModes.AsMounted)
                findings.Add(new(
                    "modes",
                    Sign.Note,
                    "The depot sets or keeps no permissions: whoever may read the share as it is mounted reads what is staged there, "
                        + "unless it is sealed."));
        }
        catch (DepotUnreachableException gone)
        {
            return new Foreseen([new("depot", Sign.Stop, gone.Message)], Amount.None, work.Time.GetElapsedTime(started).TotalSeconds);
        }
        var staged = await StagedAsync(from, new(parcel), findings, cancel);
        Looked seen;
        try
        {
            seen = await work.Start(() => Task.FromResult(Look(from, features, cancel)));
        }
        catch (SourceBrokeException shut)
        {
            return new SourceUnusable(from.Path, shut.Message + ".");
        }
        var comes = Math.Max(0, seen.All.Bytes - staged.Bytes);
        var room = await depot.RoomAsync(cancel);
        findings.Add(room.FreeBytes switch
        {
            null => new("room", Sign.Note, $"The depot does not say how much is free. {ByteText.Of(comes)} are to come."),
            { } free when free < comes =>
                new(
                    "room",
                    Sign.Stop,
                    $"{ByteText.Of(comes)} are to come and {ByteText.Of(free)} are free: {ByteText.Of(comes - free)} too little. Make "
                        + $"room, leave something out with a carry list, or use another depot."),
            { } free =>
                new(
                    "room",
                    free < comes * 11 / 10 ? Sign.Note : Sign.Good,
                    $"{ByteText.Of(comes)} are to come, and {ByteText.Of(free)} are free."),
        });
        if (room.FreeBytes is { } left && seen.Largest > left)
            findings.Add(new("largest", Sign.Stop, $"The largest file alone has {ByteText.Of(seen.Largest)}."));
        Add(
            "names",
            seen.Escaped,
            Sign.Note,
            "has a name that this depot cannot hold as it is",
            "have names that this depot cannot hold as they are",
            "They are kept under an escape and get their names back at the restore.");
        Add(
            "case",
            seen.CaseClashes,
            Sign.Note,
            "differs from another only in case or in the form of an accent",
            "differ from others only in case or in the form of an accent",
            "This depot takes them for one; they are kept apart by an ending and get their names back.");
        Add(
            "paths",
            seen.LongPaths,
            Sign.Note,
            $"has a path of more than {LongestPath} characters",
            $"have paths of more than {LongestPath} characters",
            "They come along; programs that count so far may not open them on the new computer.");
        Add(
            "cannot-be-carried",
            seen.Odd,
            Sign.Note,
            "is a pipe, socket or device, or cannot be read",
            "are pipes, sockets or devices, or cannot be read",
            "Each will be a snag.");
        return new Foreseen(
            findings, new(Math.Max(0, seen.All.Files - staged.Files), comes), work.Time.GetElapsedTime(started).TotalSeconds);

        void Add(string check, List<string> which, Sign sign, string one, string many, string then)
        {
            if (which.Count > 0)
                findings.Add(new(
                    check,
                    sign,
                    $"{(which.Count == 1 ? $"1 name {one}" : $"{which.Count:#,0} names {many}")}: {string.Join(", ", which.Take(Shown))}"
                        + $"{(which.Count > Shown ? ", …" : "")}. {then}"));
        }
    }

    /// <summary>Bytes that the parcel has already; and whether its place is free for it.</summary>
    private async Task<Amount> StagedAsync(TreeRoot from, ParcelPaths paths, List<Finding> findings, CancellationToken cancel)
    {
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Info), cancel) is null)
        {
            var taken = (await depot.ListAsync(paths.Root, cancel)).Count > 0;
            findings.Add(taken
                ? new(
                    "parcel",
                    Sign.Stop,
                    $"The folder '{parcel}' in the depot holds something that is no parcel of ours. Choose another name for the parcel.")
                : new("parcel", Sign.Good, $"The parcel '{parcel}' is new; its place is free."));
            return Amount.None;
        }
        var found = await new ParcelOpening(depot, parcel, keys ?? SealKeys.None, work).TryOpenAsync(needsKey: true, cancel);
        if (!found.IsOk || found.Value is not { } opened)
        {
            findings.Add(new(
                "parcel", Sign.Stop, found.IsOk ? $"The parcel '{parcel}' was removed meanwhile. Look again." : found.Problem.Message));
            return Amount.None;
        }
        paths = opened.Paths;
        await SourceAsync(from, paths, findings, cancel);
        long bytes = 0, files = 0;
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.OpenTrip), cancel) is not null)
        {
            // A trip broke off: its lists are older than what it staged, which the next one need not bring again.
            await foreach (var (_, size) in DepotTree.FilesAsync(depot, paths.Data, cancel)) (bytes, files) = (bytes + size, files + 1);
            findings.Add(new(
                "parcel",
                Sign.Note,
                $"A trip to the parcel '{parcel}' broke off; {ByteText.Files(files)}, {ByteText.Of(bytes)} are there, and the next trip "
                    + $"goes on from there."));
            return new(files, bytes);
        }
        using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            if (entry.GoneSince is null && entry.Kind != EntryKind.Folder) (bytes, files) = (bytes + entry.Bytes, files + 1);
        findings.Add(new("parcel", Sign.Good, $"The parcel '{parcel}' is there and has {ByteText.Files(files)}, {ByteText.Of(bytes)}."));
        return new(files, bytes);
    }

    private async Task SourceAsync(TreeRoot from, ParcelPaths paths, List<Finding> findings, CancellationToken cancel)
    {
        var trips = (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Trips), cancel) ?? []).AsSpan().Count((byte)'\n');
        if (trips == 0) return;
        var before = await SourceRecord.ReadAsync(depot, paths, null, cancel);
        var now = SourceRecord.Of(from, Environment.MachineName, trips + 1, before);
        var doubted = await new SourceLook(depot, paths, list, before).RunAsync(from, now, trips, cancel);
        findings.Add(doubted is null
            ? new("source", Sign.Good, "It is what the trip before carried, as far as its files tell.")
            : new("source", Sign.Stop, doubted.Message));
    }

    private sealed class Looked
    {
        public Amount All;
        public long Largest;
        public readonly List<string> Escaped = [], CaseClashes = [], LongPaths = [], Odd = [];
    }

    private Looked Look(TreeRoot from, DepotFeatures features, CancellationToken cancel)
    {
        var (seen, names) = (new Looked(), new NameRule(!features.HoldsAnyName, !features.KeepsForm));
        var places = Places is { } rules ? new PlacesOnTheWay(from, rules) : null;
        foreach (var item in new TreeReader(from, names, features.TellsNames ? null : new(features.TellsCase)).Walk(cancel))
        {
            if (places?.Meet(item) is not null || item.Raw.Length == 0) continue;
            var shown = PercentText.Encode(item.Raw);
            if (!list.IsEverything && list.Of(shown, item.IsFolder, out _) == CarryVerdict.Leave) continue;
            if (item.Trouble is not null || item.Facts is { Kind: NodeKind.Pipe or NodeKind.Socket or NodeKind.Device })
                seen.Odd.Add(shown);
            var (plain, stored) = (names.Store(item.Name), item.Stored.Name);
            if (stored != plain) seen.CaseClashes.Add(shown);
            else if (stored != PercentText.Encode(item.Name) && stored != System.Text.Encoding.UTF8.GetString(item.Name))
                seen.Escaped.Add(shown);
            if (shown.Length > LongestPath) seen.LongPaths.Add(shown);
            if (item.IsFolder) continue;
            var bytes = item.Facts is { Kind: NodeKind.File } file ? file.Bytes : 0;
            seen.All += Amount.File(bytes);
            seen.Largest = Math.Max(seen.Largest, bytes);
            progress.Done();
        }
        return seen;
    }
}
