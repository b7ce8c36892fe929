using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Connections;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline sign-in</c></summary>
internal static class SignInVerb
{
    private static readonly TimeSpan Look = TimeSpan.FromSeconds(2);

    private sealed record NameMissingProblem() : Problem(
        "sign-in.name", "Say --name with the name of your account; or --in-browser, where a browser that is signed in lets you in.");

    public static Command Create()
    {
        var service = new Argument<string>("service") { Description = "Address of the service." };
        var name = new Option<string?>("--name") { Description = "Name of your account." };
        var file = PasswordFile.Option("--password-file", "your password");
        var inClear = new Option<bool>("--in-clear") { Description = "The password may go there by plain http." };
        var inBrowser = new Option<bool>("--in-browser")
        {
            Description = "A browser in which you are signed in lets this command line in; no name, no password. So it goes, too, where "
                + "your account has a passkey or is your organisation's."
        };
        var command = new Command(
            "sign-in",
            "Signs in and keeps the token. The password is read from --password-file or YARD_PASSWORD, or asked for.\n\nExamples:\n  "
                + "yardline sign-in https://yard.kestrelbay.example --name kit\n  "
                + "yardline sign-in https://yard.kestrelbay.example --in-browser")
            {
                service, name, file, inClear, inBrowser
            };
        command.SetAction(async (args, cancel) =>
        {
            if (!ServiceAddress.Of(args.GetValue(service), args.GetValue(inClear)).TryGet(out var address, out var wrong))
                return Call.Fail(args, wrong, ExitCodes.Usage);
            if (!args.GetValue(inBrowser) && args.GetValue(name) is null) return Call.Fail(args, new NameMissingProblem(), ExitCodes.Usage);
            if (!PasswordFile.Read(args.GetValue(file), "YARD_PASSWORD").TryGet(out var given, out var unread))
                return Call.Fail(args, unread, ExitCodes.Usage);
            using var client = new YardClient(address, null);
            try
            {
                var made = args.GetValue(inBrowser)
                    ? await InBrowserAsync(client, address, cancel)
                    : await ByPasswordAsync(client, address, args.GetValue(name)!, given ?? Asked(), cancel);
                if (!made.TryGet(out var token, out var problem)) return Call.Fail(args, problem, ExitCodes.Refused);
                new Connection(address.ToString(), token.Token, args.GetValue(Call.Refresh), token.Device).Write();
                Surroundings.Here.Out.WriteLine(
                    $"Signed in as {token.Me.Shown} ({token.Me.Role}) until {token.Expires:d MMM yyyy}. Try 'yardline "
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

    private static string Asked() => (Surroundings.Here.InIsTerminal
        ? Spectre.Console.AnsiConsole.Prompt(new Spectre.Console.TextPrompt<string>("Password:") { IsSecret = true })
        : Surroundings.Here.ReadLine()) ?? "";

    private static int MinutesUntil(DateTimeOffset at) => (int)Math.Max(1, Math.Round((at - DateTimeOffset.UtcNow).TotalMinutes));

    private static string Label => $"yardline on {Environment.MachineName}";

    private static async Task<Result<TokenMade>> ByPasswordAsync(
        YardClient client, Uri address, string name, string password, CancellationToken cancel)
    {
        var made = await client.MakeTokenAsync(new(name, password, Label, Connection.DeviceAt(address)), cancel);
        return made is { IsOk: false, Problem.Code: "second.in-browser" } ? await InBrowserAsync(client, address, cancel) : made;
    }

    /// <summary>Shows a code, and waits until a browser that shows the same lets this in, or turns it away, or time is over.</summary>
    private static async Task<Result<TokenMade>> InBrowserAsync(YardClient client, Uri address, CancellationToken cancel)
    {
        if (!(await client.AskForTokenAsync(new(Label), cancel)).TryGet(out var asking, out var problem)) return problem;
        // Not what the command answers: that is whether it is signed in.
        Surroundings.Here.Error.WriteLine(
            $"In a browser in which you are signed in, open\n\n  {new Uri(address, asking.Path)}\n\nlook that it shows {asking.Code}, and "
                + $"let this command line in. It waits {MinutesUntil(asking.Until)} minutes.");
        while (true)
        {
            await Task.Delay(Look, cancel);
            if (!(await client.FetchTokenAsync(new(asking.Secret), cancel)).TryGet(out var token, out problem)) return problem;
            if (token is not null) return token;
        }
    }
}
