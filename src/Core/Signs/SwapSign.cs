using YardRelay.Core.Orders;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Signs;

/// <summary>How a swap stands, at a glance.</summary>
public enum Sign
{
    /// <summary>It does not take place.</summary>
    Off,

    /// <summary>All stations are behind it, and the person has signed.</summary>
    Done,

    /// <summary>Something failed, and nothing has made it good.</summary>
    Stopped,

    /// <summary>It waits for somebody.</summary>
    Wants,

    /// <summary>Its hand is at work at this moment.</summary>
    Moving,

    /// <summary>Nothing is to be done for it now.</summary>
    Ahead,
}

/// <summary>An order that waits, runs or has failed, as far as a sign tells of it.</summary>
/// <param name="Kind">One of <see cref="OrderNames"/>.</param>
/// <param name="Tag">Of the computer that it is for.</param>
public abstract record OrderNow(string Kind, string Tag, DateTimeOffset MadeAt)
{
    /// <summary>Nobody has taken it yet.</summary>
    /// <param name="HasHand">Whether there is a hand at the computer that could.</param>
    public sealed record Waiting(string Kind, string Tag, DateTimeOffset MadeAt, bool HasHand) : OrderNow(Kind, Tag, MadeAt);

    /// <summary>A hand has it.</summary>
    /// <param name="IsHeard">Whether that hand reports, as it should.</param>
    /// <param name="PausedAt">When somebody asked it to rest; null: nobody did.</param>
    /// <param name="Waits">What the hand waits for by itself; null: nothing.</param>
    public sealed record UnderWay(
        string Kind, string Tag, DateTimeOffset MadeAt, DateTimeOffset? TakenAt, DateTimeOffset? HeardAt, bool IsHeard,
        DateTimeOffset? PausedAt, string? Waits) : OrderNow(Kind, Tag, MadeAt);

    /// <summary>It failed, and no later one of its kind was done, waits or runs.</summary>
    public sealed record Failed(string Kind, string Tag, DateTimeOffset MadeAt, string Words, DateTimeOffset? EndedAt)
        : OrderNow(Kind, Tag, MadeAt);
}

/// <summary>What a sign is made from.</summary>
public sealed record SignFacts(SwapKind Kind, IReadOnlyDictionary<Station, DateTimeOffset> Reached, IReadOnlyList<OrderNow> Orders)
{
    /// <summary>When it was called off; null: it was not.</summary>
    public DateTimeOffset? CalledOffAt { get; init; }

    /// <summary>Why it was called off.</summary>
    public string? CalledOffBecause { get; init; }

    /// <summary>Snags that nobody has ended.</summary>
    public int OpenSnags { get; init; }

    /// <summary>The one snag in words, where there is one.</summary>
    public string? OneSnag { get; init; }

    /// <summary>Since when the oldest of them is open.</summary>
    public DateTimeOffset? SnagSince { get; init; }

    /// <summary>Why no plan found a time; null: one did, or none was made.</summary>
    public string? LeftOutBecause { get; init; }

    /// <summary>When the appointment is over; null: there is none.</summary>
    public DateTimeOffset? End { get; init; }

    /// <summary>When what is needed first was on the new computer.</summary>
    public DateTimeOffset? UrgentReadyAt { get; init; }

    /// <summary>Whether the person has signed.</summary>
    public bool IsSigned { get; init; }
}

/// <summary>How a swap stands, in a sentence.</summary>
/// <param name="Since">Since when it is so; null: that is no moment.</param>
public sealed record SwapSign(Sign Sign, string Words, DateTimeOffset? Since)
{
    /// <summary>The sign of a swap, from its facts: what stands in its way comes first.</summary>
    public static SwapSign Of(SignFacts f, DateTimeOffset now) =>
        OfEnd(f) ?? OfFailure(f) ?? OfSnags(f) ?? OfOrders(f) ?? OfAppointment(f, now) ?? OfWay(f);

    private static DateTimeOffset? At(SignFacts f, Station station) => f.Reached.TryGetValue(station, out var at) ? at : null;

