using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Client;

/// <summary>What the service answered instead of doing what was asked.</summary>
/// <param name="Status">HTTP status.</param>
/// <param name="All">Every problem, where there are several.</param>
public sealed record Refused(string Code, string Message, int Status, IReadOnlyList<Problem> All) : Problem(Code, Message);

/// <summary>The service cannot be reached.</summary>
public sealed class ServiceUnreachableException(string address, string why, Exception? inner = null)
    : IOException($"The service at {address} cannot be reached: {why} Check the address, and whether it runs.", inner);

/// <summary>
/// The typed client of the service, for command line and hand. Reads and repeats are retried a few times; everything that creates carries
/// an Idempotency-Key.
/// </summary>
public sealed class YardClient : IDisposable
{
    /// <summary>How the service writes JSON.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = JsonNumberHandling.Strict,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        TypeInfoResolver = JsonTypeInfoResolver.Combine(ContractShapes.Default, new DefaultJsonTypeInfoResolver()),
    };

    private const int Tries = 4;
    private readonly HttpClient _http;

    /// <summary>A client for the service at <paramref name="address"/>.</summary>
    /// <param name="token">Bearer token; null: not signed in.</param>
    public YardClient(Uri address, string? token)
    {
        _http = new(new SocketsHttpHandler
        {
            ConnectTimeout = TimeSpan.FromSeconds(5),
            PooledConnectionLifetime = TimeSpan.FromMinutes(5),
            UseCookies = false
        })
        { BaseAddress = address, Timeout = TimeSpan.FromSeconds(100) };
        _http.DefaultRequestHeaders.Add(HandProtocol.Header, HandProtocol.Number.ToString());
        _http.DefaultRequestHeaders.Add(HandProtocol.VersionHeader, typeof(YardClient).Assembly.GetName().Version?.ToString(3) ?? "");
        if (token is not null) _http.DefaultRequestHeaders.Authorization = new("Bearer", token);
    }

    private async Task<Result<T>> SendAsync<T>(
        HttpMethod method, string path, Func<HttpContent?> body, CancellationToken cancel, string? match = null)
    {
        // One key for all tries: the service answers the second as it did the first.
        var key = method == HttpMethod.Post ? Guid.NewGuid().ToString() : null;
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                using var request = new HttpRequestMessage(method, path) { Content = body() };
                if (key is not null) request.Headers.Add("Idempotency-Key", key);
                if (match is not null) request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{match}\""));
                using var response = await _http.SendAsync(request, cancel);
                if (response.StatusCode is HttpStatusCode.BadGateway or HttpStatusCode.ServiceUnavailable or HttpStatusCode.GatewayTimeout
                    && attempt < Tries)
                {
                    await Task.Delay(TimeSpan.FromMilliseconds(250 << attempt), cancel);
                    continue;
                }
                if (!response.IsSuccessStatusCode) return await RefusedAsync(response, cancel);
                if (response.StatusCode == HttpStatusCode.NoContent) return default(T)!;
                if (typeof(T) == typeof(byte[])) return (T)(object)await response.Content.ReadAsByteArrayAsync(cancel);
                return (await response.Content.ReadFromJsonAsync<T>(Json, cancel))!;
            }
            catch (Exception broke)
                when (broke is HttpRequestException or IOException
                    || (broke is OperationCanceledException && !cancel.IsCancellationRequested))
            {
                if (attempt >= Tries)
                    throw new ServiceUnreachableException(
                        _http.BaseAddress!.ToString(),
                        broke is OperationCanceledException ? "it does not answer in time." : broke.Message,
                        broke);
                await Task.Delay(TimeSpan.FromMilliseconds(250 << attempt), cancel);
            }
        }
    }

    private static async Task<Refused> RefusedAsync(HttpResponseMessage response, CancellationToken cancel)
    {
        var status = (int)response.StatusCode;
        try
        {
            var problem = JsonNode.Parse(await response.Content.ReadAsStringAsync(cancel));
            var all = (problem?["problems"] as JsonArray ?? [])
                .Select(p => new Problem((string?)p?["code"] ?? "", (string?)p?["message"] ?? "")).ToList();
            var message = (string?)problem?["detail"] ?? status switch
            {
                401 => "You are not signed in, or your token has expired. Run 'yardline sign-in'.",
                403 => "You may not do this. A coordinator can.",
                _ => $"The service answered {status} {response.ReasonPhrase}.",
            };
            return new((string?)problem?["code"] ?? $"http.{status}", message, status, all);
        }
        catch (JsonException)
        {
            return new($"http.{status}", $"The service answered {status} {response.ReasonPhrase}.", status, []);
        }
    }

    private Task<Result<T>> GetAsync<T>(string path, CancellationToken cancel) =>
        SendAsync<T>(HttpMethod.Get, path, static () => null, cancel);

    private Task<Result<T>> PostAsync<T>(string path, object? body, CancellationToken cancel, string? match = null) =>
        SendAsync<T>(
            HttpMethod.Post, path, () => body is null ? null : JsonContent.Create(body, body.GetType(), options: Json), cancel, match);

    private Task<Result<byte[]>> FileAsync(string path, CancellationToken cancel) =>
        SendAsync<byte[]>(HttpMethod.Get, path, static () => null, cancel);

    private Task<Result<T>> PutAsync<T>(string path, object body, CancellationToken cancel, string? match = null) =>
        SendAsync<T>(HttpMethod.Put, path, () => JsonContent.Create(body, body.GetType(), options: Json), cancel, match);

    private Task<Result<JsonElement>> DeleteAsync(string path, CancellationToken cancel) =>
        SendAsync<JsonElement>(HttpMethod.Delete, path, static () => null, cancel);

    private static string E(string part) => Uri.EscapeDataString(part);

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.
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

    public Task<Result<List<RefreshSeen>>> RefreshesAsync(CancellationToken cancel) => GetAsync<List<RefreshSeen>>("api/refreshes", cancel);

    public Task<Result<RefreshSeen>> MakeRefreshAsync(NewRefresh wanted, CancellationToken cancel) =>
        PostAsync<RefreshSeen>("api/refreshes", wanted, cancel);

    public Task<Result<List<SiteSeen>>> SitesAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<SiteSeen>>($"api/refreshes/{E(refresh)}/sites", cancel);

    public Task<Result<SiteSeen>> PutSiteAsync(string refresh, string key, SiteWanted wanted, CancellationToken cancel) =>
        PutAsync<SiteSeen>($"api/refreshes/{E(refresh)}/sites/{E(key)}", wanted, cancel);

    public Task<Result<List<TechnicianSeen>>> TechniciansAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<TechnicianSeen>>($"api/refreshes/{E(refresh)}/technicians", cancel);

    public Task<Result<TechnicianSeen>> PutTechnicianAsync(string refresh, string key, TechnicianWanted wanted, CancellationToken cancel) =>
        PutAsync<TechnicianSeen>($"api/refreshes/{E(refresh)}/technicians/{E(key)}", wanted, cancel);

    public Task<Result<List<DepotSeen>>> DepotsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<DepotSeen>>($"api/refreshes/{E(refresh)}/depots", cancel);

    public Task<Result<DepotSeen>> PutDepotAsync(string refresh, string key, DepotWanted wanted, CancellationToken cancel) =>
        PutAsync<DepotSeen>($"api/refreshes/{E(refresh)}/depots/{E(key)}", wanted, cancel);

    public Task<Result<WorldSeen>> WorldAsync(string refresh, CancellationToken cancel) =>
        GetAsync<WorldSeen>($"api/refreshes/{E(refresh)}/world", cancel);

    public Task<Result<WaySeen>> PutWayAsync(string refresh, WaySeen wanted, CancellationToken cancel) =>
        PutAsync<WaySeen>($"api/refreshes/{E(refresh)}/ways", wanted, cancel);

    public Task<Result<ClosureSeen>> PutClosureAsync(string refresh, string key, ClosureWanted wanted, CancellationToken cancel) =>
        PutAsync<ClosureSeen>($"api/refreshes/{E(refresh)}/closures/{E(key)}", wanted, cancel);

    /// <summary>Takes a list of technicians, CSV or XLSX.</summary>
    public Task<Result<TechniciansTaken>> TakeTechniciansAsync(string refresh, byte[] file, bool dryRun, CancellationToken cancel) =>
        SendAsync<TechniciansTaken>(
                HttpMethod.Post,
                $"api/refreshes/{E(refresh)}/technicians/table?dryRun={(dryRun ? "true" : "false")}",
                () => new ByteArrayContent(file) { Headers = { ContentType = new("application/octet-stream") } },
                cancel);

    public Task<Result<CalendarTaken>> TakeCalendarAsync(string refresh, byte[] calendar, string? site, CancellationToken cancel) =>
        SendAsync<CalendarTaken>(
                HttpMethod.Post,
                $"api/refreshes/{E(refresh)}/closures/calendar{(site is null ? "" : $"?site={E(site)}")}",
                () => new ByteArrayContent(calendar) { Headers = { ContentType = new("text/calendar") } },
                cancel);

    public Task<Result<DeliverySeen>> PutDeliveryAsync(string refresh, string key, DeliveryWanted wanted, CancellationToken cancel) =>
        PutAsync<DeliverySeen>($"api/refreshes/{E(refresh)}/deliveries/{E(key)}", wanted, cancel);

    public Task<Result<WaveSeen>> PutWaveAsync(string refresh, string key, WaveWanted wanted, CancellationToken cancel) =>
        PutAsync<WaveSeen>($"api/refreshes/{E(refresh)}/waves/{E(key)}", wanted, cancel);

    public Task<Result<EstimateRuleSeen>> PutEstimateAsync(
        string refresh, string scope, string of, EstimateWanted wanted, CancellationToken cancel) =>
        PutAsync<EstimateRuleSeen>($"api/refreshes/{E(refresh)}/estimates/{E(scope)}/{E(of)}", wanted, cancel);

    public Task<Result<EstimateSeen>> EstimateAsync(string swap, CancellationToken cancel) =>
        GetAsync<EstimateSeen>($"api/swaps/{E(swap)}/estimate", cancel);

    public Task<Result<WaysSeen>> WaysToCarryAsync(string refresh, string? wave, CancellationToken cancel) =>
        GetAsync<WaysSeen>($"api/refreshes/{E(refresh)}/ways-to-carry{(wave is null ? "" : $"?wave={E(wave)}")}", cancel);

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

    public Task<Result<SwapsEdited>> EditSwapsAsync(string refresh, SwapEdit edit, CancellationToken cancel) =>
        PostAsync<SwapsEdited>($"api/refreshes/{E(refresh)}/swaps/edits", edit, cancel);

    /// <summary>Takes a roster, CSV or XLSX.</summary>
    /// <param name="name">Under which <see cref="RosterProgressAsync"/> tells how far it is; null: nobody will ask.</param>
    public Task<Result<RosterTaken>> TakeRosterAsync(
        string refresh, byte[] file, bool dryRun, CancellationToken cancel, bool skipFaulty = false, bool dropGone = false,
        string? name = null) =>
        SendAsync<RosterTaken>(
                HttpMethod.Post,
                $"api/refreshes/{E(refresh)}/roster?dryRun={(dryRun ? "true" : "false")}{(skipFaulty ? "&skipFaulty=true" : "")}"
                    + $"{(dropGone ? "&dropGone=true" : "")}{(name is null ? "" : $"&name={E(name)}")}",
                () => new ByteArrayContent(file) { Headers = { ContentType = new("application/octet-stream") } },
                cancel);

    public Task<Result<InventorySeen>> InventoryAsync(string swap, CancellationToken cancel) =>
        GetAsync<InventorySeen>($"api/swaps/{E(swap)}/inventory", cancel);

    public Task<Result<CarryListSeen>> CarryListAsync(string swap, CancellationToken cancel) =>
        GetAsync<CarryListSeen>($"api/swaps/{E(swap)}/carry-list", cancel);

    public Task<Result<CarryListSeen>> ChangeCarryListAsync(string swap, CarryChange change, CancellationToken cancel) =>
        PutAsync<CarryListSeen>($"api/swaps/{E(swap)}/carry-list", change, cancel);

    public Task<Result<RosterProgress>> RosterProgressAsync(string refresh, string name, CancellationToken cancel) =>
        GetAsync<RosterProgress>($"api/refreshes/{E(refresh)}/roster/progress/{E(name)}", cancel);

    public Task<Result<Dictionary<string, string>>> MatchColumnsAsync(
        string refresh, Dictionary<string, string> columns, CancellationToken cancel) =>
        PutAsync<Dictionary<string, string>>($"api/refreshes/{E(refresh)}/roster/columns", columns, cancel);

    public Task<Result<List<TakingSeen>>> TakingsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<TakingSeen>>($"api/refreshes/{E(refresh)}/roster/takings", cancel);

    public Task<Result<TakingSeen>> UndoTakingAsync(string refresh, int number, CancellationToken cancel) =>
        PostAsync<TakingSeen>($"api/refreshes/{E(refresh)}/roster/takings/{number}/undo", new { }, cancel);

    public Task<Result<byte[]>> RosterTemplateAsync(string form, bool sample, CancellationToken cancel) =>
        FileAsync($"api/roster-template?form={E(form)}&sample={(sample ? "true" : "false")}", cancel);

    public Task<Result<PlanSeen>> PlanAsync(string refresh, CancellationToken cancel, int? number = null) =>
        GetAsync<PlanSeen>($"api/refreshes/{E(refresh)}/plan{(number is { } n ? $"?number={n}" : "")}", cancel);

    public Task<Result<List<PlanListed>>> PlansAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<PlanListed>>($"api/refreshes/{E(refresh)}/plans", cancel);

    public Task<Result<PlansCompared>> ComparePlansAsync(string refresh, int? from, int? to, CancellationToken cancel) =>
        GetAsync<PlansCompared>(
                $"api/refreshes/{E(refresh)}/plans/compared?x=0{(from is { } f ? $"&from={f}" : "")}{(to is { } t ? $"&to={t}" : "")}",
                cancel);

    public Task<Result<PlanSeen>> MakePlanAsync(string refresh, PlanWanted wanted, CancellationToken cancel) =>
        PostAsync<PlanSeen>($"api/refreshes/{E(refresh)}/plan", wanted, cancel);

    public Task<Result<PlanSeen>> PublishPlanAsync(string refresh, int version, CancellationToken cancel) =>
        PostAsync<PlanSeen>($"api/refreshes/{E(refresh)}/plan/publication", new { }, cancel, version.ToString());

    public Task<Result<JsonElement>> DropDraftAsync(string refresh, CancellationToken cancel) =>
        SendAsync<JsonElement>(HttpMethod.Delete, $"api/refreshes/{E(refresh)}/plan/draft", static () => null, cancel);

    public Task<Result<MoveSeen>> TryMoveAsync(string refresh, MoveWanted wanted, CancellationToken cancel) =>
        PostAsync<MoveSeen>($"api/refreshes/{E(refresh)}/plan/draft/trials", wanted, cancel);

    public Task<Result<MoveSeen>> MoveAsync(string refresh, MoveWanted wanted, int version, CancellationToken cancel) =>
        PostAsync<MoveSeen>($"api/refreshes/{E(refresh)}/plan/draft/moves", wanted, cancel, version.ToString());

    public Task<Result<MoveSeen>> UndoMoveAsync(string refresh, int version, CancellationToken cancel) =>
        PostAsync<MoveSeen>($"api/refreshes/{E(refresh)}/plan/draft/undo", new { }, cancel, version.ToString());

    public Task<Result<WhyNotSeen>> WhyNotAsync(string refresh, string swap, CancellationToken cancel) =>
        GetAsync<WhyNotSeen>($"api/refreshes/{E(refresh)}/plan/why/{E(swap)}", cancel);

    public Task<Result<WhatIfSeen>> WhatIfAsync(string refresh, WhatIfWanted wanted, CancellationToken cancel) =>
        PostAsync<WhatIfSeen>($"api/refreshes/{E(refresh)}/plan/what-if", wanted, cancel);

    public Task<Result<SlackSeen>> SlackAsync(string refresh, SlackWanted wanted, CancellationToken cancel) =>
        PostAsync<SlackSeen>($"api/refreshes/{E(refresh)}/plan/slack", wanted, cancel);

    public Task<Result<OutlookSeen>> OutlookAsync(string refresh, OutlookWanted wanted, CancellationToken cancel) =>
        PostAsync<OutlookSeen>($"api/refreshes/{E(refresh)}/plan/outlook", wanted, cancel);

    public Task<Result<FeedMade>> MakeFeedAsync(string refresh, FeedWanted wanted, CancellationToken cancel) =>
        PostAsync<FeedMade>($"api/refreshes/{E(refresh)}/feeds", wanted, cancel);

    public Task<Result<List<FeedSeen>>> FeedsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<FeedSeen>>($"api/refreshes/{E(refresh)}/feeds", cancel);

    public Task<Result<JsonElement>> EndFeedAsync(string refresh, string feed, CancellationToken cancel) =>
        SendAsync<JsonElement>(HttpMethod.Delete, $"api/refreshes/{E(refresh)}/feeds/{E(feed)}", static () => null, cancel);

    public Task<Result<byte[]>> ExportPlanAsync(string refresh, string form, string? site, string? technician, CancellationToken cancel) =>
        FileAsync(
            $"api/refreshes/{E(refresh)}/plan/export?form={E(form)}{(site is null ? "" : $"&site={E(site)}")}"
                + $"{(technician is null ? "" : $"&technician={E(technician)}")}",
            cancel);

    public Task<Result<Page<SwapListed>>> SwapsAsync(
        string refresh, string? query, string? sort, string? cursor, CancellationToken cancel, int limit = 200) =>
        GetAsync<Page<SwapListed>>(
                $"api/refreshes/{E(refresh)}/swaps?limit={limit}&q={E(query ?? "")}&sort={E(sort ?? "")}&cursor={E(cursor ?? "")}", cancel);

    public Task<Result<SwapSeen>> SwapAsync(string swap, CancellationToken cancel) => GetAsync<SwapSeen>($"api/swaps/{E(swap)}", cancel);

    public Task<Result<OrderSeen>> GiveOrderAsync(string swap, string kind, CancellationToken cancel) =>
        PostAsync<OrderSeen>($"api/swaps/{E(swap)}/orders", new OrderWanted(kind), cancel);

    public Task<Result<OrdersMade>> GiveOrdersAsync(string refresh, OrdersWanted wanted, CancellationToken cancel) =>
        PostAsync<OrdersMade>($"api/refreshes/{E(refresh)}/orders", wanted, cancel);

    public Task<Result<ChecklistSeen>> SetStepAsync(string swap, string step, StepChange change, int version, CancellationToken cancel) =>
        PutAsync<ChecklistSeen>($"api/swaps/{E(swap)}/checklist/steps/{E(step)}", change, cancel, version.ToString());

    public Task<Result<SignOffSeen>> SignOffAsync(string swap, SignOffWanted wanted, CancellationToken cancel) =>
        PostAsync<SignOffSeen>($"api/swaps/{E(swap)}/sign-offs", wanted, cancel);

    public Task<Result<SwapSeen>> ReopenAsync(string swap, SignOffPart part, string reason, CancellationToken cancel) =>
        PostAsync<SwapSeen>($"api/swaps/{E(swap)}/sign-offs/{part}/reopening", new ReopeningWanted(reason), cancel);

    /// <summary>What was signed, byte for byte.</summary>
    public Task<Result<byte[]>> SignOffPaperAsync(string swap, SignOffPart part, CancellationToken cancel) =>
        FileAsync($"api/swaps/{E(swap)}/sign-offs/{part}/paper", cancel);

    public Task<Result<YardSeen>> YardAsync(string refresh, CancellationToken cancel) =>
        GetAsync<YardSeen>($"api/refreshes/{E(refresh)}/yard", cancel);

    /// <summary>Progress for the people above.</summary>
    /// <param name="form">csv or pdf.</param>
    public Task<Result<byte[]>> ProgressAsync(string refresh, string form, CancellationToken cancel) =>
        FileAsync($"api/refreshes/{E(refresh)}/progress.{E(form)}", cancel);

    /// <summary>Lets the work of a hand at a swap rest, or go on.</summary>
    public Task<Result<OrderSeen>> PauseAsync(string swap, bool paused, CancellationToken cancel) =>
        PutAsync<OrderSeen>($"api/swaps/{E(swap)}/pause", new PauseWanted(paused), cancel);

    /// <summary>What is kept about the person of a swap.</summary>
    public Task<Result<KeptSeen>> KeptAsync(string swap, CancellationToken cancel) =>
        GetAsync<KeptSeen>($"api/swaps/{E(swap)}/person/kept", cancel);

    /// <summary>All that is kept about the person of a swap, as a ZIP.</summary>
    public Task<Result<byte[]>> ExportPersonAsync(string swap, CancellationToken cancel) =>
        FileAsync($"api/swaps/{E(swap)}/person/export", cancel);

    /// <summary>Erases what is kept about the person of a swap.</summary>
    public Task<Result<KeptSeen>> ErasePersonAsync(string swap, string reason, CancellationToken cancel) =>
        PostAsync<KeptSeen>($"api/swaps/{E(swap)}/person/erasure", new ErasureWanted(reason), cancel);

    /// <summary>How long what is kept about people stays.</summary>
    public Task<Result<KeepingRules>> KeepingAsync(string refresh, CancellationToken cancel) =>
        GetAsync<KeepingRules>($"api/refreshes/{E(refresh)}/keeping", cancel);

    /// <summary>Says how long what is kept about people stays.</summary>
    public Task<Result<KeepingRules>> SetKeepingAsync(string refresh, KeepingRules wanted, CancellationToken cancel) =>
        PutAsync<KeepingRules>($"api/refreshes/{E(refresh)}/keeping", wanted, cancel);

    /// <summary>How people choose their times.</summary>
    public Task<Result<ChoosingRules>> ChoosingAsync(string refresh, CancellationToken cancel) =>
        GetAsync<ChoosingRules>($"api/refreshes/{E(refresh)}/choosing", cancel);

    /// <summary>Says how people choose their times.</summary>
    public Task<Result<ChoosingRules>> SetChoosingAsync(string refresh, ChoosingRules wanted, CancellationToken cancel) =>
        PutAsync<ChoosingRules>($"api/refreshes/{E(refresh)}/choosing", wanted, cancel);

    /// <summary>Who waits for which time.</summary>
    public Task<Result<List<WaitingSeen>>> WaitingAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<WaitingSeen>>($"api/refreshes/{E(refresh)}/waiting", cancel);

    /// <summary>Swaps that are kept apart, or go together.</summary>
    public Task<Result<List<GroupSeen>>> GroupsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<GroupSeen>>($"api/refreshes/{E(refresh)}/groups", cancel);

    /// <summary>Makes or changes a group.</summary>
    public Task<Result<GroupSeen>> PutGroupAsync(string refresh, string key, GroupWanted wanted, CancellationToken cancel) =>
        PutAsync<GroupSeen>($"api/refreshes/{E(refresh)}/groups/{E(key)}", wanted, cancel);

    /// <summary>The whole swap on paper, as PDF.</summary>
    public Task<Result<byte[]>> SwapPdfAsync(string swap, CancellationToken cancel) => FileAsync($"api/swaps/{E(swap)}/paper.pdf", cancel);

    public Task<Result<RefreshSeen>> HoldOldComputersAsync(string refresh, int days, CancellationToken cancel) =>
        PutAsync<RefreshSeen>($"api/refreshes/{E(refresh)}/old-hold", new OldHoldWanted(days), cancel);

    public Task<Result<RoundSeen>> RoundAsync(string refresh, string? technician, CancellationToken cancel) =>
        GetAsync<RoundSeen>($"api/refreshes/{E(refresh)}/round{(technician is null ? "" : $"?technician={E(technician)}")}", cancel);

    public Task<Result<HandoverSeen>> HandOverAsync(string swap, HandoverWanted wanted, CancellationToken cancel) =>
        PostAsync<HandoverSeen>($"api/swaps/{E(swap)}/handovers", wanted, cancel);

    public Task<Result<DayHandoverSeen>> HandOverDayAsync(
        string refresh, string technician, DayHandoverWanted wanted, CancellationToken cancel) =>
        PostAsync<DayHandoverSeen>($"api/refreshes/{E(refresh)}/technicians/{E(technician)}/day-handover", wanted, cancel);

    public Task<Result<List<FollowUpSeen>>> FollowUpsAsync(
        string refresh, string? owner, string? swap, string end, CancellationToken cancel) =>
        GetAsync<List<FollowUpSeen>>(
                $"api/refreshes/{E(refresh)}/follow-ups?end={E(end)}{(owner is null ? "" : $"&owner={E(owner)}")}"
                    + $"{(swap is null ? "" : $"&swap={E(swap)}")}",
                cancel);

    public Task<Result<List<RealLength>>> RealLengthsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<RealLength>>($"api/refreshes/{E(refresh)}/lengths", cancel);

    public Task<Result<DetourTaken>> TakeDetourAsync(string swap, DetourTold told, CancellationToken cancel) =>
        PostAsync<DetourTaken>($"api/swaps/{E(swap)}/detours", told, cancel);

    public Task<Result<SpareSeen>> PutSpareAsync(string refresh, string tag, SpareWanted wanted, CancellationToken cancel) =>
        PutAsync<SpareSeen>($"api/refreshes/{E(refresh)}/spares/{E(tag)}", wanted, cancel);

    public Task<Result<ChecklistSeen>> TakePhotoAsync(string swap, string step, byte[] photo, int version, CancellationToken cancel) =>
        SendAsync<ChecklistSeen>(
                HttpMethod.Put,
                $"api/swaps/{E(swap)}/checklist/steps/{E(step)}/photo",
                () => new ByteArrayContent(photo),
                cancel,
                version.ToString());

    public Task<Result<FollowUpSeen>> OpenFollowUpAsync(string swap, FollowUpWanted wanted, CancellationToken cancel) =>
        PostAsync<FollowUpSeen>($"api/swaps/{E(swap)}/follow-ups", wanted, cancel);

    public Task<Result<ToldPage>> ToldAsync(string refresh, string? wave, CancellationToken cancel) =>
        GetAsync<ToldPage>($"api/refreshes/{E(refresh)}/told{(wave is null ? "" : $"?wave={E(wave)}")}", cancel);

    public Task<Result<List<NoticeSeen>>> NoticesAsync(string refresh, string? swap, CancellationToken cancel) =>
        GetAsync<List<NoticeSeen>>($"api/refreshes/{E(refresh)}/notices{(swap is null ? "" : $"?swap={E(swap)}")}", cancel);

    public Task<Result<ToldPage>> SwitchNoticesAsync(string refresh, bool on, CancellationToken cancel) =>
        PutAsync<ToldPage>($"api/refreshes/{E(refresh)}/notices", new NoticesWanted(on), cancel);

    public Task<Result<NoticesMade>> SendAgainAsync(string refresh, NoticeAgain wanted, CancellationToken cancel) =>
        PostAsync<NoticesMade>($"api/refreshes/{E(refresh)}/notices/again", wanted, cancel);

    public Task<Result<NoticePreview>> PreviewNoticeAsync(string refresh, NoticePreviewWanted wanted, CancellationToken cancel) =>
        PostAsync<NoticePreview>($"api/refreshes/{E(refresh)}/notice-texts/preview", wanted, cancel);

    public Task<Result<NoticeTextSeen>> SetNoticeTextAsync(
        string refresh, string moment, string language, string text, CancellationToken cancel) =>
        PutAsync<NoticeTextSeen>($"api/refreshes/{E(refresh)}/notice-texts/{E(moment)}/{E(language)}", new NoticeTextWanted(text), cancel);

    public Task<Result<MailTaken>> TakeMailAsync(string refresh, byte[] mail, CancellationToken cancel) =>
        SendAsync<MailTaken>(
                HttpMethod.Post,
                $"api/refreshes/{E(refresh)}/mails",
                () => new ByteArrayContent(mail) { Headers = { ContentType = new("message/rfc822") } },
                cancel);

    public Task<Result<PersonLinkMade>> MakePersonLinkAsync(string swap, PersonLinkWanted wanted, CancellationToken cancel) =>
        PostAsync<PersonLinkMade>($"api/swaps/{E(swap)}/person-links", wanted, cancel);

    public Task<Result<List<PersonLinkSeen>>> PersonLinksAsync(string swap, CancellationToken cancel) =>
        GetAsync<List<PersonLinkSeen>>($"api/swaps/{E(swap)}/person-links", cancel);

    public Task<Result<PersonLinksWithdrawn>> WithdrawPersonLinksAsync(string swap, CancellationToken cancel) =>
        SendAsync<PersonLinksWithdrawn>(HttpMethod.Delete, $"api/swaps/{E(swap)}/person-links", static () => null, cancel);

    public Task<Result<List<LinkRefusalsSeen>>> LinkRefusalsAsync(CancellationToken cancel) =>
        GetAsync<List<LinkRefusalsSeen>>("api/link-refusals", cancel);

    public Task<Result<FollowUpSeen>> RefuseAsync(string swap, string words, CancellationToken cancel) =>
        PostAsync<FollowUpSeen>($"api/swaps/{E(swap)}/refusal", new RefusalWanted(words), cancel);

    public Task<Result<FollowUpSeen>> ChangeFollowUpAsync(string followUp, FollowUpChange change, CancellationToken cancel) =>
        PutAsync<FollowUpSeen>($"api/follow-ups/{E(followUp)}", change, cancel);

    public Task<Result<FollowUpSeen>> EndFollowUpAsync(string followUp, string outcome, CancellationToken cancel) =>
        PostAsync<FollowUpSeen>($"api/follow-ups/{E(followUp)}/end", new FollowUpEnd(outcome), cancel);

    public Task<Result<Page<OldComputerSeen>>> OldComputersAsync(
        string refresh, string? find, string? pallet, string? end, string? cursor, CancellationToken cancel) =>
        GetAsync<Page<OldComputerSeen>>(
                $"api/refreshes/{E(refresh)}/old-computers?limit=200&q={E(find ?? "")}&pallet={E(pallet ?? "")}&end={E(end ?? "")}&cursor="
                    + $"{E(cursor ?? "")}",
                cancel);

    public Task<Result<OldComputerHistory>> OldComputerAsync(string refresh, string tag, CancellationToken cancel) =>
        GetAsync<OldComputerHistory>($"api/refreshes/{E(refresh)}/old-computers/{E(tag)}", cancel);

    public Task<Result<OldComputerSeen>> MoveOldComputerAsync(string refresh, string tag, CustodyWanted wanted, CancellationToken cancel) =>
        PostAsync<OldComputerSeen>($"api/refreshes/{E(refresh)}/old-computers/{E(tag)}/moves", wanted, cancel);

    public Task<Result<OldComputerSeen>> WipeAsync(string refresh, string tag, WipeWanted wanted, CancellationToken cancel) =>
        PostAsync<OldComputerSeen>($"api/refreshes/{E(refresh)}/old-computers/{E(tag)}/wipe", wanted, cancel);

    public Task<Result<List<PalletSeen>>> PalletsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<PalletSeen>>($"api/refreshes/{E(refresh)}/pallets", cancel);

    public Task<Result<byte[]>> PalletListAsync(string refresh, string pallet, CancellationToken cancel) =>
        FileAsync($"api/refreshes/{E(refresh)}/pallets/{E(pallet)}/list.csv", cancel);

    public Task<Result<PalletSeen>> SendPalletAsync(string refresh, string pallet, PalletDeparture wanted, CancellationToken cancel) =>
        PostAsync<PalletSeen>($"api/refreshes/{E(refresh)}/pallets/{E(pallet)}/departure", wanted, cancel);

    public Task<Result<SnagSeen>> AnswerSourceAsync(string snag, SourceAnswerWanted wanted, CancellationToken cancel) =>
        PostAsync<SnagSeen>($"api/snags/{E(snag)}/source", wanted, cancel);

    public Task<Result<SnagSeen>> WaiveAsync(string snag, string reason, CancellationToken cancel) =>
        PostAsync<SnagSeen>($"api/snags/{E(snag)}/waiver", new WaiverWanted(reason), cancel);

    public Task<Result<OrderSeen>> GiveOrderAsync(string swap, OrderWanted wanted, CancellationToken cancel) =>
        PostAsync<OrderSeen>($"api/swaps/{E(swap)}/orders", wanted, cancel);

    public Task<Result<Page<SnagListed>>> SnagsAsync(string refresh, string end, string? kind, string? cursor, CancellationToken cancel) =>
        GetAsync<Page<SnagListed>>(
            $"api/refreshes/{E(refresh)}/snags?limit=500&end={E(end)}&kind={E(kind ?? "")}&cursor={E(cursor ?? "")}", cancel);

    public Task<Result<WaiversMade>> WaiveManyAsync(string refresh, WaiversWanted wanted, CancellationToken cancel) =>
        PostAsync<WaiversMade>($"api/refreshes/{E(refresh)}/waivers", wanted, cancel);

    public Task<Result<LandingSeen>> LandingAsync(string swap, CancellationToken cancel) =>
        GetAsync<LandingSeen>($"api/swaps/{E(swap)}/landing", cancel);

    public Task<Result<LandingSeen>> PutLandingAsync(string swap, LandingWanted wanted, CancellationToken cancel) =>
        PutAsync<LandingSeen>($"api/swaps/{E(swap)}/landing", wanted, cancel);

    /// <summary>Folders of an old computer; null: not at hand yet.</summary>
    public Task<Result<FoldersSeen?>> FoldersAsync(string swap, CancellationToken cancel) =>
        GetAsync<FoldersSeen?>($"api/swaps/{E(swap)}/folders", cancel);

    public Task<Result<PlaceRulesSeen>> PlaceRulesAsync(string refresh, CancellationToken cancel) =>
        GetAsync<PlaceRulesSeen>($"api/refreshes/{E(refresh)}/place-rules", cancel);

    public Task<Result<PlaceRulesSeen>> PutPlaceRulesAsync(string refresh, PlaceRulesWanted wanted, CancellationToken cancel) =>
        PutAsync<PlaceRulesSeen>($"api/refreshes/{E(refresh)}/place-rules", wanted, cancel);

    public Task<Result<List<LostComputer>>> LostComputersAsync(string find, CancellationToken cancel) =>
        GetAsync<List<LostComputer>>($"api/lost-computers?q={E(find)}", cancel);

    public Task<Result<RescueSeen>> PutRescueAsync(string swap, RescueWanted wanted, CancellationToken cancel) =>
        PutAsync<RescueSeen>($"api/swaps/{E(swap)}/rescue", wanted, cancel);

    public Task<Result<ReceiverSeen>> PutReceiverAsync(string swap, ReceiverWanted wanted, CancellationToken cancel) =>
        PutAsync<ReceiverSeen>($"api/swaps/{E(swap)}/receiver", wanted, cancel);

    public Task<Result<ReceiverSeen>> AcceptParcelAsync(string swap, CancellationToken cancel) =>
        PostAsync<ReceiverSeen>($"api/swaps/{E(swap)}/receiver/acceptance", null, cancel);

    public Task<Result<RestoreSkipSeen>> SkipRestoreAsync(string swap, RestoreSkipWanted wanted, CancellationToken cancel) =>
        PutAsync<RestoreSkipSeen>($"api/swaps/{E(swap)}/restore-skip", wanted, cancel);

    public Task<Result<ParcelReport>> ReportAsync(string swap, CancellationToken cancel) =>
        GetAsync<ParcelReport>($"api/swaps/{E(swap)}/report", cancel);

    /// <summary>The report as a file: <c>csv</c> or <c>pdf</c>.</summary>
    public Task<Result<byte[]>> ReportFileAsync(string swap, string form, CancellationToken cancel) =>
        FileAsync($"api/swaps/{E(swap)}/report.{E(form)}", cancel);

    public Task<Result<List<CatalogueSeen>>> CatalogueAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<CatalogueSeen>>($"api/refreshes/{E(refresh)}/catalogue", cancel);

    public Task<Result<CatalogueSeen>> PutCatalogueAsync(string refresh, string key, CatalogueWanted wanted, CancellationToken cancel) =>
        PutAsync<CatalogueSeen>($"api/refreshes/{E(refresh)}/catalogue/{E(key)}", wanted, cancel);

    public Task<Result<List<TemplateSeen>>> TemplatesAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<TemplateSeen>>($"api/refreshes/{E(refresh)}/templates", cancel);

    public Task<Result<TemplateSeen>> AddTemplateAsync(string refresh, string yaml, CancellationToken cancel) =>
        PostAsync<TemplateSeen>($"api/refreshes/{E(refresh)}/templates", new { yaml }, cancel);

    public Task<Result<TemplatePreview>> PreviewTemplateAsync(string refresh, TemplateDraft draft, CancellationToken cancel) =>
        PostAsync<TemplatePreview>($"api/refreshes/{E(refresh)}/template-preview", draft, cancel);

    public Task<Result<ChecklistMoved>> MoveChecklistAsync(string swap, ChecklistMove move, CancellationToken cancel) =>
        PostAsync<ChecklistMoved>($"api/swaps/{E(swap)}/checklist/version", move, cancel);

    public Task<Result<DaySeen>> TodayAsync(string refresh, DateOnly? day, CancellationToken cancel) =>
        GetAsync<DaySeen>($"api/refreshes/{E(refresh)}/today{(day is { } d ? $"?day={d:yyyy-MM-dd}" : "")}", cancel);

    /// <param name="refresh">Null: the service's own.</param>
    public Task<Result<Page<LedgerEntrySeen>>> LedgerAsync(string? refresh, string? cursor, CancellationToken cancel) =>
        GetAsync<Page<LedgerEntrySeen>>($"{LedgerOf(refresh)}?limit=1000&cursor={E(cursor ?? "0")}", cancel);

    /// <param name="refresh">Null: the service's own.</param>
    public Task<Result<LedgerChecked>> CheckLedgerAsync(string? refresh, CancellationToken cancel) =>
        GetAsync<LedgerChecked>($"{LedgerOf(refresh)}/check", cancel);

    private static string LedgerOf(string? refresh) => refresh is null ? "api/service/ledger" : $"api/refreshes/{E(refresh)}/ledger";

    public Task<Result<CodeMade>> MakeCodeAsync(string refresh, string tag, CancellationToken cancel) =>
        PostAsync<CodeMade>($"api/refreshes/{E(refresh)}/codes", new CodeWanted(tag), cancel);

    public Task<Result<Page<HandSeen>>> HandsAsync(string refresh, string? find, string? cursor, CancellationToken cancel) =>
        GetAsync<Page<HandSeen>>($"api/refreshes/{E(refresh)}/hands?limit=200&q={E(find ?? "")}&cursor={E(cursor ?? "")}", cancel);

    public Task<Result<HandWithdrawn>> WithdrawHandAsync(string refresh, string tag, CancellationToken cancel) =>
        SendAsync<HandWithdrawn>(HttpMethod.Delete, $"api/refreshes/{E(refresh)}/hands/{E(tag)}", static () => null, cancel);

    public Task<Result<Enrolled>> EnrolAsync(EnrolWanted wanted, CancellationToken cancel) =>
        PostAsync<Enrolled>("api/hand/enrol", wanted, cancel);

    /// <summary>The next order; a null value: there is none for now.</summary>
    public Task<Result<OrderTaken?>> TakeOrderAsync(int waitSeconds, CancellationToken cancel) =>
        SendAsync<OrderTaken?>(HttpMethod.Post, $"api/hand/orders/next?waitSeconds={waitSeconds}", static () => null, cancel);

    public Task<Result<ReportTaken>> ReportAsync(string order, int number, OrderReport report, CancellationToken cancel) =>
        PostAsync<ReportTaken>($"api/hand/orders/{E(order)}/reports/{number}", report, cancel);
#pragma warning restore CS1591

    /// <inheritdoc/>
    public void Dispose() => _http.Dispose();
}
