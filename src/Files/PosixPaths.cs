using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files;

/// <summary>A side whose paths have <c>/</c> between names, and whose accounts have numbers.</summary>
internal abstract unsafe class PosixPaths : FileSystem
{
    public override string? Above(string path) => Path.GetDirectoryName(Path.TrimEndingDirectorySeparator(Path.GetFullPath(path)));

    public override string Resolved(string path)
    {
        var found = (byte*)NulEnded.With(Encoding.UTF8.GetBytes(path), at => (nint)PosixCalls.realpath((byte*)at, null));
        if (found is null) return path;
        try
        {
            return Encoding.UTF8.GetString(MemoryMarshal.CreateReadOnlySpanFromNullTerminated(found));
        }
        finally
        {
            PosixCalls.free(found);
        }
    }

    public override NodeOwner? TryFindAccount(string name)
    {
        var found = (PosixCalls.Account*)NulEnded.With(Encoding.UTF8.GetBytes(name), at => (nint)PosixCalls.getpwnam((byte*)at));
        return found is null ? null : new(found->User, found->Group);
    }

    public override byte[] NameOf(string path) =>
        Encoding.UTF8.GetBytes(Path.GetFileName(Path.TrimEndingDirectorySeparator(Path.GetFullPath(path))));
}
