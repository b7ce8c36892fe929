using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder of a source as a trip left it. Always <c>Seen = Carried + Open</c>.</summary>
/// <param name="Gone">In the parcel but deleted at the source since; counted apart.</param>
public sealed record FolderCarried(string Folder, Amount Seen, Amount Carried, Amount Open, Amount Gone);

/// <summary>What one trip did.</summary>
/// <param name="Trip">Number of the trip in this parcel, from 1.</param>
/// <param name="Added">Read and staged by this trip, new or changed.</param>
/// <param name="Kept">Found as they were; not staged again.</param>
public sealed record TripReport(int Trip, IReadOnlyList<FolderCarried> Folders, IReadOnlyList<Snag> Snags, Amount Added, Amount Kept, double Seconds)
{
    /// <summary>All that stands at the source.</summary>
    public Amount Seen => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Seen);

    /// <summary>All of the source that is in the parcel.</summary>
    public Amount Carried => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Carried);

    /// <summary>All that has a snag.</summary>
    public Amount Open => Folders.Aggregate(Amount.None, (sum, f) => sum + f.Open);

    /// <summary>True when nothing is open.</summary>
    public bool IsWhole => Snags.Count == 0;
}
