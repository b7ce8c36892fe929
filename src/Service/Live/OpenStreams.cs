using System.Collections.Concurrent;

namespace YardRelay.Service.Live;

/// <summary>How many live streams are open at once in this process, by session and by account.</summary>
internal sealed class OpenStreams
{
    /// <summary>Of one session: a browser's tabs.</summary>
    public const int MostOfSession = 12;

    /// <summary>Of one account, over all its sessions.</summary>
    public const int MostOfAccount = 60;

    private readonly ConcurrentDictionary<string, int> _open = new();

    /// <summary>Takes a place, given back when what is returned is disposed of; null: there is none.</summary>
    public IDisposable? Take(string session, string account)
    {
        var (first, second) = ($"session {session}", $"account {account}");
        if (!Add(first, MostOfSession)) return null;
        if (Add(second, MostOfAccount)) return new Place(() =>
        {
            Remove(first);
            Remove(second);
        });
        Remove(first);
        return null;
    }

    private bool Add(string of, int most)
    {
        if (_open.AddOrUpdate(of, 1, (_, n) => n + 1) <= most) return true;
        Remove(of);
        return false;
    }

    private void Remove(string of)
    {
        // Nobody's count is kept: names that were here once would fill the memory.
        if (_open.AddOrUpdate(of, 0, (_, n) => n - 1) <= 0) _open.TryRemove(new(of, 0));
    }

    private sealed class Place(Action giveBack) : IDisposable
    {
        private int _isBack;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref _isBack, 1) == 0) giveBack();
        }
    }
}
