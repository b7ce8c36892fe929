using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline checklist uses</c> and <c>checklist move</c>: which swaps have which version, and moving many at once.</summary>
internal static class ChecklistMoveVerb
{
    public static Command CreateUses() => Call.Command(
        "uses",
        "How many open swaps have which version of which checklist, and how far they are.",
        "yardline checklist uses",
        [],
        (c, r, _, cancel) => c.TemplateUsesAsync(r, cancel),
        all => Tables.Show(
            ["Name", "Version", "Nothing done yet", "Begun", "Signed"],
            all.Select(u => new[] { u.Template, $"{u.Version}", $"{u.Untouched}", $"{u.Begun}", $"{u.Signed}" }),
            1,
            2,
            3,
            4));

    public static Command CreateMove()
    {
        var name = new Argument<string>("name") { Description = "Name of a template, as 'yardline checklist list' shows it." };
        var version = new Option<int?>("--version") { Description = "To this version; left out: to the newest." };
        var begun = new Option<bool>("--begun-too") { Description = "Also swaps of which something was dealt with; never what is signed." };
        var dry = new Option<bool>("--dry-run") { Description = "Only says what would change." };
        var yes = Sure.Option;
        return Call.Command<ChecklistsMoved>(
            "move",
            "Moves swaps to a newer version of their checklist: those of which nothing was dealt with yet.",
            "yardline checklist move \"Change of computer\" --dry-run",
            [name, version, begun, dry, yes],
            async (c, r, a, cancel) =>
            {
                var move = new ChecklistsMove(a.GetValue(name)!, a.GetValue(version), a.GetValue(begun), DryRun: true);
                if (!(await c.MoveChecklistsAsync(r, move, cancel)).TryGet(out var look, out var problem)) return problem;
                if (look.Swaps == 0) return new ChecklistNothingToMove(look.Template, look.Version, move.BegunToo);
                if (a.GetValue(dry)) return look;
                if (look.Steps.Sum(s => s.DealtWith) is > 0 and var lost
                    && Sure.Against(a, yes, $"What was said about {lost} steps no longer counts; the history keeps it.") is { } no)
                    return no;
                return await MoveAsync(c, r, move with { DryRun = false, Version = look.Version }, cancel);
            },
            Show);
    }

    /// <summary>Some at a time, until none is left.</summary>
    private static async Task<Result<ChecklistsMoved>> MoveAsync(
        YardClient client, string refresh, ChecklistsMove move, CancellationToken cancel)
    {
        ChecklistsMoved? all = null;
        while (true)
        {
            if (!(await client.MoveChecklistsAsync(refresh, move, cancel)).TryGet(out var some, out var problem)) return problem;
            all = some with { Swaps = some.Swaps + (all?.Swaps ?? 0) };
            // Nobody else can make this go on for ever: what was moved is moved.
            if (some.Left == 0 || some.Swaps == 0) return all;
        }
    }

    private static void Show(ChecklistsMoved moved)
    {
        var kept = moved.NotFor == 0 ? "" : $" {moved.NotFor} keep theirs: this version is not for their kind.";
        if (moved.Done)
        {
            Tables.Say(
                $"{moved.Swaps} {(moved.Swaps == 1 ? "swap has" : "swaps have")} {moved.Template}, version {moved.Version} now.{kept}");
            return;
        }
        Tables.Say(
            $"{moved.Swaps + moved.Left} {(moved.Swaps + moved.Left == 1 ? "swap" : "swaps")} would move to {moved.Template}, version "
                + $"{moved.Version}{(moved.Left > 0 ? $"; of {moved.Swaps} was looked at what changes" : "")}.{kept}");
        if (moved.Steps.Count == 0) return;
        Tables.Show(
            ["Change", "Step", "Swaps", "Dealt with", "Key"],
            moved.Steps.Select(s => new[] { s.What.Replace('-', ' '), s.Title, $"{s.Swaps}", $"{s.DealtWith}", s.Key }),
            2,
            3);
    }
}
