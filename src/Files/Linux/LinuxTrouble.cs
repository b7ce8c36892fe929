using System.Runtime.InteropServices;

namespace YardRelay.Files.Linux;

/// <summary>Numbers of errno.h as kinds of trouble.</summary>
internal static class LinuxTrouble
{
    /// <summary>Of the call that failed last in this thread.</summary>
    public static Trouble Last => Of(Marshal.GetLastPInvokeError());

    public static Trouble Of(int errno) => new(
        errno switch
        {
            0 => Fault.None,
            1 => Fault.NotOwner, // EPERM
            2 => Fault.NotThere, // ENOENT
            5 => Fault.Broken, // EIO
            13 => Fault.Shut, // EACCES
            16 or 26 => Fault.InUse, // EBUSY, ETXTBSY
            17 => Fault.Taken, // EEXIST
            18 => Fault.OtherFileSystem, // EXDEV
            20 => Fault.NotAFolder, // ENOTDIR
            21 => Fault.IsAFolder, // EISDIR
            22 or 84 => Fault.Invalid, // EINVAL, EILSEQ
            28 or 122 => Fault.Full, // ENOSPC, EDQUOT
            36 => Fault.NameTooLong, // ENAMETOOLONG
            39 => Fault.NotEmpty, // ENOTEMPTY
            40 => Fault.ThroughLink, // ELOOP
            38 or 95 => Fault.NotSupported, // ENOSYS, EOPNOTSUPP
            110 => Fault.TimedOut, // ETIMEDOUT
            116 => Fault.GoneMeanwhile, // ESTALE
            _ => Fault.Other,
        },
        errno);

    /// <summary>What to throw for the call that failed last in this thread.</summary>
    public static FileTroubleException Thrown(string what) => new(Last, what);
}
