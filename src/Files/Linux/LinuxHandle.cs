using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files.Linux;

/// <summary>An open file or folder of the system, closed once, and what both can be asked.</summary>
internal sealed unsafe class LinuxHandle : SafeHandle, INodeCalls
{
    private static readonly NodeAttributes _attributes = new(Libc.flistxattr, Libc.fgetxattr, Libc.NoAttribute, LinuxTrouble.Of);

    private readonly int _number;

    public LinuxHandle(int number) : base(-1, ownsHandle: true)
    {
        _number = number;
        SetHandle(number);
    }

    public override bool IsInvalid => handle == -1;

    /// <summary>The descriptor; valid while this object is reachable and not disposed.</summary>
    public int Number => IsClosed ? throw new ObjectDisposedException(nameof(LinuxHandle)) : _number;

    protected override bool ReleaseHandle() => PosixCalls.close(_number) == 0;

    /// <summary>Facts of a name in this folder that ends with NUL; an empty one: of what is open itself.</summary>
    public static NodeFacts? Facts(int folder, byte* name, out Trouble trouble, bool afresh = false)
    {
        Libc.StatX s;
        var flags = Libc.AtNoFollow | (*name == 0 ? Libc.AtEmptyPath : 0) | (afresh ? Libc.AtForceSync : 0);
        var done = Libc.statx(folder, name, flags, Libc.BasicStats, &s);
        trouble = done < 0 ? LinuxTrouble.Last : default;
        if (done < 0) return null;
        return new(NodeKinds.Of(s.Mode), (ushort)(s.Mode & 0xFFF), (long)s.Bytes, (long)s.Blocks, s.Links, ((ulong)s.DeviceMajor << 32)
            | s.DeviceMinor, s.Inode,
            new(s.Modified.Seconds, s.Modified.Nanos), new(s.Changed.Seconds, s.Changed.Nanos))
        { Owner = new(s.User, s.Group) };
    }

    /// <summary>Facts of what is open.</summary>
    public NodeFacts Facts(bool afresh = false)
    {
        byte ended = 0;
        return Facts(Number, &ended, out var trouble, afresh) ?? throw new FileTroubleException(trouble, "stat");
    }

    public SortedDictionary<string, byte[]>? Attributes() => _attributes.All(Number);

    public bool TrySetAttribute(string name, byte[] value)
    {
        fixed (byte* from = value)
        {
            var at = (nint)from;
            return NulEnded.With(
                Encoding.UTF8.GetBytes(name), n => Libc.fsetxattr(Number, (byte*)n, (byte*)at, (nuint)value.Length, 0)) == 0;
        }
    }

    public bool TryRemoveAttribute(string name) =>
        NulEnded.With(Encoding.UTF8.GetBytes(name), n => Libc.fremovexattr(Number, (byte*)n)) == 0;

    public void SetMode(ushort mode)
    {
        if (PosixCalls.fchmod(Number, mode) < 0) throw LinuxTrouble.Thrown("set mode");
    }

    public bool TryHold() =>
        PosixCalls.flock(Number, PosixCalls.LockAtOnce) == 0 || Marshal.GetLastPInvokeError() != Libc.WouldWait;

    public bool TrySetOwner(NodeOwner owner) => PosixCalls.fchown(Number, owner.User, owner.Group) == 0;

    public void SetModified(Stamp modified)
    {
        var times = stackalloc PosixCalls.TimeSpec[2];
        times[0] = new() { Nanos = Libc.Omit };
        times[1] = new() { Seconds = modified.Seconds, Nanos = modified.Nanos };
        if (PosixCalls.futimens(Number, times) < 0) throw LinuxTrouble.Thrown("set times");
    }
}
