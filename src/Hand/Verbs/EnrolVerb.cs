using System.CommandLine;
using YardRelay.Client;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Service;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand enrol</c></summary>
internal static class EnrolVerb
{
    public static Command Create()
    {
        var service = new Option<string>("--service") { Description = "Address of the service.", Required = true };
        var code = new Option<string>("--code") { Description = "One-time code from 'yardline hand code TAG'.", Required = true };
        var tag = new Option<string>("--tag") { Description = "Asset tag of this computer.", Required = true };
        var root = new Option<string>("--root")
        {
            Description = "Folder that this hand surveys, carries and restores to, such as the person's home.",
            Required = true
        };
        var state = new Option<string>("--state") { Description = "Where the hand keeps who it is.", Required = true };
        var inClear = InClear();
        var command = new Command(
            "enrol",
            "Binds this hand to one computer of a refresh.\n\nExample:\n  yardhand enrol --service https://yard.kestrelbay.example --code "
                + "QK4M-… --tag KB-1187 --root /home/sol --state ~/.yardhand")
            {
                service,
                code,
                tag,
                root,
                state,
                inClear
            };
        command.SetAction(async (args, cancel) =>
        {
            if (!ServiceAddress.Of(args.GetValue(service), args.GetValue(inClear)).TryGet(out var address, out var wrong))
                return VerbRun.Fail(wrong.Code, wrong.Message, false, ExitCodes.Usage);
            if (!Directory.Exists(args.GetValue(root)))
                return VerbRun.Fail("hand.root", $"There is no folder '{args.GetValue(root)}' on this computer.", false, ExitCodes.Usage);
            using var client = new YardClient(address, null);
            try
            {
                var enrolled = await client.EnrolAsync(new(args.GetValue(code)!, args.GetValue(tag)!, Environment.MachineName), cancel);
                if (!enrolled.TryGet(out var hand, out var problem))
                    return VerbRun.Fail(problem.Code, problem.Message, false, ExitCodes.Usage);
                new HandState(address.ToString(), hand.Hand, hand.Token, hand.Tag, Path.GetFullPath(args.GetValue(root)!))
                    .Write(args.GetValue(state)!);
                if (hand.Instead is { } instead)
                    Console.Out.WriteLine($"It replaces {instead}. If that one was to go on, enrol it anew with a new code.");
                Console.Out.WriteLine($"Enrolled at {hand.Tag}. Run 'yardhand work --state {args.GetValue(state)}' to take orders.");
                return ExitCodes.AllAccounted;
            }
            catch (ServiceUnreachableException gone)
            {
                return VerbRun.Fail("service.unreachable", gone.Message, false, ExitCodes.Unreachable);
            }
        });
        return command;
    }

    private static Option<bool> InClear() => new("--in-clear") { Description = "The code and the token may go there by plain http." };

    /// <summary><c>yardhand enrol-bench</c>: the disks of several computers hang on one bench.</summary>
    public static Command CreateBench()
    {
        var service = new Option<string>("--service") { Description = "Address of the service.", Required = true };
        var codes = new Option<string>("--codes") { Description = "What 'yardline hand code --json' printed.", Required = true };
        var disks = new Option<string>("--disks")
        {
            Description = "Folder with one folder for each computer, named by its tag.",
            Required = true
        };
        var state = new Option<string>("--state") { Description = "Folder that gets one state folder for each hand.", Required = true };
        var inClear = InClear();
        var command = new Command(
            "enrol-bench",
            "Enrols a hand for each computer whose disk hangs on this bench; codes without a disk are passed over.\n\nExample:\n  "
                + "yardhand enrol-bench --service https://yard.kestrelbay.example --codes codes.json --disks /mnt/bench "
                + "--state ~/.yardhand")
            {
                service, codes, disks, state, inClear
            };
        command.SetAction(async (args, cancel) =>
        {
            if (!ServiceAddress.Of(args.GetValue(service), args.GetValue(inClear)).TryGet(out var address, out var wrong))
                return VerbRun.Fail(wrong.Code, wrong.Message, false, ExitCodes.Usage);
            if (!File.Exists(args.GetValue(codes)))
                return VerbRun.Fail("hand.codes", $"There is no file '{args.GetValue(codes)}'.", false, ExitCodes.Usage);
            var all = System.Text.Json.JsonSerializer.Deserialize<List<Contracts.CodeMade>>(
                await File.ReadAllTextAsync(args.GetValue(codes)!, cancel), YardClient.Json)
                ?? [];
            using var client = new YardClient(address, null);
            var enrolled = 0;
            try
            {
                foreach (var code in all)
                {
                    var root = Path.Combine(Path.GetFullPath(args.GetValue(disks)!), code.Tag);
                    if (!Directory.Exists(root)) continue;
                    if (!(await client.EnrolAsync(new(code.Code, code.Tag, Environment.MachineName), cancel))
                        .TryGet(out var hand, out var problem))
                        return VerbRun.Fail(problem.Code, $"{code.Tag}: {problem.Message}", false, ExitCodes.SnagsOrDamage);
                    new HandState(address.ToString(), hand.Hand, hand.Token, hand.Tag, root)
                        .Write(Path.Combine(args.GetValue(state)!, code.Tag));
                    enrolled++;
                }
            }
            catch (ServiceUnreachableException gone)
            {
                return VerbRun.Fail("service.unreachable", gone.Message, false, ExitCodes.Unreachable);
            }
            Console.Out.WriteLine($"{enrolled} hands enrolled.");
            return ExitCodes.AllAccounted;
        });
        return command;
    }
}
