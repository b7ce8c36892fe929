using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using MimeKit;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>People are told by mail: over SMTP to the stand-in that ships, through the command line and the person's page.</summary>
public sealed class NoticeTests : IDisposable
{
    private readonly Yard _yard = new();
    private int _port;
    private int _inbox;

    private TempFolder Folder => _yard.Folder;

    private List<MimeMessage> Mails() => [.. Directory.GetFiles(Folder.Make("mail"), "*.eml").Order().Select(f => MimeMessage.Load(f))];

    private async Task<List<MimeMessage>> UntilMailsAsync(int count)
    {
        await _yard.UntilAsync(_ => Task.FromResult(Mails().Count >= count), $"{count} mails have come");
        return Mails();
    }

    private static string TextOf(MimeMessage mail) => mail.TextBody!.ReplaceLineEndings("\n");

    private static string? CalendarOf(MimeMessage mail) =>
        mail.BodyParts.OfType<TextPart>()
            .FirstOrDefault(p =>
                p.ContentType.IsMimeType("text", "calendar"))?.Text.ReplaceLineEndings("\n").Replace("\n ", "", StringComparison.Ordinal);

    private async Task StartAsync(string scheme, params string[] sink)
    {
        (_port, _inbox) = (Ports.Free(), Ports.Free());
        _yard.Start("yardstand", ["mail", "--folder", Folder.Make("mail"), "--port", $"{_port}", .. sink]);
        // The service trusts the stand-in's certificate as it would one of the organisation's own.
        if (sink.Contains("--starttls"))
        {
            await _yard.UntilAsync(_ => Task.FromResult(File.Exists(Folder["mail/server.pem"])), "the mail server has its certificate");
            _yard.More["SSL_CERT_FILE"] = Folder["mail/server.pem"];
        }
        // Nobody is written to on a weekend, nor at night.
        _yard.PractiseWednesdayMorning();
        _yard.Start(
            "yardrelay", "--clock", _yard.ClockFile, "--urls", _yard.Address, "--state", Folder["state"], "--first",
            "kit:kestrel-bay-ferries", "--log", "Error", "--mail", $"{scheme}://127.0.0.1:{_port}", "--mail-from",
            "refresh@kestrelbay.example", "--mail-in", $"127.0.0.1:{_inbox}", "--address", _yard.Address);
        await _yard.UntilAsync(
            async http => (await http.GetAsync(new Uri(_yard.Address + "/health/ready"))).IsSuccessStatusCode, "the service is ready");
        await File.WriteAllTextAsync(
            Folder["roster.csv"],
            "person,name,mail,site,room,kind,old_tag,new_tag\nk1,Ida <b>Moreau</b>,ida@kestrelbay.example,North Quay,Ticket "
                + "hall,renew,KB-1,KB-11\nk2,Sol Okafor,gone@kestrelbay.example,North Quay,Desk 4,renew,KB-2,KB-12\nk3,Per Lunde,,North "
                + "Quay,Desk 5,renew,KB-3,KB-13\n");
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", $"{_yard.Today.AddDays(7):yyyy-MM-dd}", "--days", "10", "--zone",
            "UTC");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        _yard.Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "daily 08:00-18:00");
        _yard.Line("notice", "on").ShouldContain("are told by mail since");
    }

    [Fact]
    public async Task People_are_announced_booked_moved_and_called_off_each_once_with_an_invitation_that_follows()
    {
        await StartAsync("smtp", "--starttls", "--refuse", "gone@kestrelbay.example", "--busy", "1");
        await _yard.UntilAsync(
            _ => Task.FromResult(_yard.Line("notice", "list").Contains("come back later", StringComparison.Ordinal)),
            "the server has no time");
        Settle();
        // The server first has no time, then takes it; an address that is gone is a bounce, and a fact.
        var announced = (await UntilMailsAsync(1))[0];
        (announced.Subject, announced.To.Mailboxes.Single().Name).ShouldBe(("Spring: your computer will be changed", "Ida <b>Moreau</b>"));
        announced.HtmlBody!.ShouldContain("Hello Ida &lt;b&gt;Moreau&lt;/b&gt;");
        TextOf(announced).ShouldStartWith("Hello Ida <b>Moreau</b>,");
        announced.Headers["Auto-Submitted"].ShouldBe("auto-generated");
        var told = _yard.Line("notice", "told");
        told.ShouldContain("550");
        told.ShouldContain("no mail address");
        // The link in it opens the page, and that is seen.
        var link = Regex.Match(TextOf(announced), @"http://\S+/my#\S+").Value;
        link.ShouldNotBeEmpty(TextOf(announced));
        announced.HtmlBody!.ShouldContain($"<a href=\"{link}\">");
        using var device = new HttpClient { DefaultRequestHeaders = { { "Origin", _yard.Address } } };
        (await device.PostAsync(
            new Uri(_yard.Address + "/api/person/session"),
            new StringContent(
                $"{{\"secret\":\"{link.Split('#')[1]}\"}}", System.Text.Encoding.UTF8, "application/json"))).EnsureSuccessStatusCode();
        _yard.Line("notice", "told", "--not-opened").ShouldNotContain("Ida");

        _yard.Line("plan", "make", "--steps", "100");
        _yard.Line("plan", "publish");
        // Whoever shuffles is left ten minutes; here they are over at once.
        Settle();
        var booked = (await UntilMailsAsync(2))[1];
        booked.Subject.ShouldStartWith("Your new computer: ");
        // Where a time is told it is said whose clocks are meant, and only there.
        TextOf(booked).ShouldContain("Times: UTC");
        TextOf(announced).ShouldNotContain("Times:");
        var invitation = CalendarOf(booked)!;
        invitation.ShouldContain("METHOD:REQUEST");
        invitation.ShouldContain("UID:spring-0001@spring.yardrelay.example");
        invitation.ShouldContain("mailto:ida@kestrelbay.example");
        var sequence = int.Parse(Regex.Match(invitation, @"SEQUENCE:(\d+)").Groups[1].Value);
        // Told is told: the swap's station, its step, the page Told; and who hears nothing by mail is to be called.
        var seen = JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!;
        var station = seen["swap"]!["line"]![0]!["at"].ShouldNotBeNull(_yard.Said).ToString();
        seen["checklist"]!.ToJsonString().ShouldContain("\"by\":\"a mail\"");
        var people = JsonNode.Parse(_yard.Line("notice", "told", "--json"))!["people"]!.AsArray();
        people.Single(p => (string?)p!["swap"] == "spring-0001")!["toldAt"]!.ToString().ShouldBe(station);
        var per = people.Single(p => ((string)p!["name"]!).StartsWith("Per", StringComparison.Ordinal))!;
        (per["toldAt"], (string?)per["next"]!["why"]).ShouldBe((null, "no mail address is known"));
        _yard.Line("notice", "preview", "moved", "spring-0001", "--language", "de")
            .ShouldContain("Geändert: Ihr neuer Computer kommt jetzt am");

        _yard.Line("swap", "edit", "spring-0001", "--pin", $"{Appointment().AddDays(1).UtcDateTime:yyyy-MM-dd HH:mm}");
        _yard.Line("plan", "make", "--steps", "100");
        _yard.Line("plan", "publish");
        Settle();
        var moved = (await UntilMailsAsync(3))[2];
        moved.Subject.ShouldStartWith("Changed: your new computer now comes on ");
        int.Parse(Regex.Match(CalendarOf(moved)!, @"SEQUENCE:(\d+)").Groups[1].Value).ShouldBeGreaterThan(sequence);

        _yard.Line("detour", "call-off", "spring-0001", "--why", "Her desk moves");
        Settle();
        var off = (await UntilMailsAsync(4))[3];
        off.Subject.ShouldBe("Called off: you keep your computer");
        CalendarOf(off)!.ShouldContain("METHOD:CANCEL");
        Mails().Select(m => m.MessageId).Distinct().Count().ShouldBe(4);
        _yard.Line("notice", "list", "--swap", "spring-0001")
            .Split('\n')
            .Count(l => l.Contains("✓ sent", StringComparison.Ordinal))
            .ShouldBe(4);
        _yard.Line("ledger", "check");
    }

    [Fact]
    public async Task A_server_without_encryption_gets_nothing_and_a_delivery_report_is_a_fact()
    {
        await StartAsync("smtp");
        await _yard.UntilAsync(
            _ => Task.FromResult(_yard.Line("notice", "list").Contains("could not be used", StringComparison.Ordinal)),
            "the server is not used");
        Mails().ShouldBeEmpty();
        var id = System.Text.Json.Nodes.JsonNode.Parse(_yard.Line(
            "notice", "list", "--swap", "spring-0001", "--json"))![0]!["id"]!.GetValue<string>();
        await File.WriteAllTextAsync(Folder["report.eml"], string.Join("\r\n",
            "From: MAILER-DAEMON@kestrelbay.example",
            "To: refresh@kestrelbay.example",
            "Subject: Undelivered",
            "MIME-Version: 1.0",
            "Content-Type: multipart/report; report-type=delivery-status; boundary=b",
            "",
            "--b", "Content-Type: text/plain", "", "It did not arrive.", "--b", "Content-Type: message/delivery-status", "",
            "Reporting-MTA: dns; kestrelbay.example", "", "Final-Recipient: rfc822; ida@kestrelbay.example", "Action: failed",
            "Status: 5.1.1", "Diagnostic-Code: smtp; 550 no such box", "",
            "--b", "Content-Type: message/rfc822", "", $"Message-ID: <{id}@spring.yardrelay.example>", "Subject: x", "", "x", "--b--", ""));
        _yard.Line("notice", "came", Folder["report.eml"]).ShouldContain("bounced, 5.1.1");
        _yard.TryLine("notice", "came", Folder["roster.csv"]).All.ShouldContain("no mail");
        await File.WriteAllTextAsync(Folder["ours.md"], "# Soon\n\nHello {nmae}");
        var wrong = _yard.TryLine("notice", "text", "announced", "--file", Folder["ours.md"]);
        (wrong.Exit, wrong.All).ShouldSatisfyAllConditions(w => w.Exit.ShouldBe(1), w => w.All.ShouldContain("'{nmae}' is no field"));
    }

    [Fact]
    public async Task A_person_answers_a_mail_and_the_answer_to_that_comes_by_mail_and_stands_on_their_page()
    {
        await StartAsync("smtp+plain");
        var announced = (await UntilMailsAsync(2)).Single(m => m.To.ToString().Contains("ida@", StringComparison.Ordinal));
        await SendAsync(
            "ida@kestrelbay.example",
            announced.MessageId,
            "Does my scanner come along?\n<b>I need it.</b>\n\nOn Monday the crew wrote:\n> Hello Ida\n");
        _yard.Line("follow-up", "list").ShouldSatisfyAllConditions(
            l => l.ShouldContain("asks: Does my scanner come along? <b>I need it.</b>"), l => l.ShouldNotContain("Hello Ida"));
        // The same once more is no second question; what comes from elsewhere, from a program or for nobody here is refused.
        await SendAsync("ida@kestrelbay.example", announced.MessageId, "Does my scanner come along?\n<b>I need it.</b>");
        await RefusedAsync("eve@kestrelbay.example", announced.MessageId, "Wipe it all.");
        await RefusedAsync("ida@kestrelbay.example", "made-up@spring.yardrelay.example", "Hello?");
        await RefusedAsync("ida@kestrelbay.example", announced.MessageId, "I am away.", mail =>
            mail.Headers.Add("Auto-Submitted", "auto-replied"));
        await RefusedAsync("ida@kestrelbay.example", announced.MessageId, "For them.", mail =>
            mail.To[0] = MailboxAddress.Parse("somebody@kestrelbay.example"));
        var open = System.Text.Json.Nodes.JsonNode.Parse(_yard.Line("follow-up", "list", "--json"))!.AsArray().ShouldHaveSingleItem()!;
        _yard.Line("follow-up", "end", open["id"]!.GetValue<string>(), "Yes, *scanner* and cable.");
        var answer = (await UntilMailsAsync(3))[^1];
        answer.Subject.ShouldBe("Your question is answered");
        TextOf(answer).ShouldSatisfyAllConditions(
            t => t.ShouldContain("you asked: Does my scanner come along? <b>I need it.</b>"),
            t => t.ShouldContain("Yes, *scanner* and cable."),
            t => t.ShouldContain("/my#"));
        answer.HtmlBody!.ShouldNotContain("<b>I need");
        _yard.Line("notice", "list", "--swap", "spring-0001").ShouldContain("answered");

        async Task SendAsync(string from, string? about, string text, Action<MimeMessage>? change = null)
        {
            var mail = new MimeMessage
            {
                Subject = "Re: your new computer",
                InReplyTo = about,
                Body = new TextPart("plain") { Text = text }
            };
            mail.From.Add(MailboxAddress.Parse(from));
            mail.To.Add(MailboxAddress.Parse("refresh@kestrelbay.example"));
            change?.Invoke(mail);
            using var smtp = new MailKit.Net.Smtp.SmtpClient();
            await smtp.ConnectAsync("127.0.0.1", _inbox, MailKit.Security.SecureSocketOptions.None, TestContext.Current.CancellationToken);
            await smtp.SendAsync(mail, TestContext.Current.CancellationToken);
        }

        async Task RefusedAsync(string from, string? about, string text, Action<MimeMessage>? change = null) =>
            ((int)(await Should.ThrowAsync<MailKit.Net.Smtp.SmtpCommandException>(() => SendAsync(from, about, text, change))).StatusCode)
                .ShouldBeGreaterThanOrEqualTo(500);
    }

    [Fact]
    public async Task In_the_morning_once_goes_by_mail_who_is_not_ready_for_the_next_day_with_visits()
    {
        await StartAsync("smtp+plain", "--refuse", "gone@kestrelbay.example");
        List<MimeMessage> Mornings() => [.. Mails().Where(m => m.To.ToString() == "lead@kestrelbay.example")];
        _yard.Line("ready", "mail").ShouldContain("Nobody gets a mail in the morning.");
        var nobody = _yard.TryLine("ready", "mail", "--at", "08:00");
        (nobody.Exit, nobody.All).ShouldSatisfyAllConditions(n => n.Exit.ShouldBe(1), n => n.All.ShouldContain("Say to whom"));
        _yard.TryLine("ready", "mail", "--to", "Lead <lead@kestrelbay.example>").All.ShouldContain("is no mail address");
        _yard.Line("ready", "mail", "--to", "lead@kestrelbay.example", "--at", "08:00").ShouldContain("None went yet");
        // Nothing is booked: there is nothing to say.
        await Task.Delay(TimeSpan.FromSeconds(11), TestContext.Current.CancellationToken);
        Mornings().ShouldBeEmpty();
        _yard.Line("plan", "make", "--steps", "100");
        _yard.Line("plan", "publish");
        await _yard.UntilAsync(_ => Task.FromResult(Mornings().Count == 1), "the mail of the morning has come");
        var mail = Mornings()[0];
        mail.Subject!.ShouldMatch(@"^\w{3} \d+ \w{3}: 3 can still be · Spring$", TextOf(mail));
        TextOf(mail).ShouldSatisfyAllConditions(
            t => t.ShouldContain("3 visits. 0 are ready, 3 can still be, 0 cannot."),
            t => t.ShouldMatch(@"- \d\d:\d\d Per Lunde, North Quay, Desk 5, Noor Haddad: .*[Nn]o mail address"),
            t => t.ShouldContain("Ida <b>Moreau</b>"),
            t => t.ShouldContain("Times are those of UTC."));
        mail.HtmlBody!.ShouldContain($"<a href=\"{_yard.Address}/ready?day={Appointment():yyyy-MM-dd}\">");
        mail.HtmlBody!.ShouldNotContain("<b>Moreau");
        Settle();
        await Task.Delay(TimeSpan.FromSeconds(11), TestContext.Current.CancellationToken);
        Mornings().ShouldHaveSingleItem("it goes once a morning");
        // What the server does not take is said, not swallowed; the next morning it goes again.
        _yard.Line("ready", "mail", "--to", "gone@kestrelbay.example", "--at", "08:00");
        _yard.TryLine("ready", "mail", "--now").ShouldSatisfyAllConditions(
            t => t.Exit.ShouldBe(1), t => t.All.ShouldContain("did not take it"));
        _yard.Jump(TimeSpan.FromDays(1));
        await _yard.UntilAsync(
            _ => Task.FromResult(_yard.Line("ready", "mail").Contains("did not go: ", StringComparison.Ordinal)),
            "it is said that it did not go");
        _yard.Line("ready", "mail", "--to", "lead@kestrelbay.example");
        await _yard.UntilAsync(_ => Task.FromResult(Mornings().Count == 2), "it goes once it can");
        _yard.Line("ready", "mail").ShouldContain("The last one went on");
        _yard.Line("ready", "mail", "--off").ShouldContain("Nobody gets a mail");
        _yard.Line("ledger", "check");
    }

    private DateTimeOffset Appointment() =>
        DateTimeOffset.Parse(System.Text.Json.Nodes.JsonNode.Parse(_yard.Line(
            "swap", "show", "spring-0001", "--json"))!["swap"]!["appointment"]!["start"]!.GetValue<string>());

    /// <summary>What was booked has been so for a while, and a mail server that had no time is asked again.</summary>
    private void Settle() => _yard.Jump(TimeSpan.FromMinutes(11));

    public void Dispose() => _yard.Dispose();
}
