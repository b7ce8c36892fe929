namespace YardRelay.Files.Simulated;

/// <summary>A clock that stands still until somebody moves it on; simulated disks and simulated work tell the same time by it.</summary>
/// <param name="now">What time it is at first.</param>
public sealed class SimulatedClock(DateTimeOffset now) : TimeProvider
{
    /// <summary>What time it is.</summary>
    public DateTimeOffset Now { get; private set; } = now;

    /// <inheritdoc/>
    public override long TimestampFrequency => TimeSpan.TicksPerSecond;

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow() => Now;

    /// <inheritdoc/>
    public override long GetTimestamp() => Now.UtcTicks;

    /// <summary>Lets so much time pass.</summary>
    public void Pass(TimeSpan time) => Now += time;

    /// <inheritdoc/>
    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
        throw new NotSupportedException("Who waits by this clock is some simulated work.");
}
