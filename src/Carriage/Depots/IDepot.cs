using YardRelay.Core;

namespace YardRelay.Carriage.Depots;

/// <summary>What only some depots can.</summary>
/// <param name="HoldsAnyName">Names with <c>" * : &lt; &gt; ? \ | %</c> or a final dot come back as they were given.</param>
/// <param name="TellsCase"><c>a</c> and <c>A</c> are two names.</param>
/// <param name="TellsForm">A letter as one character, and as a letter and its mark, are two names.</param>
/// <param name="KeepsForm">Names come back in the form of Unicode in which they were given.</param>
public sealed record DepotFeatures(bool HoldsAnyName, bool TellsCase, bool TellsForm, bool KeepsForm)
{
    /// <summary>Whether no two names are one to it.</summary>
    public bool TellsNames => TellsCase && TellsForm;

    /// <summary>
    /// Who may reach what is staged, by what came back of the modes that the depot is set to; null: it has none that can be set from here.
    /// </summary>
    public DepotModes? Modes { get; init; }
}

/// <summary>One name in a folder of a depot. <paramref name="Bytes"/> is 0 for folders.</summary>
public sealed record DepotName(string Name, bool IsFolder, long Bytes)
{
    /// <summary>When its content last changed, as far as the depot says; null: it does not.</summary>
    public Stamp? Modified { get; init; }

    /// <summary>Permissions and the three bits above them; null: the depot has none of its own, or does not say.</summary>
    public ushort? Mode { get; init; }
}

/// <summary>Room in a depot, in bytes; null where the depot does not say.</summary>
public sealed record DepotRoom(long? FreeBytes, long? UsedBytes);

/// <summary>A file of a depot, open to be read back, and where what is read comes from.</summary>
public readonly record struct ReadBack(Stream Stream, ReadFrom From);

/// <summary>The depot has no room for the file.</summary>
public sealed record DepotFull(string Depot, long Bytes)
    : Problem(
        "depot.full",
        $"The depot {Depot} has no room for a file of {Bytes} bytes. Make room or give the depot a larger quota, then run the trip again: "
            + $"it goes on where it stopped.");

/// <summary>The depot holds nothing under that path.</summary>
public sealed record NotInDepot(string Path) : Problem("depot.not-found", $"'{Path}' is not in the depot.");

/// <summary>The depot will not take this name or file, and would not the next time either.</summary>
public sealed record DepotRefused(string Path, string Why) : Problem("depot.refused", $"The depot refused '{Path}': {Why}");

/// <summary>The depot took the file, and its medium gives back something else; what stood under the name still does.</summary>
public sealed record DepotKeptOther(string Path)
    : Problem("depot.kept-other", $"The disk of the depot gives back something else than was written to it as '{Path}'.");

/// <summary>No answer from the depot within the retries of its options, or it answers that it may not be used.</summary>
public class DepotUnreachableException : IOException
{
    /// <summary>It cannot be reached, or not be used.</summary>
    public DepotUnreachableException(string depot, string why, Exception? inner = null)
        : this(
            $"The depot {depot} cannot be reached: {why} What was staged so far is safe; run the same command again when it is back.",
            inner)
    {
    }

    private protected DepotUnreachableException(string message, Exception? inner) : base(message, inner)
    {
    }
}

/// <summary>The depot is there, and will not give or say what was asked for: whether anything stands there, nothing tells.</summary>
public sealed class DepotShutException(string depot, string why) : DepotUnreachableException(depot, why);

/// <summary>The depot's medium did not take what was written to it: what reads as whole may stand in a computer's memory only.</summary>
public sealed class DepotNotTakenException(string depot, Exception why)
    : DepotUnreachableException(
        $"The disk of the depot {depot} did not take what was written to it: {why.Message}. What came since the last trip does not count. "
            + $"Look at the disk, then run the same command again: it is written anew.",
        why);

