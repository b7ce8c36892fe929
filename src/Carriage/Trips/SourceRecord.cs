using System.Text.Json;
using YardRelay.Carriage.Computers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// <c>yard/source.json</c>: which folder the last trip carried, as evidence for the next one, and what people said where it was in doubt.
/// </summary>
/// <param name="Since">The first trip that looked; what was carried before it may come from anywhere.</param>
/// <param name="Computer">Name of the computer.</param>
/// <param name="Folder">The folder as it was named there.</param>
/// <param name="FileSystem">See <see cref="NodeIdentity.FileSystem"/>.</param>
/// <param name="Born">Seconds since 1970, a dot and nine digits.</param>
/// <param name="Mounts">Folders below it, as in the depot, at which another file system was mounted.</param>
/// <param name="Homes">Where people's homes lie below it, with '/' between parts; empty: it is one itself, or has none.</param>
/// <param name="Answers">All answers that were given, in the order of their trips.</param>
internal sealed record SourceRecord(
    int Since, string Computer, string Folder, string? FileSystem, ulong Inode, string? Born, uint Owner, IReadOnlyList<string> Mounts,
    IReadOnlyList<string> Homes, IReadOnlyList<SourceSettled> Answers)
{
    private const int MostMounts = 100;

    /// <summary>Reads what the trip before left; null: it left nothing that can be believed.</summary>
    /// <param name="digests">What the lists must be; null: a trip broke off, and nothing says.</param>
    public static async Task<SourceRecord?> ReadAsync(
        IDepot depot, ParcelPaths paths, ListDigests? digests, CancellationToken cancel)
    {
        try
        {
            HashedStream? hashed = null;
            await using var stream = await ParcelLists.OpenAsync(depot, paths, ParcelPaths.Source, cancel, told => hashed = told);
            if (stream is null) return null;
            using var text = new MemoryStream();
            await stream.CopyToAsync(text, cancel);
            return digests is not null && digests.Of(paths.NameOf(ParcelPaths.Source)) != hashed!.Sha256
                ? null
                : JsonSerializer.Deserialize<SourceRecord>(text.ToArray(), TripJson.Lines);
        }
        catch (Exception wrong) when (wrong is JsonException or SealBrokenException)
        {
            return null;
        }
    }

    /// <summary>The folder that a trip is about to carry.</summary>
    /// <param name="before">What the trip before left; null: nothing.</param>
    public static SourceRecord Of(TreeRoot from, string computer, int trip, SourceRecord? before)
    {
        var identity = Identity(from);
        return new(
            before?.Since ?? trip, computer, from.Files.Resolved(from.Path), identity?.FileSystem, identity?.Inode ?? 0,
            identity?.Born?.ToString(), identity?.Owner ?? 0, [], HomeFolders.PathsOf(from),
            before?.Answers ?? []);
    }

    /// <summary>The same with what the walk found mounted.</summary>
    public SourceRecord With(IEnumerable<string> mounts) => this with { Mounts = [.. mounts.Take(MostMounts)] };

    /// <summary>What differs between two trips, each as half a sentence; nothing where nothing is known.</summary>
    public IReadOnlyList<string> DiffersFrom(SourceRecord before)
    {
        var differs = new List<string>();
        if (FileSystem is not null && before.FileSystem is not null && FileSystem != before.FileSystem)
            differs.Add("the disk is another one");
        else if (Inode != 0 && before.Inode != 0 && (Inode, Born) != (before.Inode, before.Born)) differs.Add("the folder was made anew");
        if (Owner != before.Owner) differs.Add($"it belongs to account {Owner} and not to {before.Owner}");
        if (Computer != before.Computer) differs.Add($"the computer is {Computer} and not {before.Computer}");
        return differs;
    }

    /// <summary>Whether it is the very folder, as far as both say. One that could not be asked may be any.</summary>
    public bool IsSamePlaceAs(SourceRecord before) =>
        (FileSystem is null || before.FileSystem is null || FileSystem == before.FileSystem)
            && Inode != 0
            && (Inode, Born) == (before.Inode, before.Born);

    private static NodeIdentity? Identity(TreeRoot from)
    {
        using var open = from.TryOpen(out _);
        try
        {
            return open?.Identity();
        }
        catch (FileTroubleException)
        {
            return null;
        }
    }
}

/// <summary>An answer that a trip went by.</summary>
/// <param name="Trip">The trip.</param>
/// <param name="Words">The doubt that it settled.</param>
internal sealed record SourceSettled(int Trip, DateTimeOffset At, SourceAnswer Answer, string Words);

/// <summary>A source that was looked at before a trip.</summary>
/// <param name="Record">What the trip will leave of it.</param>
/// <param name="Before">What the trip before left; null: nothing.</param>
/// <param name="Settled">The doubt that an answer settled; null: there was none.</param>
internal sealed record SourceSeen(SourceRecord Record, SourceRecord? Before, string? Settled)
{
    /// <summary>After a doubt, what the parcel has is not written over by an older state, or by what another place has.</summary>
    public bool KeepsBeside(Entry known, NodeFacts now) =>
        Settled is not null
            && !known.Adopted
            && (known.Bytes != now.Bytes || known.Modified != now.Modified)
            && (Before is null || !Record.IsSamePlaceAs(Before) || now.Modified.IsBefore(known.Modified));
}
