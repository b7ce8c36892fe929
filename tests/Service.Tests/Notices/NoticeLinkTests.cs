using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Service.Notices;

namespace YardRelay.Service.Tests;

/// <summary>A mail leads where people may be led, whoever wrote its text.</summary>
public sealed class NoticeLinkTests(OnSqlite service) : IClassFixture<OnSqlite>
{
    [Theory]
    [InlineData("See [our page](https://kestrelbay.example/refresh).", true)]
    [InlineData("Write to [us](mailto:refresh@kestrelbay.example) or <refresh@kestrelbay.example>.", true)]
    [InlineData("Your page: {link}, or [here]({link}).", true)]
    [InlineData("See [our page](javascript:alert(1)).", false)]
    [InlineData("See [our page](JavaScript&colon;alert(1)).", false)]
    [InlineData("See [our page](http://kestrelbay.example).", false)]
    [InlineData("See http://elsewhere.example now.", false)]
    [InlineData("See <ftp://elsewhere.example/x> now.", false)]
    [InlineData("See [our page](data:text/html,x).", false)]
    [InlineData("See [our page](//elsewhere.example).", false)]
    [InlineData("![seen](https://elsewhere.example/seen.png)", false)]
    [InlineData("See [our page][1].\n\n[1]: javascript:alert(1)", false)]
    public async Task A_text_leads_to_https_and_mailto_only_and_shows_no_pictures(string text, bool isTaken)
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var answer = await service.Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/notice-texts/announced/en", new NoticeTextWanted($"Subject\n\nHello {{name}}. {text}"));
        if (isTaken) answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync());
        else ((string?)(await RunningService.ProblemAsync(answer, 422))["code"]).ShouldBe("notices.link");
        // One that was set before, or that a value brings along, leads nowhere and still says what it says.
        const string Page = "http://127.0.0.1:8420/my#secret";
        var html = NoticeMail.Html($"Hello. {text.Replace("{link}", Page)}", Page);
        string[] none = ["href=\"javascript", "href=\"http://k", "href=\"http://e", "href=\"ftp", "href=\"data", "href=\"//", "<img"];
        foreach (var strange in none)
            html.ShouldNotContain(strange, Case.Insensitive);
        html.ShouldContain("Hello.");
        if (text.Contains("our page", StringComparison.Ordinal)) html.ShouldContain("our page");
        if (text.Contains("{link}", StringComparison.Ordinal)) html.ShouldContain($"<a href=\"{Page}\">here</a>");
    }
}
