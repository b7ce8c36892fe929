using YardRelay.Core.Swaps;
using YardRelay.Records;

namespace YardRelay.Service.Hands;

/// <summary>How an order stands.</summary>
internal static class OrderStates
{
    public const string Waiting = "waiting";
    public const string UnderWay = "under-way";
    public const string Done = "done";
    public const string Failed = "failed";
    public const string Withdrawn = "withdrawn";
}

/// <summary>What a hand can be told to do.</summary>
internal static class OrderKinds
{
    public const string Survey = "survey";
    public const string FirstTrip = "first-trip";
    public const string TopUpTrip = "top-up-trip";
    public const string ClosingTrip = "closing-trip";
    public const string Verify = "verify";
    public const string SecondCopy = "second-copy";
    public const string Look = "look";
    public const string Restore = "restore";
    public const string PartRestore = "part-restore";
    public const string Purge = "purge";
    public const string Adopt = "adopt";
    public const string Folders = "folders";
    public const string SurveyNew = "survey-new";

    public static readonly IReadOnlyList<string> All = [
        Survey, FirstTrip, TopUpTrip, ClosingTrip, Verify, SecondCopy, Look, Restore, PartRestore, Purge, Adopt, Folders, SurveyNew
    ];

    /// <summary>Orders of the new computer, which read the parcel.</summary>
    public static bool Lands(string kind) => kind is Look or Restore or PartRestore;

    public static bool IsTrip(string kind) => kind is FirstTrip or TopUpTrip or ClosingTrip;

    public static string Words(string kind) => kind switch
    {
        Survey => "Survey",
        FirstTrip => "First trip",
        TopUpTrip => "Top-up trip",
        ClosingTrip => "Closing trip",
        Verify => "Verify",
        SecondCopy => "Second copy",
        Look => "Look before a restore",
        Restore => "Restore",
        PartRestore => "Restore of a part",
        Purge => "Purge",
        Adopt => "Adopt a folder",
        Folders => "Look at folders",
        SurveyNew => "Survey of the new computer",
        _ => kind
    };

    /// <summary>The computer that does it, or why the swap cannot have such an order.</summary>
    public static (string? Tag, string? Refusal) For(string kind, SwapRow swap)
    {
        if (swap.PurgedAt is not null && kind is not (Survey or Folders)) return (null, "its parcel is purged");
        if (swap.CalledOffAt is not null && kind is not (Verify or SecondCopy or Look or PartRestore or Purge))
            return (null, "it is called off");
        if (swap.OldDiedAt is not null && (kind is Survey or Folders or Adopt || IsTrip(kind)))
            return (null, $"the disk of {swap.OldTag} died");
        if (kind == Purge) return swap.Trips > 0 ? (swap.NewTag ?? swap.OldTag, null) : (null, "nothing is staged");
        if (swap.Kind == SwapKind.Rescue && swap.Trips > 0 && kind is Verify or SecondCopy) return (swap.NewTag, null);
        if (!swap.Kind.Stages() && !Lands(kind) && kind != SurveyNew)
            return (null, $"a swap of kind {swap.Kind.ToString().ToLowerInvariant()} has no old computer to read");
        if (kind == SurveyNew) return (swap.NewTag, null);
        if (kind is Survey or Folders) return (swap.OldTag, null);
        if (kind == FirstTrip && swap.Trips > 0) return (null, "its first trip is made; order a top-up or closing trip");
        if (kind == Adopt) return swap.Trips == 0 ? (swap.OldTag, null) : (null, "it has a parcel already");
        if (kind is TopUpTrip or ClosingTrip && swap.Trips == 0) return (null, "its first trip is not made yet");
        if (IsTrip(kind) && swap.SwappedAt is not null && kind != ClosingTrip) return (null, "its new computer is in use already");
        if (kind is Verify or SecondCopy) return swap.Trips > 0 ? (swap.OldTag, null) : (null, "nothing is staged yet");
        if (!Lands(kind)) return (swap.OldTag, null);
        if (swap.Kind == SwapKind.Leave)
            return swap.ReceiverAcceptedAt is null
                ? (null, "the person who receives the parcel has not accepted it")
                : swap.ReceiverTag is null
                ? (null, "no computer of the person who receives the parcel is named")
                : swap.StagedAt is null
                ? (null, "its files are not staged and verified")
                : (swap.ReceiverTag, null);
        if (swap.Kind == SwapKind.Rescue && swap.Trips == 0) return (null, "no parcel serves it yet; name the swap of the lost computer");
        if (!swap.Kind.Restores()) return (null, $"a swap of kind {swap.Kind.ToString().ToLowerInvariant()} has nothing to restore");
        return swap.StagedAt is null && kind == Restore && swap.Kind != SwapKind.Rescue
            ? (null, "its files are not staged and verified")
            : swap.Trips == 0
            ? (null, "nothing is staged yet")
            : (swap.NewTag, null);
    }
}
