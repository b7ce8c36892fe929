using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>Files of which no list says how they must be, told by folder where they are many.</summary>
internal sealed class UnsureFiles
{
    private const int MostOfFolder = 10;
    private const int MostFolders = 200;
    private readonly SortedDictionary<string, List<Snag>> _folders = new(StringComparer.Ordinal);
    private readonly Dictionary<string, Amount> _sums = new(StringComparer.Ordinal);
    private Amount _all;

    public void Add(Snag doubt)
    {
        var folder = doubt.Path[..(doubt.Path.LastIndexOf('/') + 1)];
        if (!_folders.TryGetValue(folder, out var those)) _folders[folder] = those = [];
        if (_all.Files < UnfinishedTrip.MostNamed) those.Add(doubt);
        _all += Amount.File(doubt.Bytes);
        _sums[folder] = _sums.GetValueOrDefault(folder) + Amount.File(doubt.Bytes);
    }

    /// <summary>The trip with what became of its files.</summary>
    public UnfinishedTrip Of(UnfinishedTrip trip) => trip with
    {
        Unsure = _all,
        UnsurePaths = [.. _folders.Values.SelectMany(f => f).Select(d => d.Path)]
    };

    /// <summary>What is to be said: each file, where a folder has few; where many folders have some, by the first of their paths.</summary>
    public IEnumerable<Snag> Snags(UnfinishedTrip trip)
    {
        if (_folders.Count > MostFolders)
            return _sums.GroupBy(f => f.Key[..(f.Key.IndexOf('/') + 1)]).OrderBy(g => g.Key, StringComparer.Ordinal)
                .Select(g => Many(g.Key, g.Aggregate(Amount.None, (sum, f) => sum + f.Value), trip));
        return _folders.SelectMany(f => _sums[f.Key] is var sum && (sum.Files > MostOfFolder || sum.Files > f.Value.Count)
            ? [Many(f.Key, sum, trip)]
            : (IEnumerable<Snag>)f.Value);
    }

    private static Snag Many(string folder, Amount files, UnfinishedTrip trip) => new(
        folder.Length == 0 ? "./*" : folder,
        SnagKind.Unfinished,
        files.Bytes,
        trip.DoubtOfMany(files.Files),
        CountsAsFile: false,
        files.Files);
}
