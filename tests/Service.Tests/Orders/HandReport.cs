using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Service.Tests;

/// <summary>What a hand of a test found, whatever it was told to do: only what a test names differs from a plain, good end.</summary>
public sealed record HandReport(
    IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, int Damages = 0, int Trip = 0, string? Failure = null,
    SurveyResult? Survey = null, IReadOnlyList<StayedBehind>? Reasons = null, ForeseenSeen? Foreseen = null, string? ParcelKey = null,
    string? ParcelId = null, string? Words = null, bool IsAsThere = true, bool PassphraseSet = false,
    IReadOnlyList<FolderNode>? Tree = null, int Deeper = 0, SourceDoubt? Doubt = null, bool Unfinished = false)
{
    /// <summary>Nothing to say but that it is done.</summary>
    public static HandReport Fine { get; } = new([], []);

    public static HandReport Failed(string why) => Fine with { Failure = why };

    /// <summary>The same as the outcome of some work.</summary>
    public OrderOutcome Of(OrderWork work) => Failure is { } why ? new NotDone(why, Doubt) : work switch
    {
        SurveyWork => new Surveyed(Folders, Snags, Survey),
        SurveyNewWork => new SurveyedNew(Survey!),
        FoldersWork => new TreeFound(Tree!, Deeper),
        TripWork => new Carried(Folders, Snags, Trip, Reasons, ParcelId, ParcelKey, PassphraseSet),
        VerifyWork => new Verified(Damages),
        SecondCopyWork => new CopiedAgain(Damages, Words ?? "The second copy is whole"),
        LastLookWork => new LookedLast(Trip, Amount.None, new(Damages, Damages), default),
        LookWork => new LookedAhead(Foreseen!, Fits: true),
        RestoreWork => new Restored(Folders, Snags, Damages, Unfinished: Unfinished),
        PartRestoreWork => new PartRestored(Folders, Snags, Damages),
        AdoptWork => new Adopted(Folders, Snags, IsAsThere, Words!, ParcelId),
        PurgeWork => new Purged(Folders.Aggregate(Amount.None, (sum, f) => sum + f.Seen), Damages),
        _ => throw new ArgumentOutOfRangeException(nameof(work), work, "No test says how that ends.")
    };
}
