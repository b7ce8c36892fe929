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
        var command = new Command(
            "sign-in",
            "Signs in and keeps the token. The password is read from YARD_PASSWORD, or asked for.\n\nExample:\n  yardline sign-in "
                + "http://127.0.0.1:8420 --name kit")
            {
                service, name
            };
        command.SetAction(async (args, cancel) =>
        {
            if (!Uri.TryCreate(args.GetValue(service), UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https"))
                return Call.Fail(
                    args,
                    new ServiceAddressProblem(args.GetValue(service)),
                    ExitCodes.Usage);
            var here = Surroundings.Here;
            var password = here.Variable("YARD_PASSWORD")
                ?? (here.InIsTerminal
                    ? Spectre.Console.AnsiConsole.Prompt(new Spectre.Console.TextPrompt<string>("Password:") { IsSecret = true })
                    : here.ReadLine())
                ?? "";
            using var client = new YardClient(address, null);
            try
            {
                var made = await client.MakeTokenAsync(
                    new(args.GetValue(name)!, password, $"yardline on {Environment.MachineName}"), cancel);
                if (!made.TryGet(out var token, out var problem)) return Call.Fail(args, problem, ExitCodes.Refused);
                new Connection(address.ToString(), token.Token, args.GetValue(Call.Refresh)).Write();
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
