using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;

namespace YardRelay.Hand.Orders;

/// <summary>A folder that was filled by hand becomes the parcel.</summary>
internal sealed class AdoptCase : ParcelCase<AdoptWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, AdoptWork work, CancellationToken cancel)
    {
        if (DepotPath.TryParse(work.Folder) is not { } folder) return new NotDone("The order names no folder.");
        var adoption = new Adoption(parcel.Depot, parcel.Path, parcel.AtOnce, at.Odometer, at.Work);
        if (!(await adoption.RunAsync(folder, at.Root, cancel)).TryGet(out var report, out var unfit)) return new NotDone(unfit.Message);
        var folders = report.Folders ?? [];
        return new Adopted(
            [.. folders.Select(f => new FolderResult(f.Folder, f.There + f.Differs + f.Missing, f.There, f.Differs + f.Missing))],
            report.Snags,
            report.IsWhole,
            Words(report),
            report.ParcelId);
    }

    private static string Words(AdoptReport report)
    {
        var folders = report.Folders ?? [];
        long There(Func<FolderAdopted, Amount> of) => folders.Sum(f => of(f).Files);
        var deep = report.TooDeep.Count == 0
            ? ""
            : $" One folder too deep: {string.Join(", ", report.TooDeep.Take(5).Select(d => $"{d.Folder} ({d.Files.Files:#,0})"))}.";
        return $"{ByteText.Files(report.Taken.Files)} taken in: {There(f => f.There):#,0} as at the old computer, "
            + $"{There(f => f.Differs):#,0} differ, {There(f => f.Missing):#,0} are missing, {There(f => f.Extra):#,0} are only here."
                + $"{deep} '{report.Copied}' still stands where it stood.";
    }
}
