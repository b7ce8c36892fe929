namespace YardRelay.Core.Carrying.Sources;

/// <summary>
/// Whether a folder is the one that a parcel was carried from. What overlaps decides; where a folder lies is evidence only, since disks
/// are cloned, moved and put back.
/// </summary>
public static class SourceRule
{
    // A person tidies up, and a folder of few files is soon empty: below that nobody is asked.
    private const int Folderful = 10;
    private const int OlderAtLeast = 5;
    private const double Little = 0.2;
    private const double LittleOfBytes = 0.1;
    private const double Half = 0.5;

    /// <summary>What is doubtful; null: nothing.</summary>
    /// <param name="folders">Each folder and mount that the parcel has files of.</param>
    /// <param name="isSamePlace">As far as is known it is the very folder; then what changed since counts as there.</param>
    public static DoubtKind? Of(IReadOnlyCollection<FolderOverlap> folders, bool isSamePlace) => Judge(folders, isSamePlace, Little);

    /// <summary>Whether a part of the files, looked at first, makes a look at all of them worth its time.</summary>
    public static bool IsWorthALook(IReadOnlyCollection<FolderOverlap> folders, bool isSamePlace) =>
        Judge(folders, isSamePlace, Half) is not null
            || Sum(folders, f => f.Older) is { Files: > 0 } older && older.Files > Sum(folders, f => f.Newer).Files;

    private static DoubtKind? Judge(IReadOnlyCollection<FolderOverlap> folders, bool isSamePlace, double little)
    {
        // A mount's files count in their folder, too.
        var all = folders.Where(f => !f.IsMount).ToList();
        var (known, same) = (Sum(all, f => f.Known), Sum(all, f => f.Same));
        var (newer, older) = (Sum(all, f => f.Newer), Sum(all, f => f.Older));
        if (known.Files == 0) return null;
        if ((known - same - newer - older).Files == known.Files) return DoubtKind.AllGone;
        if (older.Files >= OlderAtLeast && older.Files > 4 * newer.Files) return DoubtKind.WentBack;
        var emptied = folders.Where(f => f.IsEmptied && (f.IsMount || f.Known.Files >= Folderful)).ToList();
        var rest = isSamePlace ? all.Except(emptied).ToList() : all;
        if (rest.Count > 0 && IsLittle(rest, isSamePlace, little)) return DoubtKind.OtherFiles;
        return emptied.Count > 0 ? DoubtKind.FoldersGone : null;
    }

    private static bool IsLittle(List<FolderOverlap> folders, bool isSamePlace, double little)
    {
        var (known, there) = (Sum(folders, f => f.Known), Sum(folders, f => isSamePlace ? f.Same + f.Newer : f.Same));
        if (known.Files == 0 || (isSamePlace && known.Files < Folderful)) return false;
        var files = Share(there.Files, known.Files);
        return files < little || (files < Half && Share(there.Bytes, known.Bytes) < LittleOfBytes);
    }

    private static Amount Sum(IEnumerable<FolderOverlap> folders, Func<FolderOverlap, Amount> what) =>
        folders.Aggregate(Amount.None, (sum, f) => sum + what(f));

    private static double Share(long part, long whole) => whole == 0 ? 1 : (double)part / whole;
}
