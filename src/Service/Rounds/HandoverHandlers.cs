using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rounds;

/// <summary>The work behind <see cref="HandoverEndpoints"/>.</summary>
internal static class HandoverHandlers
{
    private const int MostNote = 1000;

    private static Problem? NoteFault(string? note) =>
        note?.Trim().Length is >= 1 and <= MostNote
            ? null
            : new HandoverNoteProblem(MostNote);

    internal static async Task<Results<Ok<HandoverSeen>, ProblemHttpResult>> OneAsync(
        SwapId swap, HandoverWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (NoteFault(wanted.Note) is { } fault) return fault.ToHttp();
        // Whom somebody has at other sites is not for a technician to read.
        var sites = user.RoleOf() == Roles.Technician ? user.SitesOf() : null;
        HandoverSeen? looked = null;
        var answer = await writer.WriteAsync<HandoverSeen>(swap.Refresh, async w =>
        {
            var done = await PassAsync(w, swap, wanted, sites, cancel);
            if (!wanted.DryRun || !done.TryGet(out var passed, out _)) return done;
            // A look goes the whole way, and then nothing of it is kept.
            looked = passed with { Done = false };
            return new OnlyLooked();
        }, cancel);
        return looked is not null ? TypedResults.Ok(looked) : answer.ToHttp();
    }

    private static async Task<Result<HandoverSeen>> PassAsync(
        Change w, SwapId swap, HandoverWanted wanted, IReadOnlyList<string>? sites, CancellationToken cancel)
    {
        var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
        if (row.Technician is not { } from || row.Start is null)
            return new HandoverNoneProblem(row.Name);
        if (SwapFacts.IsOver(row)) return new HandoverOverProblem(row.Name);
        var all = await w.Db.Technicians.Where(t => t.Refresh == row.Refresh).OrderBy(t => t.Name).ToListAsync(cancel);
        if (all.Find(t => t.Key == wanted.To) is not { } to)
            return ServiceProblem.NotFound("technician", wanted.To);
        if (to.Key == from) return new HandoverSameProblem(to.Name);
        if (!to.Sites.Contains(row.Site))
            return new HandoverSiteProblem(to.Name, row.Site);
        if (row.Skills.Except(to.Skills).ToList() is { Count: > 0 } lacks)
            return new HandoverSkillProblem(to.Name, string.Join(", ", lacks));
        if (!(await BoardDesk.LayAsync(w, [], [row.Id], Near(row, w.Now), cancel)).TryGet(out var desk, out var unlaid)) return unlaid;
        if (!desk.Pass(row, to.Key))
        {
            var others = all.Where(t => t.Key != from && t.Key != to.Key && desk.MayPass(row, t.Key)).Select(t => t.Name);
            var against = await desk.AgainstPassingAsync(row, to.Key, sites, cancel);
            return new HandoverNotFreeProblem(to.Name, row.Name, string.Join(" ", against), [.. others]);
        }
        var passed = await HandoverDesk.PassAsync(w, desk, row, from, to, wanted.Note.Trim(), cancel);
        await desk.RecordAsync(cancel);
        return passed;
    }

    /// <summary>
    /// The days around what is to be passed on, its bench preparation, and now where it has begun: who has something then is found there.
    /// </summary>
    private static (DateTimeOffset From, DateTimeOffset Until) Near(SwapRow row, DateTimeOffset now)
    {
        var times = new[] { row.Start, row.End, row.BenchStart > now ? row.BenchStart : null, row.Start <= now ? now : null }
            .OfType<DateTimeOffset>()
            .ToList();
        return (times.Min().AddDays(-1), times.Max().AddDays(1));
    }

    internal static async Task<Results<Ok<DayHandoverSeen>, ProblemHttpResult>> DayAsync(
        RefreshKey refresh, string technician, DayHandoverWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer,
        CancellationToken cancel)
    {
        if (NoteFault(wanted.Note) is { } fault) return fault.ToHttp();
        if (user.RoleOf() == Roles.Technician && user.NameOf() != technician)
            return new NotYourDay().ToHttp();
        if (wanted.To is not { Count: > 0 and <= 20 })
            return new HandoverToProblem().ToHttp();
        DayHandoverSeen? looked = null;
        var answer = await writer.WriteAsync<DayHandoverSeen>(refresh, async w =>
        {
            var clock = new RefreshClock(w.Refresh);
            var all = await w.Db.Technicians.Where(t => t.Refresh == refresh).ToDictionaryAsync(t => t.Key, cancel);
            if (!all.TryGetValue(technician, out var mine)) return ServiceProblem.NotFound("technician", technician);
            foreach (var key in wanted.To)
                if (!all.ContainsKey(key) || key == technician) return ServiceProblem.NotFound("technician", key);
            var day = clock.DayOf(w.Now);
            var until = clock.StartOf(day.AddDays(1));
            var done = await new DayHandover(w, clock, mine, wanted.To.Distinct().Select(k => all[k]).ToList(), wanted.Note.Trim())
                .RunAsync(cancel);
            if (!wanted.DryRun || !done.TryGet(out var lines, out _))
                return done.IsOk
                    ? new DayHandoverSeen(technician, mine.Name, true, done.Value)
                    : Result<DayHandoverSeen>.Failed(done.Problems);
            // A look goes the whole way, and then nothing of it is kept.
            looked = new(technician, mine.Name, false, lines);
            return new OnlyLooked();
        }, cancel);
        return looked is not null ? TypedResults.Ok(looked) : answer.ToHttp();
    }
}
