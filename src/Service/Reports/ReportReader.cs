using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Swaps;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Reports;

/// <summary>Makes the report of a parcel from the records: what came, what did not and why, what to install again.</summary>
internal sealed class ReportReader(YardDb db, SwapReader reader, TimeProvider time)
{
    /// <summary>The report; null when there is no such swap.</summary>
    public async Task<ParcelReport?> ReadAsync(string swap, CancellationToken cancel)
    {
        var row = await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == swap, cancel);
        if (row is null) return null;
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == row.Refresh, cancel);
        var cargo = await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel);
        var snags = (await SnagNames.ReadAsync(db, [swap], cancel))
            .Of(await db.Snags.AsNoTracking().Where(n => n.Swap == swap && n.End != "retried").OrderBy(n => n.Path).ToListAsync(cancel));
        var account = SwapFacts.Account(await db.Folders.AsNoTracking().Where(f => f.Swap == swap).ToListAsync(cancel), snags);
        var total = FolderAccount.Total([.. account]);
        var catalogue = await CatalogueReader.ReadAsync(db, row.Refresh, cancel);
        var programs = (KeptInventory.Of(cargo)?.Found.Computer.Programs ?? [])
            .OrderBy(p => p.Name, StringComparer.OrdinalIgnoreCase)
            .Select(p => (Found: p, Line: catalogue.For(p.Name)))
            .OrderBy(p => p.Line switch { { IsLicenceBound: true } => 0, { } => 1, null => 2 })
                .Select(p => new ProgramAgain(
                    p.Found.Name, p.Found.Version, p.Line?.Offer, p.Line?.Where, p.Line?.IsLicenceBound ?? false)).ToList();
        return new(
            row.Id, row.Name, refresh.Name, row.OldTag, row.NewTag, time.GetUtcNow(), row.StagedAt, row.RestoredAt, account, total,
            Stayed(cargo),
            [.. snags.Where(n => n.End == "waived").Select(SwapReader.Seen)],
            [.. snags.Where(n => n.End == "open").Select(SwapReader.Seen)],
            programs,
            !SwapFacts.HasParcel(row) ? null : await reader.HoldAsync(row, cancel), Words(row, total));
    }

    private static IReadOnlyList<StayedBehind> Stayed(CargoRow? cargo)
    {
        if (cargo?.LeftOutBy is not { } text) return [];
        var decided = KeptCarryList.Of(cargo).Decisions.Where(d => d.Choice != "carry").ToLookup(d => d.Reason, d => d.By);
        return [.. JsonSerializer.Deserialize<List<StayedBehind>>(text)!
            .Select(s => s with { By = s.By ?? decided[s.Reason].FirstOrDefault() })];
    }

    private static string Words(SwapRow row, FolderAccount total)
    {
        if (row.Trips == 0 && total.OnNew is null)
            return SwapFacts.HasUnfinishedParcel(row)
                ? "A first trip has begun and not ended yet: nothing says what it brought."
                : "Nothing was carried yet.";
        var open = total.Open.Files + total.OpenAtNew.Files;
        var stayed = total.LeftOut.Files + total.Waived.Files + total.WaivedAtNew.Files;
        var came = total.OnNew is { } there
            ? $"{ByteText.Files(there.Files)} ({ByteText.Of(there.Bytes)}) of {total.Old.Files:#,0} are on the new computer"
            : $"{ByteText.Files(total.InDepot.Files)} ({ByteText.Of(total.InDepot.Bytes)}) of {total.Old.Files:#,0} are in the depot";
        return $"{came}{(stayed > 0 ? $", {stayed:#,0} stayed behind for the reasons below" : "")}"
            + $"{(open > 0 ? $", and {open:#,0} {(open == 1 ? "is" : "are")} still open" : "")}."
            + $"{(total.Unexplained == 0 ? " Every file is accounted for." : "")}"
            + $"{(total.GoneWords is { } gone ? $" {gone}" : "")}";
    }
}
