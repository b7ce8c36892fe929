using System.Text;
using YardRelay.Carriage.Names;

namespace YardRelay.Carriage.Trees;

/// <summary>Where a restore would work stands a folder that another account owns.</summary>
internal sealed class WorkplaceOfOthersException(string name) : IOException(
    $"in it stands '{name}', which another account owns. Restore as that account, which may have begun it; or look at it, and remove it");

/// <summary>
/// A folder of our own in the target of a restore, gone when the restore ends. It remembers which folders the restore made, so that one
/// that goes on after a kill
/// still sets their times and modes, and leaves alone what stood before.
/// </summary>
internal sealed class Workplace : IDisposable
{
    private readonly OpenFolder _root;
    private readonly byte[] _name;
    private readonly string _attribute;
    private readonly OpenFolder _folder;
    private readonly OpenFile _notes;
    private readonly HashSet<string> _made = new(StringComparer.Ordinal);
    private long _temporary;
    private long _notesEnd;

    public Workplace(OpenFolder root, string parcelId)
    {
        _root = root;
        _name = Encoding.UTF8.GetBytes(".yardhand-" + parcelId);
        _attribute = "user.yardhand-" + parcelId;
        var found = root.Names().Any(n => !n.AsSpan().SequenceEqual(_name)) ? $"stood {root.Facts().Modified}" : "empty";
        // What the root was is noted at the root itself, because our folder in it has to go before the root's time is set, and we may be
        // killed between the two.
        var atRoot = Noted();
        if (atRoot is not null) found = Encoding.ASCII.GetString(atRoot);
        else if (!root.TryFacts(_name, out _).HasValue)
            root.TrySetAttribute(_attribute, Encoding.ASCII.GetBytes(found));
        GoesOn = !root.TryMakeFolder(_name, 0x1C0, out _);
        _folder = root.OpenFolderAt(_name);
        if (!IsOwn())
        {
            _folder.Dispose();
            throw new WorkplaceOfOthersException(Encoding.UTF8.GetString(_name));
        }
        _notes = _folder.OpenFileAt(Notes, FileUse.Read | FileUse.Make);
        // Files that an earlier run had not given their names yet.
        foreach (var left in _folder.Names().Where(n => !n.AsSpan().SequenceEqual(Notes)))
            _folder.TryRemove(left, isFolder: false, out _);
        var notes = ReadNotes();
        // A file system without attributes: the first line of the notes says it too. One that a power cut tore says nothing.
        if (notes.Length == 0) Append(found);
        else if (atRoot is null && IsState(notes[0])) found = notes[0];
        RootWasEmpty = found == "empty";
        RootStood = found.StartsWith("stood ", StringComparison.Ordinal)
            && Stamp.TryParse(Encoding.ASCII.GetBytes(found["stood ".Length..]), out var stood)
            ? stood
            : root.Facts().Modified;
        // A last line without its end was being written when the restore was killed; its folder may or may not be there, and then counts as
        // ours.
        foreach (var line in notes.Skip(1)) _made.Add(line);
        WasNotTaken = _made.Contains(NotTaken);
    }

    /// <summary>
    /// Whether it belongs to whoever makes files here now: an administrator works in nothing that the owner of the target laid out for
    /// them.
    /// </summary>
    private bool IsOwn()
    {
        var name = TemporaryName();
        using var made = _folder.OpenFileAt(name, FileUse.MakeNew);
        var owner = made.Facts().Owner.User;
        _folder.TryRemove(name, isFolder: false, out _);
        return owner == _folder.Facts().Owner.User;
    }

    private static bool IsState(string line) => line == "empty" || line.StartsWith("stood ", StringComparison.Ordinal);

    // No path begins so: what a restore finds it names below its root.
    private const string NotTaken = "/the medium did not take it";

    private static ReadOnlySpan<byte> Notes => "made"u8;

    /// <summary>Whether an earlier run of this restore broke off here.</summary>
    public bool GoesOn { get; }

    /// <summary>
    /// Whether the medium did not take what an earlier run wrote: what reads as whole may stand in the computer's memory only.
    /// </summary>
    public bool WasNotTaken { get; }

    /// <summary>The medium did not take what was written.</summary>
    public void NoteNotTaken() => Append(NotTaken);

    public bool RootWasEmpty { get; }

    /// <summary>The time that a root which was not empty bore before we put anything into it.</summary>
    public Stamp RootStood { get; }

    public OpenFolder Folder => _folder;

    private string[] ReadNotes()
    {
        using var all = new MemoryStream();
        var buffer = new byte[65536];
        while (_notes.Read(_notesEnd, buffer) is > 0 and var got)
        {
            all.Write(buffer, 0, got);
            _notesEnd += got;
        }
        return Encoding.UTF8.GetString(all.ToArray()).Split('\n', StringSplitOptions.RemoveEmptyEntries);
    }

    private void Append(string line)
    {
        var bytes = Encoding.UTF8.GetBytes(line + "\n");
        _notes.Write(_notesEnd, bytes);
        _notesEnd += bytes.Length;
    }

    public byte[] TemporaryName() => Encoding.UTF8.GetBytes($"new-{Interlocked.Increment(ref _temporary)}-{Environment.ProcessId}");

    /// <summary>Whether an earlier round, or an earlier, broken-off run of this restore made that folder.</summary>
    public bool WasMade(byte[] raw)
    {
        lock (_made) return _made.Contains(PercentText.Encode(raw));
    }

    /// <summary>
    /// Notes a folder that is about to be made. Before, not after: a note too many is harmless, a folder without one would keep a wrong
    /// time.
    /// </summary>
    public void Note(byte[] raw)
    {
        var text = PercentText.Encode(raw);
        Append(text);
        // A later round of the same restore meets the folder again.
        lock (_made) _made.Add(text);
    }

    public void Dispose()
    {
        _notes.Dispose();
        _folder.Dispose();
    }

    /// <summary>Removes the folder. What the root was stays noted until <see cref="Forget"/>.</summary>
    /// <exception cref="FileTroubleException">It stays; a restore that is run again removes it.</exception>
    public void Clear()
    {
        // What is open has a name of its own to some mounted disks, also when it was removed.
        _notes.Dispose();
        foreach (var name in _folder.Names())
            if (!_folder.TryRemove(name, isFolder: false, out var kept)) throw new FileTroubleException(kept, "remove what was noted");
        if (!_root.TryRemove(_name, isFolder: true, out var trouble))
            throw new FileTroubleException(trouble, "remove the folder of the work");
    }

    // Some mounted shares fail where they have no attributes.
    private byte[]? Noted()
    {
        try
        {
            return _root.Attributes()?.GetValueOrDefault(_attribute);
        }
        catch (FileTroubleException)
        {
            return null;
        }
    }

    /// <summary>Takes the note at the root away, which changes neither its time nor its content; nothing of ours stays.</summary>
    public void Forget()
    {
        if (_root.TryRemoveAttribute(_attribute) || Noted() is null) return;
        // A root that nobody may write to does not let go of it either, not even for its owner.
        var mode = _root.Facts().Mode;
        _root.SetMode((ushort)(mode | 0x80));
        _root.TryRemoveAttribute(_attribute);
        _root.SetMode(mode);
    }
}
