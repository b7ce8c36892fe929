using YardRelay.Carriage.Depots;

namespace YardRelay.Carriage.Parcels;

/// <summary>Where things stand in a parcel. The bag's own names are those of RFC 8493, section 2.</summary>
/// <param name="Seal">What a sealed parcel is sealed with; null: it is open.</param>
internal sealed record ParcelPaths(DepotPath Root, Seal? Seal = null)
{
    public const string Manifest = "manifest-sha256.txt";
    public const string TagManifest = "tagmanifest-sha256.txt";
    public const string Bagit = "bagit.txt";
    public const string BagInfo = "bag-info.txt";
    public const string Entries = "yard/entries.jsonl";
    public const string Snags = "yard/snags.jsonl";
    public const string Account = "yard/account.json";
    public const string Trips = "yard/trips.jsonl";
    public const string Info = "yard/parcel.json";

    /// <summary>Which folder was carried; since format 2.</summary>
    public const string Source = "yard/source.json";

    /// <summary>Stands only while a trip is under way or after one broke off.</summary>
    public const string OpenTrip = "yard/trip.json";
    public const string Journal = "yard/journal";
    public const string Displaced = "yard/displaced.jsonl";
    /// <summary>What a verification found damaged; stands until a trip has brought it anew.</summary>
    public const string Doubts = "yard/doubts.jsonl";
    /// <summary>The manifest as it was when the parcel was last found whole, every byte of it.</summary>
    public const string Verified = "yard/verified-sha256.txt";
    /// <summary>
    /// Stands where the medium did not take what a trip wrote, until one has written it anew: what reads as whole may be in memory only.
    /// </summary>
    public const string NotTaken = "yard/not-taken";
    public const string Aside = "yard/aside";

    /// <summary>How names aside begin that a later trip may go on with.</summary>
    public const string GoesOn = "on-";
    public const string Lock = "yard/lock";

    /// <summary>The swap's key, sealed for each way to it.</summary>
    public const string Keys = "yard/keys";

    /// <summary>All tag files that a finished trip of any format leaves, in the order they are written.</summary>
    public IEnumerable<string> TagFiles => new[] { Entries, Snags, Account, Trips, Info, Manifest, BagInfo, Bagit }.Select(NameOf);

    public DepotPath Data => Root / "data";

    /// <summary>Where a list or a folder of lists stands; in a sealed parcel those that name a person's files stand there sealed.</summary>
    public DepotPath At(string below) => Root / NameOf(below);

    public string NameOf(string below) => IsSealed(below) ? below + ".age" : below;

    public bool IsSealed(string below) =>
        Seal is not null
            && (below is Entries or Snags or Account or Displaced or Source || below.StartsWith(Journal + "/", StringComparison.Ordinal));

    /// <summary>Whether a path in the parcel is work in hand, which no manifest lists.</summary>
    public static bool IsPassing(string below) =>
        below is OpenTrip or TagManifest or Displaced or Displaced + ".age" or Doubts or Verified or NotTaken
            || DepotPath.Of(below) is var path
                && (path.IsIn(DepotPath.Of(Journal))
                    || path.IsIn(DepotPath.Of(Aside))
                    || path.IsIn(DepotPath.Of(Lock))
                    || below.StartsWith(Lock, StringComparison.Ordinal));
}
