using System.CommandLine;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand carry</c></summary>
internal static class CarryVerb
{
    public static Command Create()
    {
        var (from, depot, parcel, json) = (VerbOptions.From(), VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var cargo = new CargoOptions();
        var reread = new Option<bool>("--read-all") { Description = "Reads every file at both ends, also those that look as they did." };
        var byNeed = new Option<bool>("--by-need")
        {
            Description =
                "Where the depot has less room than there is to carry: carries what is needed first as far as it fits, and names what "
                    + "stays. Without it, a full depot ends the trip."
        };
        var closing = new Option<bool>("--closing")
        {
            Description =
                "The last trip before the swap: looks at the source until a look finds nothing that came or changed meanwhile, and names "
                    + "what is still written to."
        };
        var noReadBack = new Option<bool>("--no-read-back")
        {
            Description =
                "Does not read back what was staged; the next verification does. A depot that keeps something else than it was given is "
                    + "then found later."
        };
        var sealTo = new Option<string[]>("--seal-to")
        {
            Description =
                "Seals a new parcel: only who has the key of this recipient (age1…) can read it. Repeat for more; later trips seal as "
                    + "the first one did."
        };
        var answer = new SourceAnswerOptions();
        var limit = VerbOptions.Limit();
        var secondCopy = VerbOptions.SecondCopy();
        var (identity, passphrase) = (VerbOptions.Identity(), VerbOptions.Passphrase());
        passphrase.Description = "File whose first line is a passphrase ('-': the input); seals a new parcel, and opens one.";
        var command = new Command(
            "carry",
            "Makes a trip: stages what is new or changed since the last one, reads it back, and accounts for every file. Goes on after "
                + "any interruption when run again.\n\nExample:\n  yardhand carry --from /home/ida --depot file:///mnt/share --parcel "
                + "ida-0412\n  yardhand carry --from /home/ida --depot file:///mnt/share --parcel ida-0412 --seal-to age1…")
            {
                from, depot, parcel, closing, reread, byNeed, noReadBack, sealTo, answer.SourceIs, answer.By, answer.Because, secondCopy,
                limit, identity, passphrase, json
            };
        foreach (var option in cargo.All) command.Options.Add(option);
        command.SetAction((args, cancel) => VerbRun.RunAsync("carry", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<TripReport>)problem;
            using var opened = place.Depot;
            var what = cargo.Read(args);
            if (!what.IsOk) return Result<TripReport>.Failed(what.Problems);
            var recipients = (args.GetValue(sealTo) ?? []).Select(r => (Text: r, Key: AgeRecipient.TryParse(r))).ToList();
            if (recipients.Find(r => r.Key is null) is { Text: { } mistyped })
                return new RecipientFormProblem(mistyped);
            if (!VerbOptions.Keys(args.GetValue(identity), args.GetValue(passphrase)).TryGet(out var keys, out var wrong)) return wrong;
            if (!answer.Read(args).TryGet(out var said, out var unsaid) && unsaid is not null) return unsaid;
            var sealing = recipients.Count > 0 || keys.Passphrase is not null
                ? new SealingWish([.. recipients.Select(r => r.Key!)], keys.Passphrase)
                : null;
            var second = args.GetValue(secondCopy) is { } other ? DepotAddress.Open(other) : Result<IDepot>.Of(null!);
            if (!second.IsOk) return second.Problem;
            using var beside = second.Value;
            if (!VerbOptions.Limited(place.Depot, args.GetValue(limit), stop).TryGet(out var limited, out var badLimit)) return badLimit;
            var trip = await new Trip(
                limited,
                place.Parcel,
                new TripOptions
                {
                    CarryList = what.Value.List,
                    Places = what.Value.Places,
                    SourceLabel = what.Value.Label,
                    ReadsAll = args.GetValue(reread),
                    ByNeed = args.GetValue(byNeed),
                    IsClosing = args.GetValue(closing),
                    ReadBack = !args.GetValue(noReadBack),
                    Sealing = sealing,
                    Keys = keys,
                    Answer = said
                },
                progress,
                ThreadWork.Here)
                .RunAsync(TreeRoot.Here(args.GetValue(from)!), stop);
            if (!trip.IsOk && trip.Problem is SourceDoubted doubted)
                return Result<TripReport>.Failed([doubted, SourceAnswerOptions.HowTo(doubted)]);
            if (!trip.IsOk || beside is null) return trip;
            return (await new SecondCopy(place.Depot, beside, place.Parcel, progress, ThreadWork.Here).BringUpAsync(stop))
                .TryGet(out var copied, out var failed)
                ? trip.Value with { Copy = copied }
                : failed;
        }, Reports.Show, report => report is { IsWhole: true, Copy: null or { IsWhole: true } }, cancel));
        return command;
    }
}
