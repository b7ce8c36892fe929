using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>Who gets in: tokens, accounts, sessions.</content>
public sealed partial class YardClient
{
    public Task<Result<TokenMade>> MakeTokenAsync(NewToken wanted, CancellationToken cancel) =>
        PostAsync<TokenMade>("api/tokens", wanted, cancel);

    public Task<Result<Asking>> AskForTokenAsync(AskingWanted wanted, CancellationToken cancel) =>
        PostAsync<Asking>("api/tokens/askings", wanted, cancel);

    /// <summary>The token of a program that asked; null: nobody answered yet.</summary>
    public Task<Result<TokenMade?>> FetchTokenAsync(AskingFetch wanted, CancellationToken cancel) =>
        PostAsync<TokenMade?>("api/tokens/fetch", wanted, cancel);

    public Task<Result<JsonElement>> ForgetPasskeysAsync(string name, CancellationToken cancel) =>
        DeleteAsync($"api/accounts/{E(name)}/passkeys", cancel);

    public Task<Result<RefreshSeen>> AskForSecondAsync(string refresh, bool asked, CancellationToken cancel) =>
        PutAsync<RefreshSeen>($"api/refreshes/{E(refresh)}/second", new SecondAsk(asked), cancel);

    public Task<Result<List<StaffGroup>>> StaffGroupsAsync(CancellationToken cancel) =>
        GetAsync<List<StaffGroup>>("api/staff-groups", cancel);

    public Task<Result<JsonElement>> PutStaffGroupAsync(string group, StaffGroupWanted wanted, CancellationToken cancel) =>
        PutAsync<JsonElement>($"api/staff-groups/{E(group)}", wanted, cancel);

    public Task<Result<JsonElement>> RemoveStaffGroupAsync(string group, CancellationToken cancel) =>
        DeleteAsync($"api/staff-groups/{E(group)}", cancel);

    public Task<Result<Me>> MeAsync(CancellationToken cancel) => GetAsync<Me>("api/me", cancel);

    public Task<Result<JsonElement>> PutAccountAsync(string name, AccountWanted wanted, CancellationToken cancel) =>
        PutAsync<JsonElement>($"api/accounts/{E(name)}", wanted, cancel);

    public Task<Result<List<AccountSeen>>> AccountsAsync(CancellationToken cancel) =>
        GetAsync<List<AccountSeen>>("api/accounts", cancel);

    public Task<Result<JsonElement>> DisableAccountAsync(string name, bool disabled, CancellationToken cancel) =>
        PutAsync<JsonElement>($"api/accounts/{E(name)}/use", new AccountUse(disabled), cancel);

    public Task<Result<JsonElement>> RemoveAccountAsync(string name, CancellationToken cancel) =>
        DeleteAsync($"api/accounts/{E(name)}", cancel);

    public Task<Result<JsonElement>> SignAccountOutAsync(string name, CancellationToken cancel) =>
        DeleteAsync($"api/accounts/{E(name)}/sessions", cancel);

    public Task<Result<List<SessionSeen>>> SessionsAsync(CancellationToken cancel) => GetAsync<List<SessionSeen>>("api/sessions", cancel);

    public Task<Result<JsonElement>> EndSessionAsync(string id, CancellationToken cancel) => DeleteAsync($"api/sessions/{E(id)}", cancel);

    public Task<Result<JsonElement>> EndOtherSessionsAsync(CancellationToken cancel) => DeleteAsync("api/sessions", cancel);

    public Task<Result<JsonElement>> SignOutAsync(CancellationToken cancel) => DeleteAsync("api/sessions/current", cancel);

    public Task<Result<JsonElement>> ChangePasswordAsync(PasswordChange change, CancellationToken cancel) =>
        PutAsync<JsonElement>("api/me/password", change, cancel);
}
