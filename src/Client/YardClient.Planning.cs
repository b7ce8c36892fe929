using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>Plans, calendars, and how people choose their times.</content>
public sealed partial class YardClient
{
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
}
