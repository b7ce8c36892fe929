using System.Runtime.CompilerServices;
using System.Threading.Channels;

namespace YardRelay.Files.Simulated;

/// <summary>A pipe whose two ends wait and go on within one simulated program, whoever awaits them.</summary>
internal sealed class SimulatedPipe<T> : Channel<T>
{
    private readonly Queue<T> _waiting = new();
    private readonly int _most;
    private TaskCompletionSource _changed = new();
    private bool _isOver;
    private Exception? _broke;

    /// <param name="most">How many wait in it at most.</param>
    public SimulatedPipe(int most)
    {
        _most = most;
        (Reader, Writer) = (new End(this), new Start(this));
    }

    /// <summary>Waits until something is so.</summary>
    private async ValueTask UntilAsync(Func<bool> isSo, CancellationToken cancel)
    {
        while (!isSo())
        {
            cancel.ThrowIfCancellationRequested();
            var stopped = new TaskCompletionSource();
            using var told = cancel.Register(() => stopped.TrySetResult());
            await Task.WhenAny(_changed.Task, stopped.Task);
        }
    }

    private void Changed()
    {
        var before = _changed;
        _changed = new();
        before.SetResult();
    }

    private sealed class Start(SimulatedPipe<T> pipe) : ChannelWriter<T>
    {
        private bool IsDecided => pipe._isOver || pipe._waiting.Count < pipe._most;

        public override bool TryWrite(T item)
        {
            if (pipe._isOver || pipe._waiting.Count >= pipe._most) return false;
            pipe._waiting.Enqueue(item);
            pipe.Changed();
            return true;
        }

        public override async ValueTask<bool> WaitToWriteAsync(CancellationToken cancellationToken = default)
        {
            await pipe.UntilAsync(() => IsDecided, cancellationToken);
            return pipe._broke is { } broke ? throw broke : !pipe._isOver;
        }

        public override async ValueTask WriteAsync(T item, CancellationToken cancellationToken = default)
        {
            while (!TryWrite(item))
                if (!await WaitToWriteAsync(cancellationToken)) throw new ChannelClosedException(pipe._broke);
        }

        public override bool TryComplete(Exception? error = null)
        {
            if (pipe._isOver) return false;
            (pipe._isOver, pipe._broke) = (true, error);
            pipe.Changed();
            return true;
        }
    }

    private sealed class End(SimulatedPipe<T> pipe) : ChannelReader<T>
    {
        public override bool TryRead(out T item)
        {
            if (!pipe._waiting.TryDequeue(out item!)) return false;
            pipe.Changed();
            return true;
        }

        public override async ValueTask<bool> WaitToReadAsync(CancellationToken cancellationToken = default)
        {
            await pipe.UntilAsync(() => pipe._isOver || pipe._waiting.Count > 0, cancellationToken);
            return pipe._waiting.Count > 0 || (pipe._broke is { } broke ? throw broke : false);
        }

        public override async IAsyncEnumerable<T> ReadAllAsync(
            [EnumeratorCancellation] CancellationToken cancellationToken = default)
        {
            while (await WaitToReadAsync(cancellationToken))
                while (TryRead(out var item))
                    yield return item;
        }
    }
}
