using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.SignOffs;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>Swaps, with their checklists, snags, follow-ups and parcels.</content>
public sealed partial class YardClient
{
    public Task<Result<EstimateSeen>> EstimateAsync(string swap, CancellationToken cancel) =>
        GetAsync<EstimateSeen>($"api/swaps/{E(swap)}/estimate", cancel);

    public Task<Result<InventorySeen>> InventoryAsync(string swap, CancellationToken cancel) =>
        GetAsync<InventorySeen>($"api/swaps/{E(swap)}/inventory", cancel);

    public Task<Result<CarryListSeen>> CarryListAsync(string swap, CancellationToken cancel) =>
        GetAsync<CarryListSeen>($"api/swaps/{E(swap)}/carry-list", cancel);

    public Task<Result<CarryListSeen>> ChangeCarryListAsync(string swap, CarryChange change, CancellationToken cancel) =>
        PutAsync<CarryListSeen>($"api/swaps/{E(swap)}/carry-list", change, cancel);

    public Task<Result<Page<SwapListed>>> SwapsAsync(
        string refresh, string? query, string? sort, string? cursor, CancellationToken cancel, int limit = 200) =>
        GetAsync<Page<SwapListed>>(
                $"api/refreshes/{E(refresh)}/swaps?limit={limit}&q={E(query ?? "")}&sort={E(sort ?? "")}&cursor={E(cursor ?? "")}", cancel);

    public Task<Result<SwapSeen>> SwapAsync(string swap, CancellationToken cancel) => GetAsync<SwapSeen>($"api/swaps/{E(swap)}", cancel);

    public Task<Result<ChecklistSeen>> SetStepAsync(string swap, string step, StepChange change, int version, CancellationToken cancel) =>
        PutAsync<ChecklistSeen>($"api/swaps/{E(swap)}/checklist/steps/{E(step)}", change, cancel, version.ToString());

    public Task<Result<SignOffSeen>> SignOffAsync(string swap, SignOffWanted wanted, CancellationToken cancel) =>
        PostAsync<SignOffSeen>($"api/swaps/{E(swap)}/sign-offs", wanted, cancel);

    public Task<Result<SwapSeen>> ReopenAsync(string swap, SignOffPart part, string reason, CancellationToken cancel) =>
        PostAsync<SwapSeen>($"api/swaps/{E(swap)}/sign-offs/{part}/reopening", new ReopeningWanted(reason), cancel);

    /// <summary>What was signed, byte for byte.</summary>
    public Task<Result<byte[]>> SignOffPaperAsync(string swap, SignOffPart part, CancellationToken cancel) =>
        FileAsync($"api/swaps/{E(swap)}/sign-offs/{part}/paper", cancel);

    /// <summary>Lets the work of a hand at a swap rest, or go on.</summary>
    public Task<Result<OrderSeen>> PauseAsync(string swap, bool paused, CancellationToken cancel) =>
        PutAsync<OrderSeen>($"api/swaps/{E(swap)}/pause", new PauseWanted(paused), cancel);

    /// <summary>The whole swap on paper, as PDF.</summary>
    public Task<Result<byte[]>> SwapPdfAsync(string swap, CancellationToken cancel) => FileAsync($"api/swaps/{E(swap)}/paper.pdf", cancel);

    public Task<Result<HandoverSeen>> HandOverAsync(string swap, HandoverWanted wanted, CancellationToken cancel) =>
        PostAsync<HandoverSeen>($"api/swaps/{E(swap)}/handovers", wanted, cancel);

    public Task<Result<List<FollowUpSeen>>> FollowUpsAsync(
        string refresh, string? owner, string? swap, string end, CancellationToken cancel) =>
        GetAsync<List<FollowUpSeen>>(
                $"api/refreshes/{E(refresh)}/follow-ups?end={E(end)}{(owner is null ? "" : $"&owner={E(owner)}")}"
                    + $"{(swap is null ? "" : $"&swap={E(swap)}")}",
                cancel);

