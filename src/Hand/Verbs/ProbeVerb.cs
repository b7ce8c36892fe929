using System.CommandLine;
using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Core;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand probe</c> and <c>will-it-go</c>: looks before anything is carried.</summary>
internal static class ProbeVerb
{
    public static Command Create()
    {
        var (depot, json) = (VerbOptions.Depot(), VerbOptions.Json());
        var command = new Command(
            "probe",
            "Finds out what a depot can hold and how fast it is, by writing to it and reading back; leaves nothing there.\n\nExample:\n  "
                + "yardhand probe --depot https://cloud.kestrelbay.example/dav")
            {
                depot, json
            };
        command.SetAction((args, cancel) => VerbRun.RunAsync("probe", args.GetValue(json), async (_, stop) =>
        {
            if (!DepotAddress.Open(args.GetValue(depot)!).TryGet(out var place, out var problem)) return (Result<DepotProbed>)problem;
            using (place) return await DepotProbe.RunAsync(place, ThreadWork.Here, stop);
        }, Reports.Show, _ => true, cancel));
        return command;
    }

    /// <summary><c>yardhand label</c></summary>
    public static Command CreateLabel()
    {
        var folder = new Option<string>("--disk") { Description = "Where the disk is mounted.", Required = true };
        var label = new Option<string>("--as") { Description = "The label, such as the one written on its case.", Required = true };
        var command = new Command(
            "label",
            "Labels a disk, so that file:///path#LABEL means this one: another disk, or an empty place to mount one, is refused.\n\n"
                + "Example:\n  yardhand label --disk /mnt/disk --as 'KB disk 3'")
            {
                folder, label
            };
        command.SetAction(args =>
        {
            var at = Path.GetFullPath(args.GetValue(folder)!);
            if (!Directory.Exists(at)) return VerbRun.Fail("disk.folder", $"There is no folder '{at}'.", false, ExitCodes.Usage);
            if (FolderDepot.Label(TreeRoot.Here(at), args.GetValue(label)!) is { } problem)
                return VerbRun.Fail(problem.Code, problem.Message, false, ExitCodes.Usage);
            Console.Out.WriteLine(
                $"As a depot, use it as file://{at}#{Uri.EscapeDataString(args.GetValue(label)!)}. To carry from it, say --from '{at}' "
                    + $"--labelled '{args.GetValue(label)}'.");
            return ExitCodes.AllAccounted;
        });
        return command;
    }

    /// <summary><c>yardhand will-it-go</c></summary>
    public static Command CreateCheck()
    {
        var (from, depot, parcel, json) = (VerbOptions.From(), VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var cargo = new CargoOptions();
        var (identity, passphrase) = (VerbOptions.Identity(), VerbOptions.Passphrase());
        var command = new Command(
            "will-it-go",
            "Looks before a trip whether it will go: depot, place of the parcel, room, names. Stages nothing.\n\nExample:\n  yardhand "
                + "will-it-go --from /home/ida --depot file:///mnt/share --parcel ida-0412")
            {
                from,
                depot,
                parcel,
                identity,
                passphrase,
                json
            };
        foreach (var option in cargo.All) command.Options.Add(option);
        command.SetAction((args, cancel) => VerbRun.RunAsync("look", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<Foreseen>)problem;
            using var opened = place.Depot;
            var what = cargo.Read(args);
            if (!VerbOptions.Keys(args.GetValue(identity), args.GetValue(passphrase)).TryGet(out var keys, out var wrong)) return wrong;
            return what.IsOk
                ? await new WillItGo(place.Depot, place.Parcel, what.Value.List, progress, ThreadWork.Here, keys)
                { Places = what.Value.Places, SourceLabel = what.Value.Label }
                    .RunAsync(TreeRoot.Here(args.GetValue(from)!), stop)
                : Result<Foreseen>.Failed(what.Problems);
        }, Reports.Show, foreseen => foreseen.Goes, cancel));
        return command;
    }
}
