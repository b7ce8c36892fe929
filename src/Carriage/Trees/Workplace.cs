using System.Text;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Posix;

namespace YardRelay.Carriage.Trees;

/// <summary>
/// A folder of our own in the target of a restore, gone when the restore ends. It remembers which folders the restore made, so that one that goes on after a kill
/// still sets their times and modes, and leaves alone what stood before.
/// </summary>
internal sealed class Workplace : IDisposable
{
    private readonly PosixHandle _root;
    private readonly byte[] _name;
    private readonly PosixHandle _folder;
    private readonly PosixHandle _notes;
    private readonly HashSet<string> _made = new(StringComparer.Ordinal);
    private long _temporary;

    public Workplace(PosixHandle root, string parcelId)
    {
        _root = root;
        _name = Encoding.UTF8.GetBytes(".yardhand-" + parcelId);
        var others = PosixFile.Names(root).Count(n => !n.AsSpan().SequenceEqual(_name));
        var stood = PosixFile.Stat(root).Modified;
        PosixFile.TryMakeFolder(root.Number, _name, 0x1C0, out _);
        _folder = PosixFile.Open(root.Number, _name, Libc.Directory | Libc.NoFollow);
        _notes = PosixFile.Open(_folder.Number, "made"u8, Libc.ReadWrite | Libc.Create | Libc.NoFollow);
        var notes = ReadNotes();
        if (notes.Length == 0) PosixFile.WriteAll(_notes, Encoding.UTF8.GetBytes(others == 0 ? "empty\n" : $"stood {stood}\n"));
        RootWasEmpty = notes.Length == 0 ? others == 0 : notes[0] == "empty";
        RootStood = notes.Length > 0 && notes[0].StartsWith("stood ", StringComparison.Ordinal) && Stamp.TryParse(System.Text.Encoding.ASCII.GetBytes(notes[0]["stood ".Length..]), out var noted) ? noted : stood;
        // A last line without its end was being written when the restore was killed; its folder may or may not be there, and then counts as ours.
        foreach (var line in notes.Skip(1)) _made.Add(line);
    }

    public bool RootWasEmpty { get; }

    /// <summary>The time that a root which was not empty bore before we put anything into it.</summary>
    public Stamp RootStood { get; }

    public PosixHandle Folder => _folder;

    private string[] ReadNotes()
    {
        using var all = new MemoryStream();
        var buffer = new byte[65536];
        while (PosixFile.Read(_notes, buffer) is > 0 and var got) all.Write(buffer, 0, got);
        return Encoding.UTF8.GetString(all.ToArray()).Split('\n', StringSplitOptions.RemoveEmptyEntries);
    }

    public byte[] TemporaryName() => Encoding.UTF8.GetBytes($"new-{Interlocked.Increment(ref _temporary)}-{Environment.ProcessId}");

    /// <summary>Whether an earlier, broken-off run of this restore made that folder.</summary>
    public bool WasMade(byte[] raw) => _made.Contains(PercentText.Encode(raw));

    /// <summary>Notes a folder that is about to be made. Before, not after: a note too many is harmless, a folder without one would keep a wrong time.</summary>
    public void Note(byte[] raw) => PosixFile.WriteAll(_notes, Encoding.UTF8.GetBytes(PercentText.Encode(raw) + "\n"));

    public void Dispose()
    {
        _notes.Dispose();
        _folder.Dispose();
    }

    /// <summary>Removes the folder; nothing of ours stays.</summary>
    public void Clear()
    {
        foreach (var name in PosixFile.Names(_folder)) PosixFile.TryRemove(_folder.Number, name, isFolder: false, out _);
        PosixFile.TryRemove(_root.Number, _name, isFolder: true, out _);
    }
}
