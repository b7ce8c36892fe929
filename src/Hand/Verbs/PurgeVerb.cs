using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand purge</c></summary>
internal static class PurgeVerb
{
    public static Command Create()
    {
        var (depot, parcel, json) = (VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var confirm = new Option<string>("--confirm")
        {
            Description = "The parcel's name once more: a purge cannot be taken back.",
            Required = true
        };
        var command = new Command(
            "purge",
            "Removes a parcel from its depot, and proves by listing that nothing is left.\n\nExample:\n  yardhand purge --depot "
                + "file:///mnt/share --parcel ida-0412 --confirm ida-0412")
            {
                depot, parcel, confirm, json
            };
        command.SetAction((args, cancel) => VerbRun.RunAsync("purge", args.GetValue(json), async (_, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<PurgeReport>)problem;
            using (place.Depot)
                return await new Purge(place.Depot, place.Parcel, ThreadWork.Here).RunAsync(args.GetValue(confirm)!, stop);
        }, Reports.Show, report => report.Left.Count == 0, cancel));
        return command;
    }
}
