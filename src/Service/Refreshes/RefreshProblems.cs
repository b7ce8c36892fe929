using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Refreshes;

internal sealed record RefreshKeyProblem(string Key) : Problem(
    "refresh.key",
    $"The key '{Key}' must have 1 to 40 lower-case letters, digits and '-'.");

internal sealed record RefreshZoneProblem(string Zone) : Problem(
    "refresh.zone",
    $"'{Zone}' is not a time zone. Use an IANA name such as Europe/Berlin.");

internal sealed record RefreshDaysProblem(int Days) : Problem(
    "refresh.days",
    $"A refresh has 1 to 366 days, not {Days}.");

internal sealed record RefreshNameProblem(int Most) : Problem(
    "refresh.name",
    $"A refresh needs a name of 1 to {Most} characters that can be seen.");

internal sealed record RefreshStartsProblem(DateOnly Starts) : Problem(
    "refresh.starts",
    $"A refresh cannot start on {Starts:yyyy-MM-dd}. Give a day of these years.");

internal sealed record RefreshTakenProblem(string Key) : ServiceProblem(
    "refresh.taken",
    $"There is another refresh '{Key}' already. Choose another key.", 409);

internal sealed record RefreshHoldProblem(int Days) : Problem(
    "refresh.hold",
    $"Old computers are held 0 to 366 days, not {Days}.");

internal sealed record RefreshFixedProblem(string What) : ServiceProblem(
    "refresh.fixed",
    $"{What} cannot be changed any more: a plan was made, and its times rest on it. Make a new refresh, and take the roster into it.",
    409);

internal sealed record RefreshTooShortProblem(DateOnly Last, int Least) : ServiceProblem(
    "refresh.too-short",
    $"The last appointment is on {Last:yyyy-MM-dd}, so the refresh has at least {Least} days. Move that appointment first.",
    409);
