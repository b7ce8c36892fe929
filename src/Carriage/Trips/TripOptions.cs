using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Carriage.Trips;

/// <summary>How a trip is made.</summary>
public sealed record TripOptions
{
    /// <summary>
    /// Files carried at once in the beginning; 1 to 32. More go where the depot makes that worth it. Default: two for each core, at least
    /// 4, and at least so many as are digested side by side.
    /// </summary>
    public int AtOnce { get; init; } = Math.Max(Math.Max(4, StreamDigest.AtOnce), Environment.ProcessorCount * 2);

    /// <summary>Reads each staged file back from the depot and compares. Default: yes.</summary>
    public bool ReadBack { get; init; } = true;

    /// <summary>Tries for a file that changes while it is read; 1 to 10.</summary>
    public int TriesPerFile { get; init; } = 3;

    /// <summary>Longest time between two entries of the journal.</summary>
    public TimeSpan JournalEvery { get; init; } = TimeSpan.FromSeconds(2);

    /// <summary>Most files between two entries of the journal.</summary>
    public int JournalFiles { get; init; } = 4000;

    /// <summary>What comes along. Default: everything.</summary>
    public CarryList CarryList { get; init; } = CarryList.Everything;

    /// <summary>
    /// By which folders are known that stay because nobody would miss them; for a trip without a carry list, which has said so already.
    /// Default: none, and everything comes along.
    /// </summary>
    public PlaceRules? Places { get; init; }

    /// <summary>
    /// Where the depot has less room than there is to bring: brings what is needed first, as far as it fits, and names what stays for want
    /// of room. Default: no; a full depot ends the trip.
    /// </summary>
    public bool ByNeed { get; init; }

    /// <summary>Reads every file at both ends, also those that look as they did. Default: no.</summary>
    public bool ReadsAll { get; init; }

    /// <summary>
    /// Whether nobody looks any more after this trip: it looks at the source until a look finds nothing new, and names what is still
    /// written to. Default: no.
    /// </summary>
    public bool IsClosing { get; init; }

    /// <summary>How a new parcel is sealed. Default: not at all.</summary>
    public SealingWish? Sealing { get; init; }

    /// <summary>Keys for a sealed parcel that is there already, and where this computer keeps them.</summary>
    public SealKeys Keys { get; init; } = SealKeys.None;

    /// <summary>Name of this computer, as evidence for the next trip.</summary>
    public string Computer { get; init; } = Environment.MachineName;

    /// <summary>The label that the disk must bear which is carried; it stays there itself. Null: any disk will do.</summary>
    public string? SourceLabel { get; init; }

    /// <summary>What a named person said of a source that did not look like the one before; null: nobody was asked.</summary>
    public SourceAnswer? Answer { get; init; }

    /// <summary>Told as soon as the parcel is made or opened, before anything is brought: its id, and the key of a sealed one.</summary>
    public Action<string, string?>? Began { get; init; }

    /// <summary>
    /// Whether what the parcel has under a name stays there beside what stands at the source now: after a doubt nothing that may be the
    /// better state is written over.
    /// </summary>
    internal Func<Entry, NodeFacts, bool> KeepsBeside { get; init; } = (_, _) => false;

    /// <summary>What of the source this pass looks at.</summary>
    internal Pass Pass { get; init; } = new(Only: null);

    /// <summary>Room that may still be used; null: as much as there is.</summary>
    internal RoomLeft? Room { get; init; }

    /// <summary>Paths below <c>data/</c> of which the parcel may have something else than its lists say.</summary>
    internal IReadOnlySet<string> Doubted { get; init; } = new HashSet<string>();

    /// <summary>Whether what the parcel has under a path must be looked at before it counts.</summary>
    internal bool Doubts(Entry entry) =>
        ReadsAll
            || Doubted.Contains(Trips.Doubts.Everything)
            || entry.InDoubt
            || (Doubted.Count > 0 && (Doubted.Contains(entry.Path.Text) || (entry.Packs?.Any(p => Doubted.Contains(p.Name)) ?? false)));

    /// <summary>Which files' times tell of every change from now on.</summary>
    internal Traces Traces { get; init; }

    /// <summary>Whether what lies in the depot is held against the entries: that it is there, and how long it is.</summary>
    internal bool LooksAtDepot { get; init; }

    /// <summary>Whether what an earlier trip wrote may stand in a computer's memory only.</summary>
    internal bool WasNotTaken { get; init; }

    /// <summary>The digest that the entries must have; null: nothing says.</summary>
    internal string? EntriesAreListed { get; init; }

    /// <summary>Counts where what is read back comes from.</summary>
    internal ReadTally Tally { get; init; } = new();

    /// <summary>Whether the depot holds just what the entries say; not after a trip that broke off.</summary>
    internal bool TrustsDepot { get; init; } = true;
}
