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

internal sealed record AccountNameProblem(int Most) : Problem(
    "account.name",
    $"The name of an account, and the one that people see, have 1 to {Most} characters, with no blank before or behind and none that "
        + "cannot be seen.");

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

internal sealed record SecondInBrowserProblem() : ServiceProblem(
    "second.in-browser", "This account has a passkey, which a program cannot show: have a browser let it in.", 409);

internal sealed record SecondLateProblem() : ServiceProblem(
    "second.late", "That took too long, or was answered already. Begin again.", 409);

internal sealed record SecondWrongProblem() : ServiceProblem(
    "second.wrong", "That is no passkey of this account, or no recovery code that is left.", 401);

internal sealed record SecondAskedProblem(string Refresh) : ServiceProblem(
    "second.asked",
    $"{Refresh} asks whoever works in it for a passkey, and you are signed in without one. Add one on the page of your own account, or "
        + "show it there.",
    403);

internal sealed record SecondOwnProblem() : ServiceProblem(
    "second.own", "Show a passkey of your own first, on the page of your account: else you would shut yourself out.", 409);

internal sealed record SecondNeededProblem() : ServiceProblem(
    "second.needed", "Only whoever is signed in with a passkey takes passkeys away or makes recovery codes. Show yours first.", 409);

internal sealed record PasskeyWrongProblem(string Why) : ServiceProblem(
    "passkey.wrong", $"The passkey cannot be taken: {Why.TrimEnd('.')}.", 400);

internal sealed record PasskeyAnewProblem() : ServiceProblem(
    "passkey.anew",
    "Your organisation says who you are, and no password: sign in with it anew, and add the passkey within ten minutes.",
    409);

internal sealed record PasskeyNameProblem() : Problem(
    "passkey.name", "A passkey is called by 1 to 60 characters, such as what it lies on.");

internal sealed record PasskeyNoneProblem(string Name) : ServiceProblem(
    "passkey.none", $"{Name} has no passkeys. Nothing was changed.", 409);

internal sealed record PasskeyManyProblem(int Most) : ServiceProblem(
    "passkey.many", $"An account has at most {Most} passkeys. Take one away first.", 409);

internal sealed record AskingOverProblem() : ServiceProblem(
    "asking.over", "Nothing asks with that code, or it is over. Begin again where it was shown.", 404);

internal sealed record AskingLabelProblem() : Problem(
    "asking.label", "A program says what it is, in 1 to 100 characters.");

internal sealed record NoGroupProblem() : ServiceProblem(
    "organisation.no-group",
    "Your organisation says who you are, and none of your groups there opens anything here. Ask a coordinator.",
    403);

internal sealed record AccountOfOrganisationProblem(string Name) : ServiceProblem(
    "account.of-organisation",
    $"{Name} comes in by the organisation, and may what their groups open. Change what the groups open, or disable the account.",
    409);

internal sealed record StaffGroupNameProblem(int Most) : Problem(
    "staff-group.name", $"A group is named as the identity provider names it, in 1 to {Most} characters.");

internal sealed record StaffGroupRoleProblem(string Role) : Problem(
    "staff-group.role", $"'{Role}' is no role that a group opens. Use coordinator, technician or auditor.");

internal sealed record StaffGroupManyProblem(int Most) : ServiceProblem(
    "staff-group.many", $"At most {Most} groups open something. Take one away first.", 409);
