using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>Refreshes, the day, the yard, and the ledgers.</content>
public sealed partial class YardClient
{
    public Task<Result<List<RefreshSeen>>> RefreshesAsync(CancellationToken cancel) => GetAsync<List<RefreshSeen>>("api/refreshes", cancel);

    public Task<Result<RefreshSeen>> MakeRefreshAsync(NewRefresh wanted, CancellationToken cancel) =>
        PostAsync<RefreshSeen>("api/refreshes", wanted, cancel);

    public Task<Result<RefreshSeen>> ChangeRefreshAsync(string refresh, RefreshWanted wanted, CancellationToken cancel) =>
        PutAsync<RefreshSeen>($"api/refreshes/{E(refresh)}", wanted, cancel);

    public Task<Result<SetUpSeen>> SetUpAsync(string refresh, CancellationToken cancel) =>
        GetAsync<SetUpSeen>($"api/refreshes/{E(refresh)}/set-up", cancel);

    /// <summary>Takes a thing of the world out.</summary>
    /// <param name="what">sites, technicians, closures, deliveries, waves, or estimates.</param>
    /// <param name="key">Its key; for estimates, scope and of with '/' between.</param>
    public Task<Result<JsonElement>> DropAsync(string refresh, string what, string key, CancellationToken cancel) =>
        SendAsync<JsonElement>(
                HttpMethod.Delete,
                $"api/refreshes/{E(refresh)}/{what}/"
                    + $"{(what == "estimates" && key.Split('/', 2) is [var scope, var of] ? $"{E(scope)}/{E(of)}" : E(key))}",
                static () => null,
                cancel);

    public Task<Result<YardSeen>> YardAsync(string refresh, CancellationToken cancel) =>
        GetAsync<YardSeen>($"api/refreshes/{E(refresh)}/yard", cancel);

    /// <summary>Progress for the people above.</summary>
    /// <param name="form">csv or pdf.</param>
    public Task<Result<byte[]>> ProgressAsync(string refresh, string form, CancellationToken cancel) =>
        FileAsync($"api/refreshes/{E(refresh)}/progress.{E(form)}", cancel);

    public Task<Result<RoundSeen>> RoundAsync(string refresh, string? technician, CancellationToken cancel) =>
        GetAsync<RoundSeen>($"api/refreshes/{E(refresh)}/round{(technician is null ? "" : $"?technician={E(technician)}")}", cancel);

    public Task<Result<DaySeen>> TodayAsync(string refresh, DateOnly? day, CancellationToken cancel) =>
        GetAsync<DaySeen>($"api/refreshes/{E(refresh)}/today{(day is { } d ? $"?day={d:yyyy-MM-dd}" : "")}", cancel);

    /// <param name="day">Null: the next one with visits after today.</param>
    public Task<Result<ReadyPage>> ReadyAsync(string refresh, DateOnly? day, string? wave, string? site, CancellationToken cancel)
    {
        string?[] asked =
        [
            day is { } d ? $"day={d:yyyy-MM-dd}" : null, wave is null ? null : $"wave={E(wave)}", site is null ? null : $"site={E(site)}"
        ];
        return GetAsync<ReadyPage>($"api/refreshes/{E(refresh)}/ready?{string.Join('&', asked.OfType<string>())}", cancel);
    }

    public Task<Result<MorningMailSeen>> MorningMailAsync(string refresh, CancellationToken cancel) =>
        GetAsync<MorningMailSeen>($"api/refreshes/{E(refresh)}/ready/mail", cancel);

    public Task<Result<MorningMailSeen>> SetMorningMailAsync(string refresh, MorningMailWanted wanted, CancellationToken cancel) =>
        PutAsync<MorningMailSeen>($"api/refreshes/{E(refresh)}/ready/mail", wanted, cancel);

    /// <summary>Sends it now.</summary>
    public Task<Result<MorningMailSent>> SendMorningMailAsync(string refresh, CancellationToken cancel) =>
        PostAsync<MorningMailSent>($"api/refreshes/{E(refresh)}/ready/mail/sent", null, cancel);

    /// <param name="refresh">Null: the service's own.</param>
    public Task<Result<Page<LedgerEntrySeen>>> LedgerAsync(
        string? refresh, string? cursor, CancellationToken cancel, LedgerAsked? asked = null)
    {
        string?[] parts =
        [
            "limit=1000",
            $"cursor={E(cursor ?? "0")}",
            asked?.Since is { } since ? $"since={since:yyyy-MM-dd}" : null,
            asked?.Until is { } until ? $"until={until:yyyy-MM-dd}" : null,
            asked?.Swap is { } swap ? $"swap={E(swap)}" : null,
            asked?.By is { } by ? $"by={E(by)}" : null,
        ];
        return GetAsync<Page<LedgerEntrySeen>>($"{LedgerOf(refresh)}?{string.Join('&', parts.OfType<string>())}", cancel);
    }

    /// <param name="refresh">Null: the service's own.</param>
    public Task<Result<LedgerChecked>> CheckLedgerAsync(string? refresh, CancellationToken cancel) =>
        GetAsync<LedgerChecked>($"{LedgerOf(refresh)}/check", cancel);

    private static string LedgerOf(string? refresh) => refresh is null ? "api/service/ledger" : $"api/refreshes/{E(refresh)}/ledger";
}
