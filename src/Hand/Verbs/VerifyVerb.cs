using System.CommandLine;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand verify</c></summary>
internal static class VerifyVerb
{
    public static Command Create()
    {
        var (depot, parcel, json) = (VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json());
        var sample = new Option<double>("--sample")
        {
            Description = "Reads so many of 100 files, others are looked for only; the lists are always read.",
            DefaultValueFactory = _ => 100
        };
        var seed = new Option<int>("--seed")
        {
            Description = "Which files a sample has; another number takes others.",
            DefaultValueFactory = _ => 1
        };
        var changed = new Option<bool>("--changed-only")
        {
            Description =
                "Reads only files that are new or changed since the parcel was last found whole; the others are looked for, and the lists "
                    + "are always read."
        };
        var secondCopy = VerbOptions.SecondCopy();
        secondCopy.Description += " What is damaged is mended from there.";
        var (identity, passphrase) = (VerbOptions.Identity(), VerbOptions.Passphrase());
        var command = new Command(
            "verify",
            "Reads every byte of a parcel and names each missing, changed or extra file by its path in the bag. Judges the parcel only; "
                + "snags of its trips do not count. A sealed one is judged without a key; with one, its inner list is held against it "
                + "too. What is damaged is noted in the parcel, and the next trip brings it anew.\n\nExample:\n  yardhand verify "
                        + "--depot file:///mnt/share --parcel ida-0412")
            {
                depot,
                parcel,
                sample,
                seed,
                changed,
                secondCopy,
                identity,
                passphrase,
                json
            };
        command.SetAction((args, cancel) => VerbRun.RunAsync("verify", args.GetValue(json), async (progress, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<VerifyReport>)problem;
            using var opened = place.Depot;
            if (args.GetValue(sample) is not (> 0 and <= 100))
                return new VerifySampleProblem();
            if (!VerbOptions.Keys(args.GetValue(identity), args.GetValue(passphrase)).TryGet(out var keys, out var wrong)) return wrong;
            var second = args.GetValue(secondCopy) is { } other ? DepotAddress.Open(other) : Result<IDepot>.Of(null!);
            if (!second.IsOk) return second.Problem;
            using var beside = second.Value;
            var verification = Verification();
            Verification Verification() =>
                new(
                    place.Depot, place.Parcel, new TripOptions().AtOnce, progress, ThreadWork.Here, args.GetValue(sample) / 100,
                    args.GetValue(seed), keys, args.GetValue(changed));
            var verified = await verification.RunAsync(stop);
            if (beside is not null && verified is { IsOk: true, Value.IsWhole: false })
            {
                if (!(await new SecondCopy(place.Depot, beside, place.Parcel, progress, ThreadWork.Here)
                    .MendAsync(verified.Value.Damages, stop))
                    .TryGet(out var mended, out var unmended))
                    return unmended;
                verification = Verification();
                if ((verified = await verification.RunAsync(stop)).IsOk) verified = verified.Value with { Mended = mended };
            }
            if (verified.IsOk) await verification.NoteAsync(verified.Value, stop);
            return verified;
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }
}
