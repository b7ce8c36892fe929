namespace YardRelay.Files;

/// <summary>A folder that a person named, and the system on which it lies: a source, a target, the place of a depot.</summary>
/// <param name="Files">The system.</param>
/// <param name="Path">Its path there, as the person wrote it; it may run through links.</param>
public sealed record TreeRoot(FileSystem Files, string Path)
{
    /// <summary>A folder of the computer on which this runs.</summary>
    public static TreeRoot Here(string path) => new(FileSystem.OfThisComputer, path);

    /// <summary>Opens it; null with why not.</summary>
    public OpenFolder? TryOpen(out Trouble trouble) => Files.TryOpenRoot(Path, out trouble);

    /// <summary>Opens it.</summary>
    /// <exception cref="FileTroubleException">It cannot be opened.</exception>
    public OpenFolder Open() => TryOpen(out var trouble) ?? throw new FileTroubleException(trouble, $"open {Path}");

    /// <summary>Makes it, and the folders on the way to it, where they are not there, and opens it; null with why not.</summary>
    /// <param name="made">Told of each folder that is made, with the one in which it is.</param>
    public OpenFolder? TryMake(out Trouble trouble, Action<OpenFolder, OpenFolder>? made = null)
    {
        if (TryOpen(out trouble) is { } stands) return stands;
        if (trouble.Fault != Fault.NotThere || Files.Above(Path) is not { } above) return null;
        using var parent = (this with { Path = above }).TryMake(out trouble, made);
        if (parent is null) return null;
        var isNew = parent.TryMakeFolder(Files.NameOf(Path), 0x1FF, out trouble);
        if (!isNew && trouble.Fault != Fault.Taken) return null;
        var opened = TryOpen(out trouble);
        if (isNew && opened is not null) made?.Invoke(parent, opened);
        return opened;
    }
}

/// <summary>How much a file system holds, in bytes.</summary>
/// <param name="Bytes">All of it.</param>
/// <param name="FreeBytes">What this account may still fill.</param>
/// <param name="UsedBytes">What is filled.</param>
public readonly record struct Room(long Bytes, long FreeBytes, long UsedBytes);
