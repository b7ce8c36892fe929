using System.CommandLine;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand adopt</c></summary>
internal static class AdoptVerb
{
    public static Command Create()
    {
        var (depot, parcel, json) = (VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var folder = new Option<string>("--folder")
        {
            Description =
                "The folder in the same depot that somebody filled by hand; '.' is all of the depot but parcels, where folders lie at the "
                    + "top of a disk. It is copied into the parcel and stays where it is.",
            Required = true
        };
        var move = new Option<bool>("--move")
        {
            Description =
                "Moves the folder in one step instead of copying it: no room is needed twice, and nothing is left where it stood. Where a "
                    + "program keeps it in step with a computer, end that first."
        };
        var against = new Option<string?>("--against") { Description = "Folder of the old computer to set it against." };
        var command = new Command(
            "adopt",
            "Takes a folder that was filled by hand in as a parcel: reads and hashes it, and says what of the old computer is there, "
                + "differs, is missing, or lies one folder too deep. A trip afterwards keeps what is the same and brings the rest.\n\n"
                + "Example:\n  yardhand adopt --depot file:///mnt/share --folder 'Ida backup' --parcel ida-0412 --against /home/ida")
            {
                depot,
                folder,
                move,
                parcel,
                against,
                json
            };
        command.SetAction((args, cancel) => VerbRun.RunAsync("adopt", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<AdoptReport>)problem;
            using var opened = place.Depot;
            var named = args.GetValue(folder)!.Trim('/');
            if (DepotPath.TryParse(named == "." ? "" : named) is not { } path)
                return new AdoptFolderProblem(args.GetValue(folder));
            return await new Adoption(place.Depot, place.Parcel, new TripOptions().AtOnce, progress, ThreadWork.Here, args.GetValue(move))
                .RunAsync(path, args.GetValue(against) is { } old ? TreeRoot.Here(old) : null, stop);
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }
}
