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
