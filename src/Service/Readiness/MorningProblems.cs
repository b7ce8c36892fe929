using YardRelay.Core;
using YardRelay.Core.Readiness;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Readiness;

internal sealed record MorningMailUnsent(string Host, string Why) : ServiceProblem(
    "morning.unsent",
    $"The mail server {Host} did not take it: {Why}", 502);

internal sealed record MorningMailNobody() : ServiceProblem(
    "morning.nobody",
    "Nobody gets the mail in the morning. Say first to whom it goes.", 409);

internal sealed record MorningAddressProblem(string Address) : Problem(
    "morning.address",
    $"'{Address}' is no mail address. Give one such as it@kestrelbay.example.");

internal sealed record MorningManyProblem(int Most) : Problem(
    "morning.many",
    $"The mail in the morning goes to {Most} addresses at most. Give the address of a list.");

internal sealed record MorningTimeProblem(string At) : Problem(
    "morning.time",
    $"'{At}' is no time for it. Give hours and minutes such as 07:00, {MorningMail.LatestAt:HH\\:mm} at the latest.");
