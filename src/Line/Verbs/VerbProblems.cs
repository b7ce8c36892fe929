using YardRelay.Core;

namespace YardRelay.Line.Verbs;

internal sealed record NotSignedInProblem() : Problem(
    "not-signed-in",
    "You are not signed in. Run 'yardline sign-in http://HOST --name NAME' first.");

internal sealed record RefreshWhichProblem(string Words) : Problem(
    "refresh.which",
    Words);

internal sealed record ServiceUnreachableProblem(string Why) : Problem(
    "service.unreachable",
    Why);

internal sealed record ChecklistNoneProblem(string? Name, string AtVersion) : Problem(
    "checklist.none",
    $"There is no checklist '{Name}'{AtVersion}. 'yardline "
        + $"checklist list' shows all.");

internal sealed record ChecklistFormProblem(long? Line, string Words) : Problem(
    "checklist.form",
    Line is null ? Words : $"Line {Line}: {Words}");

internal sealed record PhotoFileProblem(string? Given) : Problem(
    "photo.file",
    $"There is no file '{Given}'.");

internal sealed record ChecklistFileProblem(string File) : Problem(
    "checklist.file",
    $"There is no file '{File}'.");

internal sealed record DepotUselessProblem(string Name, string Trouble) : Problem(
    "depot.useless",
    $"{Name} is set so, and cannot be used: {Trouble}");

internal sealed record OrderWhichProblem(string Kind) : Problem(
    "order.which",
    $"Say which swaps: 'yardline swap order {Kind} ID …' for some, or 'yardline swap order {Kind} --all' for every swap that can have it "
        + "now; one of the two.");

internal sealed record NothingOrderedProblem(IReadOnlyList<string> Skipped) : Problem(
    "order.nothing",
    $"Nothing was ordered.{string.Concat(Skipped.Select(s => "\n– " + s))}");

internal sealed record NotGivenProblem(string Option) : Problem(
    "set.missing",
    $"There is none yet: a new one needs {Option}. With --help all options are shown.");

internal sealed record NotSureProblem(string Question) : Problem(
    "sure.asked",
    $"{Question} Nothing was done: say --yes.");

internal sealed record LeftAsItIsProblem() : Problem(
    "sure.no",
    "Nothing was done.");

internal sealed record UnknownZoneProblem(string Zone) : Problem(
    "zone.unknown",
    $"This computer does not know the time zone {Zone} of the refresh. Write the time with its offset, '2026-11-26 09:15+01:00'.");

internal sealed record SwapUnreadableProblem(string Given) : Problem(
    "swap.unreadable",
    $"'{Given}' is no id of a swap. It looks like spring-0007; 'yardline swap list' shows all.");

internal sealed record LedgerHeadProblem(string Text) : Problem(
    "ledger.head",
    $"'{Text}' is not a head. It looks like 812:9f3c… with 64 hexadecimal digits; 'yardline ledger check' prints it.");

internal sealed record LedgerHeadsProblem(string File, string Why) : Problem(
    "ledger.heads",
    $"'{File}' is no file of heads as the service keeps them: {Why}");

internal sealed record LedgerFault(long Number, string What) : Problem(
    "ledger.fault",
    Number > 0 ? $"Entry {Number}: {What}" : char.ToUpperInvariant(What[0]) + What[1..]);

internal sealed record MoveBreaksProblem(string Breaks) : Problem(
    "move.breaks",
    $"It cannot go there: {Breaks}");

internal sealed record ReportFormProblem(string Path) : Problem(
    "report.form",
    $"'{Path}' ends in neither .csv nor .pdf.");

internal sealed record LandingFormProblem() : Problem(
    "landing.form",
    "Write --account OLD=NEW and --folder FROM=TO.");

internal sealed record FoldersLateProblem(string Tag, double TotalSeconds) : Problem(
    "folders.late",
    $"The hand at {Tag} has not answered in {TotalSeconds:0} s. Is it running? The order stays; ask "
        + $"again later.");

internal sealed record PlacesFileProblem(string? Given) : Problem(
    "places.file",
    $"There is no file '{Given}'.");

internal sealed record FileWriteProblem(string Path, string Why) : Problem(
    "file.write",
    $"'{Path}' cannot be written: {Why}");

internal sealed record ReportNothingProblem() : Problem(
    "report.nothing",
    "No swap has staged anything yet.");

