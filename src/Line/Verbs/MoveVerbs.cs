using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline plan move</c>, <c>take-out</c> and <c>undo</c>: the draft changed by hand.</summary>
internal static class MoveVerbs
{
    public static IEnumerable<Command> Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap." };
        var at = new Argument<string>("at") { Description = "'2026-11-26 09:15' by the clocks of the refresh." };
        var technician = new Option<string?>("--technician") { Description = "Key of who does it; left out: who has it now." };
        var bench = new Option<bool>("--bench") { Description = "Its bench preparation, not the visit." };
        var only = new Option<bool>("--try") { Description = "Only say what it would break and cost." };
        yield return Call.Command<MoveSeen>("move", "Moves a visit of the draft, unless a rule would be broken.",
            "yardline plan move autumn-0007 '2026-11-26 09:15' --technician theo", [swap, at, technician, bench, only],
            async (c, r, a, cancel) =>
        {
            if (!(await Call.TimeAsync(c, r, a.GetValue(at)!, cancel)).TryGet(out var start, out var unread)) return unread;
            var wanted = new MoveWanted(
                a.GetValue(swap)!, a.GetValue(technician), start, a.GetValue(bench));
            return a.GetValue(only)
                ? await c.TryMoveAsync(r, wanted, cancel)
                : await OnDraftAsync(c, r, version => c.MoveAsync(r, wanted, version, cancel), cancel);
        }, Show);
        yield return Call.Command(
            "take-out",
            "Takes a visit out of the draft, and with it what follows it.",
            "yardline plan take-out autumn-0007",
            [swap, bench],
            (c, r, a, cancel) => OnDraftAsync(
                c, r, version => c.MoveAsync(r, new(a.GetValue(swap)!, null, null, a.GetValue(bench)), version, cancel), cancel),
            Show);
        yield return Call.Command(
            "undo",
            "Takes the newest move by hand back.",
            "yardline plan undo",
            [],
            (c, r, _, cancel) => OnDraftAsync(c, r, version => c.UndoMoveAsync(r, version, cancel), cancel),
            Show);
    }

    private static async Task<Result<MoveSeen>> OnDraftAsync(
        Client.YardClient client, string refresh, Func<int, Task<Result<MoveSeen>>> work, CancellationToken cancel) =>
        (await client.PlanAsync(refresh, cancel)).TryGet(out var plan, out var refused) ? Refused(await work(plan.Version)) : refused;

    // A move that breaks a rule was not made: the command has not done what was asked.
    private static Result<MoveSeen> Refused(Result<MoveSeen> moved) =>
        moved is { IsOk: true, Value.IsAllowed: false }
            ? new MoveBreaksProblem(string.Join(" ", moved.Value.Breaks))
            : moved;

    private static void Show(MoveSeen m)
    {
        if (!m.IsAllowed)
        {
            foreach (var broken in m.Breaks) Tables.Say($"■ {broken}");
            return;
        }
        var by = m.CostAfter - m.CostBefore;
        var place = m.At is { } at
            ? $"{at.Person}: {at.Start.OnClock():ddd d MMM HH:mm} to {at.End.OnClock():HH:mm} with {at.TechnicianName}. "
            : "";
        var difference = by == 0 ? "" : by > 0 ? $", {by} more" : $", {-by} less";
        Tables.Say($"{place}Cost {m.CostBefore} → {m.CostAfter}{difference}.");
    }
}
