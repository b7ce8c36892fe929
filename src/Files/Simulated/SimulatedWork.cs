using System.Threading.Channels;
using YardRelay.Files.Working;

namespace YardRelay.Files.Simulated;

/// <summary>How a simulated program ended.</summary>
public enum SimulatedEnd
{
    /// <summary>By itself, well or with an exception.</summary>
    Ended,

    /// <summary>It was killed: nothing of it runs any more, not even to tidy up.</summary>
    Killed,
}

/// <summary>A simulated program waits for something that nothing under way will ever bring about.</summary>
public sealed class SimulatedDeadlockException() : InvalidOperationException("All of it waits, and nothing is under way.");

/// <summary>A simulated program works, and does not come to an end.</summary>
public sealed class SimulatedEndlessException(DateTimeOffset now) : InvalidOperationException($"It goes on for ever; there it is {now:O}.");

/// <summary>A simulated program went on outside the one thread on which it can be had again.</summary>
public sealed class LeftSimulationException(string where)
    : InvalidOperationException("It went on on another thread, so that it cannot be had again: " + where);

/// <summary>A simulated program is dead; who catches this does so in vain.</summary>
public sealed class KilledException() : Exception("The program was killed.");

/// <summary>
/// The work of one simulated program: all on the caller's thread. What is ready takes turns by the seed; where nothing is ready, time
/// moves on to the next wait that ends; where none does, it is a deadlock that was found.
/// </summary>
/// <param name="clock">What time it is; shared with all that happens at the same time.</param>
/// <param name="seed">Who has the next turn, and all else that is chance.</param>
public sealed class SimulatedWork(SimulatedClock clock, int seed) : IWork
{
    private readonly Turns _turns = new(clock, new(seed));
    private readonly Random _random = new(seed ^ 0x5EED);

    /// <inheritdoc/>
    public TimeProvider Time => _turns.Time;

    /// <inheritdoc/>
    public int Cores => 2;

    /// <inheritdoc/>
    public TimeSpan ProcessorTime => TimeSpan.Zero;

    /// <summary>Turns that were taken: two runs of one seed take as many.</summary>
    public long Taken => _turns.Taken;

    /// <summary>Runs a program to its end, or until it is killed.</summary>
    /// <param name="program">What it does.</param>
    /// <param name="outcome">Its outcome, where it ended; completed.</param>
    /// <exception cref="SimulatedDeadlockException">It waits for ever.</exception>
    /// <exception cref="LeftSimulationException">It went on on another thread.</exception>
    public SimulatedEnd Run<T>(Func<Task<T>> program, out Task<T>? outcome)
    {
        var before = SynchronizationContext.Current;
        SynchronizationContext.SetSynchronizationContext(null);
        try
        {
            outcome = Start(program);
            if (_turns.TakeUntil(outcome)) return SimulatedEnd.Ended;
            outcome = null;
            return SimulatedEnd.Killed;
        }
        finally
        {
            SynchronizationContext.SetSynchronizationContext(before);
        }
    }

    /// <summary>Kills the program. Called from within it, does not return.</summary>
    /// <exception cref="KilledException">Always.</exception>
    public void Kill()
    {
        _turns.Stop();
        throw new KilledException();
    }

    /// <inheritdoc/>
    public Task<T> Start<T>(Func<Task<T>> what) => _turns.Start(what).Unwrap();

    /// <inheritdoc/>
    public Task Start(Func<Task> what) => _turns.Start(what).Unwrap();

    /// <inheritdoc/>
    public T Wait<T>(Func<Task<T>> what)
    {
        var waited = Start(what);
        if (!_turns.TakeUntil(waited)) throw new KilledException();
        return waited.GetAwaiter().GetResult();
    }

    /// <inheritdoc/>
    public IGate Gate(int places) => new SimulatedGate(places, Time);

    /// <inheritdoc/>
    public Channel<T> Pipe<T>(int most) => new SimulatedPipe<T>(most);

    /// <inheritdoc/>
    public TaskCompletionSource<T> Promise<T>() => new();

