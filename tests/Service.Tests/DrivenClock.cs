namespace YardRelay.Service.Tests;

/// <summary>
/// The service's clock in a test: a Wednesday at seven past nine, whatever day the suite runs on, that goes on as real time does and
/// jumps when it is told to. It lies ahead, so that no cookie that the service gives is over for whoever keeps it, and not so far that time
/// zones are unknown.
/// </summary>
public sealed class DrivenClock : TimeProvider
{
    private static readonly DateTimeOffset Begins = new(2035, 3, 7, 9, 7, 0, TimeSpan.Zero);

    /// <summary>The day on which a test begins.</summary>
    public static DateOnly Today { get; } = DateOnly.FromDateTime(Begins.UtcDateTime);

    private readonly long _begun = System.GetTimestamp();
    private long _ahead;

    public override DateTimeOffset GetUtcNow() => Begins + System.GetElapsedTime(_begun) + TimeSpan.FromTicks(Interlocked.Read(ref _ahead));

    /// <summary>Jumps; waits that are under way take as long as ever.</summary>
    public void Jump(TimeSpan by) => Interlocked.Add(ref _ahead, by.Ticks);
}
