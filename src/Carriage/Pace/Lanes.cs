using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Pace;

/// <summary>Lets so many files go at once as the way to the depot is worth, by <see cref="LaneRule"/>.</summary>
internal sealed class Lanes(int first, Odometer progress, IWork work) : IDisposable
{
    /// <summary>
    /// Never more at once; some more than a depot has connections, so that none of these waits for the next file to be opened.
    /// </summary>
    public const int Most = 40;

    // What a file costs beside its bytes, in bytes: requests, names, a look.
    private const long PerFile = 32 * 1024;
    private static readonly TimeSpan LookEvery = TimeSpan.FromMilliseconds(200);
    private static readonly TimeSpan WhileItClimbs = TimeSpan.FromMilliseconds(100);

    private readonly IGate _free = work.Gate(first);
    private readonly LaneRule _rule = new(first, Math.Max(first, Most));
    private readonly Lock _looking = new();
    private long _lookedAt = work.Time.GetTimestamp();
    private long _done;
    private TimeSpan _worked = work.ProcessorTime;
    private bool _climbs = true;
    private int _tooMany;
    private int _files;

    /// <summary>Waits for a lane.</summary>
    public Task WaitAsync(CancellationToken cancel) => _free.WaitAsync(cancel);

    /// <summary>Does something in a lane, once one is free.</summary>
    public async Task<T> TakeAsync<T>(Func<Task<T>> what, CancellationToken cancel)
    {
        await _free.WaitAsync(cancel);
        try
        {
            return await what();
        }
        finally
        {
            Release();
        }
    }

    /// <summary>Does something in a lane, once one is free.</summary>
    public Task TakeAsync(Func<Task> what, CancellationToken cancel) => TakeAsync(async () =>
    {
        await what();
        return true;
    }, cancel);

    /// <summary>Leaves a lane: so many files are done.</summary>
    public void Release(int files = 1)
    {
        lock (_looking)
        {
            _files += files;
            if (work.Time.GetElapsedTime(_lookedAt) >= (_climbs ? WhileItClimbs : LookEvery)) Look();
            if (_tooMany > 0) _tooMany--;
            else _free.Release();
        }
    }

    private void Look()
    {
        var (now, done, worked) = (work.Time.GetTimestamp(), progress.Bytes + (_files * PerFile), work.ProcessorTime);
        var seconds = work.Time.GetElapsedTime(_lookedAt, now).TotalSeconds;
        var before = _rule.Width;
        var more = _rule.Look((done - _done) / seconds, (worked - _worked).TotalSeconds / seconds / work.Cores) - before;
        _climbs = more > 0;
        (_lookedAt, _done, _worked) = (now, done, worked);
        if (more < 0) _tooMany -= more;
        else if (more > 0)
        {
            var back = Math.Min(more, _tooMany);
            _tooMany -= back;
            if (more > back) _free.Release(more - back);
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _free.Dispose();
}
