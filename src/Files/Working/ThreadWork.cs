using System.Threading.Channels;

namespace YardRelay.Files.Working;

/// <summary>Work on the framework's own threads.</summary>
/// <param name="time">What time it is there.</param>
public sealed class ThreadWork(TimeProvider time) : IWork
{
    /// <summary>That of this program, by the computer's clock.</summary>
    public static ThreadWork Here { get; } = new(TimeProvider.System);

    /// <inheritdoc/>
    public TimeProvider Time => time;

    /// <inheritdoc/>
    public int Cores => Environment.ProcessorCount;

    /// <inheritdoc/>
    public TimeSpan ProcessorTime => Environment.CpuUsage.TotalTime;

    /// <inheritdoc/>
    public Task<T> Start<T>(Func<Task<T>> what) => Task.Run(what, CancellationToken.None);

    /// <inheritdoc/>
    public Task Start(Func<Task> what) => Task.Run(what, CancellationToken.None);

    /// <inheritdoc/>
    public T Wait<T>(Func<Task<T>> what) => Task.Run(what, CancellationToken.None).GetAwaiter().GetResult();

    /// <inheritdoc/>
    public IGate Gate(int places) => new SlimGate(places);

    /// <inheritdoc/>
    public Channel<T> Pipe<T>(int most) =>
        Channel.CreateBounded<T>(new BoundedChannelOptions(most) { SingleReader = true, SingleWriter = true });

    /// <inheritdoc/>
    public TaskCompletionSource<T> Promise<T>() => new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <inheritdoc/>
    public Task CancelAsync(CancellationTokenSource source) => source.CancelAsync();

    /// <inheritdoc/>
    public Guid NewId() => Guid.NewGuid();

    /// <inheritdoc/>
    public Temporary Temporary() => new TemporaryFile();

    private sealed class SlimGate(int places) : IGate
    {
        private readonly SemaphoreSlim _free = new(places);

        public Task WaitAsync(CancellationToken cancel) => _free.WaitAsync(cancel);

        public Task<bool> WaitAsync(TimeSpan patience, CancellationToken cancel) => _free.WaitAsync(patience, cancel);

        public void Release(int places) => _free.Release(places);

        public void Dispose() => _free.Dispose();
    }
}
