using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files.Posix;

/// <summary>
/// Systems that are asked by what POSIX has, and little else: names as bytes, links never followed, nanoseconds, attributes.
/// </summary>
internal sealed unsafe class PosixFileSystem(PosixSystem system) : PosixPaths
{
    /// <summary>That of this computer.</summary>
    public static PosixFileSystem Here { get; } = new(OperatingSystem.IsMacOS() ? new PosixOnApple() : new PosixOnLinux());

    public PosixSystem System { get; } = system;

    public NodeAttributes Attributes { get; } = new(
        system.ListAttributes, system.ReadAttribute, system.Numbers.NoAttribute, system.Trouble);

    /// <summary>What was changed by way of this and may not be on its medium yet.</summary>
    public Unsynced Unsynced { get; } = new(system);

    public override OpenFolder? TryOpenRoot(string path, out Trouble trouble)
    {
        var numbers = System.Numbers;
        var number = NulEnded.With(
            Encoding.UTF8.GetBytes(path),
            at => System.OpenAt(numbers.Current, (byte*)at, numbers.Directory | numbers.CloseOnExec, 0));
        trouble = number < 0 ? System.Trouble(Marshal.GetLastPInvokeError()) : default;
        if (number < 0) return null;
        var into = stackalloc byte[StatFields.MostBytes];
        ulong? device = System.StatOf(number, into) == 0 ? System.Stat.Device.In(into) : null;
        if (device is { } entered) Unsynced.Entered(entered);
        return new PosixFolder(new(this, number) { Enters = device });
    }
}
