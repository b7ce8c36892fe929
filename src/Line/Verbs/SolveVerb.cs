using System.CommandLine;
using System.Diagnostics;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline plan solve</c>: an instance from a file, without a service.</summary>
internal static class SolveVerb
{
    public static Command Create()
    {
        var file = new Argument<string>("instance") { Description = "Instance as JSON; docs/formats.md has the form." };
        var to = new Option<string>("--out") { Description = "Where the plan is written.", Required = true };
        var seconds = new Option<double?>("--seconds") { Description = "Improve for so long." };
        var steps = new Option<long?>("--steps") { Description = "Improve by so many steps; repeatable for a seed." };
        var plain = new Option<bool>("--plain")
        {
            Description =
                "Only plain insertion: each swap in the order of the file at its earliest feasible time. The measure that the engine is "
                    + "held to."
        };
        var from = new Option<string?>("--from")
        {
            Description = "A plan to go on from, as JSON: what still fits stays, the rest is placed anew."
        };
        var seed = new Option<int>("--seed") { Description = "Seed of the search.", DefaultValueFactory = _ => 1 };
        var command = new Command(
            "solve",
            "Solves an instance of the appointment problem from a file, without a service.\n\nExample:\n  yardline plan solve "
                + "bench/plan-instances/mid-1.json --out plan.json --seconds 10")
            {
                file,
                to,
                seconds,
                steps,
                seed,
                plain,
                from
            };
        command.SetAction((args, cancel) => Task.Run(() =>
        {
            var path = args.GetValue(file)!;
            if (!File.Exists(path)) return Call.Fail(args, new NoPlanFile(path), ExitCodes.Usage);
            if (args.GetValue(seconds) is < 0 or > 86_400 || args.GetValue(steps) < 0)
                return Call.Fail(args, new PlanBudgetProblem(), ExitCodes.Usage);
            var read = PlanFile.ReadInstance(File.ReadAllText(path));
            if (!read.TryGet(out var problem, out _))
            {
                foreach (var fault in read.Problems) Surroundings.Here.Error.WriteLine(fault.Message);
                return ExitCodes.Usage;
            }
            Plan? earlier = null;
            if (args.GetValue(from) is { } before)
            {
                if (!File.Exists(before))
                    return Call.Fail(args, new NoPlanFile(before), ExitCodes.Usage);
                if (!PlanFile.ReadPlan(File.ReadAllText(before)).TryGet(out earlier, out var broken))
                    return Call.Fail(args, broken, ExitCodes.Usage);
            }
            var clock = Stopwatch.StartNew();
            var most = args.GetValue(seconds) ?? (args.GetValue(steps) is null ? 10 : double.PositiveInfinity);
            var plan = args.GetValue(plain)
                ? PlanEngine.SolveEarliest(problem)
                : PlanEngine.Solve(
                    problem,
                    args.GetValue(steps) is { } limit
                        ? PlanBudget.OfSteps(limit, () => cancel.IsCancellationRequested || clock.Elapsed.TotalSeconds >= most)
                        : PlanBudget.OfTime(
                            () => cancel.IsCancellationRequested || most <= 0 ? 1 : clock.Elapsed.TotalSeconds / most,
                            Environment.ProcessorCount),
                    args.GetValue(seed),
                    earlier);
            var aside = args.GetValue(to)! + ".new";
            File.WriteAllText(aside, PlanFile.Write(plan) + "\n");
            File.Move(aside, args.GetValue(to)!, overwrite: true);
            var cost = PlanChecker.Cost(problem, plan);
            if (args.GetValue(Call.Json))
                Surroundings.Here.Out.WriteLine(System.Text.Json.JsonSerializer.Serialize(
                    new
                    {
                        placed = plan.Placed.Count,
                        unplaced = plan.Unplaced.Count,
                        cost = cost.Total,
                        moved = cost.Moved / 5,
                        seconds = Math.Round(clock.Elapsed.TotalSeconds, 2)
                    },
                    Client.YardClient.Json));
            else
            {
                Tables.Say(
                    $"{plan.Placed.Count} placed, {plan.Unplaced.Count} left out, cost {cost.Total} (left out {cost.LeftOut}, late "
                        + $"{cost.Late}, not preferred {cost.NotPreferred}, moved {cost.Moved}, journeys {cost.Journeys}, technician days "
                        + $"{cost.TechnicianDays}), {clock.Elapsed.TotalSeconds:0.0} s.");
                foreach (var left in plan.Unplaced.Take(20)) Tables.Say($"▲ {left.Id}: {left.Because}");
            }
            return ExitCodes.Done;
        }, cancel));
        return command;
    }
}
