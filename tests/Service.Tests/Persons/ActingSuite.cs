using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteActingTests(OnSqlite service) : ActingSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresActingTests(OnPostgres service) : ActingSuite(service), IClassFixture<OnPostgres>;

/// <summary>
/// Who works here acts as themselves, never as the person; and what is done by a link that went through their hands says so.
/// </summary>
public abstract class ActingSuite(RunningService service) : OwnPages(service)
{
    private async Task<string> LastWordsAsync(string refresh, string kind) =>
        (await OkAsync<Page<LedgerEntrySeen>>(Kit.GetAsync($"api/refreshes/{refresh}/ledger?limit=1000"))).Items
            .Last(e => e.Json.Contains($"\"kind\":\"{kind}\"", StringComparison.Ordinal)).Words;

    [Fact]
    public async Task What_is_done_by_a_link_that_was_handed_over_says_whose_hands_it_went_through()
    {
        var refresh = await MorningAsync();
        var device = Service.Browser();
        (await OpenAsync(device, await HandedSecretAsync($"{refresh}-0001"))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await LastWordsAsync(refresh, "person.link-made")).ShouldBe("kit made a personal link for Ida Moreau to hand over");
        (await LastWordsAsync(refresh, "person.page-opened"))
            .ShouldBe("The page of Ida Moreau was opened by the link that kit handed over");
        await OkAsync<PersonPage>(PostAsync(device, "words", new PersonSays("time", "I am away that day")));
        (await OkAsync<SwapSeen>(Kit.GetAsync($"api/swaps/{refresh}-0001"))).FollowUps!.ShouldContain(
            f => f.MadeBy == "Ida Moreau (by a link that kit handed over)");
        await HandedSecretAsync($"{refresh}-0001");
        (await LastWordsAsync(refresh, "person.link-made")).ShouldEndWith("to hand over, beside 1 before");
    }

    [Fact]
    public async Task Where_somebody_who_works_here_is_signed_in_a_link_opens_nothing_and_stays_whole()
    {
        var refresh = await MorningAsync();
        var secret = await SecretAsync($"{refresh}-0001");
        var device = Service.Browser();
        (await device.PostAsJsonAsync("api/sessions", new SignIn("noor", RunningService.Password))).EnsureSuccessStatusCode();
        (await RefusedAsync(OpenAsync(device, secret), 409)).ShouldContain("noor is signed in on this device");
        (await device.GetAsync("api/person")).IsSuccessStatusCode.ShouldBeFalse();
        (await device.DeleteAsync("api/sessions/current")).EnsureSuccessStatusCode();
        (await OpenAsync(device, secret)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task A_link_by_mail_is_shown_to_nobody_and_needs_an_address()
    {
        var refresh = await MorningAsync();
        (await RefusedAsync(PostAsync($"swaps/{refresh}-0001/person-links", new PersonLinkWanted("mail")), 409)).ShouldContain("mail");
        await RefusedAsync(PostAsync($"swaps/{refresh}-0001/person-links", new PersonLinkWanted("shown")), 422);
    }
}
