using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Hand.Orders;

/// <summary>The parcel lands.</summary>
internal sealed class RestoreCase : ParcelCase<RestoreWork>
{
    /// <summary>A restore of all, or of a part; why not otherwise.</summary>
    public static async Task<Result<RestoreReport>> RunAsync(
        AtWork at, OpenParcel parcel, LandingWanted wanted, IReadOnlyList<string> only, bool unfinished, CancellationToken cancel)
    {
        var landing = Landings.Of(wanted, only);
        if (!landing.IsOk) return Result<RestoreReport>.Failed(landing.Problems);
        var restore = new Restore(parcel.Depot, parcel.Path, parcel.AtOnce, at.Odometer, at.Work, landing.Value, parcel.Keys)
        {
            TakesUnfinished = unfinished,
            Owners = Environment.IsPrivilegedProcess ? new OwnerRule(To: null) : null
        };
        return await restore.RunAsync(at.Root, cancel);
    }

    public static IReadOnlyList<FolderResult> FoldersOf(RestoreReport landed) =>
        [.. landed.Folders.Select(f => new FolderResult(f.Folder, f.InDepot, f.Restored + f.Stood + f.Beside + f.Stayed, f.Open))];

    /// <summary>What was damaged in the depot is a snag like any other: a trip or a person ends it.</summary>
    public static IReadOnlyList<Snag> SnagsOf(RestoreReport landed) =>
        [.. landed.Snags, .. landed.Damages.Select(d => new Snag(PathOf(d.Path), SnagKind.DamagedInDepot, 0, d.Reason))];

    private static string PathOf(string path) => path.StartsWith("data/", StringComparison.Ordinal) ? path[5..] : path;

    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, RestoreWork work, CancellationToken cancel)
    {
        var run = await RunAsync(at, parcel, work.Landing, [], work.Unfinished, cancel);
        if (!run.IsOk) return new NotDone(string.Join(' ', run.Problems.Select(p => p.Message)));
        var landed = run.Value;
        return new Restored(
            FoldersOf(landed), SnagsOf(landed), landed.Damages.Count, landed.NotInParcel?.Count ?? 0, landed.Unfinished is not null);
    }
}

/// <summary>A part of it lands once more.</summary>
internal sealed class PartRestoreCase : ParcelCase<PartRestoreWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, PartRestoreWork work, CancellationToken cancel)
    {
        var run = await RestoreCase.RunAsync(at, parcel, work.Landing, work.Only, work.Unfinished, cancel);
        if (!run.IsOk) return new NotDone(string.Join(' ', run.Problems.Select(p => p.Message)));
        var landed = run.Value;
        return new PartRestored(
            RestoreCase.FoldersOf(landed), RestoreCase.SnagsOf(landed), landed.Damages.Count, landed.NotInParcel?.Count ?? 0);
    }
}

/// <summary>What a restore would do, before it writes.</summary>
internal sealed class LookCase : ParcelCase<LookWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, LookWork work, CancellationToken cancel)
    {
        var landing = Landings.Of(work.Landing, []);
        if (!landing.IsOk) return new NotDone(string.Join(' ', landing.Problems.Select(p => p.Message)));
        var preview = new LandingPreview(parcel.Depot, parcel.Path, at.Odometer, at.Work, landing.Value, parcel.Keys)
        {
            TakesUnfinished = work.Unfinished
        };
        if (!(await preview.RunAsync(at.Root, cancel)).TryGet(out var seen, out var blind)) return new NotDone(blind.Message);
        var folders = seen.Folders.Select(f => new ForeseenFolder(f.Folder, f.To, f.New, f.Stands, f.Beside, f.Replaced, f.Stayed));
        return new LookedAhead(new(at.Time.GetUtcNow(), [.. folders], seen.NeedsBytes, seen.FreeBytes, seen.NotInParcel), seen.Fits);
    }
}

/// <summary>A landing plan as it comes over the wire.</summary>
internal static class Landings
{
    private sealed record UnknownClashRule() : Problem(
        "landing.clash", "The landing plan has a clash rule that this hand does not know. Use a newer yardhand.");

    public static Result<LandingPlan> Of(LandingWanted plan, IReadOnlyList<string> only)
    {
        static ClashRule? Rule(string text) => Enum.TryParse<ClashRule>(text, true, out var rule) ? rule : null;
        if (Rule(plan.Clash) is not { } clash || plan.Clashes.Any(c => Rule(c.Rule) is null)) return new UnknownClashRule();
        return LandingPlan.Create(
            [.. plan.Accounts.Select(m => new Landing(m.From, m.To, true)), .. plan.Folders.Select(m => new Landing(m.From, m.To))],
            only,
            plan.First,
            clash,
            [.. plan.Clashes.Select(c => new FolderClash(c.Folder, Rule(c.Rule)!.Value))]);
    }
}
