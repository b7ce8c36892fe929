using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Hand.Orders;

/// <summary>A look at the old computer.</summary>
internal sealed class SurveyCase : ComputerCase<SurveyWork>
{
    /// <summary>Walks the computer; places by the product's rules, and by the refresh's own where there are some.</summary>
    public static Result<Inventory> Walk(AtWork at, string? rules, CancellationToken cancel)
    {
        var read = rules is null ? Result<PlaceRules>.Of(PlaceRules.Standard) : PlaceRules.Read(rules);
        if (!read.IsOk) return Result<Inventory>.Failed(read.Problems);
        return new Survey(at.Odometer, at.Work).Run(at.Root, cancel, rules is null ? null : PlaceRules.Standard.With(read.Value));
    }

    public static SurveyResult Found(Inventory found) => new(found.Computer, found.LargestBytes, found.DiskBytes, found.FreeBytes);

    protected override OrderOutcome Do(AtWork at, SurveyWork work, CancellationToken cancel)
    {
        var walked = Walk(at, work.PlaceRules, cancel);
        if (!walked.IsOk) return new NotDone(string.Join(' ', walked.Problems.Select(p => p.Message)));
        var found = walked.Value;
        return new Surveyed(
            [.. found.Folders.Select(f => new FolderResult(f.Folder, f.Files, default, default))], found.Snags, Found(found));
    }
}

/// <summary>A look at the new computer.</summary>
internal sealed class SurveyNewCase : ComputerCase<SurveyNewWork>
{
    protected override OrderOutcome Do(AtWork at, SurveyNewWork work, CancellationToken cancel) =>
        SurveyCase.Walk(at, null, cancel).TryGet(out var found, out var wrong)
            ? new SurveyedNew(SurveyCase.Found(found))
            : new NotDone(wrong.Message);
}

/// <summary>The folders of the old computer, to pick from.</summary>
internal sealed class FoldersCase : ComputerCase<FoldersWork>
{
    protected override OrderOutcome Do(AtWork at, FoldersWork work, CancellationToken cancel) =>
        new FolderTree(at.Odometer).Run(at.Root, cancel).TryGet(out var tree, out var shut)
            ? new TreeFound(tree.Folders, tree.Deeper)
            : new NotDone(shut.Message);
}
