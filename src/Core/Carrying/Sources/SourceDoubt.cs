namespace YardRelay.Core.Carrying.Sources;

/// <summary>Why a folder does not look like the one that a parcel was carried from.</summary>
public enum DoubtKind
{
    /// <summary>None of the parcel's files stands there.</summary>
    AllGone,

    /// <summary>Little of it is there as it was: another person's folder, another disk.</summary>
    OtherFiles,

    /// <summary>What changed is older than the parcel has it: an earlier state was put back.</summary>
    WentBack,

    /// <summary>Most is there, and nothing of one folder or mount.</summary>
    FoldersGone,
}

/// <summary>
/// A folder does not look like the one that a parcel was carried from. Counts are exact, and leave out caches and the like.
/// </summary>
/// <param name="LastTrip">The trip that it is held against.</param>
/// <param name="Folders">Those of which something is not as it was, the worst first.</param>
/// <param name="Differs">What else differs, each as half a sentence: another disk, another folder.</param>
public sealed record SourceDoubt(
    DoubtKind Kind, int LastTrip, Amount Known, Amount Same, Amount Newer, Amount Older, IReadOnlyList<FolderOverlap> Folders,
    IReadOnlyList<string> Differs)
{
    private const int Told = 3;

    /// <summary>Not there any more.</summary>
    public Amount Gone => Known - Same - Newer - Older;

    /// <summary>How many files are not as they were; an answer holds for so many and no more.</summary>
    public long Unlike => Known.Files - Same.Files;

    private string EmptiedWords
    {
        get
        {
            var emptied = Folders.Where(f => f.IsEmptied).ToList();
            var told = string.Join(", ", emptied.Take(Told).Select(f => $"{f.Folder} ({ByteText.Files(f.Known.Files)})"));
            return emptied.Count > Told ? $"{told} and of {emptied.Count - Told} more" : told;
        }
    }

    /// <summary>What was seen, in whole sentences and without names of files.</summary>
    public string Words
    {
        get
        {
            var of = $"of the {ByteText.Files(Known.Files)} that trip {LastTrip} left in the parcel";
            var seen = Kind switch
            {
                DoubtKind.AllGone when Known.Files == 1 => $"The one file that trip {LastTrip} left in the parcel is gone.",
                DoubtKind.AllGone => $"{Known.Files:#,0} {of} are gone. Is the disk mounted, and is it this folder?",
                DoubtKind.OtherFiles =>
                    $"{Gone.Files:#,0} {of} are gone, {(Newer + Older).Files:#,0} are others, and {Same.Files:#,0} are as they were: it "
                        + "looks like another person's folder, or another disk.",
                DoubtKind.WentBack =>
                    $"{Older.Files:#,0} {of} are older here than in the parcel, and {Newer.Files:#,0} newer: it looks like an earlier "
                        + "state that was put back.",
                _ => $"Nothing is left of {EmptiedWords}. Is it mounted?",
            };
            return Differs.Count == 0 ? seen : $"{seen} Besides, {string.Join(", and ", Differs)}.";
        }
    }
}
