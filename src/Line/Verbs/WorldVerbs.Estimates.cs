using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <content>How long things take: <c>yardline estimate</c>.</content>
internal static partial class WorldVerbs
{
    private static Command Estimate()
    {
        var scope = new Argument<string>("scope") { Description = "swap, model or kind." };
        var of = new Argument<string>("of") { Description = "Id of a swap, model of new computer, or kind." };
        Option<int?> Minutes(string name, string what) => new(name) { Description = what };
        var (before, alone, after) = (
            Minutes("--before", "Minutes of the first hands-on part."),
            Minutes("--unattended", "Minutes of the unattended part."),
            Minutes("--after", "Minutes of the last hands-on part."));
        var (bench, updates, gap) = (
            Minutes("--bench", "Minutes of hands-on bench preparation, days before: an appointment of its own."),
            Minutes("--bench-unattended", "Minutes that the bench preparation then runs by itself."),
            Minutes("--bench-gap", "Minutes from its end to the visit at the least."));
        var site = new Option<string?>("--bench-site") { Description = "Where the bench stands; left out: at the swap's site." };
        var swap = new Argument<string>("swap") { Description = "Id of a swap." };
        var wave = new Option<string?>("--wave") { Description = "Only the swaps of this wave." };
        return new Command("estimate", "How long swaps take: show, override; which way to carry.")
        {
            List(
                "overrides",
                "yardline estimate list",
                w => w.Estimates,
                ["Scope", "Of", "Before", "Unattended", "After", "Bench"],
                e => [
                    e.Scope.ToString().ToLowerInvariant(),
                    e.Of,
                    $"{e.BeforeMinutes}",
                    $"{e.UnattendedMinutes}",
                    $"{e.AfterMinutes}",
                    e.Bench is { } b ? $"{b.HandsOnMinutes}+{b.UnattendedMinutes} min{(b.Site is null ? "" : $" at {b.Site}")}" : ""
                ],
                2,
                3,
                4),
            Call.Command(
                "show",
                "Shows how long a swap takes, from what that follows, and the ways to carry compared.",
                "yardline estimate show autumn-0001",
                [swap],
                (c, _, a, cancel) => c.EstimateAsync(a.GetValue(swap)!, cancel),
                Show,
                needsRefresh: false),
            SetVerb.Create(
                "Sets what is known better than the estimate.",
                "yardline estimate set model 'Gannet 14' --unattended 60 --bench 20 --bench-unattended 90 --bench-site Workshop",
                [scope, of, before, alone, after, bench, updates, gap, site],
                (w, a) => w.Estimates.FirstOrDefault(x => Same($"{x.Scope}", a.GetValue(scope)) && Same(x.Of, a.GetValue(of))),
                (c, r, a, was, cancel) => c.PutEstimateAsync(
                    r,
                    a.GetValue(scope)!,
                    a.GetValue(of)!,
                    new(
                        a.Or(before, was?.BeforeMinutes),
                        a.Or(alone, was?.UnattendedMinutes),
                        a.Or(after, was?.AfterMinutes),
                        a.Or(bench, was?.Bench?.HandsOnMinutes) is { } hands
                            ? new(
                                a.OrNone(site, was?.Bench?.Site), hands, a.Or(updates, was?.Bench?.UnattendedMinutes) ?? 0,
                                a.Or(gap, was?.Bench?.GapMinutes) ?? 0)
                            : null),
                    cancel),
                typeof(EstimateWanted),
                e => Tables.Say($"Set for {e.Scope.ToString().ToLowerInvariant()} {e.Of}.")),
            Call.Command(
                "real",
                "How long swaps really took, by kind and by model, from the times of their steps.",
                "yardline estimate real",
                [],
                (c, r, _, cancel) => c.RealLengthsAsync(r, cancel),
                all => Tables.Show(
                    ["Scope", "Of", "Swaps", "Before", "Unattended", "After", "Set"],
                    all.Select(l => new[]
                    {
                        l.Scope.ToString().ToLowerInvariant(),
                        l.Of,
                        $"{l.Swaps}",
                        $"{l.BeforeMinutes}",
                        $"{l.UnattendedMinutes}",
                        $"{l.AfterMinutes}",
                        l.Rule is { } rule ? $"{rule.BeforeMinutes}/{rule.UnattendedMinutes}/{rule.AfterMinutes}" : ""
                    }),
                    2,
                    3,
                    4,
                    5)),
            Call.Command(
                "ways",
                "Compares the ways to carry: disk, cable, share, cloud.",
                "yardline estimate ways --wave office",
                [wave],
                (c, r, a, cancel) => c.WaysToCarryAsync(r, a.GetValue(wave), cancel),
                w => ShowWays(w.Ways, $"{w.Swaps} swaps, {ByteText.Of(w.Bytes)} in all.")),
            DropVerb.Create(
                "estimate",
                "estimates",
                w => w.Estimates.Select(e => $"{e.Scope.ToString().ToLowerInvariant()}/{e.Of}"),
                "Goes back to the estimate; the key is scope/of.",
                "'model/Gannet 14'",
                "Estimated again."),
        };
    }

    private static void Show(EstimateSeen seen)
    {
        var e = seen.Estimate;
        Tables.Show(["Rests on", "", "Minutes"], e.Inputs.Select(i => new[] { i.What, i.Amount, $"{i.Minutes}" }), 2);
        Tables.Say(
            $"{seen.Swap}: {e.BeforeMinutes} min hands-on, {e.UnattendedMinutes} unattended, {e.AfterMinutes} hands-on, from "
                + $"{(e.Basis == "inventory" ? "the inventory" : "a typical size, as it is not surveyed yet")}.");
        if (e.LeadDays > 0) Tables.Say($"Staging takes about {e.FirstTripMinutes} min and must begin {e.LeadDays} days before.");
        if (e.Preparation is { } bench)
            Tables.Say(
                $"Bench preparation before it: {bench.HandsOnMinutes} min hands-on, {bench.UnattendedMinutes} unattended"
                    + $"{(bench.Site is null ? "" : $", at {bench.Site}")}.");
        ShowWays(seen.Ways, null);
    }

    private static void ShowWays(IReadOnlyList<Core.Planning.Worlds.WayToCarry> ways, string? words)
    {
        Tables.Show(
            ["Way", "Ahead", "At the visit", "Hands-on", "Room", "Fits", "Risk"],
            ways.Select(w =>
                new[]
                {
                    w.Way,
                    $"{w.AheadMinutes} min",
                    $"{w.VisitMinutes} min",
                    $"{w.HandsOnMinutes} min",
                    ByteText.Of(w.RoomBytes),
                    w.Fits ? "yes" : "no",
                    w.Risk
                }),
            1,
            2,
            3,
            4);
        if (words is not null) Tables.Say(words);
    }
}
