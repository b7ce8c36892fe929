using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline notice</c>: who was told what, and the texts.</summary>
internal static class NoticeVerbs
{
    public static Command Create()
    {
        var moment = new Argument<string>("moment")
        {
            Description =
                "announced, booked, moved, unbooked, called-off, comes-along, reminder, day-before, urgent-ready, please-accept, "
                    + "wipe-ahead or held-ends."
        };
        var swap = new Argument<string>("swap") { Description = "Id of the person's swap." };
        var swaps = new Argument<string[]>("swaps") { Description = "Ids of the swaps." };
        var onlySwap = new Option<string?>("--swap") { Description = "Only those of one swap." };
        var wave = new Option<string?>("--wave") { Description = "Only one wave." };
        var unopened = new Option<bool>("--not-opened") { Description = "Only those who have not opened their page." };
        var idle = new Option<bool>("--not-ready") { Description = "Only those who have not said that they are ready." };
        var language = new Option<string>("--language") { Description = "en or de.", DefaultValueFactory = _ => "en" };
        var file = new Option<string?>("--file")
        {
            Description = "File with the text: the subject in its first line, Markdown with fields below. Left out: the text that ships."
        };
        var report = new Argument<string>("report")
        {
            Description = "File with the report, as the mail server returned it; '-': the input."
        };
        var yes = Sure.Option;
        Command Switch(string name, bool on, string what) =>
            Call.Command(
                name,
                what,
                on ? "yardline notice on" : "yardline notice off --yes",
                on ? [] : [yes],
                async (c, r, a, cancel) =>
                    !on && Sure.Against(a, yes, "Nobody hears anything by mail any more; what is due meanwhile is not told late.") is { } no
                        ? no
                        : await c.SwitchNoticesAsync(r, on, cancel),
                t => Tables.Say(t.Since is { } since
                    ? $"People are told by mail since {since.OnClock():ddd d MMM HH:mm}."
                    : "People are not told by mail."));
        return new Command(
            "notice", "Notices: switch them on, see who was told and has not looked, send again, preview and change the texts.")
        {
            Switch("on", true, "Tells people by mail from now on. What was due before is not told late."),
            Switch("off", false, "Tells nobody any more."),
            Call.Command(
                "told",
                "Of each person: what they were told last, whether they looked, whether they said that they are ready.",
                "yardline notice told --wave office --not-opened",
                [wave, unopened, idle],
                (c, r, a, cancel) => ToldAsync(
                    c,
                    r,
                    a.GetValue(wave),
                    p => (!a.GetValue(unopened) || p.OpenedAt is null) && (!a.GetValue(idle) || !p.IsReady),
                    cancel),
                ShowTold),
            Call.Command(
                "list",
                "Notices, the newest first.",
                "yardline notice list --swap autumn-0012",
                [onlySwap],
                (c, r, a, cancel) => c.NoticesAsync(r, a.GetValue(onlySwap), cancel),
                ShowList),
            Call.Command(
                "again",
                "Sends a notice once more; one that is no longer so is not sent.",
                "yardline notice again day-before autumn-0012 autumn-0013",
                [moment, swaps],
                (c, r, a, cancel) => c.SendAgainAsync(r, new(a.GetValue(moment)!, a.GetValue(swaps)!), cancel),
                m => Tables.Say(
                    $"{(m.Made == 1 ? "1 notice goes" : $"{m.Made} notices go")} again.{string.Concat(m.Skipped.Select(s => "\n" + s))}")),
            Call.Command(
                "preview",
                "How a notice would read for a person.",
                "yardline notice preview day-before autumn-0012 --language de --file ours.md",
                [moment, swap, language, file],
                (c, r, a, cancel) => c.PreviewNoticeAsync(
                    r,
                    new(
                        a.GetValue(moment)!,
                        a.GetValue(language)!,
                        a.GetValue(swap)!,
                        a.GetValue(file) is { } f ? File.ReadAllText(f) : null),
                    cancel),
                p => Tables.Say(p.Problems.Count > 0 ? string.Join('\n', p.Problems) : $"Subject: {p.Subject}\n\n{p.Plain.TrimEnd()}")),
            Call.Command(
                "text",
                "Sets the refresh's own text for a moment; checked as it is written.",
                "yardline notice text day-before --language de --file ours.md",
                [moment, language, file],
                (c, r, a, cancel) => c.SetNoticeTextAsync(
                    r, a.GetValue(moment)!, a.GetValue(language)!, a.GetValue(file) is { } f ? File.ReadAllText(f) : "", cancel),
                t => Tables.Say($"{t.Moment} in {t.Language} is {(t.IsOwn ? "your own text" : "the text that ships")} now.")),
            Call.Command(
                "came",
                "Takes a mail that came back for a notice: a delivery report (RFC 3464), or the person's answer, which becomes a question "
                    + "of theirs.",
                "yardline notice came mail.eml",
                [report],
                (c, r, a, cancel) => c.TakeMailAsync(r, a.GetValue(report) is { } f and not "-" ? File.ReadAllBytes(f) : Input(), cancel),
                m => Tables.Say(m.Kind == "report" ? $"The notice to {m.Name}: {m.Words}." : $"{m.Name} asks: {m.Words}")),
        };
    }

