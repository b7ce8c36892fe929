using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.CarryLists;

internal sealed record CarryListManyProblem(int MostDecisions) : Problem(
    "carry-list.many",
    $"At most {MostDecisions} decisions are taken at once.");

internal sealed record CarryListChoiceProblem(string Choice, string Path, string Choices) : Problem(
    "carry-list.choice",
    $"'{Choice}' is no choice for '{Path}'. Use {Choices}.");

internal sealed record LeftOutWithoutReason(string Path) : Problem(
    "carry-list.reason",
    $"'{Path}' is left out without a reason. Say why; the person and the account will show it.");

internal sealed record ReasonTooLong(string Path) : Problem(
    "carry-list.reason",
    $"The reason for '{Path}' is longer than 500 characters. Shorten it.");

internal sealed record InventoryNoneProblem(string Swap) : ServiceProblem(
    "inventory.none",
    $"The old computer of {Swap} was not surveyed yet. Order a survey first; it reads no content.", 404);

internal sealed record PlacesSizeProblem(int YamlCount, int MostCharacters) : Problem(
    "places.size",
    $"The rules have {YamlCount:#,0} characters. At most {MostCharacters:#,0} are taken.");
