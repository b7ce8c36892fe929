namespace YardRelay.Carriage.Tests;

/// <summary>
/// Time that passes only while everybody who works waits for it: what is written to a disk takes none, however slow the machine is, so
/// hours go by in a blink and always in the same order.
/// </summary>
public sealed class VirtualClock
{
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(60);
    private readonly Lock _lock = new();
    private readonly List<Waiting> _waiting = [];
    private readonly DateTimeOffset _start = DateTimeOffset.UtcNow;
    private TimeSpan _gone;

    private sealed class Waiting(VirtualClock clock, Action due, Party? whose, TimeSpan at, TimeSpan period) : ITimer
    {
        public Party? Whose => whose;

        public TimeSpan At { get; private set; } = at;

        public void Fire()
        {
            if (period > TimeSpan.Zero) At += period;
            else Dispose();
            due();
        }

        public bool Change(TimeSpan dueTime, TimeSpan period) => throw new NotSupportedException("Nothing here changes a timer.");

        public void Dispose()
        {
            lock (clock._lock) clock._waiting.Remove(this);
        }

        public ValueTask DisposeAsync()
        {
            Dispose();
            return ValueTask.CompletedTask;
        }
    }

    /// <summary>Somebody who lives by this clock, or by one that is ahead of it.</summary>
    public sealed class Party(VirtualClock clock, TimeSpan ahead) : TimeProvider
    {
        /// <summary>Whether it waits for time to pass, and does nothing else.</summary>
        public bool Waits
        {
            get
            {
                lock (clock._lock) return clock._waiting.Exists(w => w.Whose == this);
            }
        }

        public override long TimestampFrequency => TimeSpan.TicksPerSecond;

        public override DateTimeOffset GetUtcNow() => clock._start + clock._gone + ahead;

        public override long GetTimestamp() => clock._gone.Ticks;

        public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period)
        {
            lock (clock._lock)
            {
                var timer = new Waiting(clock, () => callback(state), this, clock._gone + dueTime, period);
                if (dueTime >= TimeSpan.Zero) clock._waiting.Add(timer);
                return timer;
            }
        }
    }

    public Party Join(TimeSpan ahead = default) => new(this, ahead);

    /// <summary>Does something again and again, by itself and at once, so that it comes before all that is due later.</summary>
    public ITimer Every(TimeSpan period, Action action)
    {
        lock (_lock)
        {
            var timer = new Waiting(this, action, null, _gone + period, period);
            _waiting.Add(timer);
            return timer;
        }
    }

    /// <summary>Lets time pass until all of them are done.</summary>
    public async Task<T[]> RunAsync<T>(params (Party Party, Task<T> Work)[] all)
    {
        await DriveAsync(() => all.All(a => a.Work.IsCompleted), () => all.All(a => a.Work.IsCompleted || a.Party.Waits));
        return await Task.WhenAll(all.Select(a => a.Work));
    }

    /// <summary>Lets time pass for one until something is so.</summary>
    public Task UntilAsync(Party party, Func<bool> isSo) => DriveAsync(isSo, () => party.Waits);

    private async Task DriveAsync(Func<bool> isOver, Func<bool> everybodyWaits)
    {
        var began = TimeProvider.System.GetTimestamp();
        while (!isOver())
        {
            if (TimeProvider.System.GetElapsedTime(began) > LongestWait) throw new TimeoutException("It did not come about.");
            Waiting? next = null;
            lock (_lock)
            {
                // Once more: who was about to end may have ended since.
                if (everybodyWaits() && !isOver() && (next = _waiting.MinBy(w => w.At)) is not null) _gone = next.At;
            }
            if (next is null) await Task.Delay(1);
            else next.Fire();
        }
    }
}
