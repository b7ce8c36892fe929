namespace YardRelay.Core.Carrying.Sources;

/// <summary>What became of the files that a parcel has of one folder, looked at where they should stand.</summary>
/// <param name="Folder">First part of the path; <c>.</c> for files beside the folders; of a mount, its whole path.</param>
/// <param name="Known">In the parcel, not deleted before, and looked at now.</param>
/// <param name="Same">Of these, there with the same length and time.</param>
/// <param name="Newer">There, and changed since.</param>
/// <param name="Older">There, and last changed earlier than the parcel has it.</param>
/// <param name="IsMount">Another file system was mounted there.</param>
public sealed record FolderOverlap(string Folder, Amount Known, Amount Same, Amount Newer, Amount Older, bool IsMount = false)
{
    /// <summary>Not there any more.</summary>
    public Amount Gone => Known - Same - Newer - Older;

    /// <summary>Whether nothing of it is there.</summary>
    public bool IsEmptied => Known.Files > 0 && Gone.Files == Known.Files;
}
