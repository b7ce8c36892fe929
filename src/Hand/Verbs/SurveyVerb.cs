using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand survey</c></summary>
internal static class SurveyVerb
{
    public static Command Create()
    {
        var (from, json) = (VerbOptions.From(), VerbOptions.Json());
        var rules = CargoOptions.Rules();
        var command = new Command(
            "survey",
            "Looks at a home, or a disk with several: what lies in which place, what is in a cloud already, what is worth asking about. "
                + "Reads no content, changes nothing.\n\nExample:\n  yardhand survey --from /home/ida")
            {
                from, rules, json
            };
        // Without rules of one's own the walk begins at once, and ours are read beside it.
        command.SetAction((args, cancel) => VerbRun.RunAsync(
            "survey", args.GetValue(json),
            (progress, stop) => Task.Run(() =>
            {
                if (args.GetValue(rules) is not { } file) return Look(null);
                var read = CargoOptions.RulesOf(file);
                return read.IsOk ? Look(read.Value) : Result<Inventory>.Failed(read.Problems);

                Result<Inventory> Look(PlaceRules? by) =>
                    new Survey(progress, ThreadWork.Here).Run(TreeRoot.Here(args.GetValue(from)!), stop, by);
            }, stop),
            Reports.Show, inventory => inventory.Snags.Count == 0, cancel));
        return command;
    }

    /// <summary><c>yardhand rules</c></summary>
    public static Command CreateRules()
    {
        var command = new Command(
            "rules",
            "Prints the rules by which places are known: a start for rules of your own.\n\nExample:\n  yardhand rules > places.yaml");
        command.SetAction(_ => Console.Out.Write(PlaceRules.StandardText));
        return command;
    }
}