    /// <inheritdoc/>
    public Task CancelAsync(CancellationTokenSource source)
    {
        source.Cancel();
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public Guid NewId()
    {
        Span<byte> bytes = stackalloc byte[16];
        _random.NextBytes(bytes);
        return new(bytes);
    }

    /// <inheritdoc/>
    public Temporary Temporary() => new InMemory();

    private sealed class InMemory : Temporary
    {
        private readonly MemoryStream _all = new();

        public override Stream Into => _all;

        public override int Read(long at, Span<byte> into)
        {
            var left = _all.GetBuffer().AsSpan(0, (int)_all.Length)[(int)Math.Min(at, _all.Length)..];
            var got = Math.Min(left.Length, into.Length);
            left[..got].CopyTo(into);
            return got;
        }

        public override void Dispose() => _all.Dispose();
    }

    /// <summary>Who waits for a place has it when its turn comes.</summary>
    private sealed class SimulatedGate(int places, TimeProvider time) : IGate
    {
        private readonly LinkedList<TaskCompletionSource<bool>> _waiting = [];
        private int _free = places;

        public Task WaitAsync(CancellationToken cancel) => WaitAsync(Timeout.InfiniteTimeSpan, cancel);

        public async Task<bool> WaitAsync(TimeSpan patience, CancellationToken cancel)
        {
            cancel.ThrowIfCancellationRequested();
            if (_free > 0)
            {
                _free--;
                return true;
            }
            var mine = new TaskCompletionSource<bool>();
            _waiting.AddLast(mine);
            using var told = cancel.Register(() => mine.TrySetCanceled(cancel));
            await using var over = patience == Timeout.InfiniteTimeSpan
                ? null
                : time.CreateTimer(_ => mine.TrySetResult(false), null, patience, Timeout.InfiniteTimeSpan);
            return await mine.Task;
        }

        public void Release(int places)
        {
            for (_free += places; _free > 0 && _waiting.First is { } next;)
            {
                _waiting.RemoveFirst();
                if (next.Value.TrySetResult(true)) _free--;
            }
        }

        public void Dispose()
        {
        }
    }

    /// <summary>What is ready, and what waits for time to pass.</summary>
    private sealed class Turns(SimulatedClock clock, Random random) : TaskScheduler
    {
        // So many only one takes that never comes to an end.
        private const long Most = 5_000_000;
        private readonly List<Task> _ready = [];
        private readonly int _thread = Environment.CurrentManagedThreadId;
        private string? _left;
        private bool _isOver;

        public Timers Time { get; } = new(clock);

        public long Taken { get; private set; }

        public Task<T> Start<T>(Func<T> what) =>
            Task.Factory.StartNew(what, CancellationToken.None, TaskCreationOptions.DenyChildAttach, this);

        /// <returns>False where it was stopped before.</returns>
        public bool TakeUntil(Task done)
        {
            while (!done.IsCompleted && !_isOver)
            {
                if (Volatile.Read(ref _left) is { } where) throw new LeftSimulationException(where);
                if (_ready.Count == 0)
                {
                    if (!Time.MoveOn()) throw new SimulatedDeadlockException();
                    continue;
                }
                var next = random.Next(_ready.Count);
                var task = _ready[next];
                _ready.RemoveAt(next);
                if (++Taken > Most) throw new SimulatedEndlessException(clock.Now);
                TryExecuteTask(task);
            }
            return !_isOver;
        }

        public void Stop()
        {
            _isOver = true;
            _ready.Clear();
        }

        protected override void QueueTask(Task task)
        {
            if (Environment.CurrentManagedThreadId != _thread) Volatile.Write(ref _left, Environment.StackTrace);
            else if (!_isOver) _ready.Add(task);
        }

        protected override bool TryExecuteTaskInline(Task task, bool taskWasPreviouslyQueued) => false;

        protected override IEnumerable<Task> GetScheduledTasks() => _ready;
    }

    /// <summary>The waits of one program.</summary>
    private sealed class Timers(SimulatedClock clock) : TimeProvider
    {
        private readonly List<Waiting> _waiting = [];
        private long _number;

        private sealed class Waiting(Timers all, TimerCallback callback, object? state) : ITimer
        {
            public DateTimeOffset At { get; private set; }

            public long Number { get; private set; }

            public void Fire()
            {
                all._waiting.Remove(this);
                callback(state);
            }

            public bool Change(TimeSpan dueTime, TimeSpan period)
            {
                all._waiting.Remove(this);
                if (dueTime == Timeout.InfiniteTimeSpan) return true;
                (At, Number) = (all.GetUtcNow() + dueTime, all._number++);
                all._waiting.Add(this);
                return true;
            }

            public void Dispose() => all._waiting.Remove(this);

            public ValueTask DisposeAsync()
            {
                Dispose();
                return ValueTask.CompletedTask;
            }
        }

        public override long TimestampFrequency => clock.TimestampFrequency;

        public override DateTimeOffset GetUtcNow() => clock.GetUtcNow();

        public override long GetTimestamp() => clock.GetTimestamp();

        public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period)
        {
            if (period != Timeout.InfiniteTimeSpan && period != TimeSpan.Zero) throw new NotSupportedException("Nothing here comes again.");
            var timer = new Waiting(this, callback, state);
            timer.Change(dueTime, period);
            return timer;
        }

        /// <summary>Lets time pass until the next wait is over; false where nobody waits.</summary>
        public bool MoveOn()
        {
            if (_waiting.MinBy(w => (w.At, w.Number)) is not { } next) return false;
            if (next.At > clock.Now) clock.Pass(next.At - clock.Now);
            next.Fire();
            return true;
        }
    }
}
