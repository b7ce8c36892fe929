using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Swaps;

/// <summary>The work behind <see cref="SwapEndpoints"/>.</summary>
internal static class SwapHandlers
{
    private const int MostPerPage = 500;

    internal static async Task<Results<Ok<Page<SwapListed>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, SwapReader reader, CancellationToken cancel,
        string? q = null, string? site = null, string? technician = null, string? kind = null, string? next = null, string? sort = null,
        string? cursor = null, int limit = 100)
    {
        if (limit is < 1 or > MostPerPage) return Wrong("limit", $"'limit' is {limit}; use 1 to {MostPerPage}.");
        var swaps = db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh);
        if (q is { Length: > 0 })
        {
            var like = SearchPattern.Like(q);
            swaps = swaps.Where(s =>
                EF.Functions.Like(s.Name.ToLower(), like, "\\")
                    || EF.Functions.Like(s.Id.ToLower(), like, "\\")
                    || EF.Functions.Like((s.OldTag ?? "").ToLower(), like, "\\")
                    || EF.Functions.Like((s.NewTag ?? "").ToLower(), like, "\\")
                    || EF.Functions.Like((s.Room ?? "").ToLower(), like, "\\"));
        }
        if (site is { Length: > 0 }) swaps = swaps.Where(s => s.Site == site);
        if (technician is { Length: > 0 }) swaps = swaps.Where(s => s.Technician == technician);
        if (kind is { Length: > 0 })
        {
            if (!Enum.TryParse<SwapKind>(kind, true, out var k))
                return Wrong(
                    "kind", $"'{kind}' is not a kind of swap. Use {string.Join(", ", Enum.GetNames<SwapKind>()).ToLowerInvariant()}.");
            swaps = swaps.Where(s => s.Kind == k);
        }
        if (next is { Length: > 0 })
        {
            if (!Enum.TryParse<Station>(next, true, out var station))
                return Wrong("next", $"'{next}' is not a station. Use {string.Join(", ", Enum.GetNames<Station>())}.");
            // Kinds leave stations out, so the same station has another index in each.
            var byKind = Enum.GetValues<SwapKind>()
                .Select(k => (Kind: k, Index: SwapLine.StationsOf(k).ToList().IndexOf(station)))
                .Where(p => p.Index >= 0)
                .ToLookup(p => p.Index, p => p.Kind);
            var (i0, k0) = (byKind.ElementAtOrDefault(0)?.Key ?? -1, byKind.ElementAtOrDefault(0)?.ToList() ?? []);
            var (i1, k1) = (byKind.ElementAtOrDefault(1)?.Key ?? -1, byKind.ElementAtOrDefault(1)?.ToList() ?? []);
            var (i2, k2) = (byKind.ElementAtOrDefault(2)?.Key ?? -1, byKind.ElementAtOrDefault(2)?.ToList() ?? []);
            swaps = swaps.Where(s =>
                (s.Next == i0 && k0.Contains(s.Kind)) || (s.Next == i1 && k1.Contains(s.Kind)) || (s.Next == i2 && k2.Contains(s.Kind)));
        }
        var total = await swaps.LongCountAsync(cancel);
        sort = sort is null or "" ? "name" : sort;
        string[]? after = null;
        if (cursor is { Length: > 0 } && (after = Decode(cursor)) is not { Length: 3 })
            return Wrong("cursor", "The cursor is not one of ours. Leave it out to start from the front.");
        if (after is not null && after[0] != sort)
            return Wrong("cursor", "The cursor belongs to another order. Leave it out to start from the front.");
        var id = after?[2] ?? "";
        switch (sort)
        {
            case "name":
                var name = after?[1] ?? "";
                swaps = (after is null ? swaps : swaps.Where(s => s.Name.CompareTo(name) > 0 || (s.Name == name && s.Id.CompareTo(id) > 0)))
                    .OrderBy(s => s.Name)
                    .ThenBy(s => s.Id);
                break;
            case "time":
                // Swaps without an appointment come last, in both databases.
                var late = DateTimeOffset.MaxValue.AddYears(-1);
                var at = after is null ? default : new DateTimeOffset(long.Parse(after[1], CultureInfo.InvariantCulture), TimeSpan.Zero);
                swaps = (after is null
                    ? swaps
                    : swaps.Where(s => (s.Start ?? late) > at || ((s.Start ?? late) == at && s.Id.CompareTo(id) > 0)))
                    .OrderBy(s => s.Start ?? late)
                    .ThenBy(s => s.Id);
                break;
            case "station":
                var index = after is null ? 0 : int.Parse(after[1], CultureInfo.InvariantCulture);
                swaps = (after is null ? swaps : swaps.Where(s => s.Next > index || (s.Next == index && s.Id.CompareTo(id) > 0)))
                    .OrderBy(s => s.Next)
                    .ThenBy(s => s.Id);
                break;
            default:
                return Wrong("sort", $"'{sort}' is not an order. Use name, time or station.");
        }
        var rows = await swaps.Take(limit + 1).ToListAsync(cancel);
        var items = rows.Take(limit).ToList();
        string? more = null;
        if (rows.Count > limit)
        {
            var last = items[^1];
            more = Encode([
                sort,
                sort switch
                {
                    "name" => last.Name,
                    "time" => (last.Start ?? DateTimeOffset.MaxValue.AddYears(-1)).UtcTicks.ToString(CultureInfo.InvariantCulture),
                    _ => last.Next.ToString(CultureInfo.InvariantCulture)
                },
                last.Id
            ]);
        }
        return TypedResults.Ok(new Page<SwapListed>(await reader.ListAsync(items, cancel), more, total));

        static ProblemHttpResult Wrong(string what, string message) =>
            new ListProblem(what, message).ToHttp();
    }

    private static string Encode(string[] parts) =>
        Convert.ToBase64String(JsonSerializer.SerializeToUtf8Bytes(parts)).Replace('+', '-').Replace('/', '_').TrimEnd('=');

    private static string[]? Decode(string cursor)
    {
        try
        {
            var text = cursor.Replace('-', '+').Replace('_', '/');
            return JsonSerializer.Deserialize<string[]>(Convert.FromBase64String(text.PadRight((text.Length + 3) / 4 * 4, '=')));
        }
        catch (Exception wrong) when (wrong is FormatException or JsonException)
        {
            return null;
        }
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
        var rows = person.Length == 0
            ? []
            : await db.Swaps.AsNoTracking().Where(s => s.Person == person).OrderBy(s => s.Id).Take(50).ToListAsync(cancel);
        return TypedResults.Ok(await reader.ListAsync(rows, cancel));
    }
}
