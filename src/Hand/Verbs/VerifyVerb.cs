using System.CommandLine;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
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
        secondCopy.Description += " What is damaged is mended from there, and a first copy that is older is brought up.";
        var bringBack = new Option<bool>("--bring-back")
        {
            Description = "With --second-copy: the first depot's disk died; its new one gets the whole parcel from the second."
        };
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
                bringBack,
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
            string? copies = null;
            if (beside is not null)
            {
                var both = new TwoCopies(place.Depot, beside, place.Parcel, progress, ThreadWork.Here);
                if (!(await BringUpAsync(both, args.GetValue(bringBack), stop)).TryGet(out copies, out var apart)) return apart;
            }
            var verified = await verification.RunAsync(stop);
            if (beside is not null && verified is { IsOk: true, Value.IsWhole: false })
            {
                if ((await new SecondCopy(place.Depot, beside, place.Parcel, progress, ThreadWork.Here)
                    .MendAsync(verified.Value.Damages, stop))
                    .TryGet(out var mended, out var unmended))
                {
                    verification = Verification();
                    if ((verified = await verification.RunAsync(stop)).IsOk) verified = verified.Value with { Mended = mended };
                }
                // What was found is told all the same.
                else if (unmended is ParcelUnfinished) copies = $"{copies} {unmended.Message}";
                else return unmended;
            }
            if (!verified.IsOk) return verified;
            await verification.NoteAsync(verified.Value, stop);
            return verified.Value with { SecondCopy = copies };
        }, Reports.Show, report => report.IsWhole, cancel));
        return command;
    }

    /// <summary>Brings an older first copy up.</summary>
    /// <returns>Which is which, and what was done about it.</returns>
    private static async Task<Result<string>> BringUpAsync(TwoCopies both, bool alsoGone, CancellationToken stop)
    {
        var compared = await both.CompareAsync(stop);
        if (!(await both.BringFirstUpAsync(alsoGone, stop)).TryGet(out var brought, out var problem) && problem is not null) return problem;
        return brought is null
            ? compared.Words
            : $"{compared.Words} The first was brought up from the second, {ByteText.Files(brought.Copied.Files)} new in it.";
    }
}
