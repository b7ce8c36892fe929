using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ids;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Orders;
using YardRelay.Service.Problems;
using YardRelay.Service.Worlds;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Swaps;

/// <summary>The work behind <see cref="SwapEditEndpoint"/>.</summary>
internal static class SwapEditHandler
{
    private const int Most = 2000;

    internal static async Task<Results<Ok<SwapsEdited>, ProblemHttpResult>> HandleAsync(
        RefreshKey refresh, SwapEdit edit, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        var times = (edit.Free ?? []).Select(t => ("edit.free", t))
            .Concat((edit.Preferred ?? []).Select(t => ("edit.preferred", t)))
            .Where(t => WorldReader.TryFree(t.t) is null).ToList();
        List<Problem> faults = [.. WorldWrite.Faults(
            edit.Swaps.Count is 0 or > Most
                ? new EditSwapsProblem(Most, edit.Swaps.Count)
                : null,
            edit.Weight is < 1 or > 9 ? new EditWeightProblem(edit.Weight) : null,
            edit.Unpin && (edit.PinnedStart is not null || edit.PinnedTechnician is not null)
                ? new EditPinProblem()
                : null),
            .. times.Select(t => new EditTimeProblem(t.Item1, t.t))];
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<SwapsEdited>(refresh, async w =>
        {
            if (edit.Wave is { Length: > 0 } wave && !await w.Db.Waves.AnyAsync(v => v.Refresh == refresh && v.Key == wave, cancel))
                return ServiceProblem.NotFound("wave", wave);
            if (edit.PinnedTechnician is { } who && !await w.Db.Technicians.AnyAsync(t => t.Refresh == refresh && t.Key == who, cancel))
                return ServiceProblem.NotFound("technician", who);
            var ids = edit.Swaps.ToHashSet();
            var rows = (await w.Db.Swaps.Where(s => s.Refresh == refresh).ToListAsync(cancel)).Where(s => ids.Contains(s.Id)).ToList();
            if (ids.Except(rows.Select(r => r.Id)).FirstOrDefault() is { } unknown) return ServiceProblem.NotFound("swap", unknown);
            if (edit.Depot is { } depot)
            {
                if (!await w.Db.Depots.AnyAsync(d => d.Refresh == refresh && d.Key == depot, cancel))
                    return ServiceProblem.NotFound("depot", depot);
                if (rows.Find(r => SwapFacts.HasParcel(r) && !SwapFacts.CanBeginAnew(r) && r.Depot != depot) is { } staged)
                    return new EditDepotProblem(staged.Id, staged.Name);
                if (await UnderWayAsync(w, rows.FindAll(r => r.Depot != depot), cancel) is { } busy)
                    return new EditDepotBusyProblem(busy.Id, busy.Name);
            }
            var changed = 0;
            foreach (var row in rows)
            {
                var before = Describe(row);
                if (edit.Wave is not null) row.Wave = edit.Wave.Length == 0 ? null : edit.Wave;
                if (edit.Skills is not null) row.Skills = [.. edit.Skills.Select(s => s.Trim()).Where(s => s.Length > 0).Distinct()];
                if (edit.Weight is { } weight) row.Weight = weight;
                if (edit.Free is not null) row.Free = [.. edit.Free.Select(f => f.Trim())];
                if (edit.Preferred is not null) row.Preferred = [.. edit.Preferred.Select(f => f.Trim())];
                if (edit.PinnedStart is { } start) row.PinnedStart = start.ToUniversalTime();
                if (edit.PinnedTechnician is not null) row.PinnedTechnician = edit.PinnedTechnician;
                if (edit.Depot is not null && row.Depot != edit.Depot && SwapFacts.CanBeginAnew(row))
                    await LeaveBehindAsync(w, row, user.NameOf(), cancel);
                if (edit.Depot is not null && row.Depot != edit.Depot)
                    (row.Depot, row.Parcel) = (edit.Depot, row.Parcel ?? SwapDepots.ParcelOf(row));
                if (edit.Unpin) (row.PinnedStart, row.PinnedTechnician) = (null, null);
                if (Describe(row) is var after && after == before) continue;
                changed++;
                w.Note("swap.edited", row.Id, $"For planning, {row.Name} is now {after}");
            }
            if (changed > 0) w.WorldChanged();
            return new SwapsEdited(changed, rows.Count - changed);
        }, cancel)).ToHttp();
    }

    /// <summary>One whose parcel is at work just now: what a hand was told stays true until it ends.</summary>
    private static async Task<SwapRow?> UnderWayAsync(Change w, List<SwapRow> rows, CancellationToken cancel)
    {
        var ids = rows.ConvertAll(r => r.Id);
        var kinds = Order.All.Where(o => o.Reach.Parcel != ParcelUse.None).Select(o => o.Name).ToList();
        var busy = await w.Db.Orders
            .Where(o => ids.Contains(o.Swap) && o.State == OrderStates.UnderWay && kinds.Contains(o.Kind))
            .Select(o => o.Swap).FirstOrDefaultAsync(cancel);
        return rows.Find(r => r.Id == busy);
    }

    /// <summary>What a broken-off first trip had brought stays there: the next begins anew, and somebody is to take it away.</summary>
    private static async Task LeaveBehindAsync(Change w, SwapRow row, string account, CancellationToken cancel)
    {
        var depot = await w.Db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == row.Refresh && d.Key == row.Depot, cancel);
        await ParcelBeginning.ForgetAsync(w, row, cancel);
        await FollowUpDesk.AddAsync(
            w, row.Id,
            $"Take away what a trip that broke off left in the depot {depot?.Name ?? row.Depot}: parcel '{row.Parcel}' (yardhand purge).",
            account, null, FollowUpHold.Nothing, "depot", cancel);
    }

    private static string Describe(SwapRow s) =>
        $"weight {s.Weight}{(s.Depot is null ? "" : $", staged in {s.Depot}")}{(s.Wave is null ? "" : $", wave {s.Wave}")}"
            + $"{(s.Skills.Count == 0 ? "" : $", needs {string.Join(" and ", s.Skills)}")}"
            + $"{(s.Free.Count == 0 ? "" : $", free {string.Join("; ", s.Free)}")}"
                    + $"{(s.Preferred.Count == 0 ? "" : $", prefers {string.Join("; ", s.Preferred)}")}"
                    + $"{(s.PinnedStart is null ? "" : $", pinned to {s.PinnedStart:O}")}"
                            + $"{(s.PinnedTechnician is null ? "" : $", pinned to {s.PinnedTechnician}")}";
}
