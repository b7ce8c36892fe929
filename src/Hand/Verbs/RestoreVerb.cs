using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand restore</c></summary>
internal static class RestoreVerb
{
    public static Command Create()
    {
        var (depot, parcel, json) = (VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var to = new Option<string>("--to") { Description = "Folder of the new computer. What stands in it stays; a clash is kept beside.", Required = true };
        var command = new Command("restore", "Brings a parcel to the new computer, with times, modes, links and attributes. Goes on after any interruption when run again.\n\nExample:\n  yardhand restore --depot file:///mnt/share --parcel ida-0412 --to /home/ida") { depot, parcel, to, json };
        command.SetAction((args, cancel) => VerbRun.RunAsync("restore", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem)) return (Result<RestoreReport>)problem;
            using (place.Depot) return await new Restore(place.Depot, place.Parcel, new TripOptions().AtOnce, progress, TimeProvider.System).RunAsync(args.GetValue(to)!, stop);
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }
}
