using System.CommandLine;
using YardRelay.Hand.Service;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand work</c></summary>
internal static class WorkVerb
{
    public static Command Create()
    {
        var state = new Option<string[]>("--state") { Description = "State folder of an enrolled hand; several for a bench where several disks hang on one computer.", Required = true, AllowMultipleArgumentsPerToken = true };
        var idle = new Option<int?>("--until-idle-seconds") { Description = "End when there was no order for so long; without it, work until stopped." };
        var command = new Command("work", "Takes orders from the service and does them, one at a time for each computer.\n\nExample:\n  yardhand work --state ~/.yardhand") { state, idle };
        command.SetAction(async (args, cancel) =>
        {
            var hands = new List<HandState>();
            foreach (var folder in args.GetValue(state)!)
            {
                if (HandState.Read(folder) is not { } hand) return VerbRun.Fail("hand.not-enrolled", $"No hand is enrolled in '{folder}'. Run 'yardhand enrol' first.", false, ExitCodes.Usage);
                hands.Add(hand);
            }
            var most = args.GetValue(idle) is { } seconds ? TimeSpan.FromSeconds(seconds) : (TimeSpan?)null;
            var ended = await Task.WhenAll(hands.Select(async hand =>
            {
                using var worker = new Worker(hand, TextWriter.Synchronized(Console.Out), TimeProvider.System);
                try
                {
                    return await worker.RunAsync(most, cancel);
                }
                catch (OperationCanceledException)
                {
                    return ExitCodes.AllAccounted;
                }
            }));
            return ended.Max();
        });
        return command;
    }
}
