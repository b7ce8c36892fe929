using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Parcels;

/// <summary>The work behind <see cref="RestoreSkipEndpoints"/>.</summary>
internal static class RestoreSkipHandlers
{
    internal static async Task<Results<Ok<RestoreSkipSeen>, ProblemHttpResult>> PutAsync(
        SwapId swap, RestoreSkipWanted wanted, Writer writer, CancellationToken cancel)
    {
        var reason = wanted.Reason.Trim();
        if (!Reasons.SaysSomething(reason))
            return new RestoreSkipReasonProblem().ToHttp();
        return (await writer.WriteAsync<RestoreSkipSeen>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (!row.Kind.Restores())
                return new RestoreSkipKindProblem(row.Kind.ToString().ToLowerInvariant());
            if (row.RestoreAt is not null) return new RestoreSkipRestoredProblem(swap);
            var foreseen = KeptLanding.Of(await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel)).Foreseen;
            var canLook = row.Trips > 0 || (row.Kind == SwapKind.Rescue && SwapFacts.HasParcel(row));
            if (canLook && (foreseen is null || foreseen.At < row.TripAt))
                return new RestoreSkipUnseenProblem(swap);
            if (row.RestoreSkippedAt is not null && row.RestoreSkipReason == reason)
                return new RestoreSkipSeen(row.RestoreSkippedBy!, row.RestoreSkippedAt.Value, reason);
            (row.RestoreSkippedBy, row.RestoreSkippedAt, row.RestoreSkipReason) = (w.By, w.Now, reason);
            var missing = foreseen?.Folders.Sum(f => f.New.Files) ?? 0;
            w.Note(
                "restore.skipped",
                swap,
                $"{w.By} decided that nothing is restored"
                    + $"{(foreseen is null
                        ? ""
                        : $"; {missing:#,0} files of the parcel are not on the new computer, {foreseen.Folders.Sum(f =>
                            f.Stands.Files):#,0} stand there already")}: {reason}",
                new() { ["missing"] = missing });
            await SwapSettling.SettleAsync(w, row, cancel);
            return new RestoreSkipSeen(w.By, w.Now, reason);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        SwapId swap, Writer writer, CancellationToken cancel)
    {
        var dropped = await writer.WriteAsync<bool>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (row.RestoreSkippedAt is null) return false;
            if (await w.Db.SignOffs.AnyAsync(s => s.Swap == swap, cancel))
                return new RestoreSkipSignedProblem(swap);
            (row.RestoreSkippedBy, row.RestoreSkippedAt, row.RestoreSkipReason) = (null, null, null);
            w.Note("restore.skip-taken-back", swap, $"{w.By} took back that nothing is restored");
            await SwapSettling.SettleAsync(w, row, cancel);
            return true;
        }, cancel);
        return dropped.IsOk ? TypedResults.NoContent() : dropped.Problems.ToHttp();
    }
}
