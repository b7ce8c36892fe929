namespace YardRelay.Service;

/// <summary>
/// Gives memory back after a large piece of work: a roster of 20,000 rows, or a plan for them, leaves a heap behind that is mostly empty,
/// and a service that is otherwise quiet would keep it for hours.
/// </summary>
internal sealed class MemoryKeeper(TimeProvider time) : BackgroundService
{
    private const long Enough = 300L << 20;
    private const int LongestPause = 30;
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(20);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, time);
        try
        {
            // Where it gives nothing back, what is there is in use, and the next try may wait longer.
            for (var (pause, left) = (1, 0); await timer.WaitForNextTickAsync(stoppingToken); left--)
            {
                var before = GC.GetGCMemoryInfo(GCKind.Any).TotalCommittedBytes;
                if (before < Enough || left > 0) continue;
                GC.Collect(2, GCCollectionMode.Aggressive, blocking: true, compacting: true);
                pause = GC.GetGCMemoryInfo(GCKind.Any).TotalCommittedBytes > before * 4 / 5 ? Math.Min(pause * 2, LongestPause) : 1;
                left = pause;
            }
        }
        catch (OperationCanceledException)
        {
            // The service ends.
        }
    }
}
