using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Parcels;

/// <summary>The work behind <see cref="RescueEndpoints"/>.</summary>
internal static class RescueHandlers
{
    internal static async Task<Results<Ok<List<LostComputer>>, ProblemHttpResult>> FindAsync(
        ClaimsPrincipal user, YardDb db, CancellationToken cancel, string? q = null) =>
        q is not { Length: >= 2 and <= 100 }
            ? new LostFindProblem().ToHttp()
            : TypedResults.Ok(await Rescues.FindAsync(db, q, user.RefreshesOf(), cancel));

    internal static async Task<Results<Ok<RescueSeen>, ProblemHttpResult>> PutAsync(
        SwapId swap, RescueWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<RescueSeen>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (row.Kind != SwapKind.Rescue)
                return new RescueKindProblem(swap, row.Kind.ToString().ToLowerInvariant());
            var from = wanted.From == swap ? row : await w.Db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == wanted.From, cancel);
            if (from is null || !user.Reaches(from.Refresh)) return ServiceProblem.NotFound("swap", wanted.From);
            if (!string.Equals(from.OldTag, wanted.Tag.Trim(), StringComparison.OrdinalIgnoreCase))
                return new RescueTagProblem(from.Id, from.Name, from.OldTag ?? "not named", wanted.Tag);
            if (Rescues.Refusal(from) is { } why) return new RescueParcelProblem(from.Id, why);
            if (row.RescuedFrom == from.Id) return (await Rescues.ReadAsync(w.Db, row, cancel))!;
            if (row.RestoreAt is not null)
                return new RescueRestoredProblem(swap);
            row.RescuedFrom = from.Id;
            if (from != row) await TakeOverAsync(w, row, from, cancel);
            w.WorldChanged();
            w.Note(
                "rescue.set",
                swap,
                $"{w.By} lets the parcel of {from.Id} {from.Name} ({from.OldTag}) serve the rescue of {row.Name}; "
                    + (from.TripAt is { } last
                        ? $"its last good trip is of {new RefreshClock(w.Refresh).Local(last):yyyy-MM-dd HH:mm}"
                        : "its first trip broke off"),
                new() { ["from"] = from.Id, ["trips"] = from.Trips });
            await SwapSettling.SettleAsync(w, row, cancel);
            return (await Rescues.ReadAsync(w.Db, row, cancel))!;
        }, cancel)).ToHttp();
    }

    /// <summary>
    /// The rescue has from now on the parcel, its account and its snags: what was not carried then is still to be explained.
    /// </summary>
    private static async Task TakeOverAsync(Change w, SwapRow row, SwapRow from, CancellationToken cancel)
    {
        (row.Depot, row.Parcel, row.ParcelId, row.Trips, row.TripAt, row.VerifiedAt, row.VerifiedWhole) = (
            await DepotAsync(w, row.Refresh, from, cancel),
            from.Parcel,
            from.ParcelId,
            from.Trips,
            from.TripAt,
            from.VerifiedAt,
            from.VerifiedWhole);
        row.ParcelState = from.ParcelState;
        await w.Db.Folders.Where(f => f.Swap == row.Id).ExecuteDeleteAsync(cancel);
        await w.Db.Snags.Where(n => n.Swap == row.Id).ExecuteDeleteAsync(cancel);
        foreach (var f in await w.Db.Folders.AsNoTracking().Where(f => f.Swap == from.Id).ToListAsync(cancel))
            w.Db.Folders.Add(new()
            {
                Swap = row.Id,
                Folder = f.Folder,
                OldFiles = f.OldFiles,
                OldBytes = f.OldBytes,
                DepotFiles = f.DepotFiles,
                DepotBytes = f.DepotBytes,
                LeftOutFiles = f.LeftOutFiles,
                LeftOutBytes = f.LeftOutBytes
            });
        foreach (var n in await w.Db.Snags.AsNoTracking()
            .Where(n => n.Swap == from.Id && n.Side == "old" && n.End != "retried")
            .ToListAsync(cancel))
            w.Db.Snags.Add(new()
            {
                Id = Guid.NewGuid().ToString("N"),
                Refresh = row.Refresh,
                Swap = row.Id,
                Path = n.Path,
                Kind = n.Kind,
                Side = n.Side,
                Bytes = n.Bytes,
                Reason = n.Reason,
                CountsAsFile = n.CountsAsFile,
                Files = n.Files,
                End = n.End,
                EndedBy = n.EndedBy,
                EndReason = n.EndReason,
                EndedAt = n.EndedAt,
                ParcelState = n.ParcelState,
                At = n.At
            });
        var theirs = await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == from.Id, cancel);
        var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == row.Id, cancel);
        if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = row.Id });
        (cargo.ParcelKey, cargo.Inventory, cargo.LeftOutBy) = (theirs?.ParcelKey, theirs?.Inventory, theirs?.LeftOutBy);
    }

    /// <summary>The depot under a key of this refresh; taken over from the other refresh where it is not known here.</summary>
    private static async Task<string> DepotAsync(Change w, string refresh, SwapRow from, CancellationToken cancel)
    {
        if (from.Refresh == refresh) return from.Depot!;
        var depot = await w.Db.Depots.AsNoTracking().FirstAsync(d => d.Refresh == from.Refresh && d.Key == from.Depot, cancel);
        if (await w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == refresh && d.Address == depot.Address, cancel) is { } known)
            return known.Key;
        var key = $"{from.Refresh}-{depot.Key}";
        w.Db.Depots.Add(new()
        {
            Refresh = refresh,
            Key = key.Length > 40 ? key[..40].TrimEnd('-') : key,
            Name = depot.Name,
            Address = depot.Address,
            Access = depot.Access,
            HoldDays = depot.HoldDays,
            EndsOn = depot.EndsOn,
            SealTo = depot.SealTo,
            Limits = depot.Limits
        });
        return key.Length > 40 ? key[..40].TrimEnd('-') : key;
    }
}
