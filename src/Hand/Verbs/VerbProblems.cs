using YardRelay.Core;

namespace YardRelay.Hand.Verbs;

internal sealed record AdoptFolderProblem(string? Given) : Problem(
    "adopt.folder",
    $"'{Given}' is no folder of a depot. Write it without '.', '..' or empty parts.");

internal sealed record RecipientFormProblem(string Mistyped) : Problem(
    "recipient.form",
    $"'{Mistyped}' is no recipient. One begins with age1 and has 62 characters; 'yardhand key make' makes one.");

internal sealed record CarryListFileProblem(string File) : Problem(
    "carry-list.file",
    $"There is no file '{File}'.");

internal sealed record KeyWhichProblem(string Words) : Problem(
    "key.which",
    Words);

internal sealed record LandingFormProblem(string Text, string Option, string Form) : Problem(
    "landing.form",
    $"'{Text}' says not where it lands. Write {Option} {Form}.");

internal sealed record LandingClashProblem(string Text) : Problem(
    "landing.clash",
    $"'{Text}' is no clash rule. Use beside, stay, newer or ours; FOLDER=RULE for one folder.");

internal sealed record OwnerForbiddenProblem(string Account) : Problem(
    "restore.owner",
    $"Only an administrator can give files to '{Account}'. Run the hand as administrator, or leave --owner out.");

internal sealed record PlacesFileProblem(string File) : Problem(
    "places.file",
    $"There is no file '{File}'.");

internal sealed record RulesNotUsedProblem() : Problem(
    "places.not-used",
    "--rules says what clutter is, and a carry list or --everything has said already what stays. Leave one of them out.");

internal sealed record KeyFileProblem(string File) : Problem(
    "key.file",
    $"There is no file '{File}'.");

internal sealed record KeyFormProblem(string File) : Problem(
    "key.form",
    $"The file '{File}' holds no secret keys. Each line of one is AGE-SECRET-KEY-1…, or begins with #; 'yardhand key "
        + $"join' makes one of two parts.");

internal sealed record PassphraseFileProblem(string File) : Problem(
    "passphrase.file",
    $"There is no file '{File}'.");

internal sealed record PassphraseEmptyProblem() : Problem(
    "passphrase.empty",
    "The passphrase is empty. Write it as the first line.");

internal sealed record VerifySampleProblem() : Problem(
    "verify.sample",
    "A sample is more than 0 and at most 100 of 100 files.");
