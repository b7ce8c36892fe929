using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

internal sealed record AccountLockedProblem(int Minutes) : ServiceProblem(
    "account.locked",
    $"Too many wrong passwords. Wait {(Minutes == 1 ? "a minute" : $"{Minutes} minutes")}, then try again; where you were signed in by "
        + "this account before, you need not wait.",
    429);

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

internal sealed record AccountNewProblem(string Name) : Problem(
    "account.new",
    $"There is no account '{Name}' yet. Say the password that it begins with.");

internal sealed record AccountShownProblem(string Shown) : Problem(
    "account.shown",
    $"'{Shown}' is the name of somebody else here. What people do is told under the name that is shown, so that nobody takes another's.");

internal sealed record AccountPersonProblem() : Problem(
    "account.person",
    "An account of the role 'person' is one person's own: it takes their key in the roster, and the one refresh that they are of.");

internal sealed record PasswordLengthProblem(int Fewest, int Most) : Problem(
    "account.password",
    $"A password has {Fewest} to {Most} characters. Several words that do not belong together are easy to remember.");

internal sealed record PasswordCommonProblem() : Problem(
    "account.password-common",
    "That password is among the first that somebody tries. Take several words that do not belong together.");

/// <summary>It is no hand any more.</summary>
internal sealed record HandEndedProblem(string? WithdrawnBy) : ServiceProblem(
    "hand.replaced",
    (WithdrawnBy is null ? "This hand was replaced by another at its computer." : $"This hand was withdrawn by {WithdrawnBy}.")
        + " Enrol again with a new code.",
    401);
