using YardRelay.Core;

namespace YardRelay.Hand.Runs;

internal sealed record ParcelNameProblem(string Parcel) : Problem(
    "parcel.name",
    $"'{Parcel}' is not a name for a parcel. Use a folder name such as ida-0412, without '.', '..' or empty parts.");
