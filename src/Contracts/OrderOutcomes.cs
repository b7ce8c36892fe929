using System.Text.Json.Serialization;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Core.Orders;

namespace YardRelay.Contracts;

/// <summary>How an order ended: a case for each kind, or why it could not be done at all.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(NotDone), "not-done")]
[JsonDerivedType(typeof(Surveyed), OrderNames.Survey)]
[JsonDerivedType(typeof(SurveyedNew), OrderNames.SurveyNew)]
[JsonDerivedType(typeof(TreeFound), OrderNames.Folders)]
[JsonDerivedType(typeof(Carried), "trip")]
[JsonDerivedType(typeof(Verified), OrderNames.Verify)]
[JsonDerivedType(typeof(CopiedAgain), OrderNames.SecondCopy)]
[JsonDerivedType(typeof(LookedLast), OrderNames.LastLook)]
[JsonDerivedType(typeof(LookedAhead), OrderNames.Look)]
[JsonDerivedType(typeof(Restored), OrderNames.Restore)]
[JsonDerivedType(typeof(PartRestored), OrderNames.PartRestore)]
[JsonDerivedType(typeof(Adopted), OrderNames.Adopt)]
[JsonDerivedType(typeof(Purged), OrderNames.Purge)]
public abstract record OrderOutcome
{
    private protected OrderOutcome()
    {
    }

    /// <summary>All accounted for: no snag, no damage.</summary>
    [JsonIgnore]
    public abstract bool IsWhole { get; }

    /// <summary>
    /// The same where the parcel's lists are not those that the service last heard of: nothing that reads them is whole then.
    /// </summary>
    public OrderOutcome WithOtherLists() => this switch
    {
        Verified v => v with { Damages = v.Damages + 1 },
        Restored r => r with { Damages = r.Damages + 1 },
        PartRestored r => r with { Damages = r.Damages + 1 },
        _ => this,
    };

    /// <summary>In a few words, for whoever stands beside the hand.</summary>
    [JsonIgnore]
    public virtual string Words => IsWhole ? "done, all accounted for" : $"done, {Troubles.Snags} snags, {Troubles.Damages} damages";

    /// <summary>What is not as it should be, counted.</summary>
    private protected virtual (int Snags, int Damages) Troubles => (0, 0);
}

/// <summary>It could not be done at all.</summary>
/// <param name="Why">In whole sentences.</param>
/// <param name="Doubt">Of a trip: its source does not look like what was carried before; null: something else stood in the way.</param>
public sealed record NotDone(string Why, SourceDoubt? Doubt = null) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => false;

    /// <inheritdoc/>
    [JsonIgnore]
    public override string Words => $"failed: {Why}";
}

/// <summary>What was found on the old computer.</summary>
/// <param name="Found">Null: the folders only.</param>
public sealed record Surveyed(IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, SurveyResult? Found) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Snags.Count == 0;

    private protected override (int Snags, int Damages) Troubles => (Snags.Count, 0);
}

/// <summary>What was found on the new computer.</summary>
public sealed record SurveyedNew(SurveyResult Found) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => true;
}

/// <summary>The folders of the old computer, which are kept in memory only.</summary>
/// <param name="Deeper">Folders that were too deep for the tree.</param>
public sealed record TreeFound(IReadOnlyList<FolderNode> Tree, int Deeper) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => true;
}

