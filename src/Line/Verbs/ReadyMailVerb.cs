using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline ready mail</c>: to whom goes in the morning who is not ready for the next day.</summary>
internal static class ReadyMailVerb
{
    public static Command Create()
    {
        var to = new Option<string[]>("--to")
        {
            Description = "Addresses that get it; in place of those of before.",
            AllowMultipleArgumentsPerToken = true
        };
        var at = new Option<string?>("--at") { Description = "From when on, by the clocks of the refresh: 07:00." };
        var off = new Option<bool>("--off") { Description = "Nobody gets it any more." };
        var send = new Option<bool>("--now") { Description = "Sends it now, too." };
        return Call.Command<Done>(
            "mail",
            "To whom goes in the morning who is not ready for the next day with visits. Without options: shows it.",
            "yardline ready mail --to it@kestrelbay.example --at 07:00",
            [to, at, off, send],
            async (c, r, a, cancel) =>
            {
                if (!(await c.MorningMailAsync(r, cancel)).TryGet(out var mail, out var problem)) return problem;
                IReadOnlyList<string> wanted = a.GetValue(off) ? [] : a.GetValue(to) is { Length: > 0 } given ? given : mail.To;
                var isSet = new Option[] { to, at, off }.Any(o => a.GetResult(o) is { Implicit: false });
                if (isSet && wanted.Count == 0 && !a.GetValue(off)) return new ReadyMailNobodyProblem();
                var since = a.GetValue(at) ?? mail.At;
                if (isSet && !(await c.SetMorningMailAsync(r, new(wanted, since), cancel)).TryGet(out mail, out problem)) return problem;
                if (!a.GetValue(send)) return new Done(mail, null);
                if (!(await c.SendMorningMailAsync(r, cancel)).TryGet(out var sent, out problem)) return problem;
                return new Done(mail, sent);
            },
            Show);
    }

    /// <param name="Sent">Null: none was asked for now.</param>
    private sealed record Done(MorningMailSeen Mail, MorningMailSent? Sent);

    private static void Show(Done done)
    {
        var mail = done.Mail;
        if (done.Sent is { } sent) Tables.Say($"Sent: {sent.Subject}");
        if (mail.To.Count == 0)
        {
            Tables.Say("Nobody gets a mail in the morning. 'yardline ready mail --to ADDRESS' sets to whom it goes.");
            return;
        }
        var last = mail.IsUnderWay ? "One is being sent now."
            : mail.Trouble is { } trouble ? $"The last one did not go: {trouble}"
            : mail.Mailed is { } day ? $"The last one went on {day:ddd d MMM}."
            : "None went yet.";
        Tables.Say($"From {mail.At} on {string.Join(", ", mail.To)} {(mail.To.Count == 1 ? "gets" : "get")} a mail on each morning "
            + $"before a day with visits. {last}");
        if (!mail.CanSend) Tables.Say("The service has no mail server now, so none goes.");
    }
}
