using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

internal sealed record AccountLockedProblem() : ServiceProblem(
    "account.locked",
    "Too many wrong passwords. Wait five minutes, then try again.", 429);

internal sealed record AccountWrongProblem() : ServiceProblem(
    "account.wrong",
    "Name or password is wrong.", 401);

internal sealed record AccountDisabledProblem() : ServiceProblem(
    "account.disabled", "This account is disabled. Ask a coordinator.", 403);

internal sealed record PasswordNowWrong() : ServiceProblem(
    "account.password-now", "The password that counts until now is another. Nothing was changed.", 403);

internal sealed record AccountIsYourOwn(string Name) : ServiceProblem(
    "account.own", $"{Name} is the account that you are signed in by. Have another coordinator do it.", 409);

internal sealed record AccountRoleProblem(string Role) : Problem(
    "account.role",
    $"'{Role}' is not a role for an account. Use coordinator, technician, auditor or person.");

internal sealed record AccountPasswordProblem() : Problem(
    "account.password",
    "A password has 8 to 200 characters.");

/// <summary>It is no hand any more.</summary>
internal sealed record HandEndedProblem(string? WithdrawnBy) : ServiceProblem(
    "hand.replaced",
    (WithdrawnBy is null ? "This hand was replaced by another at its computer." : $"This hand was withdrawn by {WithdrawnBy}.")
        + " Enrol again with a new code.",
    401);
