using System.CommandLine;
using YardRelay.Hand.Orders;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Service;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand work</c></summary>
internal static class WorkVerb
{
    public static Command Create()
    {
        var state = new Option<string[]>("--state")
        {
            Description = "State folder of an enrolled hand; several for a bench where several disks hang on one computer.",
            Required = true,
            AllowMultipleArgumentsPerToken = true
        };
        var idle = new Option<int?>("--until-idle-seconds")
        {
            Description = "End when there was no order for so long; without it, work until stopped."
        };
        var power = new Option<string>("--power")
        {
            Description = "Where Linux tells whether the computer runs on its battery; another folder for a simulated computer.",
            DefaultValueFactory = _ => Power.Usual
        };
        var fromInput = new Option<bool>("--order-from-input")
        {
            Description = "Does the one order that comes in by the input, with low priority.",
            Hidden = true
        };
        var command = new Command(
            "work",
            "Takes orders from the service and does them, one at a time for each computer.\n\nExample:\n  yardhand work --state "
                + "~/.yardhand")
            {
                state, idle, power, fromInput
            };
        command.SetAction(async (args, cancel) =>
        {
            var hands = new List<HandState>();
            foreach (var folder in args.GetValue(state)!)
            {
                if (HandState.Read(folder) is not { } hand)
                    return VerbRun.Fail(
                        "hand.not-enrolled", $"No hand is enrolled in '{folder}'. Run 'yardhand enrol' first.", false, ExitCodes.Usage);
                hands.Add(hand);
            }
            var battery = new Power(args.GetValue(power)!);
            if (args.GetValue(fromInput))
            {
                Beside.GiveWay();
                var (order, gone) = await Beside.ReadAsync(cancel);
                using (gone)
                {
                    if (order is null) return VerbRun.Fail("hand.no-order", "No order came in by the input.", false, ExitCodes.Usage);
                    using var worker = new Worker(
                        hands[0], args.GetValue(state)![0], battery, args.GetValue(power)!, Console.Out, TimeProvider.System);
                    try
                    {
                        await worker.DoAsync(order, gone.Token);
                    }
                    catch (OperationCanceledException)
                    {
                        // Whoever gave the order is gone; it goes on from the parcel's journal.
                    }
                    return ExitCodes.AllAccounted;
                }
            }
            var most = args.GetValue(idle) is { } seconds ? TimeSpan.FromSeconds(seconds) : (TimeSpan?)null;
            var ended = await Task.WhenAll(hands.Zip(args.GetValue(state)!).Select(async at =>
            {
                var (hand, folder) = at;
                using var worker = new Worker(
                    hand, folder, battery, args.GetValue(power)!, TextWriter.Synchronized(Console.Out), TimeProvider.System);
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
