namespace YardRelay.Files;

/// <summary>How a file is opened.</summary>
[Flags]
public enum FileUse
{
    /// <summary>To be read.</summary>
    Read = 1,

    /// <summary>To be read, leaving the time of its last access as it is, where the account may.</summary>
    ReadQuietly = Read | 2,

    /// <summary>To be written.</summary>
    Write = 4,

    /// <summary>To be written; made where it is not there.</summary>
    Make = Write | 8,

    /// <summary>To be written; it must not be there yet.</summary>
    MakeNew = Make | 16,
}

/// <summary>An open file. Each call says where it reads or writes: an open file has no place of its own.</summary>
/// <param name="calls">How its side is asked.</param>
public abstract class OpenFile(INodeCalls calls) : OpenNode(calls)
{
    /// <summary>Reads from <paramref name="at"/>; fewer bytes than asked for are no end, none is.</summary>
    /// <exception cref="FileTroubleException">It cannot be read.</exception>
    public abstract int Read(long at, Span<byte> into);

    /// <summary>Writes all of it at <paramref name="at"/>.</summary>
    /// <exception cref="FileTroubleException">Not all of it was taken.</exception>
    public abstract void Write(long at, ReadOnlySpan<byte> from);

    /// <summary>Makes it shorter, or longer by a hole.</summary>
    /// <exception cref="FileTroubleException">The file system cannot.</exception>
    public abstract void SetLength(long bytes);

    /// <summary>Asks the system to bring its content onto the medium, and waits until it is there.</summary>
    /// <exception cref="FileTroubleException">The medium did not take all of it, now or since the file was opened.</exception>
    public abstract void Sync();

    /// <summary>
    /// Has this computer forget what it keeps of the content, where it may, and says where it comes from when it is read now. What is not
    /// on the medium yet is not forgotten.
    /// </summary>
    /// <param name="bytes">How long it is.</param>
    public abstract ReadFrom Forget(long bytes);

    /// <summary>
    /// The stretches of the first <paramref name="bytes"/> bytes that hold data, or null when all of them do or the file system cannot
    /// tell.
    /// </summary>
    public abstract List<(long Offset, long Bytes)>? DataStretches(long bytes);
}
