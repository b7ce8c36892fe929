namespace YardRelay.Files.Posix;

/// <summary>Where a number lies in a structure that the system fills in, and how many bytes it takes: 2, 4 or 8.</summary>
internal readonly record struct Field(int At, int Bytes)
{
    public unsafe ulong In(byte* structure) => Bytes switch
    {
        2 => *(ushort*)(structure + At),
        4 => *(uint*)(structure + At),
        _ => *(ulong*)(structure + At),
    };
}

/// <summary><c>struct stat</c> of sys/stat.h: POSIX names its members, each system orders them.</summary>
internal sealed record StatFields
{
    public required Field Device { get; init; }

    public required Field Inode { get; init; }

    public required Field Mode { get; init; }

    public required Field Links { get; init; }

    public required Field User { get; init; }

    public required Field Group { get; init; }

    public required Field Bytes { get; init; }

    public required Field Blocks { get; init; }

    public required Field Modified { get; init; }

    public required Field Changed { get; init; }

    /// <summary>When it was made; null: this system does not say.</summary>
    public required Field? Born { get; init; }

    /// <summary>No system's is longer.</summary>
    public const int MostBytes = 256;

    public unsafe NodeFacts Read(byte* at)
    {
        var mode = Mode.In(at);
        return new(
            NodeKinds.Of(mode), (ushort)(mode & 0xFFF),
            (long)Bytes.In(at), (long)Blocks.In(at), (uint)Links.In(at), Device.In(at), Inode.In(at),
            Time(Modified, at), Time(Changed, at))
        { Owner = new((uint)User.In(at), (uint)Group.In(at)) };
    }

    /// <summary><c>struct timespec</c>: seconds, then nanoseconds, eight bytes each.</summary>
    public static unsafe Stamp Time(Field field, byte* at) => new((long)field.In(at), (uint)new Field(field.At + 8, 8).In(at));
}

/// <summary>What a system says of the file system of something open; lengths in units of its own.</summary>
internal sealed record VolumeFields(Field Unit, Field Blocks, Field Free, Field Available, Field Id)
{
    /// <summary>No system's is longer.</summary>
    public const int MostBytes = 2560;
}

/// <summary>The numbers of fcntl.h, sys/stat.h, unistd.h and errno.h.</summary>
internal sealed record PosixNumbers
{
    public required int Create { get; init; }

    public required int Exclusive { get; init; }

    public required int NonBlock { get; init; }

    public required int Directory { get; init; }

    public required int NoFollow { get; init; }

    public required int CloseOnExec { get; init; }

    /// <summary>AT_FDCWD.</summary>
    public required int Current { get; init; }

    /// <summary>AT_SYMLINK_NOFOLLOW.</summary>
    public required int AtNoFollow { get; init; }

    /// <summary>AT_REMOVEDIR.</summary>
    public required int AtRemoveFolder { get; init; }

    /// <summary>UTIME_OMIT.</summary>
    public required long Omit { get; init; }

    public required int SeekData { get; init; }

    public required int SeekHole { get; init; }

    /// <summary>EWOULDBLOCK.</summary>
    public required int WouldWait { get; init; }

    /// <summary>ENOATTR or ENODATA: it has no attribute of that name.</summary>
    public required int NoAttribute { get; init; }
}

/// <summary>
/// What differs between systems that all keep to POSIX: numbers, the order of members, and calls that POSIX does not have.
/// </summary>
internal abstract unsafe class PosixSystem
{
    public abstract PosixNumbers Numbers { get; }

    public abstract StatFields Stat { get; }

    public abstract VolumeFields Volume { get; }

    /// <summary>Where the name begins in <c>struct dirent</c>.</summary>
    public abstract int DirentName { get; }

    /// <summary>What kind of trouble a number of errno.h is.</summary>
    public abstract Trouble Trouble(int errno);

    /// <summary>Opens a name in a folder. Not each system passes the last argument of this call as it passes others.</summary>
    public abstract int OpenAt(int folder, byte* name, int flags, uint mode);

    /// <summary>Facts of a name in a folder, no link followed.</summary>
    public abstract int StatAt(int folder, byte* name, byte* into);

    /// <summary>Facts of what is open.</summary>
    public abstract int StatOf(int handle, byte* into);

    /// <summary>Facts of the file system of what is open.</summary>
    public abstract int VolumeOf(int handle, byte* into);

    /// <summary>Begins a list; the handle is the list's from then on. 0: it cannot be listed.</summary>
    public abstract nint OpenList(int handle);

    /// <summary>The next <c>struct dirent</c>; null: the end, or an error.</summary>
    public abstract byte* Next(nint list);

    /// <summary>
    /// Gives a name only where none stands, in one call; false: this system, or this file system, has no such call, and nothing was done.
    /// </summary>
    public abstract bool TryRenameIfFree(int fromFolder, byte* from, int toFolder, byte* to, out int answer);

    /// <summary>Brings one file onto its medium.</summary>
    public abstract int SyncFile(int handle);

    /// <summary>
    /// Brings onto a medium what others wrote, too, and has its drive empty its own memory, once what we wrote was brought there one by
    /// one; 0: nothing is known to have failed.
    /// </summary>
    public abstract int SyncVolume(int handle);

    /// <summary>Whether the file system of what is open keeps permissions, by a table of types.</summary>
    public abstract bool KeepsModes(int handle);

    public abstract nint ListAttributes(int handle, byte* into, nuint size);

    public abstract nint ReadAttribute(int handle, byte* name, byte* into, nuint size);

    public abstract int SetAttribute(int handle, byte* name, byte* value, nuint size);

    public abstract int RemoveAttribute(int handle, byte* name);
}
