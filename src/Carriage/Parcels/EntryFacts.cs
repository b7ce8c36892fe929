
namespace YardRelay.Carriage.Parcels;

/// <summary>An entry with what the file system says of its file.</summary>
internal static class EntryFacts
{
    // The kernel stamps files by its tick, so a change right after our read could bear the same time.
    private static readonly TimeSpan TooFresh = TimeSpan.FromMilliseconds(50);

    /// <summary>The entry with all that an open file says of itself.</summary>
    public static Entry Described(Entry entry, OpenFile file, NodeFacts facts, TimeProvider time) => entry with
    {
        Mode = facts.Mode,
        Modified = facts.Modified,
        Bytes = facts.Bytes,
        Inode = facts.Inode,
        Changed = time.GetUtcNow()
            - DateTimeOffset.FromUnixTimeSeconds(Math.Clamp(facts.Changed.Seconds, 0, 4_000_000_000))
                .AddTicks(facts.Changed.Nanos / 100) > TooFresh
            ? facts.Changed
            : null,
        Attributes = file.Attributes(),
        Data = facts.MayBeSparse ? file.DataStretches(facts.Bytes) : null,
    };
}
