using System.CommandLine;
using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline plan</c></summary>
internal static class PlanVerbs
{
    public static Command Create()
    {
        var steps = new Option<long>("--steps")
        {
            Description = "Steps of search; the same steps and seed give the same plan.",
            DefaultValueFactory = _ => 20_000
        };
        var seconds = new Option<double?>("--seconds") { Description = "Searches so long instead, 0 to 60." };
        var seed = new Option<int>("--seed") { Description = "Seed of the search.", DefaultValueFactory = _ => 1 };
        var afresh = new Option<bool>("--afresh") { Description = "Does not go on from the draft or from what is published." };
        var yes = Sure.Option;
        var number = new Option<int?>("--number") { Description = "Number of a plan; left out: the draft, or what is published." };
        var swap = new Argument<string>("swap") { Description = "Id of the swap." };
        var from = new Argument<int?>("from")
        {
            Description = "Number of a plan; left out: what is published.",
            Arity = ArgumentArity.ZeroOrOne
        };
        var to = new Argument<int?>("to") { Description = "Number of another; left out: the draft.", Arity = ArgumentArity.ZeroOrOne };
        var plan = new Command("plan", "Appointments: a draft is made, looked at, published.")
        {
            Call.Command(
                "make",
                "Makes a draft for all swaps whose appointment has not begun. Nothing is booked until it is published.",
                "yardline plan make --seconds 10",
                [steps, seed, seconds, afresh],
                (c, r, a, cancel) =>
                    c.MakePlanAsync(r, new(a.GetValue(steps), a.GetValue(seed), a.GetValue(seconds), a.GetValue(afresh)), cancel),
                Show),
            Call.Command(
                "show",
                "Shows appointments and what is left out.",
                "yardline plan show",
                [number],
                (c, r, a, cancel) => c.PlanAsync(r, cancel, a.GetValue(number)),
                Show),
            Call.Command("history", "Lists the plans of the refresh, newest first.", "yardline plan history", [],
                (c, r, _, cancel) => c.PlansAsync(r, cancel),
                all => Tables.Show(["Plan", "State", "From", "Made", "By", "Published", "By", "Booked", "Left out", "Cost"],
                all.Select(p => new[]
                {
                    $"{p.Number}",
                    p.State,
                    p.BasedOn == 0 ? "" : $"{p.BasedOn}",
                    $"{p.MadeAt.OnClock():ddd d MMM HH:mm}",
                    p.MadeBy,
                    p.PublishedAt is { } at ? $"{at.OnClock():ddd d MMM HH:mm}" : "",
                    p.PublishedBy ?? "",
                    $"{p.Placed}",
                    p.LeftOut == 0 ? "" : $"{p.LeftOut}",
                    $"{p.Cost}"
                }),
                0,
                2,
                7,
                8,
                9)),
            Call.Command(
                "compare",
                "Compares two plans; without numbers: what is published with the draft, that is whom publishing would affect.",
                "yardline plan compare",
                [from, to],
                (c, r, a, cancel) => c.ComparePlansAsync(r, a.GetValue(from), a.GetValue(to), cancel),
                Show),
            Call.Command(
                "publish",
                "Publishes the draft: its appointments are booked and count as promised.",
                "yardline plan publish",
                [],
                async (c, r, _, cancel) => (await c.PlanAsync(r, cancel)).TryGet(out var plan, out var refused)
                    ? await PublishedText.WithWhoHearsAsync(c, r, await c.PublishPlanAsync(r, plan.Version, cancel), cancel)
                    : refused,
                PublishedText.Show),
            Call.Command(
                "drop",
                "Throws the draft away; what is published stays.",
                "yardline plan drop --yes",
                [yes],
                async (c, r, a, cancel) =>
                    Sure.Against(a, yes, "The draft is thrown away, with all that was moved in it by hand.") is { } no
                    ? no
                    : await c.DropDraftAsync(r, cancel),
                (JsonElement _) => Tables.Say("There is no draft any more.")),
            Call.Command(
                "why",
                "Says why a swap has no appointment, and the changes that would let it in, each of them tried.",
                "yardline plan why autumn-0007",
                [swap],
                (c, r, a, cancel) => c.WhyNotAsync(r, a.GetValue(swap)!, cancel),
                Show),
            SolveVerb.Create(),
        };
        foreach (var command in MoveVerbs.Create().Concat(AskVerbs.Create()).Concat(PlanOutVerbs.Create())) plan.Subcommands.Add(command);
        return plan;
    }

    private static string When(AppointmentSeen? a) => a is null ? "" : $"{a.Start.OnClock():ddd d MMM HH:mm}";

    private static void Show(PlanSeen plan)
    {
        if (plan.State == "none")
        {
            Tables.Say("There is no plan yet. Make a draft with 'yardline plan make'.");
            return;
        }
        var isDraft = plan.State == "draft";
        Tables.Show(
            [.. (string[])[isDraft ? "Draft" : "When", "Hands-on", "Last part", "Until", "Person", "Site", "Room", "Technician", "Swap"],
                .. (string[])(isDraft ? ["Booked now"] : [])],
            plan.Appointments.Select(a => (string[])
            [
                $"{a.Start.OnClock():ddd d MMM HH:mm}", $"{a.HandsOnUntil.OnClock():HH:mm}",
                a.IsBench ? "" : $"{a.Finish.OnClock():HH:mm}", $"{a.End.OnClock():HH:mm}",
                a.Person + (a.IsBench ? " (bench)" : "") + (a.IsPinned ? " (pinned)" : ""), a.Site, a.Room ?? "", a.With, a.Swap,
                .. (string[])(isDraft ? [a.Booked ?? "the same"] : [])
            ]));
        foreach (var left in plan.LeftOut) Tables.Say($"▲ {left.Person} ({left.Swap}): {left.Because}");
        var f = plan.Figures;
        Tables.Say(
            $"Plan {plan.Number}, {plan.State}: {plan.Appointments.Count} appointments, {plan.LeftOut.Count} left out, last day "
                + $"{f.LastDay:ddd d MMM}, cost {f.Cost} (left out {f.CostLeftOut}, late {f.CostLate}, not preferred "
                + $"{f.CostNotPreferred}, moved {f.CostMoved}, journeys {f.CostJourneys}, technician days {f.CostTechnicianDays}).");
        if (isDraft)
            Tables.Say(
                "A draft: what it changes is not booked yet. 'yardline plan compare' shows whom it affects, 'yardline plan publish' books "
                    + "it.");
    }

    private static void Show(PlansCompared c)
    {
        Tables.Show(
            ["Swap", "Person", "Was", "Is", "What"],
            c.Changes.Select(x => new[] { x.Swap, x.Person, When(x.Before), When(x.After), x.Words }));
        Tables.Say(
            $"Plan {(c.From == 0 ? "(none)" : $"{c.From}")} → {c.To}: {c.Changes.Count} changes; left out {c.Before.LeftOut} → "
                + $"{c.After.LeftOut}, cost {c.Before.Cost} → {c.After.Cost}, last day {c.Before.LastDay:ddd d MMM} → "
                + $"{c.After.LastDay:ddd d MMM}.");
    }

    private static void Show(WhyNotSeen why)
    {
        if (why.Appointment is { } at) Tables.Say($"{why.Person} has an appointment: {When(at)} with {at.With}.");
        else
        {
            Tables.Say($"{why.Person} has no appointment. Any one of these would let the swap in, the smallest change first:");
            foreach (var (i, way) in why.Ways.Index()) Tables.Say($"  {i + 1}. {way.Words}");
        }
    }
}
