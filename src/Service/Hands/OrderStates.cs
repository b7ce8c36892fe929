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
    public const string Restore = "restore";

    public static readonly IReadOnlyList<string> All = [Survey, FirstTrip, TopUpTrip, ClosingTrip, Verify, Restore];

    public static bool IsTrip(string kind) => kind is FirstTrip or TopUpTrip or ClosingTrip;

    public static string Words(string kind) => kind switch { Survey => "Survey", FirstTrip => "First trip", TopUpTrip => "Top-up trip", ClosingTrip => "Closing trip", Verify => "Verify", Restore => "Restore", _ => kind };

    /// <summary>The computer that does it, or why the swap cannot have such an order.</summary>
    public static (string? Tag, string? Refusal) For(string kind, SwapRow swap)
    {
        if (!swap.Kind.Stages() && kind != Restore) return (null, $"a swap of kind {swap.Kind.ToString().ToLowerInvariant()} has no old computer to read");
        if (kind == Survey) return (swap.OldTag, null);
        if (kind == FirstTrip && swap.Trips > 0) return (null, "its first trip is made; order a top-up or closing trip");
        if (kind is TopUpTrip or ClosingTrip && swap.Trips == 0) return (null, "its first trip is not made yet");
        if (IsTrip(kind) && swap.SwappedAt is not null && kind != ClosingTrip) return (null, "its new computer is in use already");
        if (kind == Verify) return swap.Trips > 0 ? (swap.OldTag, null) : (null, "nothing is staged yet");
        if (kind != Restore) return (swap.OldTag, null);
        if (!swap.Kind.Restores()) return (null, $"a swap of kind {swap.Kind.ToString().ToLowerInvariant()} has nothing to restore");
        return swap.StagedAt is null ? (null, "its files are not staged and verified") : (swap.NewTag, null);
    }
}