    private static async Task<Result<ToldPage>> ToldAsync(
        YardClient client, string refresh, string? wave, Func<ToldSeen, bool> which, CancellationToken cancel) =>
        (await client.ToldAsync(refresh, wave, cancel)).TryGet(out var told, out var problem)
            ? told with { People = [.. told.People.Where(which)] }
            : problem;

    private static byte[] Input()
    {
        using var all = new MemoryStream();
        Surroundings.Here.In.CopyTo(all);
        return all.ToArray();
    }

    private static string At(DateTimeOffset? at) => at is { } when ? $"{when.OnClock():ddd d MMM HH:mm}" : "";

    private static void ShowTold(ToldPage told)
    {
        var all = told.People;
        Tables.Show(
            ["", "Person", "Site", "Told last", "When", "Next", "Looked", "Ready", "Trouble", "Swap"],
            all.Select(p => new[]
            {
                p.Next?.Why is not null || (p.Mail is null && p.ToldAt is null)
                    ? "■"
                    : p.Trouble is not null
                    ? "▲"
                    : p.IsReady || p.AcceptedAt is not null
                    ? "✓"
                    : p.OpenedAt is not null
                    ? "●"
                    : "○",
                p.Name,
                p.Site,
                p.Last?.Moment ?? (p.ToldAt is null ? "" : "by word of mouth"),
                At(p.Last?.SentAt ?? p.ToldAt),
                p.Next is { Moment: { } moment, Due: { } due } ? $"{moment}, {At(due)}" : "",
                At(p.SeenAt),
                p.IsReady ? "yes" : "",
                p.Trouble ?? p.Next?.Why ?? (p.Mail is null ? "no mail address" : ""),
                p.Swap
            }));
        Tables.Say(told.Since is { } since
            ? $"Told since {since.OnClock():ddd d MMM HH:mm}. {all.Count(p => p.OpenedAt is not null)} of {all.Count} have opened "
                + $"their page, {all.Count(p => p.IsReady)} are ready."
            : $"Nobody is told: {(told.CanSend ? "switch it on with 'yardline notice on'" : "the service has no mail server")}.");
    }

    private static void ShowList(List<NoticeSeen> all) =>
        Tables.Show(
            ["", "Made", "Person", "Moment", "Subject", "To", "Opened", "Trouble"],
            all.Select(n => new[]
            {
                n.State switch { "sent" => "✓ sent", "waits" => "○ waits", "bounced" => "■ bounced", var other => $"▲ {other}" },
                At(n.MadeAt),
                n.Name,
                n.Moment,
                n.Subject,
                n.To,
                At(n.OpenedAt),
                n.Trouble ?? ""
            }));
}
