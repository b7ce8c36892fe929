using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline plan what-if</c> and <c>outlook</c>: questions that change nothing.</summary>
internal static class AskVerbs
{
    public static IEnumerable<Command> Create()
    {
        var changes = new Argument<string[]>("change") { Description = $"One or more of {WorldChange.Forms}. Each in quotes." };
        var seconds = new Option<double>("--seconds") { Description = "How long each plan is improved.", DefaultValueFactory = _ => 2 };
        yield return Call.Command(
            "what-if",
            "Says what would be if the world were otherwise: difference in cost, left out, last day. Nothing changes.",
            "yardline plan what-if 'away noor 2026-11-26' 'benches \"North Quay\" 3'",
            [changes, seconds],
            (c, r, a, cancel) => c.WhatIfAsync(r, new(a.GetValue(changes)!, a.GetValue(seconds)), cancel),
            Show);

        var runs = new Option<int>("--runs")
        {
            Description = "How often the plan is played, 1 to 20,000.",
            DefaultValueFactory = _ => 2000
        };
        var seed = new Option<int>("--seed") { Description = "The same seed gives the same chances.", DefaultValueFactory = _ => 1 };
        var spread = new Option<double>("--spread")
        {
            Description = "Standard deviation of the logarithm of lengths, 0 to 2.",
            DefaultValueFactory = _ => 0.25
        };
        var noShow = new Option<double>("--no-show")
        {
            Description = "Chance that nobody is there, 0 to 1.",
            DefaultValueFactory = _ => 0.04
        };
        var failed = new Option<double>("--failed-trip")
        {
            Description = "Chance that a visit must be repeated for its files, 0 to 1.",
            DefaultValueFactory = _ => 0.03
        };
        var overtime = new Option<int>("--overtime")
        {
            Description = "Minutes that a technician stays to finish what was begun.",
            DefaultValueFactory = _ => 30
        };
        yield return Call.Command(
            "outlook",
            "Plays the plan with uncertain lengths, no-shows and failed trips: will it hold?",
            "yardline plan outlook --no-show 0.1",
            [runs, seed, spread, noShow, failed, overtime],
            (c, r, a, cancel) => c.OutlookAsync(r, Doubts(a), cancel),
            Show);
        yield return Call.Command(
            "slack",
            "Makes the plan anew with more and more time for each visit, and plays each: how much slack buys how much.",
            "yardline plan slack --seconds 2",
            [seconds, runs, seed, spread, noShow, failed, overtime],
            (c, r, a, cancel) => c.SlackAsync(r, new(Doubts(a), Math.Min(10, a.GetValue(seconds))), cancel),
            Show);

        OutlookWanted Doubts(ParseResult a) =>
            new(a.GetValue(runs), a.GetValue(seed), a.GetValue(spread), a.GetValue(noShow), a.GetValue(failed), a.GetValue(overtime));
    }

    private static void Show(SlackSeen s)
    {
        Tables.Show(
            ["More for each visit", "All done in time", "Past a shift", "Repeated", "Left out", "Moved", "Last day"],
            s.Steps.Select(t =>
                new[]
                {
                    t.Minutes == 0 ? "as it is" : $"{t.Minutes} min",
                    Percent(t.InTime),
                    Percent(t.Overtime),
                    $"{t.Repeated:0.0}",
                    $"{t.LeftOut}",
                    t.Minutes == 0 ? "" : $"{t.Moved}",
                    $"{t.LastDay:ddd d MMM}"
                }),
            1,
            2,
            3,
            4,
            5);
        Tables.Say(
            "Past a shift: on the average day with visits. Repeated: visits that nobody was there for, or that were not done. Nothing was "
                + "changed; an estimate is lengthened with 'yardline estimate set'.");
    }

    private static string Percent(double? p) => p is { } x ? $"{100 * x:0} %" : "";

    private static void Show(WhatIfSeen w)
    {
        Tables.Show(
            ["", "Booked", "Left out", "Last day", "Cost"],
            new[] { ("As it is", w.Before), ("Then", w.After) }.Select(p =>
                new[] { p.Item1, $"{p.Item2.Placed}", $"{p.Item2.LeftOut}", $"{p.Item2.LastDay:ddd d MMM}", $"{p.Item2.Cost}" }),
            1,
            2,
            4);
        foreach (var left in w.LeftOut) Tables.Say($"▲ {left.Person} ({left.Swap}): {left.Because}");
        foreach (var left in w.LetIn) Tables.Say($"✓ {left.Person} ({left.Swap}) would get in.");
        Tables.Say(w.Words);
    }

    private static void Show(OutlookSeen o)
    {
        const int Wide = 24;
        Tables.Show(["Day", "Visits", "Overtime", "Repeated", "Done by then", ""], o.Days.Where(d => d.Visits > 0 || d.DoneBy > 0)
            .TakeWhile((d, i) => i == 0 || o.Days.Take(o.Days.ToList().IndexOf(d)).All(x => x.DoneBy < 0.9995))
            .Select(d => new[]
        {
            $"{d.Day:ddd d MMM}{(d.IsBeyond ? " (beyond)" : "")}", d.Visits == 0 ? "" : $"{d.Visits}", Percent(d.Overtime),
            d.Repeated is { } again ? $"{again:0.0}" : "", Percent(d.DoneBy),
            new string('█', (int)Math.Round(Wide * d.DoneBy)).PadRight(Wide, '·'),
        }), 1, 2, 3, 4);
        Tables.Show(["Site", "Visits", "Repeated"], o.Sites.Select(s => new[] { s.Site, $"{s.Visits}", $"{s.Repeated:0.0}" }), 1, 2);
        Tables.Say(
            $"In {Percent(o.InTime)} of {o.Asked.Runs:#,0} runs all is done by the last day; "
                + $"{(o.SureDay is { } day ? $"in 95 of 100 by {day:ddd d MMM}" : "even the days beyond it are not enough for 95 of 100")}."
                + $"{(o.LeftOut > 0 ? $" Who is left out ({o.LeftOut}) is not counted." : "")}");
    }
}
