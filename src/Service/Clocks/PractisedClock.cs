using System.Globalization;

namespace YardRelay.Service.Clocks;

/// <summary>
/// The computer's clock, ahead of it by what a file says, for a rehearsal: a weekend's work is tried on a Thursday, a hold of ten days
/// ends at once. The file is looked at anew several times a second, so that whoever rehearses drives the time while the service runs.
/// Waits take as long as ever; only what time it is differs.
/// </summary>
/// <param name="file">Holds one time span as <c>[-][days.]hh:mm:ss</c>; while it cannot be read, the last one stands.</param>
internal sealed class PractisedClock(string file) : TimeProvider
{
    private static readonly TimeSpan LooksEvery = TimeSpan.FromMilliseconds(100);
    private readonly Lock _lock = new();
    private TimeSpan _ahead = Read(file) ?? throw new FormatException($"'{file}' does not hold a time span such as 2.00:30:00.");
    private long _looked = System.GetTimestamp();

    /// <summary>How far this clock is ahead of the computer's.</summary>
    public TimeSpan Ahead
    {
        get
        {
            lock (_lock)
            {
                if (System.GetElapsedTime(_looked) < LooksEvery) return _ahead;
                (_ahead, _looked) = (Read(file) ?? _ahead, System.GetTimestamp());
                return _ahead;
            }
        }
    }

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;

    /// <summary>What the file says now; null where it is away, in use or holds something else.</summary>
    public static TimeSpan? Read(string file)
    {
        try
        {
            return TimeSpan.TryParse(File.ReadAllText(file).Trim(), CultureInfo.InvariantCulture, out var ahead) ? ahead : null;
        }
        catch (Exception away) when (away is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