    public Task<Result<DetourTaken>> TakeDetourAsync(string swap, DetourTold told, CancellationToken cancel) =>
        PostAsync<DetourTaken>($"api/swaps/{E(swap)}/detours", told, cancel);

    public Task<Result<ChecklistSeen>> TakePhotoAsync(string swap, string step, byte[] photo, int version, CancellationToken cancel) =>
        SendAsync<ChecklistSeen>(
                HttpMethod.Put,
                $"api/swaps/{E(swap)}/checklist/steps/{E(step)}/photo",
                () => new ByteArrayContent(photo),
                cancel,
                version.ToString());

    public Task<Result<FollowUpSeen>> OpenFollowUpAsync(string swap, FollowUpWanted wanted, CancellationToken cancel) =>
        PostAsync<FollowUpSeen>($"api/swaps/{E(swap)}/follow-ups", wanted, cancel);

    public Task<Result<FollowUpSeen>> RefuseAsync(string swap, string words, CancellationToken cancel) =>
        PostAsync<FollowUpSeen>($"api/swaps/{E(swap)}/refusal", new RefusalWanted(words), cancel);

    public Task<Result<FollowUpSeen>> FollowUpAsync(string followUp, CancellationToken cancel) =>
        GetAsync<FollowUpSeen>($"api/follow-ups/{E(followUp)}", cancel);

    public Task<Result<FollowUpSeen>> ChangeFollowUpAsync(string followUp, FollowUpChange change, CancellationToken cancel) =>
        PutAsync<FollowUpSeen>($"api/follow-ups/{E(followUp)}", change, cancel);

    public Task<Result<FollowUpSeen>> EndFollowUpAsync(string followUp, string outcome, CancellationToken cancel) =>
        PostAsync<FollowUpSeen>($"api/follow-ups/{E(followUp)}/end", new FollowUpEnd(outcome), cancel);

    public Task<Result<SnagSeen>> AnswerSourceAsync(string snag, SourceAnswerWanted wanted, CancellationToken cancel) =>
        PostAsync<SnagSeen>($"api/snags/{E(snag)}/source", wanted, cancel);

    public Task<Result<SnagSeen>> WaiveAsync(string snag, string reason, CancellationToken cancel) =>
        PostAsync<SnagSeen>($"api/snags/{E(snag)}/waiver", new WaiverWanted(reason), cancel);

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

    public Task<Result<List<TemplateSeen>>> TemplatesAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<TemplateSeen>>($"api/refreshes/{E(refresh)}/templates", cancel);

    public Task<Result<TemplateSeen>> AddTemplateAsync(string refresh, string yaml, CancellationToken cancel) =>
        PostAsync<TemplateSeen>($"api/refreshes/{E(refresh)}/templates", new { yaml }, cancel);

    public Task<Result<List<TemplateUse>>> TemplateUsesAsync(string refresh, CancellationToken cancel) =>
        GetAsync<List<TemplateUse>>($"api/refreshes/{E(refresh)}/templates/uses", cancel);

    /// <summary>Moves some; ask again while some are left.</summary>
    public Task<Result<ChecklistsMoved>> MoveChecklistsAsync(string refresh, ChecklistsMove move, CancellationToken cancel) =>
        PostAsync<ChecklistsMoved>($"api/refreshes/{E(refresh)}/templates/moves", move, cancel);

    public Task<Result<TemplatePreview>> PreviewTemplateAsync(string refresh, TemplateDraft draft, CancellationToken cancel) =>
        PostAsync<TemplatePreview>($"api/refreshes/{E(refresh)}/template-preview", draft, cancel);

    public Task<Result<ChecklistMoved>> MoveChecklistAsync(string swap, ChecklistMove move, CancellationToken cancel) =>
        PostAsync<ChecklistMoved>($"api/swaps/{E(swap)}/checklist/version", move, cancel);
}