/// <summary>
/// A place that keeps staged files. Every kind passes <c>DepotConformance</c>. Safe for calls from several threads at once.
/// </summary>
public interface IDepot : IDisposable
{
    /// <summary>What people call it: its address without any password.</summary>
    string Address { get; }

    /// <summary>The folder of this computer in which it lies; null: it lies elsewhere, or nobody can tell.</summary>
    TreeRoot? Ground => null;

    /// <summary>Looks whether the depot is there and what it can; makes nothing that stays.</summary>
    /// <exception cref="DepotUnreachableException">It is not there, or may not be used.</exception>
    Task<DepotFeatures> ProbeAsync(CancellationToken cancel);

    /// <summary>
    /// Saves a file that is seen whole under its name, or not at all; replaces what stood there. Folders on the way are made.
    /// </summary>
    /// <param name="path">Where it is seen in the end.</param>
    /// <param name="aside">Where it is written until it is whole; in the same depot. What stands there is replaced; or, where the content
    /// goes on, taken as its beginning.</param>
    /// <param name="content">What is saved; opened again for each retry; what it opened is closed here.</param>
    /// <param name="cancel">Stops the save; nothing stays under the name.</param>
    /// <returns>The bytes saved; or <see cref="DepotFull"/>, <see cref="DepotRefused"/> with nothing changed under the name.</returns>
    /// <exception cref="DepotUnreachableException">No answer within the retries of the options.</exception>
    /// <exception cref="EndOfStreamException">The content was shorter than it said.</exception>
    Task<Result<long>> SaveAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel);

    /// <summary>
    /// Opens a file to read it from its start; the caller closes it. <see cref="NotInDepot"/> where no file stands, also where the path
    /// runs through a link.
    /// </summary>
    Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel);

    /// <summary>
    /// Whether it lies on a medium that can be asked, of this computer or of a server that says so: what is saved there stands in memory at
    /// first, and only what was settled can be read back from the medium.
    /// </summary>
    bool HasMedium => false;

    /// <summary>
    /// Opens a file to prove that it is there, past what this computer keeps in memory of it where the depot has a way to ask for that; the
    /// caller closes it. <see cref="NotInDepot"/> where no file stands.
    /// </summary>
    async Task<Result<ReadBack>> OpenBackAsync(DepotPath path, CancellationToken cancel) =>
        (await OpenAsync(path, cancel)).TryGet(out var stream, out var problem) ? new ReadBack(stream, ReadFrom.Unknown) : problem;

    /// <summary>All names in a folder, in no order; empty when the folder is not there. Links count as files of 0 bytes.</summary>
    Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel);

    /// <summary>Makes a folder whose parent is there, in one step that only one caller can win.</summary>
    /// <returns>True when this call made it, false when the name was taken; <see cref="NotInDepot"/> without a parent.</returns>
    Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel);

    /// <summary>
    /// Makes a parcel's own folder and all on the way to it that is missing, and sees to it that only those reach it who may by the depot's
    /// modes, whatever modes it came back with. Folders above it, which parcels share, are made as the system makes folders.
    /// </summary>
    Task MakeParcelAsync(DepotPath parcel, CancellationToken cancel) => MakeFoldersAsync(parcel, cancel);

    /// <summary>Makes a folder and all on the way to it that is missing.</summary>
    Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel);

    /// <summary>Gives a file or folder another name where none stands, in one step that only one caller can win.</summary>
    /// <returns>False when <paramref name="from"/> is gone or <paramref name="to"/> is taken.</returns>
    Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel);

    /// <summary>Removes a file, or a folder with all in it, never following a link; nothing there is no fault.</summary>
    Task RemoveAsync(DepotPath path, CancellationToken cancel);

    /// <summary>Room that is left.</summary>
    Task<DepotRoom> RoomAsync(CancellationToken cancel);

    /// <summary>Brings what was saved onto the disk, where the depot has a way to ask for that.</summary>
    /// <exception cref="DepotNotTakenException">The disk did not take all of it, now or since the depot was first used.</exception>
    Task SettleAsync(CancellationToken cancel);
}
