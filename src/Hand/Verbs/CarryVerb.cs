using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand carry</c></summary>
internal static class CarryVerb
{
    public static Command Create()
    {
        var (from, depot, parcel, json) = (VerbOptions.From(), VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var carryList = CarryListOption();
        var reread = new Option<bool>("--read-all") { Description = "Reads every file at both ends, also those that look as they did." };
        var command = new Command("carry", "Makes a trip: stages what is new or changed since the last one, reads it back, and accounts for every file. Goes on after any interruption when run again.\n\nExample:\n  yardhand carry --from /home/ida --depot file:///mnt/share --parcel ida-0412") { from, depot, parcel, carryList, reread, json };
        command.SetAction((args, cancel) => VerbRun.RunAsync("carry", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem)) return (Result<TripReport>)problem;
            using var opened = place.Depot;
            var list = Read(args.GetValue(carryList));
            if (!list.IsOk) return Result<TripReport>.Failed(list.Problems);
            return await new Trip(place.Depot, place.Parcel, new TripOptions { CarryList = list.Value, ReadsAll = args.GetValue(reread) }, progress, TimeProvider.System).RunAsync(args.GetValue(from)!, stop);
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }

    public static Option<string?> CarryListOption() => new("--carry-list") { Description = "What comes along and what stays, as YAML or JSON; docs/formats.md has the form. Left out: everything comes along." };

    public static Result<CarryList> Read(string? file) => file is null ? CarryList.Everything : File.Exists(file) ? CarryList.Read(File.ReadAllText(file)) : new Problem("carry-list.file", $"There is no file '{file}'.");
}
