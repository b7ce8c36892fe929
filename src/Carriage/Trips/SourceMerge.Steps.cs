using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <content>How steps come out, and what is on its way.</content>
internal sealed partial class SourceMerge
{
    private ValueTask PutAsync(Step step, CancellationToken cancel)
    {
        _batch.Add(step);
        return _batch.Count < (step.Same ? Batch : SmallBatch) ? ValueTask.CompletedTask : FlushAsync(cancel);
    }

    private ValueTask FlushAsync(CancellationToken cancel)
    {
        if (_batch.Count == 0) return ValueTask.CompletedTask;
        var full = _batch;
        _batch = new(SmallBatch);
        return WriteAsync(full, cancel);
    }

    /// <summary>Waits until one more may go on its way. Meanwhile all that was found so far is known to whoever takes it.</summary>
    private async ValueTask WaitForPlaceAsync(CancellationToken cancel)
    {
        var place = carrier.HasPlaceAsync(Patience, cancel);
        if (!place.IsCompleted) await FlushAsync(cancel);
        while (!await place)
        {
            carrier.Hurry();
            place = carrier.HasPlaceAsync(Patience, cancel);
        }
    }

    // The last one that ends says so.
    private void Done()
    {
        if (Interlocked.Decrement(ref _running) == 0) _allAreDone.TrySetResult(true);
    }

    // Where the taker waits for a file that is only gathered yet, that one must go. One that takes more slowly than is found here waits for
    // nothing.
    private async ValueTask WriteAsync(List<Step> steps, CancellationToken cancel)
    {
        while (!_out.Writer.TryWrite(steps))
        {
            var room = _out.Writer.WaitToWriteAsync(cancel).AsTask();
            if (await Task.WhenAny(room, Task.Delay(Patience, work.Time, cancel)) != room) carrier.Hurry();
            cancel.ThrowIfCancellationRequested();
        }
    }
}
