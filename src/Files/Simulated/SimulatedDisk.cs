using System.Collections.Immutable;

namespace YardRelay.Files.Simulated;

/// <summary>What a call is about to be made for, so that a test can have it fail.</summary>
/// <param name="What">The call: <c>list</c>, <c>look</c>, <c>open</c>, <c>read</c>, <c>write</c>, <c>make</c>, <c>rename</c>, …</param>
/// <param name="Path">The path from the top of the disk, of the name that it is about.</param>
public readonly record struct SimulatedCall(string What, string Path);

/// <summary>
/// A disk in memory that behaves as Linux does: the same calls give the same answers, on every run. Its state never changes but is
/// replaced, so that a copy at any moment costs nothing.
/// </summary>
/// <param name="time">Where its times come from.</param>
public sealed class SimulatedDisk(TimeProvider time)
{
    internal const ulong Top = 2;

    /// <summary>Held for as long as a call lasts: engines ask from many threads.</summary>
    internal Lock Gate { get; } = new();

    private const int LongestName = 255;

    private ImmutableDictionary<ulong, SimulatedNode> _nodes = ImmutableDictionary<ulong, SimulatedNode>.Empty.Add(
        Top, new(NodeKind.Folder, 0x1ED, default, default));
    private ulong _last = Top;
    private long _ticks;

    /// <summary>Asked before each call; what it answers is what the call answers. <see cref="Fault.None"/>: the call is made.</summary>
    public Func<SimulatedCall, Fault>? Fails { get; set; }

    /// <summary>Names its file system; null: it has none to tell.</summary>
    public string? Identity { get; set; }

    /// <summary>How much it holds, in bytes.</summary>
    public long Bytes { get; set; } = 1L << 40;

    /// <summary>Names that come out the same are one; null: each is what its bytes are.</summary>
    public Func<string, string>? Folds { get; set; }

    /// <summary>The form in which names are written down; null: as they are given.</summary>
    public Func<string, string>? Forms { get; set; }

    /// <summary>It knows neither further names of a file, nor links, nor files without a name, nor permissions, as FAT does.</summary>
    public bool IsPlain { get; set; }

    /// <summary>Asked at each sync: whether it says that it did what it did not. Null: none lies.</summary>
    public Func<SimulatedCall, bool>? Lies { get; set; }

    /// <summary>
    /// For so long it says of what was not opened since what it said last, as a system does of a server's files that others write to;
    /// zero: it says what is.
    /// </summary>
    public TimeSpan Remembers { get; set; }

    private readonly Dictionary<ulong, (SimulatedNode Node, DateTimeOffset At)> _remembered = [];

    private SimulatedMedium? _medium;

    // Files to which a program may write by way of its memory without a trace, and since when.
    private ImmutableDictionary<ulong, DateTimeOffset> _writable = ImmutableDictionary<ulong, DateTimeOffset>.Empty;

    // What was changed in memory comes onto the medium by itself after so long.
    private static readonly TimeSpan ByItself = TimeSpan.FromSeconds(30);

    /// <summary>Has a program map a file at a path of this disk; null: there is none.</summary>
    public SimulatedMap? TryMap(string path) =>
        Find(Top, System.Text.Encoding.UTF8.GetBytes(path.Trim('/')), out _) is { } found && _nodes[found].Kind == NodeKind.File
            ? new(this, found)
            : null;

    internal void WriteMapped(ulong number, long at, byte value)
    {
        var content = _nodes[number].Content.Write(at, [value]);
        var now = time.GetUtcNow();
        if (_writable.TryGetValue(number, out var since) && now - since < ByItself)
        {
            _nodes = _nodes.SetItem(number, _nodes[number] with { Content = content });
            return;
        }
        Change(number, n => n with { Content = content }, content: true);
        _writable = _writable.SetItem(number, now);
    }

    /// <summary>From now on a power cut can come: all that stands there is on the medium.</summary>
    public void Settle() => _medium = new(_nodes);

    /// <summary>Cuts the power: what was not on the medium yet is there in part, or not at all.</summary>
    /// <param name="random">Which part.</param>
    public void CutPower(Random random)
    {
        if (_medium is null) return;
        _nodes = _medium.Cut(_nodes, random);
        Settle();
    }

    /// <summary>A copy of all that stands there, taken at once.</summary>
    public SimulatedDisk Copy() => new(time)
    {
        _nodes = _nodes,
        _last = _last,
        _ticks = _ticks,
        _medium = _medium?.Copy(),
        _writable = _writable,
        Bytes = Bytes,
        Identity = Identity,
        Folds = Folds,
        Forms = Forms,
        IsPlain = IsPlain
    };

    /// <summary>Leaves so much room, in bytes.</summary>
    public void LeaveRoom(long bytes) => Bytes = Room().UsedBytes + bytes;

    /// <summary>From now on a folder says that another file system is mounted there, or that none is.</summary>
    /// <param name="device">Number of the mount; 1: that of the disk itself.</param>
    public void Mount(string path, ulong device)
    {
        if (Find(Top, System.Text.Encoding.UTF8.GetBytes(path.Trim('/')), out _) is { } folder)
            Change(folder, n => n with { Device = device });
    }

