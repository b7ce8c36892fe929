using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Damages;

/// <summary>The work behind <see cref="DamageEndpoints"/>.</summary>
internal static class DamageHandlers
{
    private const int MostShown = 500;
    private const int MostReason = 300;

    /// <summary>Whose files may be lost hears of it the same day.</summary>
    private static readonly TimeSpan Soon = TimeSpan.FromHours(4);

    internal static async Task<Results<Ok<DamageSeen>, ProblemHttpResult>> TellAsync(
        RefreshKey refresh, string key, DamageTold told, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        var reason = told.Reason?.Trim() ?? "";
        if (reason.Length is 0 or > MostReason) return new DamageReasonProblem(MostReason).ToHttp();
        return (await writer.WriteAsync<DamageSeen>(refresh, async w =>
        {
            if (await w.Db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == refresh && d.Key == key, cancel) is not { } depot)
                return ServiceProblem.NotFound("depot", key);
            var swaps = await w.Db.Swaps
                .Where(s => s.Refresh == refresh && s.Depot == key && s.PurgedAt == null && (s.Trips > 0 || s.ParcelId != null))
                .OrderBy(s => s.Id)
                .ToListAsync(cancel);
            var copies = await CopiesAsync(w.Db, refresh, key, cancel);
            var parcels = (await BesideAsync(w.Db, depot, swaps, cancel))
                .OrderBy(p => p.Beside)
                .ThenBy(p => p.Name, StringComparer.Ordinal)
                .ToList();
            var words = $"{depot.Name} may be damaged: {reason}";
            var seen = new DamageSeen(key, told.DryRun != true, words, [.. parcels.Take(MostShown)], parcels.Count, copies.Count);
            if (told.DryRun == true) return seen;
            foreach (var copy in copies) copy.CopiedAt = null;
            foreach (var swap in swaps) Doubt(w, swap, words);
            foreach (var only in parcels.Where(p => p.Beside == FilesBeside.Nowhere))
                await FollowUpDesk.AddAsync(
                    w, only.Swap, $"The parcel of {only.Name} lies in {depot.Name}, which may be damaged. {only.Remedy}", user.NameOf(),
                    w.Now + Soon, FollowUpHold.SignOff, "damage", cancel);
            w.WorldChanged();
            w.Note("depot.damaged", null, $"{w.By}: {words}", new() { ["depot"] = key, ["parcels"] = swaps.Count });
            return seen;
        }, cancel)).ToHttp();
    }

    private static Task<List<SwapRow>> CopiesAsync(YardDb db, string refresh, string key, CancellationToken cancel)
    {
        var depots = db.Depots.Where(d => d.Refresh == refresh && d.CopyTo == key).Select(d => d.Key);
        return db.Swaps.Where(s => s.Refresh == refresh && s.CopiedAt != null && s.PurgedAt == null && depots.Contains(s.Depot!))
            .ToListAsync(cancel);
    }

    /// <summary>Nothing that was read there before proves anything now.</summary>
    private static void Doubt(Change w, SwapRow swap, string words)
    {
        (swap.VerifiedAt, swap.VerifiedWhole) = (null, false);
        SwapFacts.Reach(swap, Station.Staged, null);
        swap.ChecklistVersion++;
        w.Note("parcel.doubted", swap.Id, $"The parcel of {swap.Name} counts as verified no more. {words}");
    }

    private static async Task<List<DamagedParcel>> BesideAsync(
        YardDb db, DepotRow depot, IReadOnlyList<SwapRow> swaps, CancellationToken cancel)
    {
        var gone = (await db.OldComputers.AsNoTracking()
            .Where(c => c.Refresh == depot.Refresh && (c.End != null || c.WipeResult == "done"))
            .Select(c => c.Tag)
            .ToListAsync(cancel))
            .ToHashSet();
        return [.. swaps.Select(s =>
        {
            var beside = DamagedDepot.Beside(new(
                s.Kind, s.RestoredAt is not null && s.RestoreSkippedAt is null,
                s is { OldTag: { } tag, OldDiedAt: null } && s.Kind != SwapKind.Rescue && !gone.Contains(tag),
                depot.CopyTo is not null && s.CopiedAt >= s.TripAt));
            return new DamagedParcel(s.Id, s.Name, s.Site, beside, DamagedDepot.Remedy(beside));
        })];
    }
}
