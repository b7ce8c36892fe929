using System.Runtime.InteropServices;
using System.Text;

namespace YardRelay.Files;

/// <summary>
/// How extended attributes are asked for where a list of names has a NUL behind each, and each call says how long its answer is.
/// </summary>
/// <param name="List">The names of an open file or folder; with no room for them: how long they are.</param>
/// <param name="Read">The value of one.</param>
/// <param name="None">The system's number for: it has no attribute of that name.</param>
/// <param name="Trouble">What kind of trouble a number is.</param>
internal sealed unsafe record NodeAttributes(
    NodeAttributes.Lists List, NodeAttributes.Reads Read, int None, Func<int, Trouble> Trouble)
{
    internal delegate nint Lists(int handle, byte* into, nuint size);

    internal delegate nint Reads(int handle, byte* name, byte* into, nuint size);

    /// <summary>ERANGE, everywhere.</summary>
    private const int TooSmall = 34;

    /// <summary>All of them by name; null: it has none, or the file system has no such thing.</summary>
    /// <exception cref="FileTroubleException">It has some, or may have, and they cannot be read.</exception>
    public SortedDictionary<string, byte[]>? All(int handle)
    {
        if (Names(handle) is not { } names) return null;
        var found = new SortedDictionary<string, byte[]>(StringComparer.Ordinal);
        foreach (var range in names.AsSpan().Split((byte)0))
        {
            var name = names.AsSpan()[range];
            if (name.IsEmpty) continue;
            var value = new byte[64 * 1024];
            var got = NulEnded.With(name, at =>
            {
                fixed (byte* into = value) return Read(handle, (byte*)at, into, (nuint)value.Length);
            });
            if (got >= 0) found[Encoding.UTF8.GetString(name)] = value[..(int)got];
            else if (Marshal.GetLastPInvokeError() is var error && error != None)
                throw new FileTroubleException(Trouble(error), $"read the attribute {Encoding.UTF8.GetString(name)}");
        }
        return found.Count == 0 ? null : found;
    }

    private byte[]? Names(int handle)
    {
        // One that is added meanwhile makes the list longer than it said.
        for (var tries = 0; ; tries++)
        {
            var size = List(handle, null, 0);
            if (size == 0) return null;
            if (size > 0)
            {
                var names = new byte[size];
                fixed (byte* at = names) size = List(handle, at, (nuint)names.Length);
                if (size >= 0) return names[..(int)size];
            }
            var error = Marshal.GetLastPInvokeError();
            if (Trouble(error).Fault == Fault.NotSupported || error == None) return null;
            if (error != TooSmall || tries == 4) throw new FileTroubleException(Trouble(error), "list attributes");
        }
    }
}
