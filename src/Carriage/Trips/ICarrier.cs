using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;

namespace YardRelay.Carriage.Trips;

/// <summary>Brings single files of a source into a parcel.</summary>
internal interface ICarrier : IAsyncDisposable
{
    /// <summary>How many files may be on their way at once, at most.</summary>
    int AtOnce { get; }

    /// <summary>Waits for a place for one more, no longer than so long.</summary>
    Task<bool> HasPlaceAsync(TimeSpan patience, CancellationToken cancel);

    /// <summary>Gives that place back.</summary>
    void FreePlace();

    /// <summary>
    /// Carries one file; what takes long, on another thread. Lets go of the item's folder as soon as it needs it no more.
    /// </summary>
    Task<Carried> CarryAsync(TreeItem item, Entry template, Entry? old, CancellationToken cancel);

    /// <summary>A folder or link that is new or changed: it has no content.</summary>
    Task NoteAsync(Entry entry, CancellationToken cancel);

    /// <summary>
    /// Somebody waits, and nothing moves: what was only gathered so far goes on its way, unless something is under way already for which
    /// they may be waiting.
    /// </summary>
    void Hurry();

    /// <summary>No new file comes any more: from now on nothing waits for another.</summary>
    void Finish();
}
