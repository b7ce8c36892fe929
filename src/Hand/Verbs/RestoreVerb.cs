using System.CommandLine;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand restore</c></summary>
internal static class RestoreVerb
{
    public static Command Create()
    {
        var (depot, parcel, json) = (VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var to = new Option<string>("--to")
        {
            Description = "Folder of the new computer. What stands in it stays; a clash is kept beside.",
            Required = true
        };
        var account = new Option<string[]>("--account")
        {
            Description = "OLD=NEW: the files of account OLD land in the home of NEW, which must be there. Repeat for more."
        };
        var folder = new Option<string[]>("--folder")
        {
            Description = "FROM=TO: a folder of the parcel lands in another one below the target. Repeat for more."
        };
        var first = new Option<string[]>("--first") { Description = "A folder or file that comes first. Repeat for more, in order." };
        var only = new Option<string[]>("--only") { Description = "Nothing but this folder or file. Repeat for more." };
        var clash = new Option<string[]>("--on-clash")
        {
            Description =
                "Where something else stands: beside (both are kept; the default), stay, newer or ours. FOLDER=RULE is for one folder."
        };
        var dry = new Option<bool>("--dry-run") { Description = "Only say what would land where, and what stands in the way." };
        var unfinished = new Option<bool>("--unfinished")
        {
            Description = "Takes a parcel whose last trip broke off as it was left, when the old computer is gone for good. What nobody "
                + "can be sure of is named."
        };
        var owner = new Option<string?>("--owner")
        {
            Description = "As administrator: the account that what is restored belongs to, by name or as USER:GROUP. Default: whoever owns "
                + "the folder in which it lands."
        };
        var (identity, passphrase) = (VerbOptions.Identity(), VerbOptions.Passphrase());
        var command = new Command(
            "restore",
            "Brings a parcel to the new computer, with times, modes, links and attributes. Goes on after any interruption when run "
                + "again.\n\nExamples:\n  yardhand restore --depot file:///mnt/share --parcel ida-0412 --to /home/ida\n  yardhand restore "
                + "--depot file:///mnt/share --parcel ida-0412 --to /home --account ida=imoreau --first ida/Desktop --dry-run")
            {
                depot,
                parcel,
                to,
                account,
                folder,
                first,
                only,
                clash,
                dry,
                unfinished,
                owner,
                identity,
                passphrase,
                json
            };
        LandingPlan? Plan(ParseResult args, out IReadOnlyList<Problem> wrong)
        {
            var read = LandingOptions.Read(
                args.GetValue(account) ?? [], args.GetValue(folder) ?? [], args.GetValue(only) ?? [], args.GetValue(first) ?? [],
                args.GetValue(clash) ?? []);
            wrong = read.Problems;
            return read.IsOk ? read.Value : null;
        }

        command.SetAction((args, cancel) => args.GetValue(dry) ? VerbRun.RunAsync("look", args.GetValue(json), async (progress, stop) =>
        {
            if (Plan(args, out var wrong) is not { } plan) return Result<LandingForeseen>.Failed(wrong);
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<LandingForeseen>)problem;
            if (!VerbOptions.Keys(args.GetValue(identity), args.GetValue(passphrase)).TryGet(out var keys, out var badKey)) return badKey;
            using (place.Depot)
                return await new LandingPreview(place.Depot, place.Parcel, progress, ThreadWork.Here, plan, keys)
                {
                    TakesUnfinished = args.GetValue(unfinished)
                }.RunAsync(TreeRoot.Here(args.GetValue(to)!), stop);
        }, Reports.Show, foreseen => foreseen.Fits, cancel) : VerbRun.RunAsync("restore", args.GetValue(json), async (progress, stop) =>
        {
            if (Plan(args, out var wrong) is not { } plan) return Result<RestoreReport>.Failed(wrong);
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<RestoreReport>)problem;
            if (!VerbOptions.Keys(args.GetValue(identity), args.GetValue(passphrase)).TryGet(out var keys, out var badKey)) return badKey;
            if (!LandingOptions.Owners(args.GetValue(owner)).TryGet(out var owners, out var noOwner)) return noOwner;
            using (place.Depot)
                return await new Restore(place.Depot, place.Parcel, new TripOptions().AtOnce, progress, ThreadWork.Here, plan, keys)
                {
                    TakesUnfinished = args.GetValue(unfinished),
                    Owners = owners
                }.RunAsync(TreeRoot.Here(args.GetValue(to)!), stop);
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }
}
