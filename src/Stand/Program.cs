using System.CommandLine;
using YardRelay.Stand.Clouds;
using YardRelay.Stand.Computers;

var root = new RootCommand("yardstand, stand-ins for what Yard Relay works with: a cloud share and people's computers. For demos, tests and training.")
{
    CloudCommand.Create(),
    ComputersCommand.Create(),
};
return await root.Parse(args).InvokeAsync();