internal sealed record ReportOpenProblem(int OpenCount, int AllCount, string Open) : Problem(
    "report.open",
    $"{OpenCount} of {AllCount} swaps are not accounted for: {Open}.");

internal sealed record RosterFileProblem(string Path) : Problem(
    "roster.file",
    $"There is no file '{Path}'.");

internal sealed record RosterMatchProblem(string Wrong) : Problem(
    "roster.match",
    $"'{Wrong}' is no match. Write HEAD=COLUMN.");

internal sealed record SignOffFileProblem(string Path) : Problem(
    "sign-off.file",
    $"There is no file '{Path}'.");

internal sealed record LedgerBroken(long Number, string What) : Problem(
    "ledger.fault",
    $"The ledger itself is broken at entry {Number}: {What}");

internal sealed record SignOffChangedProblem(string Refresh, string Swap, string Sha256) : Problem(
    "sign-off.changed",
    $"This is not what was signed: the ledger of {Refresh} has no sign-off of {Swap} with the digest "
        + $"{Sha256}. The file was changed, or comes from elsewhere.");

internal sealed record SnagWhichProblem(int FoundCount, string? Given, string Snags) : Problem(
    "snag.which",
    $"{FoundCount} snags of that swap begin with '{Given}'. It has "
        + $"{Snags}.");

internal sealed record NoPlanFile(string Path) : Problem(
    "plan.file",
    $"There is no file '{Path}'.");

internal sealed record PlanBudgetProblem() : Problem(
    "plan.budget",
    "--seconds is 0 to 86400, --steps 0 or more.");

internal sealed record SwapWaitProblem(double TotalSeconds, int BusyCount, string Busy) : Problem(
    "swap.wait",
    $"After {TotalSeconds:0} s orders are still open at {BusyCount} swaps: "
        + $"{Busy}.");

internal sealed record SiteRoomProblem(string Room) : Problem(
    "site.room",
    $"'{Room}' is not a room. Write its name, ':' and its benches, such as 'Ticket hall:2'.");

internal sealed record TechnicianFileProblem(string? Given) : Problem(
    "technician.file",
    $"There is no file '{Given}'.");

internal sealed record TechnicianNotFoundProblem(string? Given, string All) : Problem(
    "technician.not-found",
    $"There is no technician '{Given}'. There are {All}.");

internal sealed record CalendarFileProblem(string? Given) : Problem(
    "calendar.file",
    $"There is no file '{Given}'.");

internal sealed record YardFormProblem(string Other) : Problem(
    "yard.form",
    $"'{Other}' is no form of it. End the file's name with .csv or .pdf.");

internal sealed record NothingToDrop(string Verb, string What, string Wanted, IReadOnlyList<string> Known) : Problem(
    $"{Verb}.unknown",
    Known.Count == 0
        ? $"There is no {What} '{Wanted}', nor any other."
        : $"There is no {What} '{Wanted}'; nothing was taken out. There is {string.Join(", ", Known.Take(MostNamed))}"
            + $"{(Known.Count > MostNamed ? $" and {Known.Count - MostNamed} more" : "")}.")
{
    private const int MostNamed = 20;
}

internal sealed record ReadyDayProblem(string Text) : Problem(
    "ready.day",
    $"'{Text}' is no day. Say today, tomorrow, or one such as 2026-12-01.");

internal sealed record ReadyMailNobodyProblem() : Problem(
    "ready.mail-nobody",
    "Nobody gets a mail in the morning. Say to whom it goes: '--to it@kestrelbay.example'.");

internal sealed record NoSuchCommand(string Word, IReadOnlyList<string> Near) : Problem(
    "command.none",
    $"There is no command '{Word}' here. "
        + (Near.Count == 0 ? "'yardline help' lists all." : $"Did you mean {string.Join(" or ", Near)}?"));

internal sealed record ChecklistNothingToMove(string Name, int Version, bool BegunToo) : Problem(
    "checklist.nothing-to-move",
    $"No swap has an older version of {Name} than {Version}{(BegunToo ? " that is not signed." : " of which nothing was done yet. "
        + "--begun-too moves those under way.")}");

internal sealed record NoSuchOption(string Word, IReadOnlyList<string> Near) : Problem(
    "option.none",
    $"'{Word}' is no option here.{(Near.Count == 0 ? "" : $" Did you mean {string.Join(" or ", Near)}?")}");
