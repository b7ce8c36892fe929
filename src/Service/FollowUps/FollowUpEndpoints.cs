using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.FollowUps;

/// <summary>What is still to be done for a swap beside its checklist: with an owner, a time, and what it holds up.</summary>
internal static class FollowUpEndpoints
{
    private const int MostWords = 500;
    private const int MostOpen = 50;
    private const int MostListed = 500;
    private const int MostVisitMinutes = 240;
    private const int LeastNoticeMinutes = 30;

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/follow-ups", ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListFollowUps")
            .WithSummary("Follow-ups of a refresh, due first; owner, swap, end=open, done or all.");
        routes.MapPost("/swaps/{swap}/follow-ups", OpenAsync)
            .OfOwnSites()
            .RequireAuthorization(Roles.Works)
            .WithName("OpenFollowUp")
            .WithSummary("Opens a follow-up.");
        routes.MapPost("/swaps/{swap}/refusal", RefuseAsync)
            .OfOwnSites()
            .RequireAuthorization(Roles.Works)
            .WithName("RefuseSwap")
            .WithSummary("The person does not accept: a follow-up is opened that holds the sign-offs.");
        routes.MapPut("/follow-ups/{followUp}", ChangeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("ChangeFollowUp")
            .WithSummary("Changes words, owner, time or hold of an open follow-up.");
        routes.MapPost("/follow-ups/{followUp}/end", EndAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("EndFollowUp")
            .WithSummary("Ends a follow-up with what came of it.");
    }

    /// <summary>Open follow-ups of a swap, for its gates.</summary>
    public static async Task<List<OpenFollowUp>> OpenOfAsync(YardDb db, string swap, CancellationToken cancel) =>
        await db.FollowUps.AsNoTracking()
            .Where(f => f.Swap == swap && f.DoneAt == null)
            .OrderBy(f => f.Due)
            .Select(f => new OpenFollowUp(f.Words, f.Owner, f.Due, f.Holds))
            .ToListAsync(cancel);

    /// <summary>Follow-ups of a swap, open ones first.</summary>
    public static async Task<List<FollowUpSeen>> OfSwapAsync(YardDb db, string swap, CancellationToken cancel) =>
        await SeenAsync(
            db,
            await db.FollowUps.AsNoTracking()
                .Where(f => f.Swap == swap)
                .OrderBy(f => f.DoneAt == null ? 0 : 1)
                .ThenBy(f => f.Due)
                .Take(2 * MostOpen)
                .ToListAsync(cancel),
            cancel);

    private static async Task<List<FollowUpSeen>> SeenAsync(YardDb db, List<FollowUpRow> rows, CancellationToken cancel)
    {
        var (ids, owners) = (rows.Select(r => r.Swap).Distinct().ToList(), rows.Select(r => r.Owner).Distinct().ToList());
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => ids.Contains(s.Id))
            .Select(s => new { s.Id, s.Name, s.Site })
            .ToDictionaryAsync(s => s.Id, cancel);
        var visiting = rows.Select(r => r.VisitTechnician).OfType<string>().Distinct().ToList();
        var technicians = visiting.Count == 0
            ? []
            : (await db.Technicians.AsNoTracking()
                .Where(t => visiting.Contains(t.Key))
                .Select(t => new { t.Key, t.Name })
                .ToListAsync(cancel))
                .DistinctBy(t => t.Key)
                .ToDictionary(t => t.Key, t => t.Name);
        var names = await db.Accounts.AsNoTracking()
            .Where(a => owners.Contains(a.Name))
            .ToDictionaryAsync(a => a.Name, a => a.Shown, cancel);
        return rows.ConvertAll(r => new FollowUpSeen(
            r.Id, r.Swap, swaps.GetValueOrDefault(r.Swap)?.Name ?? r.Swap, swaps.GetValueOrDefault(r.Swap)?.Site ?? "", r.Words, r.Owner,
            names.GetValueOrDefault(r.Owner, r.Owner), r.Due, r.Holds, r.Cause, r.MadeBy, r.MadeAt, r.DoneBy, r.DoneAt, r.Outcome,
            r.VisitMinutes is { } minutes
                ? new(minutes, r.VisitTechnician is { } who ? technicians.GetValueOrDefault(who, who) : null, r.VisitStart, r.VisitEnd)
                : null));
    }

    private static async Task<Results<Ok<List<FollowUpSeen>>, ProblemHttpResult>> ListAsync(
        string refresh, YardDb db, CancellationToken cancel, string? owner = null, string? swap = null, string end = "open")
    {
        if (end is not ("open" or "done" or "all"))
            return new Problem[]
            {
                new ServiceProblem("list.end", $"'{end}' is no end of a follow-up. Use open, done or all.", 400)
            }.ToHttp();
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();
        var rows = db.FollowUps.AsNoTracking().Where(f =>
            f.Refresh == refresh && (owner == null || f.Owner == owner) && (swap == null || f.Swap == swap));
        if (end != "all") rows = rows.Where(f => f.DoneAt == null == (end == "open"));
        return TypedResults.Ok(await SeenAsync(
            db,
            await rows.OrderBy(f => f.DoneAt == null ? 0 : 1).ThenBy(f => f.Due).ThenBy(f => f.Id).Take(MostListed).ToListAsync(cancel),
            cancel));
    }

    private static Problem? WordsFault(string? words, string what) =>
        words?.Trim().Length is >= 1 and <= MostWords ? null : new("follow-up.words", $"Say {what} in 1 to {MostWords} characters.");

    private static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> OpenAsync(
        string swap, FollowUpWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (WordsFault(wanted.Words, "what is to be done") is { } fault) return new[] { fault }.ToHttp();
        if (wanted.VisitMinutes is < 5 or > MostVisitMinutes)
            return new Problem[] { new("follow-up.visit", $"A return visit takes 5 to {MostVisitMinutes} minutes.") }.ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(SwapScope.RefreshOf(swap), async w =>
            await AddAsync(
                w, swap, wanted.Words.Trim(), wanted.Owner ?? user.NameOf(), wanted.Due, wanted.Holds ?? FollowUpHold.Nothing, "problem",
                cancel, wanted.VisitMinutes), cancel)).ToHttp();
    }

    private static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> RefuseAsync(
        string swap, RefusalWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (WordsFault(wanted.Words, "what the person misses") is { } fault) return new[] { fault }.ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(SwapScope.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (await w.Db.SignOffs.AnyAsync(s => s.Swap == swap && s.Part == Core.Swaps.SignOffPart.Person, cancel))
                return ServiceProblem.Conflict(
                    "refusal.signed", $"{row.Name} has signed already. Open that sign-off again with a reason, then note what is missing.");
            var owner = row.Technician is { } technician && await w.Db.Accounts.AnyAsync(a => a.Name == technician, cancel)
                ? technician
                : user.NameOf();
            return await AddAsync(
                w, swap, $"{row.Name} does not accept: {wanted.Words.Trim()}", owner, null, FollowUpHold.SignOff, "refusal", cancel);
        }, cancel)).ToHttp();
    }

    /// <summary>Opens a follow-up within a change.</summary>
    public static async Task<Result<FollowUpSeen>> AddAsync(
        Writing.Writing w, string swap, string words, string owner, DateTimeOffset? due, FollowUpHold holds, string cause,
        CancellationToken cancel, int? visitMinutes = null)
    {
        if (visitMinutes is not null
            && await w.Db.FollowUps.FirstOrDefaultAsync(
                f => f.Swap == swap && f.DoneAt == null && f.VisitMinutes != null, cancel) is { } other)
            return ServiceProblem.Conflict(
                "follow-up.visit", $"Somebody comes back to {swap} already, for: {other.Words} Do both at once, or end that one first.");
        if (!await w.Db.Accounts.AnyAsync(a => a.Name == owner && a.Role != Roles.Person && a.Role != Roles.Auditor, cancel))
            return new Problem(
                "follow-up.owner", $"'{owner}' is no coordinator or technician. Name the account of somebody who can do it.");
        if (await w.Db.FollowUps.CountAsync(f => f.Swap == swap && f.DoneAt == null, cancel) >= MostOpen)
            return ServiceProblem.Conflict("follow-up.many", $"{swap} has {MostOpen} open follow-ups. End some first.");
        var clock = new RefreshClock(w.Refresh);
        var row = new FollowUpRow
        {
            Id = Guid.CreateVersion7(w.Now).ToString(),
            Refresh = w.Refresh.Key,
            Swap = swap,
            Words = words.Length > MostWords ? words[..MostWords] : words,
            Owner = owner,
            Due = due ?? clock.StartOf(clock.DayOf(w.Now).AddDays(2)),
            Holds = holds,
            Cause = cause,
            MadeBy = w.By,
            MadeAt = w.Now,
            VisitMinutes = visitMinutes,
        };
        w.Db.FollowUps.Add(row);
        await TouchAsync(w, swap, cancel);
        var shown = await w.Db.Accounts.Where(a => a.Name == owner).Select(a => a.Shown).FirstAsync(cancel);
        w.Note(
            "follow-up.opened",
            swap,
            $"{w.By}: {row.Words}, for {shown} until {clock.Local(row.Due):ddd d MMM HH:mm}"
                + $"{(holds == FollowUpHold.Nothing ? "" : holds == FollowUpHold.Wipe ? "; holds the wipe" : "; holds the sign-offs")}",
            new() { ["followUp"] = row.Id, ["holds"] = holds.ToString() });
        await w.Db.SaveChangesAsync(cancel);
        if (visitMinutes is not null) await FindVisitAsync(w, row, clock, cancel);
        return (await SeenAsync(w.Db, [row], cancel))[0];
    }

    /// <summary>The first time at which somebody who can do it has room; where there is none, the next plan looks again.</summary>
    private static async Task FindVisitAsync(Writing.Writing w, FollowUpRow row, RefreshClock clock, CancellationToken cancel)
    {
        w.WorldChanged();
        var (visit, site) = (
            row.Swap + WorldProblem.ReturnSuffix, await w.Db.Swaps.Where(s => s.Id == row.Swap).Select(s => s.Site).FirstAsync(cancel));
        if (!(await BoardDesk.LayAsync(w, clock, [visit], cancel)).TryGet(out var desk, out _)) return;
        var from = clock.MinuteOf(w.Now) + LeastNoticeMinutes;
        var last = w.Refresh.Days * Core.Planning.Minutes.PerDay;
        var who = desk.WhoWorksAt(site);
        // Whoever it waits for comes, where they can by the time it is due.
        if (!who.Contains(row.Owner) || desk.Soonest(visit, [row.Owner], from, Math.Min(last, clock.MinuteOf(row.Due))) is null)
            desk.Soonest(visit, who, from, last);
        await desk.BookAsync("Nobody has room for the return visit.", cancel);
        await w.Db.SaveChangesAsync(cancel);
    }

    // Gates are part of what a checklist's reader sees.
    private static async Task TouchAsync(Writing.Writing w, string swap, CancellationToken cancel) =>
        (await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel)).ChecklistVersion++;

    private static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> ChangeAsync(
        string followUp, FollowUpChange change, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (change.Words is not null && WordsFault(change.Words, "what is to be done") is { } fault) return new[] { fault }.ToHttp();
        if (await db.FollowUps.AsNoTracking().FirstOrDefaultAsync(f => f.Id == followUp, cancel) is not { } found)
            return new Problem[] { ServiceProblem.NotFound("follow-up", followUp) }.ToHttp();
        if (await SwapScope.AgainstAsync(db, found.Swap, user, cancel) is { } refusal) return new[] { refusal }.ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(found.Refresh, async w =>
        {
            var row = await w.Db.FollowUps.FirstAsync(f => f.Id == followUp, cancel);
            if (row.DoneAt is not null)
                return ServiceProblem.Conflict("follow-up.done", $"{row.DoneBy} ended this follow-up: {row.Outcome} Open a new one.");
            if (change.Owner is { } owner
                && !await w.Db.Accounts.AnyAsync(a => a.Name == owner && a.Role != Roles.Person && a.Role != Roles.Auditor, cancel))
                return new Problem(
                    "follow-up.owner", $"'{owner}' is no coordinator or technician. Name the account of somebody who can do it.");
            (row.Words, row.Owner, row.Due, row.Holds) =
                (change.Words?.Trim() ?? row.Words, change.Owner ?? row.Owner, change.Due ?? row.Due, change.Holds ?? row.Holds);
            await TouchAsync(w, row.Swap, cancel);
            w.Note(
                "follow-up.changed",
                row.Swap,
                $"{w.By} changed: {row.Words}, for {row.Owner} until {new RefreshClock(w.Refresh).Local(row.Due):ddd d MMM HH:mm}",
                new() { ["followUp"] = row.Id, ["holds"] = row.Holds.ToString() });
            return (await SeenAsync(w.Db, [row], cancel))[0];
        }, cancel)).ToHttp();
    }

    private static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> EndAsync(
        string followUp, FollowUpEnd end, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (WordsFault(end.Outcome, "what came of it") is { } fault) return new[] { fault }.ToHttp();
        if (await db.FollowUps.AsNoTracking().FirstOrDefaultAsync(f => f.Id == followUp, cancel) is not { } found)
            return new Problem[] { ServiceProblem.NotFound("follow-up", followUp) }.ToHttp();
        if (await SwapScope.AgainstAsync(db, found.Swap, user, cancel) is { } refusal) return new[] { refusal }.ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(found.Refresh, async w =>
        {
            var row = await w.Db.FollowUps.FirstAsync(f => f.Id == followUp, cancel);
            if (row.DoneAt is null)
            {
                (row.DoneBy, row.DoneAt, row.Outcome) = (w.By, w.Now, end.Outcome.Trim());
                if (row.VisitMinutes is not null) w.WorldChanged();
                await TouchAsync(w, row.Swap, cancel);
                w.Note("follow-up.done", row.Swap, $"{w.By} ended: {row.Words}. {row.Outcome}", new() { ["followUp"] = row.Id });
            }
            return (await SeenAsync(w.Db, [row], cancel))[0];
        }, cancel)).ToHttp();
    }
}
