using System.CommandLine;
using YardRelay.Stand.Clouds;
using YardRelay.Stand.Computers;
using YardRelay.Stand.Identities;
using YardRelay.Stand.Mail;

var root = new RootCommand(
    "yardstand, stand-ins for what Yard Relay works with: a cloud share, people's computers, a mail server, an identity provider. For "
        + "demos, tests and training.")
{
    CloudCommand.Create(),
    ComputersCommand.Create(),
    MailCommand.Create(),
    IdentityCommand.Create(),
};
return await root.Parse(args).InvokeAsync();
