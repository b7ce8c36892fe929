using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Orders;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Keeping;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>How a hand ends: another is enrolled in its place, or somebody withdraws it.</summary>
internal static class HandEnding
{
    /// <summary>How long a hand's token counts.</summary>
    public static readonly TimeSpan HandLives = TimeSpan.FromDays(180);

    /// <summary>Why a hand is none any more; null: it is one.</summary>
    public static async Task<Problem?> AgainstAsync(YardDb db, string hand, CancellationToken cancel)
    {
        var row = await db.Hands.AsNoTracking().FirstOrDefaultAsync(h => h.Id == hand, cancel);
        return row is { ReplacedAt: null } ? null : new HandEndedProblem(row?.WithdrawnBy);
    }

    /// <summary>The hands at a computer.</summary>
    public static Task<List<HandRow>> AllAsync(YardDb db, string refresh, string tag, CancellationToken cancel) =>
        db.Hands.Where(h => h.Refresh == refresh && h.Tag == tag && h.ReplacedAt == null).ToListAsync(cancel);

    /// <summary>Ends it. What it had under way waits for another, which goes on from the parcel's journal.</summary>
    /// <param name="ended">Null: it is only looked what would be.</param>
    /// <returns>The order that it had under way; null: none.</returns>
    public static async Task<OrderRow?> EndAsync(Change w, Ended? ended, HandRow hand, CancellationToken cancel)
    {
        ended?.Add(EndedKind.Hand, [(hand.Id, hand.EnrolledAt + HandLives)]);
        hand.ReplacedAt = w.Now;
        w.HandsToWake.Add(hand.Tag);
        var orders = await w.Db.Orders.Where(o => o.Hand == hand.Id && o.State == OrderStates.UnderWay).ToListAsync(cancel);
        foreach (var order in orders) (order.State, order.LeaseUntil) = (OrderStates.Waiting, null);
        return orders.FirstOrDefault();
    }

    /// <summary>Ends the hands at a computer, and the codes for it that nobody used yet.</summary>
    /// <param name="ended">Null: it is only looked what would be.</param>
    /// <returns>The hands, and how many codes.</returns>
    public static async Task<(List<HandRow> Hands, int Codes)> WithdrawAsync(Change w, Ended? ended, string tag, CancellationToken cancel)
    {
        var refresh = w.Refresh.Key;
        var unused = w.Db.Codes.Where(c => c.Refresh == refresh && c.Tag == tag && c.UsedAt == null && c.Expires > w.Now);
        ended?.Add(EndedKind.Code, [.. (await unused.AsNoTracking().ToListAsync(cancel)).Select(c => (c.Sha256, c.Expires))]);
        var codes = await unused.ExecuteDeleteAsync(cancel);
        var hands = await AllAsync(w.Db, refresh, tag, cancel);
        foreach (var hand in hands)
        {
            await EndAsync(w, ended, hand, cancel);
            hand.WithdrawnBy = w.By;
        }
        if (hands.Count > 0 || codes > 0)
            w.Note(
                "hand.withdrawn",
                null,
                hands.Count > 0 ? $"{w.By} withdrew the hand at {tag}" : $"{w.By} withdrew the codes for {tag}",
                new() { ["hand"] = hands.FirstOrDefault()?.Id, ["codes"] = codes });
        return (hands, codes);
    }

    /// <summary>The hand in words, for whoever takes its place: where it is, since when, and what it was at.</summary>
    public static string Words(HandRow hand, OrderRow? order, Change w) =>
        $"the hand on {hand.Host}, enrolled {new RefreshClock(w.Refresh).Local(hand.EnrolledAt):yyyy-MM-dd HH:mm} and {Heard(hand, w)}"
            + (order is null ? "" : $", which had an order under way: {Order.WordsOf(order.Kind).ToLowerInvariant()}");

    private static string Heard(HandRow hand, Change w) => hand.SeenAt switch
    {
        null => "never heard of since",
        { } at when w.Now - at < TimeSpan.FromMinutes(2) => "heard of just now",
        { } at => $"last heard of {new RefreshClock(w.Refresh).Local(at):yyyy-MM-dd HH:mm}",
    };
}