    /// <summary>The folder at a path of this disk.</summary>
    public TreeRoot At(string path) => new(_files ??= new SimulatedFileSystem(this), path);

    private SimulatedFileSystem? _files;

    internal SimulatedNode this[ulong number] => _nodes[number];

    /// <summary>What it says of a file or folder.</summary>
    internal SimulatedNode Said(ulong number, bool afresh)
    {
        if (Remembers == TimeSpan.Zero) return _nodes[number];
        var now = time.GetUtcNow();
        if (!afresh && _remembered.TryGetValue(number, out var last) && now - last.At < Remembers) return last.Node;
        _remembered[number] = (_nodes[number], now);
        return _nodes[number];
    }

    internal Room Room()
    {
        var used = _nodes.Values.Sum(n => (long)n.Content.Written.Count * Blocks.Size);
        return new(Bytes, Math.Max(0, Bytes - used), used);
    }

    /// <summary>Each change bears a later time than the one before, however still the clock stands.</summary>
    private Stamp Now()
    {
        var ticks = _ticks = Math.Max(_ticks + 1, time.GetUtcNow().Ticks - DateTimeOffset.UnixEpoch.Ticks);
        return new(ticks / TimeSpan.TicksPerSecond, (uint)(ticks % TimeSpan.TicksPerSecond * 100));
    }

    internal Trouble Ask(string what, ulong folder, ReadOnlySpan<byte> name)
    {
        if (Fails is null) return default;
        var path = PathOf(folder);
        var shown = System.Text.Encoding.UTF8.GetString(name);
        return new(Fails(new(what, shown.Length == 0 ? path : path == "/" ? "/" + shown : path + "/" + shown)));
    }

    /// <exception cref="FileTroubleException">A test has this call fail.</exception>
    internal void Must(string what, ulong number)
    {
        if (Ask(what, number, []) is { Fault: not Fault.None } trouble) throw new FileTroubleException(trouble, what);
    }

    /// <summary>Brings all of it onto the medium, or the content of one file.</summary>
    /// <exception cref="FileTroubleException">It does not take it.</exception>
    internal void Sync(ulong number, bool all)
    {
        try
        {
            Must("sync", number);
        }
        catch (FileTroubleException)
        {
            _medium?.Failed(_nodes, all ? null : number);
            throw;
        }
        _writable = all ? _writable.Clear() : _writable.Remove(number);
        var lies = Lies?.Invoke(new("sync", PathOf(number))) ?? false;
        if (lies) _medium?.Failed(_nodes, all ? null : number);
        // Of names nobody can find out that they are in memory only: a medium that lies about these, too, is beyond help.
        if (lies && all) _medium?.Named(_nodes, isSettled: true);
        else if (lies) return;
        else if (all) _medium?.Synced(_nodes);
        else _medium?.Synced(number, _nodes[number].Content);
    }

    /// <summary>
    /// Forgets what the computer keeps in memory of a file. What a sync that failed, or lied, counted as written is gone with that, and
    /// what the medium has comes to light.
    /// </summary>
    internal ReadFrom Forget(ulong number)
    {
        if (_medium is null || _medium.Has(number, _nodes[number].Content)) return ReadFrom.Medium;
        if (_medium.Reveal(number, _nodes[number].Content) is not { } kept) return ReadFrom.Cache;
        _nodes = _nodes.SetItem(number, _nodes[number] with { Content = kept });
        return ReadFrom.Medium;
    }

    private string PathOf(ulong number)
    {
        if (number == Top) return "/";
        foreach (var (above, node) in _nodes)
            foreach (var (name, below) in node.Names)
                if (below == number) return (above == Top ? "" : PathOf(above)) + "/" + System.Text.Encoding.UTF8.GetString(name.Bytes);
        return "?";
    }

    /// <summary>The node at a path below a folder, never through a link.</summary>
    internal ulong? Find(ulong folder, ReadOnlySpan<byte> path, out Trouble trouble)
    {
        trouble = default;
        var at = folder;
        while (!path.IsEmpty && trouble.Fault == Fault.None)
        {
            var cut = path.IndexOf((byte)'/');
            var name = cut < 0 ? path : path[..cut];
            path = cut < 0 ? [] : path[(cut + 1)..];
            var node = _nodes[at];
            if (node.Kind == NodeKind.Link) trouble = new(Fault.ThroughLink);
            else if (node.Kind != NodeKind.Folder) trouble = new(Fault.NotAFolder);
            else if (name.Length > LongestName) trouble = new(Fault.NameTooLong);
            else if (Standing(node, name) is not { } stands) trouble = new(Fault.NotThere);
            else at = node.Names[stands];
        }
        return trouble.Fault == Fault.None ? at : null;
    }

    /// <summary>The name in a folder that is this one to the disk.</summary>
    private ByteName? Standing(SimulatedNode folder, ReadOnlySpan<byte> name)
    {
        var exact = new ByteName(name.ToArray());
        if (folder.Names.ContainsKey(exact)) return exact;
        if (Folds is null) return null;
        var folded = Folds(System.Text.Encoding.UTF8.GetString(name));
        foreach (var stands in folder.Names.Keys)
            if (Folds(System.Text.Encoding.UTF8.GetString(stands.Bytes)) == folded) return stands;
        return null;
    }

