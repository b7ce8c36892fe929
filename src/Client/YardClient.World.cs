using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>What a plan is made from: the roster, sites, technicians, depots.</content>
public sealed partial class YardClient
{
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

    /// <summary>What lies in a depot may be damaged: says what it means, or does it.</summary>
    public Task<Result<DamageSeen>> TellDamageAsync(string refresh, string key, DamageTold told, CancellationToken cancel) =>
        PostAsync<DamageSeen>($"api/refreshes/{E(refresh)}/depots/{E(key)}/damages", told, cancel);

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

    public Task<Result<WaysSeen>> WaysToCarryAsync(string refresh, string? wave, CancellationToken cancel) =>
        GetAsync<WaysSeen>($"api/refreshes/{E(refresh)}/ways-to-carry{(wave is null ? "" : $"?wave={E(wave)}")}", cancel);

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

    public Task<Result<DayHandoverSeen>> HandOverDayAsync(
        string refresh, string technician, DayHandoverWanted wanted, CancellationToken cancel) =>
        PostAsync<DayHandoverSeen>($"api/refreshes/{E(refresh)}/technicians/{E(technician)}/day-handover", wanted, cancel);

    public Task<Result<List<RealLength>>> RealLengthsAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<RealLength>>($"api/refreshes/{E(refresh)}/lengths", cancel);

    public Task<Result<SpareSeen>> PutSpareAsync(string refresh, string tag, SpareWanted wanted, CancellationToken cancel) =>
        PutAsync<SpareSeen>($"api/refreshes/{E(refresh)}/spares/{E(tag)}", wanted, cancel);

    public Task<Result<PlaceRulesSeen>> PlaceRulesAsync(string refresh, CancellationToken cancel) =>
        GetAsync<PlaceRulesSeen>($"api/refreshes/{E(refresh)}/place-rules", cancel);

    public Task<Result<PlaceRulesSeen>> PutPlaceRulesAsync(string refresh, PlaceRulesWanted wanted, CancellationToken cancel) =>
        PutAsync<PlaceRulesSeen>($"api/refreshes/{E(refresh)}/place-rules", wanted, cancel);

    public Task<Result<List<CatalogueSeen>>> CatalogueAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<CatalogueSeen>>($"api/refreshes/{E(refresh)}/catalogue", cancel);

    public Task<Result<CatalogueSeen>> PutCatalogueAsync(string refresh, string key, CatalogueWanted wanted, CancellationToken cancel) =>
        PutAsync<CatalogueSeen>($"api/refreshes/{E(refresh)}/catalogue/{E(key)}", wanted, cancel);
}
