using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rounds;

/// <summary>Passes swaps from one technician to another: one with a note, or all that is left of a day.</summary>
internal static class HandoverEndpoints
{
    private const int MostNote = 1000;

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/handovers", OneAsync)
            .OfOwnSites()
            .RequireAuthorization(Roles.Works)
            .WithName("HandOver")
            .WithSummary("Passes a swap to another technician, with a note. Its time stays.");
        routes.MapPost("/refreshes/{refresh}/technicians/{technician}/day-handover", DayAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("HandOverDay")
            .WithSummary(
                "Passes all that is left of a technician's day to others: what is under way at once, what is promised by the planning "
                    + "engine.");
    }

    /// <summary>The newest handover of a swap; null: none.</summary>
    public static async Task<HandoverSeen?> NewestAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        if (await db.Handovers.AsNoTracking()
            .Where(h => h.Swap == swap.Id)
            .OrderByDescending(h => h.At)
            .ThenByDescending(h => h.Id)
            .FirstOrDefaultAsync(cancel) is not { } row)
            return null;
        var names = await db.Technicians.AsNoTracking()
            .Where(t => t.Refresh == swap.Refresh && (t.Key == row.From || t.Key == row.To))
            .ToDictionaryAsync(t => t.Key, t => t.Name, cancel);
        return new(
            swap.Id,
            swap.Name,
            names.GetValueOrDefault(row.From, row.From),
            names.GetValueOrDefault(row.To, row.To),
            row.Note,
            row.By,
            row.At,
            []);
    }

    private static Problem? NoteFault(string? note) =>
        note?.Trim().Length is >= 1 and <= MostNote
            ? null
            : new("handover.note", $"Say in 1 to {MostNote} characters what the next one must know.");

    private static async Task<Results<Ok<HandoverSeen>, ProblemHttpResult>> OneAsync(
        string swap, HandoverWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (NoteFault(wanted.Note) is { } fault) return new[] { fault }.ToHttp();
        return (await writer.WriteAsync<HandoverSeen>(SwapScope.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (row.Technician is not { } from || row.Start is null)
                return ServiceProblem.Conflict("handover.none", $"{row.Name} has no appointment, so nobody has it in hand. Plan it first.");
            if (await w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == row.Refresh && t.Key == wanted.To, cancel) is not { } to)
                return ServiceProblem.NotFound("technician", wanted.To);
            if (to.Key == from) return ServiceProblem.Conflict("handover.same", $"{to.Name} has it already.");
            if (!to.Sites.Contains(row.Site))
                return ServiceProblem.Conflict(
                    "handover.site", $"{to.Name} does not work at {row.Site}. Choose somebody who does, or add the site to them.");
            if (row.Skills.Except(to.Skills).ToList() is { Count: > 0 } lacks)
                return ServiceProblem.Conflict("handover.skill", $"{to.Name} lacks {string.Join(", ", lacks)}, which this swap asks for.");
            return await PassAsync(w, row, from, to, wanted.Note.Trim(), cancel);
        }, cancel)).ToHttp();
    }

    /// <summary>Passes a swap on at its time.</summary>
    public static async Task<HandoverSeen> PassAsync(
        Writing.Writing w, SwapRow row, string from, TechnicianRow to, string note, CancellationToken cancel)
    {
        var clock = new RefreshClock(w.Refresh);
        var clashes = (await w.Db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == row.Refresh && s.Id != row.Id && s.Technician == to.Key && s.Start < row.End && s.End > row.Start)
            .OrderBy(s => s.Start)
            .ToListAsync(cancel))
            .Where(s => Overlap(s, row))
                .Select(s =>
                    $"{to.Name} has {s.Name} at {s.Site} from {clock.Local(
                        s.Start!.Value):HH:mm} to {clock.Local(s.End!.Value):HH:mm}.").ToList();
        var fromName = await w.Db.Technicians.Where(t => t.Refresh == row.Refresh && t.Key == from)
            .Select(t => t.Name)
            .FirstOrDefaultAsync(cancel)
            ?? from;
        row.Technician = to.Key;
        row.ChecklistVersion++;
        row.Sequence++;
        if (row.BenchTechnician == from && row.BenchStart > w.Now) row.BenchTechnician = to.Key;
        if (row.PinnedTechnician is not null) row.PinnedTechnician = to.Key;
        w.Db.Handovers.Add(new()
        {
            Id = Guid.CreateVersion7(w.Now).ToString(),
            Refresh = row.Refresh,
            Swap = row.Id,
            From = from,
            To = to.Key,
            Note = note,
            By = w.By,
            At = w.Now
        });
        w.WorldChanged();
        w.Note(
            "swap.handed-over",
            row.Id,
            $"{row.Name} handed over from {fromName} to {to.Name}: {note}",
            new() { ["from"] = from, ["to"] = to.Key });
        return new(row.Id, row.Name, fromName, to.Name, note, w.By, w.Now, clashes);
    }

    // Hands-on parts only: what goes on by itself leaves hands free.
    private static bool Overlap(SwapRow a, SwapRow b)
    {
        (DateTimeOffset From, DateTimeOffset To)[] Parts(SwapRow s) =>
            [(s.Start!.Value, s.HandsOnUntil!.Value), (s.Finish!.Value, s.End!.Value)];
        return Parts(a).Any(x => Parts(b).Any(y => x.From < y.To && y.From < x.To));
    }

    private static async Task<Results<Ok<DayHandoverSeen>, ProblemHttpResult>> DayAsync(
        string refresh, string technician, DayHandoverWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer,
        CancellationToken cancel)
    {
        if (NoteFault(wanted.Note) is { } fault) return new[] { fault }.ToHttp();
        if (user.RoleOf() == Roles.Technician && user.NameOf() != technician)
            return new Problem[] { ServiceProblem.Forbidden("A technician hands over their own day; a coordinator anybody's.") }.ToHttp();
        if (wanted.To is not { Count: > 0 and <= 20 })
            return new Problem[] { new("handover.to", "Name 1 to 20 technicians who take it over.") }.ToHttp();
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
            return new Problem("handover.looked", "Only looked.");
        }, cancel);
        return looked is not null ? TypedResults.Ok(looked) : answer.ToHttp();
    }
}
