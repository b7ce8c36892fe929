using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files.Posix;

/// <summary>An open file or folder, closed once, and what both can be asked.</summary>
internal sealed unsafe class PosixHandle : SafeHandle, INodeCalls
{
    private readonly int _number;
    private long _notedIn;
    private bool _isHeld;

    public PosixHandle(PosixFileSystem files, int number) : base(-1, ownsHandle: true)
    {
        (Files, _number) = (files, number);
        SetHandle(number);
    }

    public override bool IsInvalid => handle == -1;

    public PosixFileSystem Files { get; }

    public PosixSystem System => Files.System;

    /// <summary>The descriptor; valid while this object is reachable and not disposed.</summary>
    public int Number => IsClosed ? throw new ObjectDisposedException(nameof(PosixHandle)) : _number;

    /// <summary>The file system that is left with this; null: it lies below something that is left later.</summary>
    public ulong? Enters { get; init; }

    protected override bool ReleaseHandle()
    {
        if (Enters is { } device) Files.Unsynced.Left(device);
        // Whoever waits for the medium may have it open yet, and a lock is held as long as anybody has.
        if (_isHeld) _ = PosixCalls.flock(_number, PosixCalls.Unlock);
        return PosixCalls.close(_number) == 0;
    }

    /// <summary>Of the call that failed last in this thread.</summary>
    public Trouble Last => System.Trouble(Marshal.GetLastPInvokeError());

    /// <summary>What to throw for the call that failed last in this thread.</summary>
    public FileTroubleException Thrown(string what) => new(Last, what);

    /// <summary>Notes that this was changed, so that it comes onto the medium when that is asked for.</summary>
    public void Note()
    {
        if (_notedIn != Files.Unsynced.Round) _notedIn = Files.Unsynced.Note(Number, Facts());
    }

    /// <summary>The folder itself, and the one above: names that say nothing.</summary>
    public static bool IsSelfOrAbove(ReadOnlySpan<byte> name) => name.SequenceEqual("."u8) || name.SequenceEqual(".."u8);

    /// <summary>Opens a name in this folder, which is not gone through where it is a link; an empty one is the folder itself.</summary>
    public PosixHandle? TryOpen(ReadOnlySpan<byte> name, int flags, uint mode, out Trouble trouble)
    {
        trouble = new(Fault.Invalid);
        if (IsSelfOrAbove(name)) return null;
        var numbers = System.Numbers;
        var number = NulEnded.With(
            name.IsEmpty ? "."u8 : name,
            at => System.OpenAt(Number, (byte*)at, flags | numbers.NoFollow | numbers.CloseOnExec, mode));
        trouble = number < 0 ? Last : default;
        if (number >= 0)
        {
            // The name of a new file is its folder's.
            if ((flags & numbers.Create) != 0) Note();
            return new(Files, number);
        }
        // What is no folder may be a link to one.
        if (trouble.Fault == Fault.NotAFolder && TryFacts(name, out _) is { Kind: NodeKind.Link }) trouble = new(Fault.ThroughLink);
        return null;
    }

    /// <summary>Facts of a name in this folder.</summary>
    public NodeFacts? TryFacts(ReadOnlySpan<byte> name, out Trouble trouble)
    {
        var into = stackalloc byte[StatFields.MostBytes];
        var space = (nint)into;
        var done = NulEnded.With(name, at => System.StatAt(Number, (byte*)at, (byte*)space));
        trouble = done < 0 ? Last : default;
        return done < 0 ? null : System.Stat.Read(into);
    }

    // POSIX knows no way to ask a server anew about what is open.
    public NodeFacts Facts(bool afresh = false)
    {
        var into = stackalloc byte[StatFields.MostBytes];
        return System.StatOf(Number, into) < 0 ? throw Thrown("stat") : System.Stat.Read(into);
    }

    public SortedDictionary<string, byte[]>? Attributes() => Files.Attributes.All(Number);

    public bool TrySetAttribute(string name, byte[] value)
    {
        fixed (byte* from = value)
        {
            var at = (nint)from;
            return Did(NulEnded.With(
                Encoding.UTF8.GetBytes(name), n => System.SetAttribute(Number, (byte*)n, (byte*)at, (nuint)value.Length)));
        }
    }

    public bool TryRemoveAttribute(string name) =>
        Did(NulEnded.With(Encoding.UTF8.GetBytes(name), n => System.RemoveAttribute(Number, (byte*)n)));

    public void SetMode(ushort mode)
    {
        if (!Did(PosixCalls.fchmod(Number, mode))) throw Thrown("set mode");
    }

    public bool TryHold()
    {
        _isHeld = PosixCalls.flock(Number, PosixCalls.LockAtOnce) == 0;
        return _isHeld || Marshal.GetLastPInvokeError() != System.Numbers.WouldWait;
    }

    public bool TrySetOwner(NodeOwner owner) => Did(PosixCalls.fchown(Number, owner.User, owner.Group));

    public void SetModified(Stamp modified)
    {
        var times = stackalloc PosixCalls.TimeSpec[2];
        times[0] = new() { Nanos = System.Numbers.Omit };
        times[1] = new() { Seconds = modified.Seconds, Nanos = modified.Nanos };
        if (!Did(PosixCalls.futimens(Number, times))) throw Thrown("set times");
    }

    private bool Did(int answer)
    {
        if (answer == 0) Note();
        return answer == 0;
    }
}
