using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

public sealed class SqliteSecondFactorTests(OnSqlite service) : SecondFactorSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSecondFactorTests(OnPostgres service) : SecondFactorSuite(service), IClassFixture<OnPostgres>;

/// <summary>Passkeys and recovery codes beside passwords. On every database.</summary>
public abstract class SecondFactorSuite(RunningService service) : IDisposable
{
    private readonly SoftPasskey _passkey = new(service.Kit.BaseAddress!);

    public void Dispose() => _passkey.Dispose();

    private static async Task<T> OkAsync<T>(Task<HttpResponseMessage> asked)
    {
        var answer = await asked;
        answer.IsSuccessStatusCode.ShouldBeTrue(await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<T>(RunningService.Json))!;
    }

    private static async Task<string> RefusedAsync(Task<HttpResponseMessage> asked, int status) =>
        (string)(await RunningService.ProblemAsync(await asked, status))["code"]!;

    private static Task<HttpResponseMessage> InAsync(HttpClient browser, string name) =>
        browser.PostAsJsonAsync("api/sessions", new SignIn(name, RunningService.Password));

    private static async Task<SecondWanted> WantedAsync(HttpClient browser, string name)
    {
        var answer = await InAsync(browser, name);
        answer.StatusCode.ShouldBe(HttpStatusCode.Accepted);
        (await browser.GetAsync("api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized, "the password alone opens nothing");
        return (await answer.Content.ReadFromJsonAsync<SecondWanted>(RunningService.Json))!;
    }

    private static async Task<PasskeyMade> AddAsync(HttpClient browser, SoftPasskey passkey)
    {
        var begun = await OkAsync<PasskeyBegun>(
            browser.PostAsJsonAsync("api/me/passkeys/begin", new PasskeyBegin(RunningService.Password)));
        return await OkAsync<PasskeyMade>(
            browser.PostAsJsonAsync("api/me/passkeys", new PasskeyWanted(begun.Ticket, "Key ring", passkey.Make(begun.Passkey))));
    }

    /// <summary>A browser that is signed in by an account which has just got its first passkey.</summary>
    private async Task<(HttpClient Browser, PasskeyMade Made)> WithPasskeyAsync(string name, string role = "coordinator")
    {
        await service.AccountAsync(name, role);
        var browser = service.Browser();
        (await InAsync(browser, name)).StatusCode.ShouldBe(HttpStatusCode.OK);
        return (browser, await AddAsync(browser, _passkey));
    }

    private static Task<HttpResponseMessage> SecondAsync(HttpClient browser, SecondWanted wanted, SoftPasskey passkey) =>
        browser.PostAsJsonAsync("api/sessions/second", new SecondShown(wanted.Ticket, passkey.Show(wanted.Passkey)));

    [Fact]
    public async Task Who_has_a_passkey_gets_in_with_it_and_by_the_password_alone_nowhere()
    {
        var program = await service.AccountAsync("key-in", "coordinator");
        var old = service.Browser();
        (await InAsync(old, "key-in")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var (first, _) = await WithPasskeyAsync("key-in");
        // What was signed in by the password alone is out.
        foreach (var before in new[] { program, old }) (await before.GetAsync("api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await OkAsync<Me>(first.GetAsync("api/me"))).IsSecond.ShouldBeTrue();
        (await RefusedAsync(
            service.Nobody().PostAsJsonAsync("api/tokens", new NewToken("key-in", RunningService.Password, "a program")), 409))
            .ShouldBe("second.in-browser");

        var browser = service.Browser();
        var wanted = await WantedAsync(browser, "key-in");
        (await OkAsync<Me>(SecondAsync(browser, wanted, _passkey))).IsSecond.ShouldBeTrue();
        (await browser.GetAsync("api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        // The same answer again, however whole it is, opens nothing.
        var thief = service.Browser();
        (await RefusedAsync(SecondAsync(thief, wanted, _passkey), 409)).ShouldBe("second.late");
    }

    [Fact]
    public async Task What_is_not_the_accounts_own_passkey_for_this_page_and_this_moment_is_none()
    {
        await WithPasskeyAsync("key-wrong");
        using var others = new SoftPasskey(service.Kit.BaseAddress!);
        await service.AccountAsync("key-others", "coordinator");
        var theirs = service.Browser();
        await InAsync(theirs, "key-others");
        await AddAsync(theirs, others);
        using var elsewhere = new SoftPasskey(new("https://yard.evil.example"));

        async Task<string> TryAsync(Func<SecondWanted, SecondShown> show, int status)
        {
            var browser = service.Browser();
            return await RefusedAsync(
                browser.PostAsJsonAsync("api/sessions/second", show(await WantedAsync(browser, "key-wrong"))), status);
        }

        (await TryAsync(w => new(w.Ticket, others.Show(w.Passkey)), 401)).ShouldBe("second.wrong");
        (await TryAsync(w => new(w.Ticket, elsewhere.Show(w.Passkey)), 401)).ShouldBe("second.wrong");
        (await TryAsync(w => new(w.Ticket, JsonSerializer.SerializeToElement(new { id = "made-up" })), 401)).ShouldBe("second.wrong");
        (await TryAsync(w => new(w.Ticket), 401)).ShouldBe("second.wrong");
        (await TryAsync(w => new("made-up", _passkey.Show(w.Passkey)), 409)).ShouldBe("second.late");
        // What was asked of another account is not answered here.
        var between = service.Browser();
        var theirWanted = await WantedAsync(between, "key-others");
        (await TryAsync(w => new(w.Ticket, _passkey.Show(theirWanted.Passkey)), 401)).ShouldBe("second.wrong");
        // Asked too long ago, or before another password.
        (await TryAsync(w =>
        {
            service.Clock.Jump(TimeSpan.FromMinutes(6));
            return new(w.Ticket, _passkey.Show(w.Passkey));
        }, 409)).ShouldBe("second.late");
        // One that was copied: its copy was used more often than this.
        var copied = service.Browser();
        await OkAsync<Me>(SecondAsync(copied, await WantedAsync(copied, "key-wrong"), _passkey));
        _passkey.Count = 0;
        (await TryAsync(w => new(w.Ticket, _passkey.Show(w.Passkey)), 401)).ShouldBe("second.wrong");
    }

    [Fact]
    public async Task A_recovery_code_opens_once_and_guesses_at_them_are_few()
    {
        var (browser, made) = await WithPasskeyAsync("key-lost");
        made.Codes!.Count.ShouldBe(10);
        made.Codes.Distinct().Count().ShouldBe(10);
        Task<HttpResponseMessage> CodeAsync(HttpClient by, SecondWanted wanted, string code) =>
            by.PostAsJsonAsync("api/sessions/second", new SecondShown(wanted.Ticket, Code: code));
        var other = service.Browser();
        var wanted = await WantedAsync(other, "key-lost");
        wanted.CodesLeft.ShouldBe(10);
        // However it is typed.
        (await OkAsync<Me>(CodeAsync(other, wanted, made.Codes[0].ToLowerInvariant().Replace("-", " ")))).IsSecond.ShouldBeTrue();
        var again = service.Browser();
        (await RefusedAsync(CodeAsync(again, await WantedAsync(again, "key-lost"), made.Codes[0]), 401)).ShouldBe("second.wrong");
        // New ones take the place of all before.
        var codes = (await OkAsync<RecoveryCodes>(browser.PostAsync("api/me/recovery-codes", null))).Codes;
        (await RefusedAsync(CodeAsync(again, await WantedAsync(again, "key-lost"), made.Codes[1]), 401)).ShouldBe("second.wrong");
        await OkAsync<Me>(CodeAsync(other = service.Browser(), await WantedAsync(other, "key-lost"), codes[0]));
        for (var i = 0; i < 8; i++) await CodeAsync(again, await WantedAsync(again, "key-lost"), "BCDF-GHJK-MNPQ");
        (await RefusedAsync(CodeAsync(again, await WantedAsync(again, "key-lost"), codes[1]), 429)).ShouldBe("account.locked");
    }

    [Fact]
    public async Task A_session_by_the_password_alone_adds_none_without_it_and_takes_none_away()
    {
        await service.AccountAsync("key-safe", "auditor");
        var browser = service.Browser();
        await InAsync(browser, "key-safe");
        (await RefusedAsync(browser.PostAsJsonAsync("api/me/passkeys/begin", new PasskeyBegin("not-that-one-at-all")), 403))
            .ShouldBe("account.password-now");
        (await RefusedAsync(browser.PostAsJsonAsync("api/me/passkeys/begin", new PasskeyBegin(null)), 403))
            .ShouldBe("account.password-now");
        var made = await AddAsync(browser, _passkey);
        foreach (var name in new[] { "", "My\u202Ekey", new string('n', 61) })
            (await RefusedAsync(
                browser.PostAsJsonAsync("api/me/passkeys", new PasskeyWanted("any", name, JsonSerializer.SerializeToElement(1))), 422))
                .ShouldBe("passkey.name");
        // A ticket of one browser is nothing in another, nor the same one again.
        var begun = await OkAsync<PasskeyBegun>(
            browser.PostAsJsonAsync("api/me/passkeys/begin", new PasskeyBegin(RunningService.Password)));
        using var more = new SoftPasskey(service.Kit.BaseAddress!);
        var answer = new PasskeyWanted(begun.Ticket, "More", more.Make(begun.Passkey));
        await service.AccountAsync("key-thief", "auditor");
        var thief = service.Browser();
        await InAsync(thief, "key-thief");
        (await RefusedAsync(thief.PostAsJsonAsync("api/me/passkeys", answer), 409)).ShouldBe("second.late");
        await OkAsync<PasskeyMade>(browser.PostAsJsonAsync("api/me/passkeys", answer));
        (await RefusedAsync(browser.PostAsJsonAsync("api/me/passkeys", answer), 400)).ShouldBe("passkey.wrong");
        (await RefusedAsync(thief.DeleteAsync($"api/me/passkeys/{made.Id}"), 409)).ShouldBe("second.needed");
        (await RefusedAsync(thief.PostAsync("api/me/recovery-codes", null), 409)).ShouldBe("second.needed");
        (await browser.DeleteAsync($"api/me/passkeys/{made.Id}")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await OkAsync<PasskeysSeen>(browser.GetAsync("api/me/passkeys"))).Passkeys.Single().Name.ShouldBe("More");
        // Lost, all of them: a coordinator takes them away, and the password lets in again.
        (await service.Kit.DeleteAsync("api/accounts/key-safe/passkeys")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await browser.GetAsync("api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await InAsync(browser, "key-safe")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await RefusedAsync(service.Kit.DeleteAsync("api/accounts/key-safe/passkeys"), 409)).ShouldBe("passkey.none");
        (await browser.GetAsync("api/me")).StatusCode.ShouldBe(HttpStatusCode.OK, "nobody is signed out where there was nothing to take");
    }

    [Fact]
    public async Task A_refresh_that_asks_for_one_opens_to_nobody_who_works_there_without()
    {
        var refresh = await service.RefreshAsync();
        var (lead, _) = await WithPasskeyAsync("key-lead");
        await service.AccountAsync("key-none", "auditor");
        var auditor = service.Browser();
        await InAsync(auditor, "key-none");
        (await RefusedAsync(service.Kit.PutAsJsonAsync($"api/refreshes/{refresh}/second", new SecondAsk(true)), 409))
            .ShouldBe("second.own");
        (await auditor.GetAsync($"api/refreshes/{refresh}/swaps")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await OkAsync<RefreshSeen>(lead.PutAsJsonAsync($"api/refreshes/{refresh}/second", new SecondAsk(true)))).AsksSecond.ShouldBeTrue();
        foreach (var path in new[] { $"refreshes/{refresh}/swaps", $"refreshes/{refresh}/today", $"swaps/{refresh}-0001" })
            foreach (var without in new[] { auditor, service.Kit })
                (await RefusedAsync(without.GetAsync($"api/{path}"), 403)).ShouldBe("second.asked");
        (await lead.GetAsync($"api/swaps/{refresh}-0001")).StatusCode.ShouldBe(HttpStatusCode.OK);
        // Whoever adds one goes on at once, in the session that they have.
        using var theirs = new SoftPasskey(service.Kit.BaseAddress!);
        await AddAsync(auditor, theirs);
        (await auditor.GetAsync($"api/refreshes/{refresh}/swaps")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await lead.PutAsJsonAsync($"api/refreshes/{refresh}/second", new SecondAsk(false))).EnsureSuccessStatusCode();
        (await service.Kit.GetAsync($"api/refreshes/{refresh}/swaps")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_program_is_let_in_once_by_a_browser_that_is_signed_in_itself()
    {
        var (browser, _) = await WithPasskeyAsync("key-program");
        var program = service.Nobody();
        async Task<Asking> AskAsync() =>
            await OkAsync<Asking>(program.PostAsJsonAsync("api/tokens/askings", new AskingWanted("yardline on PC-7")));
        Task<HttpResponseMessage> FetchAsync(Asking asking) =>
            program.PostAsJsonAsync("api/tokens/fetch", new AskingFetch(asking.Secret));

        var asking = await AskAsync();
        (await FetchAsync(asking)).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        (await OkAsync<AskingSeen>(browser.GetAsync($"api/tokens/askings/{asking.Code.ToLowerInvariant()}"))).Label
            .ShouldBe("yardline on PC-7");
        (await browser.PostAsync($"api/tokens/askings/{asking.Code}/let-in", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await RefusedAsync(browser.PostAsync($"api/tokens/askings/{asking.Code}/let-in", null), 404)).ShouldBe("asking.over");
        var made = await OkAsync<TokenMade>(FetchAsync(asking));
        (made.Me.Name, made.Me.IsSecond).ShouldBe(("key-program", true));
        (await RefusedAsync(FetchAsync(asking), 404)).ShouldBe("asking.over");

        var refused = await AskAsync();
        (await browser.DeleteAsync($"api/tokens/askings/{refused.Code}")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await RefusedAsync(FetchAsync(refused), 404)).ShouldBe("asking.over");
        // Let in by somebody who is out before it is fetched.
        var late = await AskAsync();
        (await browser.PostAsync($"api/tokens/askings/{late.Code}/let-in", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await browser.DeleteAsync("api/sessions/current")).EnsureSuccessStatusCode();
        (await RefusedAsync(FetchAsync(late), 404)).ShouldBe("asking.over");
        var over = await AskAsync();
        service.Clock.Jump(TimeSpan.FromMinutes(11));
        (await RefusedAsync(FetchAsync(over), 404)).ShouldBe("asking.over");
    }
}
