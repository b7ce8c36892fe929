using System.Globalization;
using System.Text.Json;
using YardRelay.Core.Planning;
using YardRelay.Exact;

// Prints {"cost","bound","proven"} for the instance; the plan it found has passed the checker.
if (args.Length is < 2 or > 3 || !double.TryParse(args[0], CultureInfo.InvariantCulture, out var seconds) || !File.Exists(args[1]))
{
    Console.Error.WriteLine("Usage: exact SECONDS INSTANCE [PLAN-TO-BEGIN-AT]. Both are files as docs/formats.md has them.");
    return 2;
}
var read = PlanFile.ReadInstance(File.ReadAllText(args[1]));
if (!read.TryGet(out var problem, out _))
{
    foreach (var fault in read.Problems) Console.Error.WriteLine(fault.Message);
    return 2;
}
var model = new ExactModel(problem);
if (args.Length == 3)
{
    if (!PlanFile.ReadPlan(File.ReadAllText(args[2])).TryGet(out var begin, out var fault))
    {
        Console.Error.WriteLine(fault.Message);
        return 2;
    }
    model.BeginAt(begin);
}
var (plan, bound, proven) = model.Solve(seconds, workers: 8);
if (plan is not null && PlanChecker.Check(problem, plan) is { Count: > 0 } breaches)
{
    foreach (var breach in breaches) Console.Error.WriteLine($"rule {breach.Rule}: {breach.Message}");
    return 1;
}
Console.WriteLine(JsonSerializer.Serialize(new
{
    cost = plan is null ? (int?)null : PlanChecker.Cost(problem, plan).Total,
    bound = Math.Ceiling(bound - 1e-6),
    proven
}));
return 0;
