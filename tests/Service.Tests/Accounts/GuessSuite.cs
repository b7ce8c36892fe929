using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteGuessTests(OnSqlite service) : GuessSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresGuessTests(OnPostgres service) : GuessSuite(service), IClassFixture<OnPostgres>;

/// <summary>Whoever guesses at passwords gets few tries and learns nothing, and keeps nobody out. On every database.</summary>
public abstract class GuessSuite(RunningService service)
{
    private const int Most = 10;

    private async Task<int[]> GuessAsync(string name, int times) => [.. (await Task.WhenAll(Enumerable.Range(0, times).Select(
        _ => service.Browser().PostAsJsonAsync("api/sessions", new SignIn(name, "not-that-one-at-all"))))).Select(a => (int)a.StatusCode)];

    private static async Task<int> RightAsync(HttpClient device, string name) =>
        (int)(await device.PostAsJsonAsync("api/sessions", new SignIn(name, RunningService.Password))).StatusCode;

    [Fact]
    public async Task Of_many_guesses_at_once_few_are_looked_at_and_who_was_in_before_goes_on()
    {
        await service.AccountAsync("lockme", "auditor");
        var (known, strange) = (service.Browser(), service.Browser());
        (await RightAsync(known, "lockme")).ShouldBe(200);
        var program = (await (await service.Nobody().PostAsJsonAsync("api/tokens", new NewToken("lockme", RunningService.Password, "a")))
            .Content.ReadFromJsonAsync<TokenMade>(RunningService.Json))!;
        // Of a name that nobody has, the same is said as often.
        foreach (var name in new[] { "lockme", "nobody-of-that-name" })
        {
            var said = await GuessAsync(name, 3 * Most);
            said.ShouldBe(Enumerable.Repeat(401, Most).Concat(Enumerable.Repeat(429, 2 * Most)), ignoreOrder: true, name);
        }
        (await RightAsync(strange, "lockme")).ShouldBe(429);
        (await RightAsync(known, "lockme")).ShouldBe(200);
        (await service.Nobody().PostAsJsonAsync("api/tokens", new NewToken("lockme", RunningService.Password, "b", program.Device)))
            .StatusCode.ShouldBe(HttpStatusCode.OK);
        // A mark of another account's, or one that somebody made up, is none.
        (await service.Nobody().PostAsJsonAsync("api/tokens", new NewToken("lockme", RunningService.Password, "c", "made-up")))
            .StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
        await service.AccountAsync("other", "auditor");
        var others = service.Browser();
        (await RightAsync(others, "other")).ShouldBe(200);
        (await RightAsync(others, "lockme")).ShouldBe(429);

        service.Clock.Jump(TimeSpan.FromMinutes(16));
        (await RightAsync(strange, "lockme")).ShouldBe(200);
        (await service.WithRecordsAsync(db => db.Guesses.CountAsync())).ShouldBeLessThan(8, "what nobody counts any more goes");
    }

    [Fact]
    public async Task Who_is_signed_in_cannot_guess_at_the_password_either()
    {
        var program = await service.AccountAsync("ines", "auditor");
        for (var i = 0; i < Most; i++)
            await RunningService.ProblemAsync(
                await program.PutAsJsonAsync("api/me/password", new PasswordChange("not-that-one-at-all", "quite-another")), 403);
        await RunningService.ProblemAsync(
            await program.PutAsJsonAsync("api/me/password", new PasswordChange(RunningService.Password, "quite-another")), 429);
        (await RightAsync(service.Browser(), "ines")).ShouldBe(200);
    }

    [Theory]
    [InlineData("elevenchars", "account.password")]
    [InlineData("Password2026!", "account.password-common")]
    [InlineData("p4ssw0rd!!!!", "account.password-common")]
    [InlineData("qwertyuiop123", "account.password-common")]
    [InlineData("123456789012", "account.password-common")]
    [InlineData("aaaaaaaaaaaaaa", "account.password-common")]
    [InlineData("WelcomeWelcome", "account.password-common")]
    [InlineData("abcabcabcabc", "account.password-common")]
    [InlineData("marthe-winter-2026", null)]
    [InlineData("four words that fit", null)]
    [InlineData("Marthe.Olsen1", "account.password-common")]
    public async Task A_password_is_long_and_none_of_the_first_that_are_tried(string password, string? code)
    {
        var answer = await service.Kit.PutAsJsonAsync("api/accounts/marthe-olsen", new AccountWanted("Marthe", "auditor", password, []));
        if (code is null) answer.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        else ((string?)(await RunningService.ProblemAsync(answer, 422))["code"]).ShouldBe(code);
    }
}
