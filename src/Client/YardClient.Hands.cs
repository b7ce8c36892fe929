using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>Hands and their orders.</content>
public sealed partial class YardClient
{
    public Task<Result<OrderSeen>> GiveOrderAsync(string swap, string kind, CancellationToken cancel) =>
        PostAsync<OrderSeen>($"api/swaps/{E(swap)}/orders", new OrderWanted(kind), cancel);

    public Task<Result<JsonElement>> WithdrawOrderAsync(string swap, CancellationToken cancel) =>
        DeleteAsync($"api/swaps/{E(swap)}/order", cancel);

    public Task<Result<OrdersMade>> GiveOrdersAsync(string refresh, OrdersWanted wanted, CancellationToken cancel) =>
        PostAsync<OrdersMade>($"api/refreshes/{E(refresh)}/orders", wanted, cancel);

    public Task<Result<OrderSeen>> GiveOrderAsync(string swap, OrderWanted wanted, CancellationToken cancel) =>
        PostAsync<OrderSeen>($"api/swaps/{E(swap)}/orders", wanted, cancel);

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
}
