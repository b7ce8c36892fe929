using YardRelay.Core;

namespace YardRelay.Carriage.Parcels;

/// <summary>There is no parcel under that name.</summary>
public sealed record NoParcel(string Parcel, string Depot)
    : Problem("parcel.not-found", $"There is no parcel '{Parcel}' in {Depot}. Check the name and the depot, or make the first trip.");

/// <summary>The parcel has no finished trip.</summary>
public sealed record ParcelUnfinished(string Why) : Problem("parcel.unfinished", Why);
