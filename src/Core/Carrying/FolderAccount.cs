namespace YardRelay.Core.Carrying;

/// <summary>
/// The account of one folder: what stood at the old computer = carried + left out + waived + still open,
/// and what is in the depot = what is on the new computer + waived + still open there.
/// </summary>
/// <param name="Folder">First part of the path; <c>.</c> for files beside the folders.</param>
/// <param name="Old">At the old computer when the last trip ended.</param>
/// <param name="InDepot">Carried and in the parcel, without what was deleted at the source since.</param>
/// <param name="LeftOut">Left out by a rule.</param>
/// <param name="Waived">Given up by a named person.</param>
/// <param name="Open">Neither carried nor waived: has a snag.</param>
/// <param name="OnNew">On the new computer; null before a restore.</param>
/// <param name="OpenAtNew">In the depot but not on the new computer, with a snag there.</param>
/// <param name="WaivedAtNew">In the depot but not on the new computer, given up by a named person.</param>
public sealed record FolderAccount(
    string Folder, Amount Old, Amount InDepot, Amount LeftOut, Amount Waived, Amount Open, Amount? OnNew, Amount OpenAtNew,
    Amount WaivedAtNew)
{
    /// <summary>
    /// Carried by an earlier trip and gone at the old computer since: kept in the parcel, not restored, and part of no sum.
    /// </summary>
    public Amount Gone { get; init; }

    /// <summary>The same in a whole sentence; null: nothing is gone.</summary>
    public string? GoneWords => Gone.Files == 0
        ? null
        : $"{ByteText.Files(Gone.Files)} that an earlier trip carried {(Gone.Files == 1 ? "was" : "were")} deleted at the old computer "
            + "since: kept in the parcel, and not brought along.";

    /// <summary>Whether the sum over the old computer holds.</summary>
    public bool CarryAddsUp => Old == InDepot + LeftOut + Waived + Open;

    /// <summary>Whether the sum over the new computer holds; true before a restore.</summary>
    public bool RestoreAddsUp => OnNew is not { } there || InDepot == there + OpenAtNew + WaivedAtNew;

    /// <summary>Files that nobody has explained yet.</summary>
    public long Unexplained =>
        Open.Files + OpenAtNew.Files + (CarryAddsUp ? 0 : Math.Abs((Old - InDepot - LeftOut - Waived - Open).Files))
            + (RestoreAddsUp ? 0 : Math.Abs((InDepot - OnNew!.Value - OpenAtNew - WaivedAtNew).Files));

    /// <summary>The line for all folders together.</summary>
    public static FolderAccount Total(IReadOnlyCollection<FolderAccount> folders)
    {
        Amount Sum(Func<FolderAccount, Amount> part) => folders.Aggregate(Amount.None, (sum, f) => sum + part(f));
        return new(
            "Total", Sum(f => f.Old), Sum(f => f.InDepot), Sum(f => f.LeftOut), Sum(f => f.Waived), Sum(f => f.Open),
            folders.Any(f => f.OnNew is not null) ? Sum(f => f.OnNew ?? Amount.None) : null,
            Sum(f => f.OpenAtNew),
            Sum(f => f.WaivedAtNew))
        { Gone = Sum(f => f.Gone) };
    }
}
