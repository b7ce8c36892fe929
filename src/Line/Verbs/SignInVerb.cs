using System.CommandLine;
using YardRelay.Client;
using YardRelay.Core;
using YardRelay.Line.Connections;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline sign-in</c></summary>
internal static class SignInVerb
{
    public static Command Create()
    {
        var service = new Argument<string>("service") { Description = "Address of the service." };
        var name = new Option<string>("--name") { Description = "Name of your account.", Required = true };
        var file = PasswordFile.Option("--password-file", "your password");
        var inClear = new Option<bool>("--in-clear") { Description = "The password may go there by plain http." };
        var command = new Command(
            "sign-in",
            "Signs in and keeps the token. The password is read from --password-file or YARD_PASSWORD, or asked for.\n\nExample:\n  "
                + "yardline sign-in https://yard.kestrelbay.example --name kit")
            {
                service, name, file, inClear
            };
        command.SetAction(async (args, cancel) =>
        {
            if (!ServiceAddress.Of(args.GetValue(service), args.GetValue(inClear)).TryGet(out var address, out var wrong))
                return Call.Fail(args, wrong, ExitCodes.Usage);
            var here = Surroundings.Here;
            if (!PasswordFile.Read(args.GetValue(file), "YARD_PASSWORD").TryGet(out var given, out var unread))
                return Call.Fail(args, unread, ExitCodes.Usage);
            var password = given
                ?? (here.InIsTerminal
                    ? Spectre.Console.AnsiConsole.Prompt(new Spectre.Console.TextPrompt<string>("Password:") { IsSecret = true })
                    : here.ReadLine())
                ?? "";
            using var client = new YardClient(address, null);
            try
            {
                var made = await client.MakeTokenAsync(
                    new(args.GetValue(name)!, password, $"yardline on {Environment.MachineName}", Connection.DeviceAt(address)), cancel);
                if (!made.TryGet(out var token, out var problem)) return Call.Fail(args, problem, ExitCodes.Refused);
                new Connection(address.ToString(), token.Token, args.GetValue(Call.Refresh), token.Device).Write();
                here.Out.WriteLine(
                    $"Signed in as {token.Me.Shown} ({token.Me.Role}) until {token.Expires.LocalDateTime:d MMM yyyy}. Try 'yardline "
                        + $"today'.");
                return ExitCodes.Done;
            }
            catch (ServiceUnreachableException gone)
            {
                return Call.Fail(args, new ServiceUnreachableProblem(gone.Message), ExitCodes.Unreachable);
            }
        });
        return command;
    }
}
