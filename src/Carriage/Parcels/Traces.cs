namespace YardRelay.Carriage.Parcels;

/// <summary>
/// From when on a change of a file leaves a trace in its times. A program that has a file mapped into its memory leaves one only with the
/// first change of a page after the system last wrote that page to the medium: what was changed shortly before a trip could change once
/// more and look as it did.
/// </summary>
/// <param name="At">When the source was brought onto its medium.</param>
/// <param name="Device">The mount that was; null: none was.</param>
internal readonly record struct Traces(DateTimeOffset At, ulong? Device)
{
    // The kernel stamps files by its tick, so a change right after could bear the same time.
    private static readonly TimeSpan Tick = TimeSpan.FromMilliseconds(50);

    // Where nothing was asked for, systems write what was changed in memory after half a minute by themselves.
    private static readonly TimeSpan ByItself = TimeSpan.FromMinutes(1);

    /// <summary>Whether the time of a file's last change tells of every later one; else it is read again by the next trip.</summary>
    public bool Tell(in NodeFacts facts) =>
        At - DateTimeOffset.FromUnixTimeSeconds(Math.Clamp(facts.Changed.Seconds, 0, 4_000_000_000)).AddTicks(facts.Changed.Nanos / 100)
            > (facts.Device == Device ? Tick : ByItself);

    /// <summary>Brings a source onto its medium; nothing of it changes.</summary>
    public static Traces Begin(TreeRoot source, TimeProvider time)
    {
        var now = time.GetUtcNow();
        try
        {
            using var open = source.Open();
            open.Sync();
            return new(now, open.Facts().Device);
        }
        catch (FileTroubleException)
        {
            // A medium that takes nothing any more can still be read.
            return new(now, null);
        }
    }
}
