using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.FollowUps;

/// <summary>The work behind <see cref="FollowUpEndpoints"/>.</summary>
internal static class FollowUpHandlers
{
    private const int MostListed = 500;
    private const int MostVisitMinutes = 240;

    internal static async Task<Results<Ok<List<FollowUpSeen>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel, string? owner = null, string? swap = null, string end = "open")
    {
        if (end is not ("open" or "done" or "all"))
            return new ListEndProblem(end).ToHttp();
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var rows = db.FollowUps.AsNoTracking().Where(f =>
            f.Refresh == refresh && (owner == null || f.Owner == owner) && (swap == null || f.Swap == swap));
        if (end != "all") rows = rows.Where(f => f.DoneAt == null == (end == "open"));
        return TypedResults.Ok(await FollowUpDesk.SeenAsync(
            db,
            await rows.OrderBy(f => f.DoneAt == null ? 0 : 1).ThenBy(f => f.Due).ThenBy(f => f.Id).Take(MostListed).ToListAsync(cancel),
            cancel));
    }

    internal static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> GetAsync(
        string followUp, YardDb db, CancellationToken cancel) =>
        await db.FollowUps.AsNoTracking().FirstOrDefaultAsync(f => f.Id == followUp, cancel) is { } found
            ? TypedResults.Ok((await FollowUpDesk.SeenAsync(db, [found], cancel))[0])
            : ServiceProblem.NotFound("follow-up", followUp).ToHttp();

    private static Problem? WordsFault(string? words, string what) =>
        words?.Trim().Length is >= 1 and <= FollowUpDesk.MostWords
            ? null
            : new FollowUpWordsProblem(what, FollowUpDesk.MostWords);

    internal static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> OpenAsync(
        SwapId swap, FollowUpWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (WordsFault(wanted.Words, "what is to be done") is { } fault) return fault.ToHttp();
        if (wanted.VisitMinutes is < 5 or > MostVisitMinutes)
            return new VisitLength(MostVisitMinutes).ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(swap.Refresh, async w =>
            await FollowUpDesk.AddAsync(
                w, swap, wanted.Words.Trim(), wanted.Owner ?? user.NameOf(), wanted.Due, wanted.Holds ?? FollowUpHold.Nothing, "problem",
                cancel, wanted.VisitMinutes), cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> RefuseAsync(
        SwapId swap, RefusalWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (WordsFault(wanted.Words, "what the person misses") is { } fault) return fault.ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (await w.Db.SignOffs.AnyAsync(s => s.Swap == swap && s.Part == Core.SignOffs.SignOffPart.Person, cancel))
                return new RefusalSignedProblem(row.Name);
            var owner = row.Technician is { } technician && await w.Db.Accounts.AnyAsync(a => a.Name == technician, cancel)
                ? technician
                : user.NameOf();
            return await FollowUpDesk.AddAsync(
                w, swap, $"{row.Name} does not accept: {wanted.Words.Trim()}", owner, null, FollowUpHold.SignOff, "refusal", cancel);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> ChangeAsync(
        string followUp, FollowUpChange change, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (change.Words is not null && WordsFault(change.Words, "what is to be done") is { } fault) return fault.ToHttp();
        if (await db.FollowUps.AsNoTracking().FirstOrDefaultAsync(f => f.Id == followUp, cancel) is not { } found)
            return ServiceProblem.NotFound("follow-up", followUp).ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(found.Refresh, async w =>
        {
            var row = await w.Db.FollowUps.FirstAsync(f => f.Id == followUp, cancel);
            if (row.DoneAt is not null)
                return new FollowUpDoneProblem(row.DoneBy, row.Outcome);
            if (change.Owner is { } owner
                && !await w.Db.Accounts.AnyAsync(a => a.Name == owner && a.Role != Roles.Person && a.Role != Roles.Auditor, cancel))
                return new FollowUpOwnerProblem(owner);
            (row.Words, row.Owner, row.Due, row.Holds) =
                (change.Words?.Trim() ?? row.Words, change.Owner ?? row.Owner, change.Due ?? row.Due, change.Holds ?? row.Holds);
            await FollowUpDesk.TouchAsync(w, row.Swap, cancel);
            w.Note(
                "follow-up.changed",
                row.Swap,
                $"{w.By} changed: {row.Words}, for {row.Owner} until {new RefreshClock(w.Refresh).Local(row.Due):ddd d MMM HH:mm}",
                new() { ["followUp"] = row.Id, ["holds"] = row.Holds.ToString() });
            return (await FollowUpDesk.SeenAsync(w.Db, [row], cancel))[0];
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<FollowUpSeen>, ProblemHttpResult>> EndAsync(
        string followUp, FollowUpEnd end, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (WordsFault(end.Outcome, "what came of it") is { } fault) return fault.ToHttp();
        if (await db.FollowUps.AsNoTracking().FirstOrDefaultAsync(f => f.Id == followUp, cancel) is not { } found)
            return ServiceProblem.NotFound("follow-up", followUp).ToHttp();
        return (await writer.WriteAsync<FollowUpSeen>(found.Refresh, async w =>
        {
            var row = await w.Db.FollowUps.FirstAsync(f => f.Id == followUp, cancel);
            if (row.DoneAt is null)
            {
                (row.DoneBy, row.DoneAt, row.Outcome) = (w.By, w.Now, end.Outcome.Trim());
                if (row.VisitMinutes is not null) w.WorldChanged();
                await FollowUpDesk.TouchAsync(w, row.Swap, cancel);
                w.Note("follow-up.done", row.Swap, $"{w.By} ended: {row.Words}. {row.Outcome}", new() { ["followUp"] = row.Id });
            }
            return (await FollowUpDesk.SeenAsync(w.Db, [row], cancel))[0];
        }, cancel)).ToHttp();
    }
}
