using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Snags across all swaps: <c>yardline snag list</c>, <c>waive</c>, <c>waive-all</c>, <c>retry</c>.</summary>
internal static class SnagVerbs
{
    public static Command Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var snag = new Argument<string>("snag") { Description = "Id of the snag, or its first eight characters." };
        var reason = new Option<string>("--reason") { Description = "Why the file is not needed.", Required = true };
        var kind = new Option<string?>("--kind") { Description = "Only snags of this kind, such as pipe or unreadable." };
        var mustKind = new Option<string>("--kind") { Description = "Snags of this kind, such as socket.", Required = true };
        var end = new Option<string>("--end") { Description = "open, waived or retried.", DefaultValueFactory = _ => "open" };
        var verdict = new Argument<SourceVerdict>("verdict")
        {
            Description = "same: it moved, was copied, or an earlier state was put back. deleted: what is gone was deleted."
        };
        var why = new Option<string>("--reason") { Description = "Why; it stays, with your name.", Required = true };
        var ids = new Option<bool>("--ids") { Description = "Only swap and snag ids, a line each, for scripts." };
        var plain = false;
        return new Command("snag", "Snags of all swaps.")
        {
            Call.Command<List<SnagListed>>("list", "Lists snags, the oldest first, and what may be done about each.", "yardline snag list",
                [kind, end, ids], (c, r, a, cancel) =>
            {
                plain = a.GetValue(ids);
                return AllAsync(c, r, a.GetValue(end)!, a.GetValue(kind), cancel);
            }, all => Show(all, plain)),
            Call.Command<SnagSeen>("waive", "Gives a file up, with a reason that stays.",
                "yardline snag waive autumn-0012 1f2e3d4c --reason 'Old print spool, not needed'", [swap, snag, reason],
                async (c, _, a, cancel) =>
                    (await FindAsync(c, a.GetValue(swap)!, a.GetValue(snag)!, cancel)).TryGet(out var found, out var problem)
                        ? await c.WaiveAsync(found.Id, a.GetValue(reason)!, cancel)
                        : problem,
                n => Tables.Say($"Waived by {n.EndedBy}: {Visible.Line(n.Path)}."), needsRefresh: false),
            Call.Command<SnagSeen>("source", "Says what a source is that did not look like what was carried before.",
                "yardline snag source autumn-0012 1f2e3d4c deleted --reason 'Ida moved them to the share'",
                [swap, snag, verdict, why], async (c, _, a, cancel) =>
                    (await FindAsync(c, a.GetValue(swap)!, a.GetValue(snag)!, cancel)).TryGet(out var found, out var problem)
                        ? await c.AnswerSourceAsync(found.Id, new(a.GetValue(verdict), a.GetValue(why)!), cancel)
                        : problem,
                n => Tables.Say($"Answered by {n.EndedBy}; the next trip goes on by it: {n.EndReason}"), needsRefresh: false),
            Call.Command<WaiversMade>("waive-all", "Gives up all open files of one kind, with one reason that stays with each.",
                "yardline snag waive-all --kind socket --reason 'Sockets hold no content'", [mustKind, reason], async (c, r, a, cancel) =>
            {
                if (!(await AllAsync(c, r, "open", a.GetValue(mustKind), cancel)).TryGet(out var all, out var problem)) return problem;
                var made = new WaiversMade(0, []);
                foreach (var some in all.Chunk(500))
                {
                    if (!(await c.WaiveManyAsync(r, new([.. some.Select(s => s.Snag.Id)], a.GetValue(reason)!), cancel))
                        .TryGet(out var part, out var refused))
                        return refused;
                    made = new(made.Waived + part.Waived, [.. made.Skipped, .. part.Skipped]);
                }
                return made;
            }, made =>
            {
                foreach (var skipped in made.Skipped) Tables.Say($"– {skipped}");
                Tables.Say($"{made.Waived} waived.");
            }),
            Call.Command<OrdersMade>("retry", "Orders a trip or restore wherever that can end an open snag.",
                "yardline snag retry --kind changedWhileRead", [kind], async (c, r, a, cancel) =>
            {
                if (!(await AllAsync(c, r, "open", a.GetValue(kind), cancel)).TryGet(out var all, out var problem)) return problem;
                var made = new OrdersMade(0, [], []);
                foreach (var way in all
                    .SelectMany(s => s.Ways.Where(w => w is not ("waive" or "source")).Select(w => (Way: w, s.Snag.Swap)))
                    .Distinct()
                    .GroupBy(w => w.Way))
                {
                    if (!(await c.GiveOrdersAsync(r, new(way.Key, [.. way.Select(w => w.Swap)]), cancel))
                        .TryGet(out var part, out var refused))
                        return refused;
                    made = new(
                        made.Given + part.Given, [.. made.Skipped, .. part.Skipped],
                        [.. made.WithoutHand.Union(part.WithoutHand)]);
                }
                return OrdersDone.Of(made);
            }, OrdersText.Say),
        };
    }

    private static async Task<Result<SnagSeen>> FindAsync(YardClient client, string swap, string snag, CancellationToken cancel)
    {
        if (!(await client.SwapAsync(swap, cancel)).TryGet(out var seen, out var problem)) return problem;
        var found = seen.Snags.Where(n => n.Id.StartsWith(snag, StringComparison.Ordinal)).ToList();
        return found.Count == 1
            ? found[0]
            : new SnagWhichProblem(found.Count, snag, string.Join(", ", seen.Snags.Take(10).Select(n => n.Id[..8])));
    }

    private static Task<Result<List<SnagListed>>> AllAsync(
        YardClient client, string refresh, string end, string? kind, CancellationToken cancel) =>
        Pages.AllAsync(cursor => client.SnagsAsync(refresh, end, kind, cursor, cancel));

    private static void Show(List<SnagListed> all, bool plain)
    {
        if (plain)
        {
            foreach (var n in all) Tables.Say($"{n.Snag.Swap} {n.Snag.Id}");
            return;
        }
        Tables.Show(
            ["Swap", "Person", "Snag", "Path", "Why", "What may be done"],
            all.Select(n => new[]
            {
                n.Snag.Swap,
                n.Name,
                n.Snag.Id[..8],
                n.Snag.Path,
                n.Snag.EndReason is { } why ? $"{n.Snag.Reason} Waived by {n.Snag.EndedBy}: {why}" : n.Snag.Reason,
                n.Snag.End == "open" ? n.Counsel : ""
            }));
        Tables.Say($"{all.Count} snags.");
    }
}
