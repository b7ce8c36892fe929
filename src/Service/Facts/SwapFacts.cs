using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>What follows from the facts that a swap's records hold.</summary>
internal static class SwapFacts
{
    public static IReadOnlyDictionary<Station, DateTimeOffset> Reached(SwapRow s)
    {
        var reached = new Dictionary<Station, DateTimeOffset>();
        void Add(Station station, DateTimeOffset? at)
        {
            if (at is { } when) reached[station] = when;
        }

        Add(Station.Told, s.ToldAt);
        Add(Station.Surveyed, s.SurveyedAt);
        Add(Station.Booked, s.BookedAt);
        Add(Station.Staged, s.StagedAt);
        Add(Station.Swapped, s.SwappedAt);
        Add(Station.Restored, s.RestoredAt);
        Add(Station.Accepted, s.AcceptedAt);
        Add(Station.HandedIn, s.HandedInAt);
        return reached;
    }

    public static void Reach(SwapRow s, Station station, DateTimeOffset? at)
    {
        _ = station switch
        {
            Station.Told => s.ToldAt = at,
            Station.Surveyed => s.SurveyedAt = at,
            Station.Booked => s.BookedAt = at,
            Station.Staged => s.StagedAt = at,
            Station.Swapped => s.SwappedAt = at,
            Station.Restored => s.RestoredAt = at,
            Station.Accepted => s.AcceptedAt = at,
            Station.HandedIn => s.HandedInAt = at,
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        Settle(s);
    }

    /// <summary>Brings the index of the next stop up to the facts.</summary>
    public static void Settle(SwapRow s) => s.Next = s.CalledOffAt is null ? SwapLine.Next(SwapLine.Of(s.Kind, Reached(s))) : NoStop;

    // Behind every line's last stop: what is called off waits for nothing.
    private const int NoStop = 100;

    /// <summary>Why nothing is worked or signed any more; null: it may be.</summary>
    public static Core.Problem? Closed(SwapRow s) =>
        s.CalledOffAt is null
            ? null
            : new SwapCalledOff(s.Name, s.CalledOffBecause);

    /// <summary>Anything was done for it beyond planning.</summary>
    public static bool HasBegun(SwapRow s) => s.SurveyedAt is not null || HasParcel(s) || s.SwappedAt is not null;

    /// <summary>Something of it lies in a depot: a trip ended, or a first one has begun its parcel.</summary>
    public static bool HasParcel(SwapRow s) => s.Trips > 0 || HasUnfinishedParcel(s);

    /// <summary>A first trip has begun the parcel and has not ended: nothing says yet what must be in it.</summary>
    public static bool HasUnfinishedParcel(SwapRow s) => s.Trips == 0 && s.ParcelId is not null;

    /// <summary>The same while the old computer is there, so that the trip can be made again: nobody misses what lies there.</summary>
    public static bool CanBeginAnew(SwapRow s) => HasUnfinishedParcel(s) && s.Kind.Stages() && s.OldDiedAt is null;

    /// <summary>The appointment itself has begun.</summary>
    public static bool IsUnderWay(SwapRow s) => s.SwappedAt is not null || s.RestoredAt is not null || s.AcceptedAt is not null;

    public static bool IsOver(SwapRow s) => s.Next >= SwapLine.StationsOf(s.Kind).Count();

    /// <summary>The account of a swap: what the hand counted, with waivers taken from the snags.</summary>
    public static IReadOnlyList<FolderAccount> Account(IReadOnlyList<FolderRow> folders, IReadOnlyList<SnagRow> snags) =>
    [
        .. folders.OrderBy(f => f.Folder, StringComparer.Ordinal).Select(f =>
        {
            Amount Sum(string side, string end) =>
                snags.Where(s => s.Side == side && s.End == end && s.CountsAsFile && FolderOf(s.Path) == f.Folder)
                    .Aggregate(Amount.None, (sum, s) => sum + new Amount(s.Files, s.Bytes));
            return new FolderAccount(
                f.Folder, f.Old, f.Depot, f.LeftOut, Sum("old", "waived"), Sum("old", "open"),
                f.NewFiles is { } files ? new Amount(files, f.NewBytes ?? 0) : null, Sum("new", "open"), Sum("new", "waived"))
            { Gone = f.Gone };
        }),
    ];

    private static string FolderOf(string path) => path.IndexOf('/', StringComparison.Ordinal) is > 0 and var slash ? path[..slash] : ".";

    /// <summary>Whether all is in the depot and was verified since: the fact behind an automatic step.</summary>
    public static bool IsStaged(SwapRow s, IReadOnlyList<FolderAccount> account, IReadOnlyList<SnagRow> snags) =>
        s.Trips > 0
            && s.VerifiedWhole
            && s.VerifiedAt >= s.TripAt
            && account.All(f => f.CarryAddsUp && f.Open.Files == 0)
            && !snags.Any(n => n.Side == "old" && n.End == "open");

    /// <summary>Whether all is on the new computer, or somebody decided that nothing is to be.</summary>
    public static bool IsRestored(SwapRow s, IReadOnlyList<FolderAccount> account, IReadOnlyList<SnagRow> snags) =>
        s.RestoreSkippedAt is not null
            || (s.RestoreAt is not null
                && (HasUnfinishedParcel(s) || s.RestoreAt >= s.TripAt)
                && account.All(f => f.OnNew is not null && f.RestoreAddsUp)
                && !snags.Any(n => n.Side == "new" && n.End == "open"));

    public static IEnumerable<Phase> FrozenPhases(IReadOnlyCollection<SignOffPart> signed) =>
        signed.Contains(SignOffPart.Coordinator)
            ? Enum.GetValues<Phase>()
            : signed.Contains(SignOffPart.Technician)
            ? [Phase.Before, Phase.Swap, Phase.After]
            : [];
}
