using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Swaps;

/// <summary>The work behind <see cref="SwapEndpoints"/>.</summary>
internal static class SwapHandlers
{
    private const int MostPerPage = 500;

    internal static Task<Results<Ok<Page<SwapListed>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, SwapReader reader, CancellationToken cancel,
        string? q = null, string? site = null, string? technician = null, string? kind = null, string? next = null, string? sort = null,
        string? cursor = null, int limit = 100) =>
        PageAsync(refresh, new(q, site, technician, kind, next, sort, cursor, limit), db, reader, cancel);

    private static async Task<Results<Ok<Page<SwapListed>>, ProblemHttpResult>> PageAsync(
        RefreshKey refresh, SwapsAsked asked, YardDb db, SwapReader reader, CancellationToken cancel)
    {
        if (asked.Limit is < 1 or > MostPerPage) return new ListLimitProblem(asked.Limit, MostPerPage).ToHttp();
        if (!SwapFilter.Read(asked).TryGet(out var filter, out var unknown)) return unknown.ToHttp();
        var found = filter.Of(db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh));
        if (!SwapOrder.Read(asked.Sort).TryGet(out var order, out var disorder)) return disorder.ToHttp();
        var rest = found;
        if (asked.Cursor is { Length: > 0 })
        {
            if (SwapCursor.Read(asked.Cursor) is not { } cursor) return new SwapsCursorProblem().ToHttp();
            if (cursor.Order != order.Key) return new SwapsCursorOfAnotherOrder().ToHttp();
            if (order.After(found, cursor.Place, cursor.Id) is not { } after) return new SwapsCursorProblem().ToHttp();
            rest = after;
        }
        var rows = await order.Sorted(rest).Take(asked.Limit + 1).ToListAsync(cancel);
        var items = rows.Take(asked.Limit).ToList();
        var more = rows.Count > asked.Limit ? SwapCursor.Behind(order, items[^1]).Text : null;
        return TypedResults.Ok(new Page<SwapListed>(await reader.ListAsync(items, cancel), more, await found.LongCountAsync(cancel)));
    }

    internal static async Task<Results<Ok<SwapSeen>, ProblemHttpResult>> GetAsync(
        SwapId swap, SwapReader reader, HttpResponse response, CancellationToken cancel)
    {
        if (await reader.GetAsync(swap, cancel) is not { } seen) return ServiceProblem.NotFound("swap", swap).ToHttp();
        response.Headers.ETag = $"\"{seen.Checklist.Version}\"";
        return TypedResults.Ok(seen);
    }

    internal static async Task<Ok<List<SwapListed>>> MineAsync(ClaimsPrincipal user, YardDb db, SwapReader reader, CancellationToken cancel)
    {
        var person = user.FindFirstValue("person") ?? "";
        var own = user.RefreshesOf();
        var rows = person.Length == 0
            ? []
            : await db.Swaps.AsNoTracking()
                .Where(s => s.Person == person && own.Contains(s.Refresh))
                .OrderBy(s => s.Id)
                .Take(50)
                .ToListAsync(cancel);
        return TypedResults.Ok(await reader.ListAsync(rows, cancel));
    }
}