    // Who leaves signs nothing any more; whoever receives the files accepts them.
    private static bool IsSigned(SignFacts f) => f.IsSigned || f.Kind == SwapKind.Leave;

    private static bool IsAtEnd(SignFacts f) => SwapLine.StationsOf(f.Kind).All(s => s < Station.Accepted || f.Reached.ContainsKey(s));

    private static SwapSign? OfEnd(SignFacts f) =>
        f.CalledOffAt is { } off
            ? new(Sign.Off, $"Called off: {f.CalledOffBecause}", off)
            : IsAtEnd(f) && IsSigned(f)
            ? new(Sign.Done, "Done", f.Reached.Values.Max())
            : null;

    private static SwapSign? OfFailure(SignFacts f) =>
        f.Orders.OfType<OrderNow.Failed>().MaxBy(o => o.MadeAt) is { } failed
            ? new(Sign.Stopped, $"{Order.WordsOf(failed.Kind)} failed: {failed.Words}", failed.EndedAt)
            : null;

    private static SwapSign? OfSnags(SignFacts f) =>
        f.OpenSnags == 0
            ? null
            : new(Sign.Wants, f is { OpenSnags: 1, OneSnag: { } one } ? one : $"{f.OpenSnags} snags: retry or waive each", f.SnagSince);

    private static SwapSign? OfOrders(SignFacts f)
    {
        if (f.Orders.OfType<OrderNow.UnderWay>().MaxBy(o => o.MadeAt) is { } runs)
        {
            var what = Order.WordsOf(runs.Kind);
            return runs switch
            {
                { IsHeard: false } => new(Sign.Wants, $"{what}: nothing heard from the hand at {runs.Tag}", runs.HeardAt),
                { PausedAt: { } at } => new(Sign.Wants, $"{what} rests until somebody lets it go on", at),
                { Waits: { } waits } => new(
                    Sign.Ahead, $"{what} waits for {(waits == "battery" ? "mains power" : waits)}", runs.HeardAt),
                { Kind: OrderNames.Restore } when f.UrgentReadyAt is not null => new(
                    Sign.Moving, "Restore: what is needed first is there", runs.TakenAt),
                _ => new(Sign.Moving, what, runs.TakenAt),
            };
        }
        return f.Orders.OfType<OrderNow.Waiting>().MaxBy(o => o.MadeAt) is not { } waiting
            ? null
            : waiting.HasHand
            ? new(Sign.Ahead, $"{Order.WordsOf(waiting.Kind)} waits for the hand at {waiting.Tag}", waiting.MadeAt)
            : new(Sign.Wants, $"{Order.WordsOf(waiting.Kind)} waits: no hand is enrolled at {waiting.Tag}", waiting.MadeAt);
    }

    private static SwapSign? OfAppointment(SignFacts f, DateTimeOffset now)
    {
        if (f.LeftOutBecause is { } because) return new(Sign.Wants, $"No appointment. {because}", null);
        if (f.End < now && At(f, Station.Swapped) is null && At(f, Station.Accepted) is null)
            return new(Sign.Wants, "Its time has passed and nothing was swapped", f.End);
        if (At(f, Station.Restored) is { } restored && At(f, Station.Accepted) is null)
            return new(Sign.Wants, "Restored: the person can look now", restored);
        return IsAtEnd(f) ? new(Sign.Wants, "All is done but the person's signature", f.Reached.Values.Max()) : null;
    }

    private static SwapSign OfWay(SignFacts f)
    {
        var stops = SwapLine.Of(f.Kind, f.Reached);
        var next = SwapLine.Next(stops);
        // The last station may be behind while an earlier one is open.
        var ahead = next < stops.Count ? stops[next].Station : stops.First(s => s.At is null).Station;
        return new(Sign.Ahead, next == 0 ? "Not told yet" : $"Next: {WordOf(ahead)}", null);
    }

    private static string WordOf(Station station) => station == Station.HandedIn ? "handed in" : station.ToString().ToLowerInvariant();
}
