using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files.Linux;

/// <summary>
/// Linux by the calls that say what the framework cannot: names as bytes, links never followed, nanoseconds, holes, attributes.
/// </summary>
internal sealed unsafe class LinuxFileSystem : FileSystem
{
    public override OpenFolder? TryOpenRoot(string path, out Trouble trouble)
    {
        var number = NulEnded.With(
            Encoding.UTF8.GetBytes(path), at => Libc.openat(Libc.AtCurrent, (byte*)at, Libc.Directory | Libc.CloseOnExec, 0));
        trouble = number < 0 ? LinuxTrouble.Last : default;
        return number < 0 ? null : new LinuxFolder(new(number));
    }

    public override string? Above(string path) => Path.GetDirectoryName(Path.TrimEndingDirectorySeparator(Path.GetFullPath(path)));

    public override string Resolved(string path)
    {
        var found = Libc.realpath(Encoding.UTF8.GetBytes(path + '\0'), null);
        if (found is null) return path;
        try
        {
            return Encoding.UTF8.GetString(MemoryMarshal.CreateReadOnlySpanFromNullTerminated(found));
        }
        finally
        {
            Libc.free(found);
        }
    }

    public override NodeOwner? TryFindAccount(string name)
    {
        var found = NulEnded.With(Encoding.UTF8.GetBytes(name), at => (nint)Libc.getpwnam((byte*)at));
        return found == 0 ? null : new(((Libc.Account*)found)->User, ((Libc.Account*)found)->Group);
    }

    public override byte[] NameOf(string path) =>
        Encoding.UTF8.GetBytes(Path.GetFileName(Path.TrimEndingDirectorySeparator(Path.GetFullPath(path))));
}
