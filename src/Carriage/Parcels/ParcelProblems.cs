using YardRelay.Carriage.Depots;
using YardRelay.Core;

namespace YardRelay.Carriage.Parcels;

/// <summary>There is no parcel under that name.</summary>
public sealed record NoParcel(string Parcel, string Depot)
    : Problem("parcel.not-found", $"There is no parcel '{Parcel}' in {Depot}. Check the name and the depot, or make the first trip.");

/// <summary>The parcel has no finished trip.</summary>
public sealed record ParcelUnfinished(string Why) : Problem("parcel.unfinished", Why);

internal sealed record ParcelOtherProblem(string Address, DepotPath Parcel) : Problem(
    "parcel.other",
    $"The depot {Address} has another parcel under the name '{Parcel}' than the one that was carried. Look whether this "
        + $"computer uses the same account and the same share as the old one; nothing was done.");

internal sealed record BegunOpen(DepotPath Parcel) : Problem(
    "parcel.open",
    $"The parcel '{Parcel}' was begun open and cannot be sealed any more: what is in it stays readable. Choose another "
        + $"name for a sealed parcel, and purge this one.");

internal sealed record ParcelIsOpen(DepotPath Parcel) : Problem(
    "parcel.open",
    $"The parcel '{Parcel}' is open: anybody who may read the depot can read it, and no key is needed.");
