using System.Text.Json.Serialization;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder of a source as a trip left it. Always <c>Seen = Carried + LeftOut + Open</c>.</summary>
/// <param name="Gone">In the parcel but deleted at the source, or left out, since; counted apart.</param>
/// <param name="LeftOut">Left out by the carry list.</param>
/// <param name="GoneNow">Of <paramref name="Gone"/>, what this trip found deleted, and no list left out.</param>
public sealed record FolderCarried(
    string Folder, Amount Seen, Amount Carried, Amount Open, Amount Gone, Amount LeftOut = default, Amount GoneNow = default)
{
    /// <summary>Of <see cref="Gone"/>, all that was deleted, by now or before, and that no list left out.</summary>
    public Amount Deleted { get; init; }
}

/// <summary>What one line of a carry list left out, and why.</summary>
public sealed record LeftOutBy(string Reason, Amount Files);

/// <summary>What one trip did.</summary>
/// <param name="Trip">Number of the trip in this parcel, from 1.</param>
/// <param name="Added">Read and staged by this trip, new or changed.</param>
/// <param name="Kept">Found as they were; not staged again.</param>
public sealed record TripReport(
    int Trip, IReadOnlyList<FolderCarried> Folders, IReadOnlyList<Snag> Snags, Amount Added, Amount Kept, double Seconds,
    IReadOnlyList<LeftOutBy>? Reasons = null)
{
    /// <summary>The parcel's own id.</summary>
    public string ParcelId { get; init; } = "";

    /// <summary>
    /// The key of a sealed parcel with those it is sealed to, for whoever keeps it; never printed. Null: the parcel is open.
    /// </summary>
    [JsonIgnore]
    public string? ParcelKey { get; init; }

    /// <summary>Where what this trip staged was read back from; null: nothing was.</summary>
    public ReadPlaces? ReadBack { get; init; }

    /// <summary>Whether the lists that the trip before left were what they should be, as far as this one looked.</summary>
    internal bool FoundListsWhole { get; init; } = true;

    /// <summary>What the medium did not give back, for the next trip to bring anew.</summary>
    internal IReadOnlyList<Damage> NotGivenBack { get; init; } = [];

    /// <summary>What became of the second copy; null: none was asked for.</summary>
    public CopyReport? Copy { get; init; }

    /// <summary>All that stands at the source.</summary>
    public Amount Seen => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Seen);

    /// <summary>All of the source that is in the parcel.</summary>
    public Amount Carried => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Carried);

    /// <summary>All that the carry list left out.</summary>
    public Amount LeftOut => Folders.Aggregate(Amount.None, (sum, f) => sum + f.LeftOut);

    /// <summary>All that was there at the trip before and is not any more.</summary>
    public Amount GoneNow => Folders.Aggregate(Amount.None, (sum, f) => sum + f.GoneNow);

    /// <summary>The doubt about the source that a person's answer settled; null: there was none.</summary>
    public string? Settled { get; init; }

    /// <summary>Lines of the carry list that found nothing at the source, as they are written; at most a hundred.</summary>
    public IReadOnlyList<string> IdleLines { get; init; } = [];

    /// <summary>All that has a snag.</summary>
    public Amount Open => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Open);

    /// <summary>True when nothing is open.</summary>
    public bool IsWhole => Snags.Count == 0;
}
