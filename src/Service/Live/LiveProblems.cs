using YardRelay.Service.Problems;

namespace YardRelay.Service.Live;

internal sealed record StreamsTooManyProblem(int OfSession, int OfAccount) : ServiceProblem(
    "live.too-many",
    $"This session has {OfSession} pages open that follow live, or this account {OfAccount}. This one asks again by itself instead.", 429);