/// <summary>What a trip brought.</summary>
/// <param name="Trip">Its number in the parcel, from 1.</param>
/// <param name="Reasons">What stayed by the carry list, and why.</param>
/// <param name="ParcelId">The parcel's own id.</param>
/// <param name="ParcelKey">Of a sealed parcel: its key, which the service keeps encrypted.</param>
/// <param name="PassphraseSet">The passphrase that came with the order opens the parcel's key now.</param>
/// <param name="Gone">What was there at the trip before and is not any more; null: an older hand, which does not tell.</param>
public sealed record Carried(
    IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, int Trip, IReadOnlyList<StayedBehind>? Reasons = null,
    string? ParcelId = null, string? ParcelKey = null, bool PassphraseSet = false, Amount? Gone = null) : OrderOutcome
{
    /// <summary>Lines of the carry list that found nothing at the old computer; null: an older hand, which does not tell.</summary>
    public IReadOnlyList<string>? IdleLines { get; init; }

    /// <summary>Where what was staged was read back from; null: nothing was, or an older hand, which does not tell.</summary>
    public ReadPlaces? ReadBack { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Snags.Count == 0;

    private protected override (int Snags, int Damages) Troubles => (Snags.Count, 0);
}

/// <summary>What reading the parcel found.</summary>
/// <param name="Damages">Files that are not what the parcel says.</param>
public sealed record Verified(int Damages) : OrderOutcome
{
    /// <summary>Where what was read came from; null: nothing was read, or an older hand, which does not tell.</summary>
    public ReadPlaces? Read { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Damages == 0;

    private protected override (int Snags, int Damages) Troubles => (0, Damages);
}

/// <summary>How the second copy stands.</summary>
/// <param name="Damages">Files of it that are not what the first says.</param>
/// <param name="Said">In a whole sentence.</param>
public sealed record CopiedAgain(int Damages, string Said) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Damages == 0;

    private protected override (int Snags, int Damages) Troubles => (0, Damages);
}

/// <summary>Whether the old computer still is what the parcel has. No file is named: that stays on the computer.</summary>
/// <param name="Trip">The last trip, against which it was held.</param>
/// <param name="Seen">Files at the old computer, without those that stay behind.</param>
/// <param name="Changed">Of them, those that the parcel has in another state, or not at all.</param>
/// <param name="Gone">Files of the parcel that no longer stand there.</param>
public sealed record LookedLast(int Trip, Amount Seen, Amount Changed, Amount Gone) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Changed.Files == 0 && Gone.Files == 0;

    /// <inheritdoc/>
    [JsonIgnore]
    public override string Words => IsWhole
        ? $"all {ByteText.Files(Seen.Files)} are as trip {Trip} left them"
        : $"{Changed.Files:#,0} changed and {Gone.Files:#,0} gone since trip {Trip}";
}

/// <summary>What a restore would do.</summary>
/// <param name="Fits">There is room for it.</param>
public sealed record LookedAhead(ForeseenSeen Foreseen, bool Fits) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Fits;
}

/// <summary>What landed on the new computer.</summary>
/// <param name="Damages">Files that were damaged in the depot; each is among the snags.</param>
/// <param name="Missing">Things that the landing plan names and the parcel has not.</param>
/// <param name="Unfinished">The parcel was as a trip left it that broke off: it holds other files than the trip before told.</param>
public sealed record Restored(
    IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, int Damages, int Missing = 0, bool Unfinished = false) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Snags.Count == 0 && Damages == 0 && Missing == 0;

    private protected override (int Snags, int Damages) Troubles => (Snags.Count, Damages);
}

/// <summary>What landed once more.</summary>
public sealed record PartRestored(
    IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, int Damages, int Missing = 0) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Snags.Count == 0 && Damages == 0 && Missing == 0;

    private protected override (int Snags, int Damages) Troubles => (Snags.Count, Damages);
}

/// <summary>What a folder that was filled by hand held.</summary>
/// <param name="IsAsThere">All of it is as at the old computer.</param>
/// <param name="Said">What people should read of it, in whole sentences.</param>
public sealed record Adopted(
    IReadOnlyList<FolderResult> Folders, IReadOnlyList<Snag> Snags, bool IsAsThere, string Said, string? ParcelId = null) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => IsAsThere;

    private protected override (int Snags, int Damages) Troubles => (Snags.Count, 0);
}

/// <summary>What was taken away.</summary>
/// <param name="Removed">Files and bytes that are gone.</param>
/// <param name="Left">Names that the depot still lists.</param>
public sealed record Purged(Amount Removed, int Left) : OrderOutcome
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsWhole => Left == 0;

    private protected override (int Snags, int Damages) Troubles => (0, Left);
}
