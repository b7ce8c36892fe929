using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="DepotEndpoints"/>.</summary>
internal static class DepotHandlers
{
    internal static async Task<Ok<List<DepotSeen>>> ListAsync(string refresh, DepotReader depots, CancellationToken cancel) =>
        TypedResults.Ok(await depots.ReadAsync(refresh, cancel));

    internal static async Task<Results<Ok<DepotSeen>, ProblemHttpResult>> PutAsync(
        string refresh, string key, DepotWanted wanted, Writer writer, DepotReader depots, DepotSecrets secrets, CancellationToken cancel)
    {
        var uri = Uri.TryCreate(wanted.Address, UriKind.Absolute, out var parsed) ? parsed : null;
        var known = wanted.Address == BuiltInDepot.Address || uri?.Scheme is "file" or "http" or "https" or "sftp";
        var limits = RateRule.ParseAll(wanted.Limits ?? []);
        var faults = WorldWrite.Faults(
            limits.IsOk ? null : limits.Problem,
            WorldWrite.KeyFault("depot", key), WorldWrite.NameFault("depot", wanted.Name),
            known
                ? null
                : new(
                    "depot.address",
                    $"'{wanted.Address}' is not an address of a depot. Use file:///path, http(s)://host/path or sftp://user@host/path, or "
                        + $"built-in for the one of the service."),
            known && uri is not null && uri.UserInfo.Contains(':', StringComparison.Ordinal)
                ? new(
                    "depot.address",
                    "An address holds no password. Give user and password apart, or let hands take them from YARD_DEPOT_USER and "
                        + "YARD_DEPOT_PASSWORD.")
                : null,
            wanted.CapacityBytes < 0 || wanted.DailyBytes < 0
                ? new("depot.room", "A depot's room and what its link brings are 0 bytes or more; leave them out for no bound.")
                : null,
            (wanted.SealTo ?? []).FirstOrDefault(r => Carriage.Sealing.AgeRecipient.TryParse(r) is null) is { } mistyped
                ? new(
                    "depot.seal-to",
                    $"'{mistyped}' is no recipient. One begins with age1 and has 62 characters; 'yardhand key make' makes one.")
                : null,
            wanted.CopyTo == key
                ? new("depot.copy-to", "A second copy in the same depot is lost with the first. Name another depot.")
                : null,
            wanted.HoldDays is < 0 or > 366 ? new("depot.hold", $"A parcel is held 0 to 366 days, not {wanted.HoldDays}.") : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<DepotSeen>(refresh,
            async w => wanted.CopyTo is { } other
                && !await w.Db.Depots.AnyAsync(d => d.Refresh == refresh && d.Key == other && d.Address != BuiltInDepot.Address, cancel)
            ? new Problem(
                "depot.copy-to",
                $"'{other}' is no depot of this refresh that a hand can write a second copy to. Add it first, with an address of its own.")
            : await w.SetAsync(
            "depot",
            w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == refresh && d.Key == key, cancel),
            () => new DepotRow { Refresh = refresh, Key = key, Name = wanted.Name, Address = wanted.Address },
            row =>
            {
                if (wanted.Access is { } access) row.Access = secrets.Seal(access);
                (row.Name, row.Address, row.CapacityBytes, row.DailyBytes, row.HoldDays, row.EndsOn, row.SealTo, row.Limits, row.CopyTo) = (
                    wanted.Name, wanted.Address, wanted.CapacityBytes, wanted.DailyBytes, wanted.HoldDays ?? 14, wanted.EndsOn,
                    [.. wanted.SealTo ?? []], limits.IsOk ? [.. limits.Value.Select(l => l.ToString())] : [], wanted.CopyTo);
            }, d => depots.Seen(d),
            d => $"Depot {d.Name} is {d.Address}"), cancel)).ToHttp();
    }
}
