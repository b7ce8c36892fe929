namespace YardRelay.Core.Notices;

internal sealed record NoticeSubjectProblem(int MostSubject) : Problem(
    "notice.subject",
    $"The first line is the subject, 1 to {MostSubject} characters.");

internal sealed record NoticeBodyProblem(int MostBody) : Problem(
    "notice.body",
    $"Below the subject stands the text, 1 to {MostBody:#,0} characters.");

internal sealed record NoticeFieldUnknown(int Line, string Field, string Known) : Problem(
    "notice.field",
    $"Line {Line}: '{{{Field}}}' is no field. Here there are {Known}.");

internal sealed record NoticeFieldWithoutValue(int Line, string Field, string Key, string Known) : Problem(
    "notice.field",
    $"Line {Line}: '{{{Field}}}' has no value in '{Key}'. It has "
        + $"{Known}.");
