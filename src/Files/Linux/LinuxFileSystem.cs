using System.Text;

namespace YardRelay.Files.Linux;

/// <summary>
/// Linux by the calls that say what the framework cannot: names as bytes, links never followed, nanoseconds, holes, attributes.
/// </summary>
internal sealed unsafe class LinuxFileSystem : PosixPaths
{
    public override OpenFolder? TryOpenRoot(string path, out Trouble trouble)
    {
        var number = NulEnded.With(
            Encoding.UTF8.GetBytes(path), at => Libc.openat(Libc.AtCurrent, (byte*)at, Libc.Directory | Libc.CloseOnExec, 0));
        trouble = number < 0 ? LinuxTrouble.Last : default;
        return number < 0 ? null : new LinuxFolder(new(number));
    }
}
