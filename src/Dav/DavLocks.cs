namespace YardRelay.Dav;

/// <summary>A write lock (RFC 4918, section 6).</summary>
internal sealed record DavLock(
    string Token, string Key, bool IsShared, bool IsDeep, string? OwnerXml, TimeSpan Timeout, DateTimeOffset Until)
{
    /// <summary>Whether the lock covers a resource.</summary>
    public bool Covers(string key) => key == Key || (IsDeep && (Key.Length == 0 || key.StartsWith(Key + "/", StringComparison.Ordinal)));

    /// <summary>Whether the locked resource lies in a tree.</summary>
    public bool LiesIn(string key) => key.Length == 0 || Key == key || Key.StartsWith(key + "/", StringComparison.Ordinal);
}

/// <summary>All locks of a share, in memory: a lock does not outlive the server, as clients must expect.</summary>
internal sealed class DavLocks(TimeProvider time)
{
    private readonly Lock _gate = new();
    private readonly List<DavLock> _locks = [];

    private void Expire() => _locks.RemoveAll(l => l.Until < time.GetUtcNow());

    public IReadOnlyList<DavLock> On(string key)
    {
        lock (_gate)
        {
            Expire();
            return [.. _locks.Where(l => l.Covers(key))];
        }
    }

    public IReadOnlyList<DavLock> In(string key)
    {
        lock (_gate)
        {
            Expire();
            return [.. _locks.Where(l => l.LiesIn(key))];
        }
    }

    /// <summary>Takes a lock; null when another is in the way.</summary>
    public DavLock? Take(string key, bool shared, bool deep, string? owner, TimeSpan timeout)
    {
        lock (_gate)
        {
            Expire();
            if (_locks.Any(l => (l.Covers(key) || (deep && l.LiesIn(key))) && !(shared && l.IsShared))) return null;
            var made = new DavLock("opaquelocktoken:" + Guid.NewGuid(), key, shared, deep, owner, timeout, time.GetUtcNow() + timeout);
            _locks.Add(made);
            return made;
        }
    }

    public DavLock? Refresh(string key, IEnumerable<string> tokens, TimeSpan timeout)
    {
        lock (_gate)
        {
            Expire();
            var at = _locks.FindIndex(l => l.Covers(key) && tokens.Contains(l.Token));
            return at < 0 ? null : _locks[at] = _locks[at] with { Timeout = timeout, Until = time.GetUtcNow() + timeout };
        }
    }

    public bool Release(string key, string token)
    {
        lock (_gate) return _locks.RemoveAll(l => l.Token == token && l.Covers(key)) > 0;
    }

    public void Forget(string key)
    {
        lock (_gate) _locks.RemoveAll(l => l.LiesIn(key));
    }
}
