namespace YardRelay.Carriage.Trips;

/// <summary>
/// One value for each folder of a tree, while a walk goes on: the folder is the first part of a path, '.' for files beside the folders.
/// Names come folder by folder, so the last value is kept at hand. For one thread at a time.
/// </summary>
internal sealed class PerFolder<T> where T : class, new()
{
    private readonly SortedDictionary<string, T> _folders = new(StringComparer.Ordinal);
    private string? _lastName;
    private T? _last;

    /// <summary>The folders, by name, with their values.</summary>
    public IEnumerable<KeyValuePair<string, T>> All => _folders;

    /// <summary>
    /// The value of the folder that a path lies in; new where this is the first that is heard of it. A folder itself is asked for with its
    /// '/'.
    /// </summary>
    public T Of(string shown)
    {
        var slash = shown.IndexOf('/', StringComparison.Ordinal);
        var folder = slash > 0 ? shown.AsSpan(0, slash) : ".";
        if (_last is not null && folder.SequenceEqual(_lastName)) return _last;
        _lastName = folder.ToString();
        if (!_folders.TryGetValue(_lastName, out _last)) _folders[_lastName] = _last = new();
        return _last;
    }
}
