using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline report</c></summary>
internal static class ReportVerbs
{
    /// <summary>The account of one swap and what follows from it.</summary>
    internal sealed record SwapAccount(string Swap, string Name, SwapKind Kind, FolderAccount Total, string Outcome, bool IsAccounted);

    public static Command Create() => new("report", "Reports over all swaps.")
    {
        Call.Command<List<SwapAccount>>("accounts", "The account of every swap that stages files; fails when a file is unexplained.",
            "yardline report accounts", [], async (c, r, args, cancel) =>
        {
            var all = new List<SwapAccount>();
            string? cursor = null;
            do
            {
                if (!(await c.SwapsAsync(r, null, "name", cursor, cancel)).TryGet(out var page, out var problem)) return problem;
                foreach (var one in page.Items)
                {
                    if (!(await c.SwapAsync(one.Id, cancel)).TryGet(out var seen, out var refused)) return refused;
                    if (seen.Orders.Count > 0) all.Add(Of(seen));
                }
                cursor = page.Next;
            }
            while (cursor is not null);
            var open = all.Where(a => !a.IsAccounted).ToList();
            if (all.Count == 0) return new ReportNothingProblem();
            if (open.Count == 0) return all;
            // A machine reads one document: the problem names who is open.
            if (!args.GetValue(Call.Json)) Show(all);
            return new ReportOpenProblem(open.Count, all.Count, string.Join(", ", open.Select(o => o.Name)));
        }, Show),
    };

    private static SwapAccount Of(SwapSeen seen)
    {
        var staged = seen.Swap.Line.FirstOrDefault(l => l.Station == Station.Staged);
        var restored = seen.Swap.Line.FirstOrDefault(l => l.Station == Station.Restored);
        var isWhole = staged is not { At: null }
            && restored is not { At: null }
            && seen.Total.Unexplained == 0
            && seen.Account.All(f => f.CarryAddsUp && f.RestoreAddsUp);
        return new(
            seen.Swap.Id,
            seen.Swap.Name,
            seen.Swap.Kind,
            seen.Total,
            seen.SignOffs.All(s => s.By is not null) ? "signed off" : isWhole ? "accounted for" : seen.Swap.Sign.Words,
            isWhole);
    }

    private static void Show(List<SwapAccount> all)
    {
        static string Count(long number) => number == 0 ? "" : $"{number:#,0}";
        Tables.Show([
            "Person", "Kind", "Old computer", "Size", "Left out", "Waived", "Open", "In the depot", "New computer", "Outcome"
        ], all.Select(a => new[]
        {
            a.Name, a.Kind.ToString().ToLowerInvariant(), Count(a.Total.Old.Files), ByteText.Of(
                a.Total.Old.Bytes), Count(a.Total.LeftOut.Files), Count(a.Total.Waived.Files
                + a.Total.WaivedAtNew.Files),
            Count(a.Total.Open.Files + a.Total.OpenAtNew.Files), Count(a.Total.InDepot.Files), a.Total.OnNew is { } n ? Count(n.Files) : "",
            (a.IsAccounted ? "✓ " : "■ ") + a.Outcome,
        }), 2, 3, 4, 5, 6, 7, 8);
        Tables.Say(
            $"{all.Count} swaps, {all.Sum(a => a.Total.Old.Files):#,0} files, {ByteText.Of(all.Sum(a => a.Total.Old.Bytes))}; "
                + $"{all.Sum(a => a.Total.Unexplained)} unexplained.");
    }
}
