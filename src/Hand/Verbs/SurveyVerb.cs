using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand survey</c></summary>
internal static class SurveyVerb
{
    public static Command Create()
    {
        var (from, json) = (VerbOptions.From(), VerbOptions.Json());
        var command = new Command("survey", "Looks at a folder: files and bytes per folder. Reads no content, changes nothing.\n\nExample:\n  yardhand survey --from /home/ida") { from, json };
        command.SetAction((args, cancel) => VerbRun.RunAsync(
            "survey", args.GetValue(json),
            (progress, stop) => Task.Run(() => new Survey(progress, TimeProvider.System).Run(args.GetValue(from)!, stop), stop),
            Reports.Show, inventory => inventory.Snags.Count == 0, cancel));
        return command;
    }
}
