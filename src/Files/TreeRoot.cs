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
    public OpenFolder? TryMake(out Trouble trouble)
    {
        if (TryOpen(out trouble) is { } stands) return stands;
        if (trouble.Fault != Fault.NotThere || Files.Above(Path) is not { } above) return null;
        using var parent = (this with { Path = above }).TryMake(out trouble);
        if (parent is null) return null;
        return !parent.TryMakeFolder(Files.NameOf(Path), 0x1FF, out trouble) && trouble.Fault != Fault.Taken ? null : TryOpen(out trouble);
    }
}

/// <summary>How much a file system holds, in bytes.</summary>
/// <param name="Bytes">All of it.</param>
/// <param name="FreeBytes">What this account may still fill.</param>
/// <param name="UsedBytes">What is filled.</param>
public readonly record struct Room(long Bytes, long FreeBytes, long UsedBytes);
