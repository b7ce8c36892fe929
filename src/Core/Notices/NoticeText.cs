using System.Text;

namespace YardRelay.Core.Notices;

/// <summary>A text for notices: Markdown with fields in braces, its first line the subject.</summary>
/// <param name="Subject">One line, with fields.</param>
/// <param name="Body">Markdown, with fields.</param>
public sealed record NoticeText(string Subject, string Body)
{
    private const int MostSubject = 150;
    private const int MostBody = 8_000;

    /// <summary>What may stand in braces, with what each is.</summary>
    public static readonly IReadOnlyDictionary<string, string> Fields = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["name"] = "the person's name",
        ["refresh"] = "name of the refresh",
        ["day"] = "day of the appointment",
        ["from"] = "when it begins",
        ["to"] = "when it ends",
        ["site"] = "where",
        ["room"] = "room at the site",
        ["technician"] = "who comes",
        ["choose"] = "how another time can be had, a sentence",
        ["files"] = "how many files come along",
        ["size"] = "how much that is",
        ["steps"] = "what is still theirs to do",
        ["wiped"] = "the day from which the old computer may be wiped",
        ["question"] = "what they asked",
        ["answer"] = "what came of it",
        ["by"] = "who answers",
        ["held"] = "the day until which staged files are kept",
        ["link"] = "address of the person's own page",
    };

    // Each of them stands where it says what is so only then; elsewhere it would be empty.
    private static readonly string[] Always = ["name", "refresh", "link"];
    private static readonly string[] OfAppointment = ["day", "from", "to", "site", "room", "technician", "choose"];

    /// <summary>What a notice of a moment has values for.</summary>
    public static IReadOnlyList<string> FieldsOf(NoticeMoment moment) => moment switch
    {
        NoticeMoment.Booked or NoticeMoment.Moved or NoticeMoment.ExchangeAsked or NoticeMoment.DayBefore => [.. Always, .. OfAppointment],
        NoticeMoment.ComesAlong => [.. Always, .. OfAppointment, "files", "size"],
        NoticeMoment.Reminder => [.. Always, .. OfAppointment, "steps"],
        NoticeMoment.Answered => [.. Always, "question", "answer", "by"],
        NoticeMoment.WipeAhead => [.. Always, "wiped"],
        NoticeMoment.HeldEnds => [.. Always, "held"],
        _ => Always,
    };

    /// <summary>Reads a text and checks it: a subject, no field that is not known or has no value at that moment.</summary>
    public static Result<NoticeText> Read(NoticeMoment moment, string text)
    {
        var lines = text.ReplaceLineEndings("\n").Trim().Split('\n', 2);
        var (subject, body) = (lines[0].TrimStart('#').Trim(), lines.Length > 1 ? lines[1].Trim() : "");
        var faults = new List<Problem>();
        if (subject.Length is 0 or > MostSubject)
            faults.Add(new NoticeSubjectProblem(MostSubject));
        if (body.Length is 0 or > MostBody)
            faults.Add(new NoticeBodyProblem(MostBody));
        var known = FieldsOf(moment);
        foreach (var (field, line) in FieldsIn(text))
        {
            if (!Fields.ContainsKey(field))
                faults.Add(new NoticeFieldUnknown(line, field, string.Join(", ", known.Select(k => $"{{{k}}}"))));
            else if (!known.Contains(field))
                faults.Add(new NoticeFieldWithoutValue(line, field, moment.Key(), string.Join(", ", known.Select(k => $"{{{k}}}"))));
        }
        return faults.Count > 0 ? Result<NoticeText>.Failed(faults) : new NoticeText(subject, body);
    }

    /// <summary>Puts values in: as they are in the subject, and so that nothing in them is markup in the body.</summary>
    /// <param name="values">A value for each field; one that is missing is left empty.</param>
    public (string Subject, string Markdown) With(IReadOnlyDictionary<string, string> values) =>
        (Fill(Subject, values, OneLine), Fill(Body, values, Literal));

    private static string Fill(string text, IReadOnlyDictionary<string, string> values, Func<string, string, string> write)
    {
        var filled = new StringBuilder();
        for (var at = 0; at < text.Length;)
        {
            var close = text[at] == '{' ? text.IndexOf('}', at) : -1;
            if (close > at && Fields.ContainsKey(text[(at + 1)..close]))
            {
                var field = text[(at + 1)..close];
                filled.Append(write(field, values.GetValueOrDefault(field, "")));
                at = close + 1;
            }
            else filled.Append(text[at++]);
        }
        return filled.ToString();
    }

    private static string OneLine(string field, string value) => Visible.Line(value);

    // A backslash before punctuation makes it a character like others (CommonMark, section 2.4). The link is ours, and must stay one.
    private static string Literal(string field, string value) => field == "link" ? value
        : field == "steps" ? string.Join('\n', value.Split('\n').Select(l => "- " + Plain(l)))
        : Plain(value);

    /// <summary>A text of others within a line of Markdown: it says what it says, and marks nothing up.</summary>
    public static string Plain(string value) =>
        string.Concat(Visible.Line(value).Select(c => char.IsAscii(c) && (char.IsPunctuation(c) || char.IsSymbol(c)) ? $"\\{c}" : $"{c}"));

    private static IEnumerable<(string Field, int Line)> FieldsIn(string text)
    {
        var line = 1;
        for (var at = 0; at < text.Length; at++)
        {
            if (text[at] == '\n') line++;
            if (text[at] != '{' || text.IndexOf('}', at) is not (> 0 and var close) || text.AsSpan(at, close - at).Contains('\n')) continue;
            yield return (text[(at + 1)..close], line);
            at = close;
        }
    }
}
