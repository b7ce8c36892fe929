using YardRelay.Carriage.Depots;
using YardRelay.Core;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

internal sealed record AdoptFolderProblem(DepotPath Folder, DepotPath Parcel) : Problem(
    "adopt.folder",
    $"'{Folder}' and the parcel '{Parcel}' lie in each other. Name a folder beside the parcel that is to be made.");

internal sealed record AdoptStandsProblem(DepotPath Parcel) : Problem(
    "adopt.stands",
    $"There is a parcel '{Parcel}' already. Choose another name, or run a trip to it.");

internal sealed record AdoptParcelProblem(DepotPath Folder, DepotPath Parcel) : Problem(
    "adopt.parcel",
    $"'{Folder}' has to do with the parcel '{Parcel}', which is somebody's. A copy that a person made by hand is taken in, never a "
        + $"parcel.");

internal sealed record AdoptTopProblem() : Problem(
    "adopt.top",
    "All of a depot cannot be moved into a parcel that lies in it. Without --move it is copied.");

internal sealed record AdoptRoomProblem(DepotPath Folder, long Bytes, long Free) : Problem(
    "adopt.room",
    $"'{Folder}' holds {ByteText.Of(Bytes)}, and the depot has {ByteText.Of(Free)} free: there is no room to copy it. Make room; or have "
        + $"it moved with 'yardhand adopt --move', which leaves no copy behind.");

internal sealed record AdoptNothingProblem(DepotPath Folder) : Problem(
    "adopt.nothing",
    $"'{Folder}' is not in the depot, or is empty. Nothing was taken in.");

internal sealed record AdoptMoveProblem(DepotPath Folder) : Problem(
    "adopt.move",
    $"The depot would not move '{Folder}' to the parcel. It stands where it stood; run the same command again, or "
        + $"carry it from where it is mounted.");
