using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.OldComputers;

/// <summary>The work behind <see cref="OldComputerEndpoints"/>.</summary>
internal static class OldComputerHandlers
{
    private const int MostPerPage = 200;
    private const int MostWhere = 120;

    // A clock at a desk may be wrong; what has not happened yet has not happened.
    private static readonly TimeSpan ClocksDiffer = TimeSpan.FromMinutes(5);

    internal static async Task<Results<Ok<Page<OldComputerSeen>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, OldComputerReader reader, CancellationToken cancel, string? q = null, string? site = null,
        string? pallet = null, string? end = null, string? cursor = null, int limit = 100)
    {
        if (limit is < 1 or > MostPerPage)
            return new ListLimitProblem(limit, MostPerPage).ToHttp();
        if (end is not (null or "" or "there" or "gone"))
            return new ListEndProblem(end).ToHttp();
        var swaps = db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh && s.OldTag != null);
        if (q?.Trim() is { Length: > 0 } find)
        {
            var like = SearchPattern.Like(find);
            swaps = swaps.Where(s =>
                EF.Functions.Like(s.OldTag!.ToLower(), like, "\\")
                    || EF.Functions.Like(s.Name.ToLower(), like, "\\")
                    || db.OldComputers.Any(c =>
                        c.Refresh == refresh
                            && c.Tag == s.OldTag
                            && (EF.Functions.Like((c.Place ?? "").ToLower(), like, "\\")
                                || EF.Functions.Like((c.Holder ?? "").ToLower(), like, "\\")
                                || EF.Functions.Like((c.Pallet ?? "").ToLower(), like, "\\"))));
        }
        if (site is { Length: > 0 }) swaps = swaps.Where(s => s.Site == site);
        if (pallet is { Length: > 0 })
            swaps = swaps.Where(s => db.OldComputers.Any(c => c.Refresh == refresh && c.Tag == s.OldTag && c.Pallet == pallet));
        if (end is { Length: > 0 })
            swaps = swaps.Where(s =>
                db.OldComputers.Any(c => c.Refresh == refresh && c.Tag == s.OldTag && c.End != null) == (end == "gone"));
        var total = await swaps.LongCountAsync(cancel);
        if (cursor is { Length: > 0 }) swaps = swaps.Where(s => s.OldTag!.CompareTo(cursor) > 0);
        var rows = await swaps.OrderBy(s => s.OldTag).ThenBy(s => s.Id).Take(limit + 1).ToListAsync(cancel);
        return TypedResults.Ok(new Page<OldComputerSeen>(
            await reader.ReadAsync([.. rows.Take(limit)], cancel), rows.Count > limit ? rows[limit - 1].OldTag : null, total));
    }

    internal static async Task<Results<Ok<OldComputerHistory>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, Tag tag, OldComputerReader reader, CancellationToken cancel) =>
        await reader.GetAsync(refresh, tag, cancel) is { } seen ? TypedResults.Ok(seen) : NotOurs(refresh, tag).ToHttp();

    private const string AloneWords = "nobody but its own hand had verified what was carried from it";

    private static ServiceProblem NotOurs(string refresh, string tag) =>
        new ComputerUnknownProblem(tag, refresh);

    internal static async Task<Results<Ok<OldComputerSeen>, ProblemHttpResult>> MoveAsync(
        RefreshKey refresh, Tag tag, CustodyWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, TimeProvider time,
        CancellationToken cancel)
    {
        var where = wanted.Where?.Trim() is { Length: > 0 } told ? told : wanted.Act == CustodyAct.Taken ? user.ShownOf() : "";
        if (where.Length is 0 or > MostWhere)
            return new CustodyWhereProblem(MostWhere).ToHttp();
        if (wanted.Id is not { Length: >= 8 and <= 64 })
            return new CustodyIdProblem().ToHttp();
        if (await OldComputerReader.SwapOfAsync(db, refresh, tag, cancel) is not { } swap)
            return NotOurs(refresh, tag).ToHttp();
        // More follows from these than where it is.
        if (wanted.Act is CustodyAct.Lost or CustodyAct.Stolen or CustodyAct.Found)
            return new CustodyDetourProblem(tag, wanted.Act, swap.Id).ToHttp();
        if (await SwapScope.AgainstAsync(db, swap.Id, user, cancel) is { } refusal) return refusal.ToHttp();
        return (await writer.WriteAsync<OldComputerSeen>(refresh, async w =>
        {
            var at = wanted.At ?? w.Now;
            var clock = new RefreshClock(w.Refresh);
            if (at > w.Now + ClocksDiffer)
                return new CustodyFutureProblem(clock.Local(w.Now), clock.Local(at));
            if (!await w.Db.Custody.AnyAsync(c => c.Id == wanted.Id, cancel))
            {
                if (await OldComputerDesk.AddAsync(
                    w, swap, new(wanted.Id, wanted.Act, where, w.By, at > w.Now ? w.Now : at, w.Now), cancel) is { } refused)
                    return refused;
                await w.Db.SaveChangesAsync(cancel);
            }
            return (await new OldComputerReader(w.Db, time).ReadAsync([swap], cancel))[0];
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<OldComputerSeen>, ProblemHttpResult>> WipeAsync(
        RefreshKey refresh, Tag tag, WipeWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, TimeProvider time,
        CancellationToken cancel)
    {
        var (method, evidence) = (wanted.Method?.Trim() ?? "", wanted.Evidence?.Trim() ?? "");
        if (method.Length is 0 or > MostWhere)
            return new WipeMethodProblem(MostWhere).ToHttp();
        if (evidence.Length is 0 or > 500)
            return new WipeEvidenceProblem().ToHttp();
        if (wanted.Result is not ("done" or "failed"))
            return new WipeResultProblem(wanted.Result).ToHttp();
        if (await OldComputerReader.SwapOfAsync(db, refresh, tag, cancel) is not { } swap)
            return NotOurs(refresh, tag).ToHttp();
        if (await SwapScope.AgainstAsync(db, swap.Id, user, cancel) is { } refusal) return refusal.ToHttp();
        return (await writer.WriteAsync<OldComputerSeen>(refresh, async w =>
        {
            var reader = new OldComputerReader(w.Db, time);
            var seen = (await reader.ReadAsync([await w.Db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap.Id, cancel)], cancel))[0];
            if (seen.Wipe is { Result: "done" } done)
                return done.Method == method && (done.Evidence == evidence || done.Evidence == $"{evidence}; {AloneWords}")
                    ? seen
                    : new WipeDoneProblem(seen.Tag, done.By, done.Method, done.Evidence);
            if (seen.Missing.Count > 0) return new WipeShut(seen.Tag, seen.Missing);
            var isAlone = seen.Alone && wanted.Result == "done";
            if (isAlone && !wanted.Alone) return new WipeAloneProblem(seen.Tag);
            // It is said where the wipe is told of: in its record, on the paper, in the ledger.
            if (isAlone) evidence = $"{evidence}; {AloneWords}";
            var row = await OldComputerDesk.RowAsync(w, swap, cancel);
            (row.WipeMethod, row.WipeResult, row.WipeEvidence, row.WipedBy, row.WipedAt) = (method, wanted.Result, evidence, w.By, w.Now);
            w.Note(
                wanted.Result == "done" ? "computer.wiped" : "computer.wipe-failed",
                swap.Id,
                $"{w.By} {(wanted.Result == "done" ? "wiped" : "could not wipe")} {seen.Tag} of {swap.Name}: {method}; {evidence}",
                new() { ["result"] = wanted.Result, ["alone"] = isAlone });
            if (wanted.Result == "done" && swap.Kind == SwapKind.Reimage) await EmptiedAsync(w, swap.Id, cancel);
            if (wanted.Result == "failed")
                await FollowUpDesk.AddAsync(
                    w,
                    swap.Id,
                    $"{seen.Tag} could not be wiped ({method}): {evidence}",
                    user.NameOf(),
                    null,
                    FollowUpHold.Nothing,
                    "wipe",
                    cancel);
            await w.Db.SaveChangesAsync(cancel);
            return (await reader.ReadAsync([swap], cancel))[0];
        }, cancel)).ToHttp();
    }

    // Old and new computer are one: what was restored to it before is gone with all else.
    private static async Task EmptiedAsync(Change w, string id, CancellationToken cancel)
    {
        var swap = await w.Db.Swaps.FirstAsync(s => s.Id == id, cancel);
        (swap.RestoreAt, swap.RestoreWhole, swap.UrgentReadyAt) = (null, false, null);
        foreach (var folder in await w.Db.Folders.Where(f => f.Swap == id).ToListAsync(cancel))
            (folder.NewFiles, folder.NewBytes) = (null, null);
        await SwapSettling.SettleAsync(w, swap, cancel);
    }
}
