namespace YardRelay.Carriage.Depots.Folders;

/// <summary>
/// The folders that files went to last, still open: the next file beside them needs no way through all folders above. They are let go of
/// when a folder is moved or removed by this depot; where somebody else did, the system says that they are gone, or what is read back by
/// its whole path is not there. For several threads at once.
/// </summary>
internal sealed class FoldersHeld : IDisposable
{
    private const int Most = 16;
    private readonly Dictionary<string, Held> _held = new(StringComparer.Ordinal);
    private readonly Lock _one = new();
    private long _turn;

    /// <summary>A folder to put names into; null: it is not there. The caller gives it back by closing it.</summary>
    /// <param name="open">Opens it, where it is not held.</param>
    public Held? Take(DepotPath folder, Func<OpenFolder?> open)
    {
        lock (_one)
            if (_held.TryGetValue(folder.Text, out var held))
            {
                held.Turn = ++_turn;
                return held.Share();
            }
        if (open() is not { } opened) return null;
        var mine = new Held(opened);
        lock (_one)
        {
            if (!_held.TryAdd(folder.Text, mine)) return mine;
            mine.Turn = ++_turn;
            if (_held.Count > Most)
            {
                var oldest = _held.MinBy(h => h.Value.Turn);
                _held.Remove(oldest.Key);
                oldest.Value.Dispose();
            }
            return mine.Share();
        }
    }

    /// <summary>Lets go of all.</summary>
    public void LetGo()
    {
        lock (_one)
        {
            foreach (var held in _held.Values) held.Dispose();
            _held.Clear();
        }
    }

    /// <inheritdoc/>
    public void Dispose() => LetGo();

    /// <summary>An open folder that is closed when the last who has it gives it back.</summary>
    public sealed class Held(OpenFolder folder) : IDisposable
    {
        private int _users = 1;

        /// <summary>The folder.</summary>
        public OpenFolder Folder => folder;

        internal long Turn { get; set; }

        internal Held Share()
        {
            Interlocked.Increment(ref _users);
            return this;
        }

        /// <inheritdoc/>
        public void Dispose()
        {
            if (Interlocked.Decrement(ref _users) == 0) folder.Dispose();
        }
    }
}
