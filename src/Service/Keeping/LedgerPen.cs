using System.Security.Claims;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using YardRelay.Core.Ledger;
using YardRelay.Records;

namespace YardRelay.Service.Keeping;

/// <summary>Who does something.</summary>
/// <param name="Shown">As people see them.</param>
/// <param name="Account">Name of their account, which nobody else has; null: no account did it.</param>
internal sealed record Doer(string Shown, string? Account)
{
    /// <summary>The service by itself.</summary>
    public static readonly Doer System = new("the system", null);

    /// <summary>Whoever is signed in; nobody: the service.</summary>
    public static Doer Of(ClaimsPrincipal? user) =>
        user?.FindFirstValue(ClaimTypes.Name) is { Length: > 0 } name ? new(user.FindFirstValue("shown") ?? name, name) : System;
}

/// <summary>What happened.</summary>
/// <param name="Kind">Stable: <c>area.what</c>.</param>
/// <param name="Swap">The swap that it is about; null: about none.</param>
/// <param name="Words">For people; kept beside the chain, with only their salted digest inside.</param>
/// <param name="Data">Ids and amounts; no names.</param>
internal sealed record Happening(string Kind, string? Swap, string Words, JsonObject? Data);

/// <summary>Appends to a chain, and keeps the words beside it.</summary>
internal static class LedgerPen
{
    /// <param name="chain">Key of the refresh, or of the service's own chain.</param>
    /// <returns>The new head.</returns>
    public static LedgerHead Append(
        YardDb db, string chain, LedgerHead head, DateTimeOffset now, Doer by, Happening happening)
    {
        var (kind, swap, words, data) = happening;
        var salt = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));
        data ??= [];
        if (swap is not null) data["swap"] = swap;
        if (by.Account is not null) data["account"] = LedgerChain.Salted(salt, by.Account);
        data["words"] = LedgerChain.Salted(salt, words);
        var entry = LedgerChain.Next(head, chain, now, LedgerChain.Salted(salt, by.Shown), kind, data);
        db.Ledger.Add(new()
        {
            Refresh = chain,
            Number = entry.Number,
            Json = entry.Json,
            Sha256 = entry.Sha256,
            At = now,
            Swap = swap,
            By = by.Shown,
            Account = by.Account,
            Kind = kind,
            Words = words,
            Salt = salt
        });
        return new(entry.Number, entry.Sha256);
    }
}
