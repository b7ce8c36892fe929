using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Swaps;
using YardRelay.Service.Worlds;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rounds;

/// <summary>Passes swaps from one technician to another: one with a note, or all that is left of a day.</summary>
internal static class HandoverEndpoints
{
    private const int MostNote = 1000;

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/handovers", OneAsync).RequireAuthorization(Roles.Works).WithName("HandOver").WithSummary("Passes a swap to another technician, with a note. Its time stays.");
        routes.MapPost("/refreshes/{refresh}/technicians/{technician}/day-handover", DayAsync).RequireAuthorization(Roles.Works).WithName("HandOverDay").WithSummary("Passes all that is left of a technician's day to others: what is under way at once, what is promised by the planning engine.");
    }

    /// <summary>The newest handover of a swap; null: none.</summary>
    public static async Task<HandoverSeen?> NewestAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        if (await db.Handovers.AsNoTracking().Where(h => h.Swap == swap.Id).OrderByDescending(h => h.At).ThenByDescending(h => h.Id).FirstOrDefaultAsync(cancel) is not { } row) return null;
        var names = await db.Technicians.AsNoTracking().Where(t => t.Refresh == swap.Refresh && (t.Key == row.From || t.Key == row.To)).ToDictionaryAsync(t => t.Key, t => t.Name, cancel);
        return new(swap.Id, swap.Name, names.GetValueOrDefault(row.From, row.From), names.GetValueOrDefault(row.To, row.To), row.Note, row.By, row.At, []);
    }

    private static Problem? NoteFault(string? note) => note?.Trim().Length is >= 1 and <= MostNote ? null : new("handover.note", $"Say in 1 to {MostNote} characters what the next one must know.");

    private static async Task<Results<Ok<HandoverSeen>, ProblemHttpResult>> OneAsync(string swap, HandoverWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (NoteFault(wanted.Note) is { } fault) return new[] { fault }.ToHttp();
        if (await SwapEndpoints.ScopeAsync(db, swap, user, cancel) is { } refusal) return refusal;
        return (await writer.WriteAsync<HandoverSeen>(SwapEndpoints.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (row.Technician is not { } from || row.Start is null) return ServiceProblem.Conflict("handover.none", $"{row.Name} has no appointment, so nobody has it in hand. Plan it first.");
            if (await w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == row.Refresh && t.Key == wanted.To, cancel) is not { } to) return ServiceProblem.NotFound("technician", wanted.To);
            if (to.Key == from) return ServiceProblem.Conflict("handover.same", $"{to.Name} has it already.");
            if (!to.Sites.Contains(row.Site)) return ServiceProblem.Conflict("handover.site", $"{to.Name} does not work at {row.Site}. Choose somebody who does, or add the site to them.");
            if (row.Skills.Except(to.Skills).ToList() is { Count: > 0 } lacks) return ServiceProblem.Conflict("handover.skill", $"{to.Name} lacks {string.Join(", ", lacks)}, which this swap asks for.");
            return await PassAsync(w, row, from, to, wanted.Note.Trim(), cancel);
        }, cancel)).ToHttp();
    }

    private static async Task<HandoverSeen> PassAsync(Writing.Writing w, SwapRow row, string from, TechnicianRow to, string note, CancellationToken cancel)
    {
        var clock = new RefreshClock(w.Refresh);
        var clashes = (await w.Db.Swaps.AsNoTracking().Where(s => s.Refresh == row.Refresh && s.Id != row.Id && s.Technician == to.Key && s.Start < row.End && s.End > row.Start).OrderBy(s => s.Start).ToListAsync(cancel))
            .Where(s => Overlap(s, row)).Select(s => $"{to.Name} has {s.Name} at {s.Site} from {clock.Local(s.Start!.Value):HH:mm} to {clock.Local(s.End!.Value):HH:mm}.").ToList();
        var fromName = await w.Db.Technicians.Where(t => t.Refresh == row.Refresh && t.Key == from).Select(t => t.Name).FirstOrDefaultAsync(cancel) ?? from;
        row.Technician = to.Key;
        row.ChecklistVersion++;
        row.Sequence++;
        if (row.BenchTechnician == from && row.BenchStart > w.Now) row.BenchTechnician = to.Key;
        if (row.PinnedTechnician is not null) row.PinnedTechnician = to.Key;
        w.Db.Handovers.Add(new() { Id = Guid.CreateVersion7(w.Now).ToString(), Refresh = row.Refresh, Swap = row.Id, From = from, To = to.Key, Note = note, By = w.By, At = w.Now });
        w.WorldChanged();
        w.Note("swap.handed-over", row.Id, $"{row.Name} handed over from {fromName} to {to.Name}: {note}", new() { ["from"] = from, ["to"] = to.Key });
        return new(row.Id, row.Name, fromName, to.Name, note, w.By, w.Now, clashes);
    }

    // Hands-on parts only: what goes on by itself leaves hands free.
    private static bool Overlap(SwapRow a, SwapRow b)
    {
        (DateTimeOffset From, DateTimeOffset To)[] Parts(SwapRow s) => [(s.Start!.Value, s.HandsOnUntil!.Value), (s.Finish!.Value, s.End!.Value)];
        return Parts(a).Any(x => Parts(b).Any(y => x.From < y.To && y.From < x.To));
    }

    private static async Task<Results<Ok<DayHandoverSeen>, ProblemHttpResult>> DayAsync(string refresh, string technician, DayHandoverWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (NoteFault(wanted.Note) is { } fault) return new[] { fault }.ToHttp();
        if (user.RoleOf() == Roles.Technician && user.NameOf() != technician) return new Problem[] { ServiceProblem.Forbidden("A technician hands over their own day; a coordinator anybody's.") }.ToHttp();
        if (wanted.To is not { Count: > 0 and <= 20 }) return new Problem[] { new("handover.to", "Name 1 to 20 technicians who take it over.") }.ToHttp();
        DayHandoverSeen? looked = null;
        var done = await writer.WriteAsync<DayHandoverSeen>(refresh, async w =>
        {
            var clock = new RefreshClock(w.Refresh);
            var all = await w.Db.Technicians.Where(t => t.Refresh == refresh).ToDictionaryAsync(t => t.Key, cancel);
            if (!all.TryGetValue(technician, out var mine)) return ServiceProblem.NotFound("technician", technician);
            foreach (var key in wanted.To)
                if (!all.ContainsKey(key) || key == technician) return ServiceProblem.NotFound("technician", key);
            var day = clock.DayOf(w.Now);
            var until = clock.StartOf(day.AddDays(1));
            var open = (await w.Db.Swaps.Where(s => s.Refresh == refresh && s.Technician == technician && s.Start >= clock.StartOf(day) && s.Start < until).OrderBy(s => s.Start).ToListAsync(cancel)).FindAll(s => s.AcceptedAt is null);
            if (open.Count == 0) return ServiceProblem.Conflict("handover.nothing", $"{mine.Name} has nothing left today.");
            var takers = wanted.To.Distinct().Select(k => all[k]).ToList();
            var (lines, moved) = (new List<DayHandoverLine>(), false);

            // What is under way goes on where it is, in other hands.
            foreach (var swap in open.Where(s => SwapFacts.IsUnderWay(s) || s.Start <= w.Now))
            {
                var able = takers.Where(t => t.Sites.Contains(swap.Site) && swap.Skills.All(t.Skills.Contains)).ToList();
                var to = able.Find(t => !open.Exists(o => o.Technician == t.Key)) ?? able.FirstOrDefault();
                if (to is null)
                {
                    lines.Add(new(swap.Id, swap.Name, null, swap.Start, swap.Start, $"Under way, and none of them works at {swap.Site} with what it asks for. Hand it to somebody else."));
                    continue;
                }
                var passed = await PassAsync(w, swap, technician, to, wanted.Note.Trim(), cancel);
                lines.Add(new(swap.Id, swap.Name, to.Name, swap.Start, swap.Start, $"Under way; {to.Name} goes on.{(passed.Clashes.Count > 0 ? $" {passed.Clashes[0]}" : "")}"));
            }

            // What is only promised is placed anew by the engine: at the same time with one of them, else later that day, else it waits for the next plan.
            var ahead = open.FindAll(s => !(SwapFacts.IsUnderWay(s) || s.Start <= w.Now));
            var nowMinute = Math.Max(0, clock.MinuteOf(w.Now));
            var left = $"{day:yyyy-MM-dd} {clock.Local(w.Now):HH:mm}..{day:yyyy-MM-dd} 23:59";
            if (LocalSpan.Parse(left).IsOk && !mine.Absences.Contains(left)) mine.Absences = [.. mine.Absences, left];
            await w.Db.SaveChangesAsync(cancel);
            var posed = WorldProblem.Pose(await WorldReader.ReadAsync(w.Db, w.Refresh, cancel), nowMinute);
            if (!posed.TryGet(out var problem, out _)) return Result<DayHandoverSeen>.Failed(posed.Problems);
            var reader = await PlanReader.OfAsync(w.Db, problem, w.Refresh, cancel);
            var row = await PlanReader.RowAsync(w.Db, refresh, "published", cancel);
            var body = row is null ? new Plan([], []) : PlanReader.BodyOf(row);
            var ids = ahead.Select(s => s.Id).ToHashSet();
            var board = PlanBoard.Lay(problem.Problem, body with { Placed = [.. body.Placed.Where(p => !ids.Contains(p.Id) && problem.Problem.VisitOf.ContainsKey(p.Id) && problem.Problem.TechnicianOf.ContainsKey(p.Technician))] }, out _);
            foreach (var swap in ahead)
            {
                var was = swap.Start!.Value;
                var start = clock.MinuteOf(was);
                MoveAnswer? best = null;
                for (var at = start; problem.Problem.VisitOf.ContainsKey(swap.Id) && best is null && Minutes.DayOf(at) == Minutes.DayOf(start); at += problem.World.Grid)
                    best = takers.Select(t => board.Try(swap.Id, t.Key, at)).Where(a => a.IsAllowed).MinBy(a => a.CostAfter);
                if (best is not null && board.Move(swap.Id, best.At.Technician, best.At.Start) is { IsAllowed: true } taken)
                {
                    moved = true;
                    var to = all[taken.At.Technician];
                    w.Db.Handovers.Add(new() { Id = Guid.CreateVersion7(w.Now).ToString(), Refresh = refresh, Swap = swap.Id, From = technician, To = to.Key, Note = wanted.Note.Trim(), By = w.By, At = w.Now });
                    var begins = clock.At(taken.At.Start);
                    lines.Add(new(swap.Id, swap.Name, to.Name, was, begins, begins == was ? $"Stays at {clock.Local(begins):HH:mm}, with {to.Name}." : $"Moves from {clock.Local(was):HH:mm} to {clock.Local(begins):HH:mm}, with {to.Name}."));
                }
                else
                {
                    moved = true;
                    lines.Add(new(swap.Id, swap.Name, null, was, null, "None of them has room for it today. It waits for the next plan."));
                }
            }
            var seen = new DayHandoverSeen(technician, mine.Name, !wanted.DryRun, lines);
            if (wanted.DryRun)
            {
                looked = seen;
                return new Problem("handover.looked", "Only looked.");
            }
            if (moved)
            {
                var placed = ids.Where(problem.Problem.VisitOf.ContainsKey).Select(board.At).OfType<Placed>().ToList();
                var without = ahead.Where(s => placed.All(p => p.Id != s.Id)).Select(s => new Unplaced(s.Id, "Its technician's day was handed over, and nobody else had room."));
                await Booking.BookAsync(w, reader, problem.Problem, new([.. placed], [.. without]), cancel);
                // The plan on record follows; what else of it no longer fits is left for the next plan to mend.
                if (row is not null) row.Body = PlanFile.Write(new([.. body.Placed.Where(p => !ids.Contains(p.Id)), .. placed], [.. body.Unplaced.Where(u => !ids.Contains(u.Id)), .. without]));
            }
            w.WorldChanged();
            w.Note("day.handed-over", null, $"{mine.Name} is away for the rest of {day:ddd d MMM}: {lines.Count(l => l.To is not null)} swaps handed over, {lines.Count(l => l.To is null)} not: {wanted.Note.Trim()}", new() { ["technician"] = technician, ["swaps"] = lines.Count });
            return seen;
        }, cancel);
        return looked is not null ? TypedResults.Ok(looked) : done.ToHttp();
    }
}
