using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand carry</c></summary>
internal static class CarryVerb
{
    public static Command Create()
    {
        var (from, depot, parcel, json) = (VerbOptions.From(), VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var command = new Command("carry", "Makes a trip: stages what is new or changed since the last one, reads it back, and accounts for every file. Goes on after any interruption when run again.\n\nExample:\n  yardhand carry --from /home/ida --depot file:///mnt/share --parcel ida-0412") { from, depot, parcel, json };
        command.SetAction((args, cancel) => VerbRun.RunAsync("carry", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem)) return (Result<TripReport>)problem;
            using (place.Depot) return await new Trip(place.Depot, place.Parcel, new TripOptions(), progress, TimeProvider.System).RunAsync(args.GetValue(from)!, stop);
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }
}
