using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Writing;

internal sealed record IdempotencyKeyProblem() : Problem(
    "idempotency.key",
    "An Idempotency-Key has at most 200 characters.");

internal sealed record IdempotencyOtherBodyProblem() : ServiceProblem(
    "idempotency.other-body",
    "This Idempotency-Key was used for another request. Use a new key for a new request.", 422);

internal sealed record ThingName(string What) : Problem(
    $"{What}.name",
    $"A {What} needs a name of 1 to 100 characters.");

internal sealed record ThingKey(string What, string Key) : Problem(
    $"{What}.key",
    $"The key '{Key}' of a {What} has 1 to 60 characters, without '/' and quotes.");
