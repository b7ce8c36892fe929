using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Depots;

/// <summary>
/// What opens depots: encrypted in the records, in plain only on the way to a hand with an order, never logged and never shown again.
/// </summary>
internal sealed class DepotSecrets(IDataProtectionProvider protection, ServiceOptions options)
{
    private readonly IDataProtector _access = protection.CreateProtector("depot access");
    private readonly IDataProtector _tickets = protection.CreateProtector("built-in depot");

    /// <summary>Why what a depot is to be opened by is not kept; null: it is, or there is nothing.</summary>
    public Problem? Against(DepotWanted wanted) => IsNothing(wanted.Access) ? null : Against(wanted.Address);

    /// <summary>What is kept from now on of what opens a depot: what is given; else what was, where it was given for that place.</summary>
    public string? Kept(DepotRow row, DepotWanted wanted) =>
        wanted.Access is { } access ? IsNothing(access) ? null : _access.Protect(JsonSerializer.Serialize(access))
        : DepotDoor.Opens(row.Address, wanted.Address) ? row.Access
        : null;

    private static bool IsNothing(DepotAccessWanted? access) => access is null || access == new DepotAccessWanted();

    /// <summary>What a hand needs for an order: what is kept for the depot, or a ticket to one parcel of the built-in one.</summary>
    public DepotAccessWanted? For(DepotRow depot, OrderRow order, string? parcel) =>
        depot.Address == BuiltInDepot.Address
            ? parcel is null
                ? null
                : new("order", _tickets.Protect(JsonSerializer.Serialize(new DepotTicket(order.Id, order.Attempt, parcel, order.Folder))))
            : Against(depot.Address) is null ? Open(depot.Access)
            : null;

    /// <summary>Why nothing that opens it is given out for an address; null: it is.</summary>
    public Problem? Against(string address) => DepotDoor.Against(address, options.DepotSecretsTo);

    /// <summary>The ticket that a hand showed; null where it is none of ours.</summary>
    public DepotTicket? ReadTicket(string text)
    {
        try
        {
            return JsonSerializer.Deserialize<DepotTicket>(_tickets.Unprotect(text));
        }
        catch (Exception wrong) when (wrong is CryptographicException or JsonException)
        {
            return null;
        }
    }

    /// <summary>What is kept, in words that give nothing away.</summary>
    public string? Words(DepotRow depot) =>
        Words(depot.Access) is { } words && Against(depot.Address) is not null
            ? $"{words}; not given out, see 'depot-secrets-to'"
            : Words(depot.Access);

    private string? Words(string? kept) =>
        Open(kept) is not { } access ? kept is null ? null : "something that the service can no longer read; give it anew"
        : string.Join(
            ", ",
            new[]
            {
                access.User,
                access.Password is null ? null : access.PrivateKey is null ? "a password" : "a passphrase",
                access.PrivateKey is null ? null : "a private key",
                access.HostKey
            }.Where(p => p is not null));

    /// <summary>What is kept, in plain; null: nothing, or nothing that can still be read.</summary>
    public DepotAccessWanted? Open(string? kept)
    {
        try
        {
            return kept is null ? null : JsonSerializer.Deserialize<DepotAccessWanted>(_access.Unprotect(kept));
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}

/// <summary>What lets a hand into the built-in depot: one attempt at one order, and one parcel.</summary>
/// <param name="Folder">Of an adoption: the folder that becomes the parcel.</param>
internal sealed record DepotTicket(string Order, int Attempt, string Parcel, string? Folder = null);
