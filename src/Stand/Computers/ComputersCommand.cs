using System.CommandLine;
using YardRelay.Core.Roster;

namespace YardRelay.Stand.Computers;

/// <summary><c>yardstand computers</c>: simulated old and new computers for everybody on a roster.</summary>
internal static class ComputersCommand
{
    public static Command Create()
    {
        var roster = new Option<string>("--roster") { Description = "Roster as CSV; each tag on it becomes a folder.", Required = true };
        var folder = new Option<string>("--folder") { Description = "Where the computers are made.", Required = true };
        var scale = new Option<double>("--scale")
        {
            Description = "How many files; 1 is about 120 of them, 2 MB, a computer.",
            DefaultValueFactory = _ => 1.0
        };
        var command = new Command(
            "computers",
            "Makes a folder for each old and new computer of a roster, with made-up files. The same roster gives the same files.\n\n"
                + "Example:\n  yardstand computers --roster demo/kestrel-bay/roster.csv --folder /tmp/computers")
            {
                roster, folder, scale
            };
        command.SetAction(args =>
        {
            var read = RosterReader.Read(File.ReadAllText(args.GetValue(roster)!));
            if (!read.TryGet(out var rows, out _))
            {
                foreach (var problem in read.Problems) Console.Error.WriteLine(problem.Message);
                return 1;
            }
            var made = 0;
            foreach (var row in rows)
            {
                if (row.OldTag is { } old
                    && ComputerMaker.Make(Path.Combine(args.GetValue(folder)!, old), row.Name, args.GetValue(scale), isNew: false))
                    made++;
                if (row.NewTag is { } fresh
                    && fresh != row.OldTag
                    && ComputerMaker.Make(Path.Combine(args.GetValue(folder)!, fresh), row.Name, args.GetValue(scale), isNew: true))
                    made++;
            }
            Console.Out.WriteLine($"{made} computers made in {args.GetValue(folder)}; those that stood there were left as they are.");
            return 0;
        });
        return command;
    }
}
