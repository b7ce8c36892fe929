using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline detour</c>: what goes otherwise than planned.</summary>
internal static class DetourVerbs
{
    private static readonly Argument<string> Swap = new("swap") { Description = "Id of the swap." };
    private static readonly Option<string?> Why = new("--why") { Description = "What there is to say about it." };
    private static readonly Option<bool> Look = new("--look") { Description = "Only says what would become of it." };

    private static readonly Option<string?> LastAt = new("--at") { Description = "Where it was last; left out: where it is on record." };
    private static readonly Option<string?> Here = new("--at") { Description = "Where it is now.", Required = true };
    private static readonly Option<string> Disk = DiskOption();
    private static readonly Option<string?> Instead = new("--spare")
    {
        Description = "Tag of the spare that takes its place; left out: the new computer that was planned, else a spare."
    };
    private static readonly Option<bool> Soonest = new("--soonest")
    {
        Description = "Promise the first other time that fits at once; else the time stays, or the next plan finds one."
    };
    private static readonly Argument<DateOnly> From = new("day") { Description = "First day that suits them, as 2026-12-31." };
    private static readonly Argument<string> Came = new("other-swap") { Description = "Id of the swap of whoever came." };
    private static readonly Option<bool> Times = new("--exchange")
    {
        Description = "The two have each other's time, if nothing stands in the way."
    };

    private static Option<string> DiskOption()
    {
        var disk = new Option<string>("--disk")
        {
            Description = "Whether a stranger can read its disk: encrypted, plain or unknown.",
            DefaultValueFactory = _ => "unknown"
        };
        disk.AcceptOnlyFromAmong("encrypted", "plain", "unknown");
        return disk;
    }

    public static Command Create()
    {
        var minutes = new Argument<int>("minutes") { Description = "How late at least." };
        var tag = new Argument<string>("tag") { Description = "Tag of the computer that was delivered." };
        var spare = new Option<string?>("--spare")
        {
            Description = "Tag of the spare that takes its place; left out: one of the same model, best at the same site."
        };
        var exchange = new Option<bool>("--exchange") { Description = "It is meant for another swap: each gets the other's." };
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
                [Soonest],
                a => new(DetourKind.NoShow, Soonest: a.GetValue(Soonest))),
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
            Missing("stolen", DetourKind.Stolen, "The old computer was stolen: it is shut out, and the swap goes on without it."),
            Missing("lost", DetourKind.Lost, "Nobody knows where the old computer is: it is shut out, and the swap goes on without it."),
            Of(
                "found",
                "The old computer was lost or stolen, and is here again.",
                "yardline detour found autumn-0012 --at 'store, shelf 3'",
                [Here],
                a => new(DetourKind.Found) { Where = a.GetValue(Here) }),
            Of(
                "later",
                "The person wants all of it later, and said so in time.",
                "yardline detour later autumn-0012 2026-12-14 --look",
                [From],
                a => new(DetourKind.Later) { From = a.GetValue(From) }),
            Of(
                "other",
                "Somebody else came to the desk.",
                "yardline detour other autumn-0012 autumn-0031 --exchange",
                [Came, Times],
                a => new(DetourKind.WrongPerson, Exchange: a.GetValue(Times)) { Other = a.GetValue(Came) }),
            Of(
                "missed",
                "The person misses files: says where copies are, and holds parcel and wipe. --why says which.",
                "yardline detour missed autumn-0012 --why 'Documents/Berths of 2019'",
                [],
                _ => new(DetourKind.FilesMissed)),
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

    private static Command Missing(string verb, DetourKind kind, string does) => Of(
        verb,
        does,
        $"yardline detour {verb} autumn-0012 --at 'the ferry of 9:40' --disk encrypted --look",
        [LastAt, Disk, Instead, Soonest],
        a => new(kind, Tag: a.GetValue(Instead), Soonest: a.GetValue(Soonest))
        {
            Where = a.GetValue(LastAt),
            Disk = a.GetValue(Disk) switch { "encrypted" => DiskSecrecy.Encrypted, "plain" => DiskSecrecy.Plain, _ => DiskSecrecy.Unknown }
        });

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
