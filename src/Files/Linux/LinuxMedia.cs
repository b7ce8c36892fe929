using System.Buffers;

namespace YardRelay.Files.Linux;

/// <summary>
/// What Linux tells of the way from a medium to whoever reads: by the type of file system (<c>fstatfs(2)</c>, the numbers are those of
/// <c>linux/magic.h</c> and of the file systems' own sources), and by the pages that the kernel keeps (<c>mincore(2)</c>).
/// </summary>
internal static unsafe class LinuxMedia
{
    private const long Piece = 1L << 30;

    /// <summary>Where what is read of an open file or folder comes from, once the kernel keeps nothing of it.</summary>
    public static ReadFrom Of(int handle)
    {
        Libc.StatFs on;
        if (Libc.fstatfs(handle, &on) < 0) return ReadFrom.Unknown;
        return (uint)on.Type switch
        {
            // ext2 to ext4, XFS, Btrfs, F2FS, JFS, NILFS, bcachefs; FAT, exFAT, NTFS, HFS+; discs.
            0xEF53 or 0x58465342 or 0x9123683E or 0xF2F52010 or 0x3153464A or 0x3434 or 0xCA451A4E
                or 0x4D44 or 0x2011BAB0 or 0x7366746E or 0x5346544E or 0x482B
                or 0x9660 or 0x15013346 => ReadFrom.Medium,
            // tmpfs, ramfs: there is nothing but memory.
            0x01021994 or 0x858458F6 => ReadFrom.Cache,
            // Servers (NFS, SMB, 9P), FUSE, layers above others, and ZFS, which has a memory of its own.
            _ => ReadFrom.Unknown,
        };
    }

    /// <summary>Whether a file system keeps permissions of its own.</summary>
    public static bool KeepsModes(int handle)
    {
        Libc.StatFs on;
        // ext2 to ext4, XFS, Btrfs, F2FS, JFS, NILFS, bcachefs, ZFS; tmpfs, ramfs, layers; NFS.
        return Libc.fstatfs(handle, &on) == 0
            && (uint)on.Type is 0xEF53 or 0x58465342 or 0x9123683E or 0xF2F52010 or 0x3153464A or 0x3434 or 0xCA451A4E or 0x2FC12FC1
                or 0x01021994 or 0x858458F6 or 0x794C7630
                or 0x6969;
    }

    /// <summary>Whether the kernel keeps a page of a file. Where it does not say, it is taken for one that does.</summary>
    public static bool Keeps(int handle, long bytes)
    {
        var page = Environment.SystemPageSize;
        for (long at = 0; at < bytes; at += Piece)
        {
            var size = (nuint)Math.Min(Piece, bytes - at);
            var pages = (int)((size + (nuint)page - 1) / (nuint)page);
            var told = ArrayPool<byte>.Shared.Rent(pages);
            var map = Libc.mmap(0, size, Libc.MapRead, Libc.MapShared, handle, at);
            try
            {
                if (map == -1) return true;
                fixed (byte* into = told)
                    if (Libc.mincore(map, size, into) < 0) return true;
                // Only the lowest bit of each says something.
                foreach (var one in told.AsSpan(0, pages))
                    if ((one & 1) != 0) return true;
            }
            finally
            {
                if (map != -1) _ = Libc.munmap(map, size);
                ArrayPool<byte>.Shared.Return(told);
            }
        }
        return false;
    }
}
