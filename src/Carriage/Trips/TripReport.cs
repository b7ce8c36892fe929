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

/// <summary>Sums per folder while work goes on.</summary>
internal sealed class FolderSums
{
    private readonly Dictionary<string, FolderCarried> _folders = new(StringComparer.Ordinal);

    public IReadOnlyList<FolderCarried> Folders => [.. _folders.Values.OrderBy(f => f.Folder, StringComparer.Ordinal)];

    /// <summary>First part of a path; '.' for files beside the folders.</summary>
    public static string FolderOf(string shown) => shown.IndexOf('/', StringComparison.Ordinal) is > 0 and var slash ? shown[..slash] : ".";

    public void Know(string folder) => _folders.TryAdd(folder, new(folder, default, default, default, default));

    public void Add(string folder, Amount carried, Amount open, Amount gone)
    {
        Know(folder);
        var f = _folders[folder];
        _folders[folder] = f with { Seen = f.Seen + carried + open, Carried = f.Carried + carried, Open = f.Open + open, Gone = f.Gone + gone };
    }
}
