using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Detours;

internal sealed record DetourReasonProblem(int MostReason) : Problem(
    "detour.reason",
    $"Say why, in 1 to {MostReason} characters.");

internal sealed record DetourMinutesProblem() : Problem(
    "detour.minutes",
    "How late at least? Say 5 to 600 minutes.");

internal sealed record WhichComputer() : Problem(
    "detour.tag",
    "Which computer was delivered? Scan or type its tag.");

internal sealed record CoordinatorDecides() : ServiceProblem(
    "not-allowed",
    "Whether a swap takes place is decided by a coordinator. Tell them with a follow-up.", 403);

internal sealed record OnlyLooked() : Problem(
    "detour.looked",
    "Only looked.");

internal sealed record NothingToReceive(string Swap) : ServiceProblem(
    "detour.receiver",
    $"The swap of {Swap} has no old computer, so there is nothing to receive. Leave the receiver out: the swap is called "
        + $"off.", 409);

internal sealed record NewComputerInUse(string Swap) : ServiceProblem(
    "detour.receiver",
    $"The new computer of {Swap} is in use already. Call the swap off, or finish it.", 409);

internal sealed record ReceiverIsGone(string Swap) : Problem(
    "detour.receiver",
    $"{Swap} is the one who is gone. Name somebody else.");

internal sealed record IsThePlannedOne(string? NewTag) : Problem(
    "detour.tag",
    $"{NewTag} is the computer that was planned.");

internal sealed record IsAnOldComputer(string Tag, string OfWhom) : Problem(
    "detour.tag",
    $"{Tag} is an old computer{OfWhom}. Look "
        + $"at the label again.");

internal sealed record DetourMeantForProblem(string? NewTag, string Other, string Site, string Wanted) : ServiceProblem(
    "detour.meant-for",
    $"{NewTag} is meant for {Other} at {Site}. Exchange the two, or set it aside and look for "
        + $"{Wanted}.", 409);

internal sealed record ExchangeAcrossSites(string? NewTag, string Site) : ServiceProblem(
    "detour.other-site",
    $"{NewTag} is meant for somebody at {Site}, which is not one of your sites. Ask the coordinator to exchange the two.", 403);

internal sealed record SpareAcrossSites(string Tag, string Site) : ServiceProblem(
    "detour.other-site",
    $"{Tag} is a spare at {Site}, which is not one of your sites. Ask the coordinator for it.", 403);

internal sealed record NothingToGiveForIt(string Swap, string Other) : ServiceProblem(
    "detour.exchange",
    $"{Swap} has no computer to give {Other} for it.", 409);

internal sealed record InUseElsewhere(string? NewTag, string Other) : ServiceProblem(
    "detour.exchange",
    $"{NewTag} is in use at {Other} already. Look at the label again.", 409);

internal sealed record DetourSpareProblem(string Spare, string Trouble) : ServiceProblem(
    "detour.spare",
    $"{Spare} cannot be given out: {Trouble}", 409);

internal sealed record DetourNoSpareProblem(string Words) : ServiceProblem(
    "detour.no-spare",
    Words, 409);

internal sealed record DetourWhereProblem(int Most) : Problem(
    "detour.where",
    $"Say where it is, in 1 to {Most} characters.");

internal sealed record DetourFromProblem() : Problem(
    "detour.from",
    "From which day on? Say it as 2026-12-31.");

internal sealed record DetourOtherProblem() : Problem(
    "detour.other",
    "Who came? Say which swap is theirs.");

internal sealed record DetourMissedProblem(int MostReason) : Problem(
    "detour.reason",
    $"Which files are missed, and where were they? Say it in 1 to {MostReason} characters.");

internal sealed record LaterTodayProblem(DateOnly From) : Problem(
    "detour.from",
    $"{From:yyyy-MM-dd} is not after today. Who comes later today is 'late'.");

internal sealed record LaterThanRefreshProblem(DateOnly From, DateOnly Last) : Problem(
    "detour.from",
    $"The refresh ends on {Last:yyyy-MM-dd}, before {From:yyyy-MM-dd}. Give it more days, or call the swap off.");

internal sealed record LaterNeverFreeProblem(string Name, DateOnly From) : Problem(
    "detour.from",
    $"{Name} said when they are free, and none of it lies after {From:yyyy-MM-dd}. Change what they said first.");

internal sealed record SamePersonProblem(string Name) : Problem(
    "detour.other",
    $"That is the swap of {Name}. Say which one is theirs who came.");

internal sealed record NoTimeToExchangeProblem(string Name) : ServiceProblem(
    "detour.exchange",
    $"{Name} has no appointment ahead that could be exchanged. Give them one on the planning board.", 409);

internal sealed record TimesStandProblem(string Name, string What, string Against) : ServiceProblem(
    "detour.exchange",
    $"{Name} cannot {What}: {Against} The times stand as they were.", 409);
