using System.Runtime.InteropServices;

namespace YardRelay.Carriage.Posix;

/// <summary>The system refused a call; <see cref="Errno"/> is its number of errno.h.</summary>
internal sealed class PosixException(int errno, string what) : IOException($"{what}: {Marshal.GetPInvokeErrorMessage(errno)}")
{
    public const int NotPermitted = 1;
    public const int NoEntry = 2;
    public const int InputOutput = 5;
    public const int AccessDenied = 13;
    public const int Busy = 16;
    public const int Exists = 17;
    public const int CrossDevice = 18;
    public const int NotFolder = 20;
    public const int IsFolder = 21;
    public const int Invalid = 22;
    public const int NoSpace = 28;
    public const int NameTooLong = 36;
    public const int NotEmpty = 39;
    public const int TooManyLinks = 40;
    public const int NoData = 61;
    public const int NotSupported = 95;
    public const int QuotaPassed = 122;

    public int Errno { get; } = errno;

    public static PosixException Last(string what) => new(Marshal.GetLastPInvokeError(), what);
}
