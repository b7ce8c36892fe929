using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>People's own pages, what they are told, and what is kept about them.</content>
public sealed partial class YardClient
{
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
}
