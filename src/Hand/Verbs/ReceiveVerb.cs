using System.CommandLine;
using System.Net;
using System.Net.NetworkInformation;
using System.Net.Sockets;
using System.Security.Cryptography;
using YardRelay.Carriage.Depots.Direct;
using YardRelay.Hand.Direct;
using YardRelay.Hand.Runs;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand receive</c></summary>
internal static class ReceiveVerb
{
    public static Command Create()
    {
        var into = new Option<string>("--into")
        {
            Description = "Folder that takes the parcel; it is a depot like any other, and 'restore' reads from it.",
            Required = true
        };
        var listen = new Option<string>("--listen")
        {
            Description = "Address of this computer to listen at; 0.0.0.0: all of them.",
            DefaultValueFactory = _ => "0.0.0.0"
        };
        var port = new Option<int>("--port") { Description = "Port to listen at; 0 takes a free one.", DefaultValueFactory = _ => 8440 };
        var idle = new Option<int?>("--until-idle-seconds")
        {
            Description = "End when nothing came for so long; without it, receive until stopped."
        };
        var command = new Command(
            "receive",
            "Takes a parcel straight from another computer, over the local network or a cable between the two, where no depot is to be "
                + "used.\nShows a code; the hand at the other computer is told it, and nobody else can send or listen.\n\nExample, at the "
                + "new computer and then at the old one:\n  yardhand receive --into /home/ida/.yard-parcel\n  YARD_DIRECT_CODE=… "
                        + "yardhand carry --from /home/ida --depot direct://10.0.0.5:8440 --parcel ida-0412\nand at the new one again:\n  "
                        + "yardhand restore --depot file:///home/ida/.yard-parcel --parcel ida-0412 --to /home/ida")
            {
                into, listen, port, idle
            };
        command.SetAction(async (args, cancel) =>
        {
            var folder = args.GetValue(into)!;
            if (!IPAddress.TryParse(args.GetValue(listen), out var address))
                return VerbRun.Fail(
                    "receive.listen",
                    $"'{args.GetValue(listen)}' is not an address of a computer. Use one like 10.0.0.5.",
                    false,
                    ExitCodes.Usage);
            if (args.GetValue(port) is < 0 or > 65535)
                return VerbRun.Fail("receive.port", $"A port is 0 to 65535, not {args.GetValue(port)}.", false, ExitCodes.Usage);
            var code = DirectCode.Create(RandomNumberGenerator.GetBytes(20));
            try
            {
                Directory.CreateDirectory(folder);
                await using var receiver = await DirectReceiver.StartAsync(
                    Path.GetFullPath(folder), code, new(address, args.GetValue(port)), TimeProvider.System, cancel);
                Console.Out.WriteLine($"Code  {code}");
                foreach (var own in OwnAddresses(address))
                    Console.Out.WriteLine(
                        $"At    direct://{(own.AddressFamily == AddressFamily.InterNetworkV6 ? $"[{own}]" : own)}:{receiver.Port}");
                Console.Out.WriteLine(
                    "Give both to 'yardhand carry' at the other computer. Ctrl-C ends it; what came stays, and the next trip goes on.");
                receiver.Said += Console.Out.WriteLine;
                await receiver.WaitAsync(args.GetValue(idle) is { } seconds ? TimeSpan.FromSeconds(seconds) : null, cancel);
                Console.Out.WriteLine(receiver.Received.Files == 0
                    ? "Nothing came."
                    : $"Received {Core.Carrying.ByteText.Of(receiver.Received.Bytes)} into {folder}. Restore from there with --depot "
                        + $"file://{Path.GetFullPath(folder)}.");
                return ExitCodes.AllAccounted;
            }
            catch (Exception broke) when (broke is IOException or UnauthorizedAccessException)
            {
                return VerbRun.Fail("receive.start", $"It cannot receive: {broke.Message}", false, ExitCodes.Unreachable);
            }
        });
        return command;
    }

    private static IEnumerable<IPAddress> OwnAddresses(IPAddress listen) =>
        !listen.Equals(IPAddress.Any) && !listen.Equals(IPAddress.IPv6Any)
        ? [listen]
        : NetworkInterface.GetAllNetworkInterfaces()
            .Where(n => n.OperationalStatus == OperationalStatus.Up && n.NetworkInterfaceType != NetworkInterfaceType.Loopback)
            .SelectMany(n => n.GetIPProperties().UnicastAddresses)
                .Select(a => a.Address)
                .Where(a => a.AddressFamily == AddressFamily.InterNetwork)
                .DefaultIfEmpty(IPAddress.Loopback);
}
