using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Choosing;

internal sealed record ChoosingUntilProblem(int UntilHours) : Problem(
    "choosing.until",
    $"Choosing ends 2 to 720 hours before the appointment, not {UntilHours}.");

internal sealed record ChoosingMostProblem(int? MostPerSlot) : Problem(
    "choosing.most",
    $"1 to 1000 visits may begin at one time, not {MostPerSlot}. Leave it out for no bound.");

internal sealed record GroupSwapsProblem(string Name, int SwapsCount, int MostInGroup) : Problem(
    "group.swaps",
    $"Group '{Name}' has {SwapsCount} swaps. Name 2 to {MostInGroup}.");

internal sealed record GroupRuleProblem(string Name) : Problem(
    "group.rule",
    $"Group '{Name}' says neither how many may have their appointment at once nor that they go on one day. Say one "
        + $"of the two.");

internal sealed record NobodyAtOnce() : Problem(
    "group.at-once",
    "1 or more may have their appointment at once.");

internal sealed record AllAtOnce(int SwapsCount, int? AtOnce) : Problem(
    "group.at-once",
    $"The group has {SwapsCount} swaps, so {AtOnce} at once bounds nothing. Allow fewer.");

internal sealed record GroupNameProblem(string Name) : ServiceProblem(
    "group.name",
    $"Another group is called '{Name}' already. Choose another name.", 409);

internal sealed record SlotShutProblem(string Words) : ServiceProblem(
    "slot.shut",
    Words, 409);

internal sealed record SlotPastProblem() : ServiceProblem(
    "slot.past",
    "That time is over, or too near. Choose a later one.", 409);

internal sealed record SlotTakenProblem() : ServiceProblem(
    "slot.taken",
    "Somebody was faster: that time is no longer free. You keep the one you have.", 409);