    internal void Change(ulong number, Func<SimulatedNode, SimulatedNode> how, bool content = false)
    {
        var (node, now) = (how(_nodes[number]), Now());
        _nodes = _nodes.SetItem(number, node with { Changed = now, Modified = content ? now : node.Modified });
    }

    /// <summary>Makes a node without a name.</summary>
    internal ulong Make(NodeKind kind, ushort mode)
    {
        var now = Now();
        _nodes = _nodes.Add(++_last, new(kind, (ushort)(mode & ~0x12), now, now) { Links = 0 });
        return _last;
    }

    /// <summary>Gives a node a name where none stands.</summary>
    internal bool Name(ulong folder, ReadOnlySpan<byte> name, ulong number, out Trouble trouble)
    {
        if (!MayName(folder, name, out trouble)) return false;
        Put(folder, name.ToArray(), number);
        return true;
    }

    /// <summary>Whether a name could be given: the folder stands, and nothing bears it.</summary>
    internal bool MayName(ulong folder, ReadOnlySpan<byte> name, out Trouble trouble)
    {
        trouble = name.Length > LongestName ? new(Fault.NameTooLong)
            : name.IsEmpty || _nodes[folder].Links == 0 ? new(Fault.NotThere)
            : Standing(_nodes[folder], name) is not null ? new(Fault.Taken)
            : default;
        return trouble.Fault == Fault.None;
    }

    private void Put(ulong folder, byte[] name, ulong number)
    {
        var written = Forms is null ? name : System.Text.Encoding.UTF8.GetBytes(Forms(System.Text.Encoding.UTF8.GetString(name)));
        Change(folder, f => f with { Names = f.Names.SetItem(new(written), number) }, content: true);
        Change(number, n => n with { Links = n.Links + 1 });
        _medium?.Named(_nodes);
    }

    private void Drop(ulong folder, byte[] name)
    {
        var stands = Standing(_nodes[folder], name)!.Value;
        var number = _nodes[folder].Names[stands];
        Change(folder, f => f with { Names = f.Names.Remove(stands) }, content: true);
        Change(number, n => n with { Links = n.Links - 1 });
    }

    internal bool Remove(ulong folder, ReadOnlySpan<byte> name, bool isFolder, out Trouble trouble)
    {
        if (Find(folder, name, out trouble) is not { } number) return false;
        var node = _nodes[number];
        trouble = isFolder && node.Kind != NodeKind.Folder ? new(Fault.NotAFolder)
            : !isFolder && node.Kind == NodeKind.Folder ? new(Fault.IsAFolder)
            : isFolder && node.Names.Count > 0 ? new(Fault.NotEmpty)
            : default;
        if (trouble.Fault != Fault.None) return false;
        Drop(folder, name.ToArray());
        _medium?.Named(_nodes);
        return true;
    }

    internal bool Rename(
        ulong folder, ReadOnlySpan<byte> name, ulong to, ReadOnlySpan<byte> newName, bool replace, out Trouble trouble)
    {
        if (Find(folder, name, out trouble) is not { } number) return false;
        if (MayName(to, newName, out trouble))
        {
            if (IsIn(to, number)) trouble = new(Fault.Invalid);
            if (trouble.Fault != Fault.None) return false;
        }
        else if (trouble.Fault != Fault.Taken || !replace || !Gives(folder, number, to, newName, out trouble))
            return trouble.Fault == Fault.None;
        Drop(folder, name.ToArray());
        Put(to, newName.ToArray(), number);
        return true;
    }

    /// <summary>Whether what stands under the new name gave way; without trouble and false: both are one, nothing is to be done.</summary>
    private bool Gives(ulong folder, ulong number, ulong to, ReadOnlySpan<byte> newName, out Trouble trouble)
    {
        trouble = default;
        var stands = _nodes[to].Names[Standing(_nodes[to], newName)!.Value];
        var (mine, theirs) = (_nodes[number], _nodes[stands]);
        if (IsIn(to, number)) trouble = new(Fault.Invalid);
        else if (stands == number) return false;
        else if (IsIn(folder, stands)) trouble = new(Fault.NotEmpty);
        else if (mine.Kind == NodeKind.Folder && theirs.Kind != NodeKind.Folder) trouble = new(Fault.NotAFolder);
        else if (mine.Kind != NodeKind.Folder && theirs.Kind == NodeKind.Folder) trouble = new(Fault.IsAFolder);
        else if (theirs.Names.Count > 0) trouble = new(Fault.NotEmpty);
        if (trouble.Fault != Fault.None) return false;
        Drop(to, newName.ToArray());
        return true;
    }

    /// <summary>Whether a node is a folder or lies in it.</summary>
    private bool IsIn(ulong number, ulong folder) =>
        number == folder || _nodes[folder].Names.Values.Any(n => n == number || (_nodes[n].Kind == NodeKind.Folder && IsIn(number, n)));
}
