using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

#pragma warning disable CS1591 // One line per endpoint; the endpoints are described in the OpenAPI document.

/// <content>Old computers and pallets.</content>
public sealed partial class YardClient
{
    public Task<Result<RefreshSeen>> HoldOldComputersAsync(string refresh, int days, CancellationToken cancel) =>
        PutAsync<RefreshSeen>($"api/refreshes/{E(refresh)}/old-hold", new OldHoldWanted(days), cancel);

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
}
