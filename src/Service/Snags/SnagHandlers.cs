using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Core.Ids;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.Orders;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Snags;

/// <summary>The work behind <see cref="SnagEndpoints"/>.</summary>
internal static class SnagHandlers
{
    private const int MostPerPage = 500;
    private static readonly long LatestMicroseconds =
        (DateTimeOffset.MaxValue - DateTimeOffset.UnixEpoch).Ticks / TimeSpan.TicksPerMicrosecond;

    internal static async Task<Results<Ok<Page<SnagListed>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel, string end = "open", string? kind = null, string? site = null,
        string? side = null, string? q = null, string? cursor = null, int limit = 100)
    {
        if (limit is < 1 or > MostPerPage) return new ListLimitProblem(limit, MostPerPage).ToHttp();
        if (end is not ("open" or "waived" or "retried"))
            return Wrong("end", $"'{end}' is not how a snag stands. Use open, waived or retried.");
        var snags = db.Snags.AsNoTracking()
            .Where(n => n.Refresh == refresh && n.End == end)
            .Join(db.Swaps, n => n.Swap, s => s.Id, (n, s) => new { Snag = n, Swap = s });
        if (kind is { Length: > 0 })
        {
            if (!Enum.TryParse<SnagKind>(kind, true, out var k))
                return Wrong("kind", $"'{kind}' is not a kind of snag. Use {string.Join(", ", Enum.GetNames<SnagKind>())}.");
            snags = snags.Where(n => n.Snag.Kind == k);
        }
        if (side is { Length: > 0 })
        {
            if (side is not ("old" or "new")) return Wrong("side", $"'{side}' is not a side. Use old or new.");
            snags = snags.Where(n => n.Snag.Side == side);
        }
        if (site is { Length: > 0 }) snags = snags.Where(n => n.Swap.Site == site);
        if (q is { Length: > 0 })
        {
            var like = SearchPattern.Like(q);
            // Nobody finds out a name by asking for it.
            var hidden = SnagNames.Hidden(db, refresh);
            snags = snags.Where(n =>
                (EF.Functions.Like(n.Snag.Path.ToLower(), like, "\\") && !hidden.Contains(n.Swap.Id))
                    || EF.Functions.Like(n.Swap.Name.ToLower(), like, "\\")
                    || EF.Functions.Like(n.Swap.Id.ToLower(), like, "\\"));
        }
        var total = await snags.LongCountAsync(cancel);
        if (cursor is { Length: > 0 })
        {
            if (cursor.Split('~') is not [var ticks, var id]
                || !long.TryParse(ticks, NumberStyles.None, CultureInfo.InvariantCulture, out var micros)
                || micros > LatestMicroseconds)
                return Wrong("cursor", "The cursor is not one of ours. Leave it out to start from the front.");
            var at = DateTimeOffset.UnixEpoch.AddTicks(micros * TimeSpan.TicksPerMicrosecond);
            snags = snags.Where(n => n.Snag.At > at || (n.Snag.At == at && n.Snag.Id.CompareTo(id) > 0));
        }
        var rows = await snags.OrderBy(n => n.Snag.At).ThenBy(n => n.Snag.Id).Take(limit + 1).ToListAsync(cancel);
        var ids = rows.Select(r => r.Swap.Id).Distinct().ToList();
        var busy = (await db.Orders.AsNoTracking()
            .Where(o => ids.Contains(o.Swap) && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay))
            .Select(o => o.Swap)
            .ToListAsync(cancel)).ToHashSet();
        (await SnagNames.ReadAsync(db, ids, cancel)).Of(rows.ConvertAll(r => r.Snag));
        var items = rows.Take(limit).Select(r =>
        {
            var counsel = SnagCounsel.Of(r.Snag.Kind);
            return new SnagListed(
                SwapReader.Seen(r.Snag), r.Swap.Name, r.Swap.Site, r.Swap.Room, WaysOut(r.Snag, counsel), counsel.Words,
                busy.Contains(r.Swap.Id));
        }).ToList();
        var next = rows.Count > limit
            ? $"{(items[^1].Snag.At - DateTimeOffset.UnixEpoch).Ticks / TimeSpan.TicksPerMicrosecond}~{items[^1].Snag.Id}"
            : null;
        return TypedResults.Ok(new Page<SnagListed>(items, next, total));

        static ProblemHttpResult Wrong(string what, string message) =>
            new ListProblem(what, message).ToHttp();
    }

    private static IReadOnlyList<string> WaysOut(SnagRow snag, SnagCounsel counsel) => snag switch
    {
        { End: not "open" } => [],
        { Kind: SnagKind.SourceDoubted } => [OrderNames.TopUpTrip, "source"],
        _ when !counsel.MayRetry => ["waive"],
        { Side: "new" } => [OrderNames.Restore, "waive"],
        _ => [OrderNames.TopUpTrip, "waive"],
    };

    private static Problem? ReasonFault(string? reason) =>
        Reasons.SaysSomething(reason) ? null : new SnagReasonProblem();

    internal static async Task<Results<Ok<SnagSeen>, ProblemHttpResult>> WaiveAsync(
        string snag, WaiverWanted wanted, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (ReasonFault(wanted.Reason) is { } fault) return fault.ToHttp();
        var found = await db.Snags.AsNoTracking().FirstOrDefaultAsync(n => n.Id == snag, cancel);
        if (found is null) return ServiceProblem.NotFound("snag", snag).ToHttp();
        return (await writer.WriteAsync<SnagSeen>(found.Refresh, async w =>
        {
            var row = await w.Db.Snags.FirstAsync(n => n.Id == snag, cancel);
            var names = await SnagNames.ReadAsync(w.Db, [row.Swap], cancel);
            var swap = await w.Db.Swaps.FirstAsync(s => s.Id == row.Swap, cancel);
            if (Waive(w, swap, row, names, wanted.Reason) is { } problem) return problem;
            await SwapSettling.SettleAsync(w, swap, cancel);
            return SwapReader.Seen(row) with { Path = names.Of(row.Swap, row.Path) };
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<SnagSeen>, ProblemHttpResult>> AnswerAsync(
        string snag, SourceAnswerWanted wanted, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (ReasonFault(wanted.Reason) is not null || !Enum.IsDefined(wanted.Verdict)) return new SourceReasonProblem().ToHttp();
        var found = await db.Snags.AsNoTracking().FirstOrDefaultAsync(n => n.Id == snag, cancel);
        if (found is null) return ServiceProblem.NotFound("snag", snag).ToHttp();
        if (found.Doubt is not { } doubt) return new SnagNoSourceProblem().ToHttp();
        if (!SourceAnswer.Answers(wanted.Verdict, doubt)) return new SourceGoneProblem().ToHttp();
        return (await writer.WriteAsync<SnagSeen>(found.Refresh, async w =>
        {
            var row = await w.Db.Snags.FirstAsync(n => n.Id == snag, cancel);
            if (row.End == "retried") return new SnagEndedProblem();
            (row.End, row.EndedBy, row.EndReason, row.EndedAt, row.Verdict) =
                ("waived", w.By, wanted.Reason.Trim(), w.Now, wanted.Verdict);
            var said = wanted.Verdict == SourceVerdict.Same ? "it is the same source" : "what is gone was deleted";
            w.Note(
                "snag.source",
                row.Swap,
                $"{w.By} says of {row.Files:#,0} files that are not as they were: {said}. {wanted.Reason.Trim()}",
                new() { ["snag"] = row.Id, ["verdict"] = wanted.Verdict.ToString() });
            await SwapSettling.SettleAsync(w, await w.Db.Swaps.FirstAsync(s => s.Id == row.Swap, cancel), cancel);
            return SwapReader.Seen(row);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<WaiversMade>, ProblemHttpResult>> WaiveManyAsync(
        RefreshKey refresh, WaiversWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (ReasonFault(wanted.Reason) is { } fault) return fault.ToHttp();
        if (wanted.Snags.Count is < 1 or > MostPerPage)
            return new SnagManyProblem(MostPerPage, wanted.Snags.Count).ToHttp();
        return (await writer.WriteAsync<WaiversMade>(refresh, async w =>
        {
            var rows = await w.Db.Snags.Where(n => n.Refresh == refresh && wanted.Snags.Contains(n.Id))
                .OrderBy(n => n.At)
                .ToListAsync(cancel);
            if (wanted.Snags.Except(rows.Select(r => r.Id)).FirstOrDefault() is { } unknown)
                return ServiceProblem.NotFound("snag", unknown);
            var ids = rows.Select(r => r.Swap).Distinct().ToList();
            var swaps = await w.Db.Swaps.Where(s => ids.Contains(s.Id)).ToDictionaryAsync(s => s.Id, cancel);
            var names = await SnagNames.ReadAsync(w.Db, ids, cancel);
            var (waived, skipped) = (0, new List<string>());
            foreach (var row in rows)
            {
                var swap = swaps[row.Swap];
                if (!user.MayWorkAt(swap.Site))
                    skipped.Add($"{names.Of(row.Swap, row.Path)} of {swap.Name}: {swap.Site} is not one of your sites.");
                else if (row.Kind == SnagKind.OtherLists)
                    skipped.Add($"The parcel of {swap.Name} is not as it was left: whether it is taken as it is, is said by itself.");
                else if (Waive(w, swap, row, names, wanted.Reason) is { } problem)
                    skipped.Add($"{names.Of(row.Swap, row.Path)} of {swap.Name}: {problem.Message}");
                else waived++;
            }
            foreach (var swap in swaps.Values) await SwapSettling.SettleAsync(w, swap, cancel);
            return new WaiversMade(waived, skipped);
        }, cancel)).ToHttp();
    }

    /// <summary>Gives one up; the same again changes nothing.</summary>
    private static Problem? Waive(Change w, SwapRow swap, SnagRow row, SnagNames names, string reason)
    {
        if (row.End == "waived") return null;
        if (row.End == "retried")
            return new SnagEndedProblem();
        if (row.Kind == SnagKind.SourceDoubted) return new SnagSourceProblem();
        (row.End, row.EndedBy, row.EndReason, row.EndedAt) = ("waived", w.By, reason.Trim(), w.Now);
        ParcelHearing.Accept(swap, row);
        w.Note(
            "snag.waived",
            row.Swap,
            $"{w.By} waived {names.Of(row.Swap, row.Path)}: {reason.Trim()}",
            new() { ["snag"] = row.Id, ["bytes"] = row.Bytes.ToString(CultureInfo.InvariantCulture) });
        return null;
    }
}
