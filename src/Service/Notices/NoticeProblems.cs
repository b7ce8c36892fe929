using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Notices;

internal sealed record NoMailServerSet() : ServiceProblem(
    "notices.no-mail",
    "The service has no mail server. Start it with --mail smtp://host:587 and --mail-from ADDRESS.", 409);

internal sealed record NoticesSwapsProblem(int MostListed) : Problem(
    "notices.swaps",
    $"Name 1 to {MostListed} swaps.");

internal sealed record NoticeLinkProblem(string Link) : Problem(
    "notices.link",
    $"The text leads to '{Link}', or shows it as a picture. A mail leads to https:// and mailto: addresses only, and has no pictures.");

internal sealed record NothingCanBeSent() : ServiceProblem(
    "notices.no-mail",
    "The service has no mail server, so nothing can be sent.", 409);

internal sealed record MailSizeProblem(int MostBytes) : Problem(
    "mail.size",
    $"A mail has 1 to {MostBytes:#,0} bytes.");

internal sealed record MailWhoseProblem() : ServiceProblem(
    "mail.whose",
    "That is neither a delivery report (RFC 3464) about one of the notices, nor an answer to one.", 422);

internal sealed record MailFormProblem() : Problem(
    "mail.form",
    "That is no mail.");

internal sealed record MailProgramProblem() : ServiceProblem(
    "mail.program",
    "A program wrote that, such as a note of absence; nothing was opened.", 422);

internal sealed record MailFromProblem() : ServiceProblem(
    "mail.from",
    "It does not come from the address that the notice went to, so it is not taken for the person's words.", 422);

internal sealed record MailEmptyProblem() : ServiceProblem(
    "mail.empty",
    "Nothing new stands in it.", 422);

internal sealed record MailManyProblem(int MostAnswers, string Swap) : ServiceProblem(
    "mail.many",
    $"{MostAnswers} questions of {Swap} wait already.", 409);
