using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core.Detours;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline detour</c>: what goes otherwise than planned.</summary>
internal static class DetourVerbs
{
    private static readonly Argument<string> Swap = new("swap") { Description = "Id of the swap." };
    private static readonly Option<string?> Why = new("--why") { Description = "What there is to say about it." };
    private static readonly Option<bool> Look = new("--look") { Description = "Only says what would become of it." };

    public static Command Create()
    {
        var minutes = new Argument<int>("minutes") { Description = "How late at least." };
        var tag = new Argument<string>("tag") { Description = "Tag of the computer that was delivered." };
        var spare = new Option<string?>("--spare")
        {
            Description = "Tag of the spare that takes its place; left out: one of the same model, best at the same site."
        };
        var exchange = new Option<bool>("--exchange") { Description = "It is meant for another swap: each gets the other's." };
        var soonest = new Option<bool>("--soonest")
        {
            Description = "Promise the first other time that fits at once; else the next plan finds one."
        };
        var receiver = new Option<string?>("--to")
        {
            Description = "Key of the person who receives the files; left out: the swap is called off."
        };
        return new Command(
            "detour", "What goes otherwise than planned: each has a way that keeps the facts right. --look says first what follows.")
        {
            Of(
                "no-show",
                "The person was not there.",
                "yardline detour no-show autumn-0012 --soonest",
                [soonest],
                a => new(DetourKind.NoShow, Soonest: a.GetValue(soonest))),
            Of(
                "late",
                "The person comes later that day; nobody else is moved.",
                "yardline detour late autumn-0012 45 --look",
                [minutes],
                a => new(DetourKind.Late, Minutes: a.GetValue(minutes))),
            Of(
                "gone",
                "The person does not come any more.",
                "yardline detour gone autumn-0012 --why 'left the company' --to kb117",
                [receiver],
                a => new(DetourKind.PersonGone, Receiver: a.GetValue(receiver))),
            Of(
                "wrong",
                "Another new computer was delivered.",
                "yardline detour wrong autumn-0012 KB-2051 --exchange",
                [tag, exchange],
                a => new(DetourKind.WrongComputer, Tag: a.GetValue(tag), Exchange: a.GetValue(exchange))),
            Of(
                "dead",
                "The new computer does not work: a spare takes its place.",
                "yardline detour dead autumn-0012 --why 'no picture'",
                [spare],
                a => new(DetourKind.DeadOnArrival, Tag: a.GetValue(spare))),
            Of(
                "disk-died",
                "The old disk died: the swap goes on from the last good trip.",
                "yardline detour disk-died autumn-0012 --look",
                [],
                _ => new(DetourKind.OldDiskDied)),
            Of(
                "call-off",
                "The swap does not take place, or not to its end.",
                "yardline detour call-off autumn-0012 --why 'the department moves'",
                [],
                _ => new(DetourKind.CalledOff)),
            Of(
                "resume",
                "What was called off takes place after all.",
                "yardline detour resume autumn-0012",
                [],
                _ => new(DetourKind.Resumed)),
        };
    }

    private static Command Of(string verb, string does, string example, Symbol[] more, Func<ParseResult, DetourTold> told) =>
        Call.Command(
            verb,
            does,
            example,
            [Swap, .. more, Why, Look],
            (c, _, a, cancel) =>
                c.TakeDetourAsync(a.GetValue(Swap)!, told(a) with { Reason = a.GetValue(Why), DryRun = a.GetValue(Look) }, cancel),
            Say,
            needsRefresh: false);

    private static void Say(DetourTaken taken)
    {
        Tables.Say($"{taken.Words}.{(taken.Done ? "" : " Only looked; this is what would follow:")}");
        foreach (var line in taken.Lines) Tables.Say($"  {line}");
    }
}
