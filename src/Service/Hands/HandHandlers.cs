using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>The work behind <see cref="HandEndpoints"/>.</summary>
internal static class HandHandlers
{
    private const int MostPerPage = 200;

    internal static async Task<Results<Ok<Page<HandSeen>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, ClaimsPrincipal user, YardDb db, CancellationToken cancel, string? q = null, string? cursor = null,
        int limit = 100)
    {
        if (limit is < 1 or > MostPerPage) return new ListLimitProblem(limit, MostPerPage).ToHttp();
        var sites = user.RoleOf() == Roles.Technician ? user.SitesOf() : null;
        var hands = db.Hands.AsNoTracking().Where(h => h.Refresh == refresh && h.ReplacedAt == null);
        if (sites is not null) hands = HandScope.Of(hands, db.Swaps.Where(s => s.Refresh == refresh && sites.Contains(s.Site)));
        if (q?.Trim() is { Length: > 0 } find)
        {
            var like = SearchPattern.Like(find);
            var named = HandScope.Of(hands, db.Swaps.Where(s => s.Refresh == refresh && EF.Functions.Like(s.Name.ToLower(), like, "\\")));
            hands = hands.Where(h => EF.Functions.Like(h.Tag.ToLower(), like, "\\")
                || EF.Functions.Like(h.Host.ToLower(), like, "\\")
                || named.Any(n => n.Id == h.Id));
        }
        var total = await hands.LongCountAsync(cancel);
        if (cursor is { Length: > 0 }) hands = hands.Where(h => h.Tag.CompareTo(cursor) > 0);
        var rows = await hands.OrderBy(h => h.Tag).ThenBy(h => h.Id).Take(limit + 1).ToListAsync(cancel);
        return TypedResults.Ok(new Page<HandSeen>(
            await SeenAsync(db, refresh, [.. rows.Take(limit)], cancel), rows.Count > limit ? rows[limit - 1].Tag : null, total));
    }

    internal static async Task<Results<Ok<HandWithdrawn>, ProblemHttpResult>> WithdrawAsync(
        RefreshKey refresh, Tag tag, ClaimsPrincipal user, Writer writer, Ended ended, CancellationToken cancel) =>
        (await writer.WriteAsync<HandWithdrawn>(refresh, async w =>
        {
            if (await HandScope.AgainstAsync(w.Db, refresh, tag, user, cancel) is { } problem) return problem;
            // What it is at is said as it was before.
            var seen = await SeenAsync(w.Db, refresh, await HandEnding.AllAsync(w.Db, refresh, tag, cancel), cancel);
            var (hands, codes) = await HandEnding.WithdrawAsync(w, ended, tag, cancel);
            if (hands.Count == 0 && codes == 0) return ServiceProblem.NotFound("hand at", tag);
            return new HandWithdrawn(seen.FirstOrDefault(), codes);
        }, cancel)).ToHttp();

    private static async Task<List<HandSeen>> SeenAsync(YardDb db, string refresh, IReadOnlyList<HandRow> hands, CancellationToken cancel)
    {
        var (tags, ids) = (hands.Select(h => h.Tag).ToList(), hands.Select(h => h.Id).ToList());
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh
                && (tags.Contains(s.OldTag!) || tags.Contains(s.NewTag!) || tags.Contains(s.ReceiverTag!)))
            .OrderBy(s => s.Id)
            .Select(s => new { s.Id, s.Name, s.Site, s.OldTag, s.NewTag, s.ReceiverTag })
            .ToListAsync(cancel);
        var orders = await db.Orders.AsNoTracking()
            .Where(o => ids.Contains(o.Hand!) && o.State == OrderStates.UnderWay)
            .Select(o => new { o.Hand, o.Kind })
            .ToListAsync(cancel);
        return [.. hands.Select(h =>
        {
            var swap = swaps.Find(s => s.OldTag == h.Tag || s.NewTag == h.Tag) ?? swaps.Find(s => s.ReceiverTag == h.Tag);
            var order = orders.Find(o => o.Hand == h.Id);
            return new HandSeen(
                h.Tag, h.Host, h.Version, h.EnrolledAt, h.SeenAt, swap?.Site ?? "", swap?.Id ?? "", swap?.Name ?? "",
                order is null ? null : Order.WordsOf(order.Kind));
        })];
    }
}
