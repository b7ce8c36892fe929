namespace YardRelay.Core.Carrying;

/// <summary>Why a file or folder could not be carried or restored as it should.</summary>
public enum SnagKind
{
    /// <summary>No right to read it, or the disk refused.</summary>
    Unreadable,

    /// <summary>It kept changing while it was read.</summary>
    ChangedWhileRead,

    /// <summary>It vanished between the look and the read.</summary>
    GoneWhileRead,

    /// <summary>A device, which has no content to carry.</summary>
    Device,

    /// <summary>A named pipe, which has no content to carry.</summary>
    Pipe,

    /// <summary>A socket, which has no content to carry.</summary>
    Socket,

    /// <summary>The depot will not hold it.</summary>
    DepotRefused,

    /// <summary>The depot has no room for it; of a folder, for so many files in it.</summary>
    NoRoom,

    /// <summary>What the depot gives back is not what was staged.</summary>
    DamagedInDepot,

    /// <summary>The new computer would not take it.</summary>
    NotRestored,

    /// <summary>Restored, but a time, mode or attribute could not be set.</summary>
    AttributeLost,

    /// <summary>A trip stopped: what stands at the old computer does not look like what was carried before.</summary>
    SourceDoubted,

    /// <summary>The trip that brought it broke off, and the source is gone: no list says how it must be, or what is missing.</summary>
    Unfinished,

    /// <summary>The parcel's lists are not those that were last heard of: put back, exchanged or changed.</summary>
    OtherLists,

    /// <summary>The parcel has a trip of which nobody has told.</summary>
    UntoldTrip,
}

/// <summary>One file or folder that could not be carried or restored as it should.</summary>
/// <param name="Path">As text; bytes that are no text as <c>%XX</c>.</param>
/// <param name="Bytes">Its length where known.</param>
/// <param name="Reason">For people: what happened and what helps.</param>
/// <param name="Files">How many files it stands for.</param>
/// <param name="CountsAsFile">False where the file itself arrived and only something about it was lost.</param>
public sealed record Snag(string Path, SnagKind Kind, long Bytes, string Reason, bool CountsAsFile = true, long Files = 1)
{
    /// <summary>First part of the path; <c>.</c> for files beside the folders.</summary>
    public string Folder => Path.IndexOf('/', StringComparison.Ordinal) is > 0 and var slash ? Path[..slash] : ".";
}
