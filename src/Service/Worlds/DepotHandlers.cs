using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Depots;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="DepotEndpoints"/>.</summary>
internal static class DepotHandlers
{
    internal static async Task<Ok<List<DepotSeen>>> ListAsync(RefreshKey refresh, DepotReader depots, CancellationToken cancel) =>
        TypedResults.Ok(await depots.ReadAsync(refresh, cancel));

    internal static async Task<Results<Ok<DepotSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string key, DepotWanted wanted, Writer writer, DepotReader depots, DepotSecrets secrets,
        CancellationToken cancel)
    {
        var limits = RateRule.ParseAll(wanted.Limits ?? []);
        var faults = WorldWrite.Faults(
            limits.IsOk ? null : limits.Problem,
            WorldWrite.KeyFault("depot", key), WorldWrite.NameFault("depot", wanted.Name),
            AddressFault(wanted.Address),
            wanted.CapacityBytes < 0 || wanted.DailyBytes < 0
                ? new DepotRoomProblem()
                : null,
            (wanted.SealTo ?? []).FirstOrDefault(r => Carriage.Sealing.AgeRecipient.TryParse(r) is null) is { } mistyped
                ? new DepotSealToProblem(mistyped)
                : null,
            wanted.CopyTo == key
                ? new CopyInTheSameDepot()
                : null,
            secrets.Against(wanted),
            wanted.HoldDays is < 0 or > 366 ? new DepotHoldProblem(wanted.HoldDays) : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<DepotSeen>(refresh,
            async w => wanted.CopyTo is { } other
                && !await w.Db.Depots.AnyAsync(d => d.Refresh == refresh && d.Key == other && d.Address != BuiltInDepot.Address, cancel)
            ? new CopyToUnknown(other)
            : await w.SetAsync(
            "depot",
            w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == refresh && d.Key == key, cancel),
            () => new DepotRow { Refresh = refresh, Key = key, Name = wanted.Name, Address = wanted.Address },
            row =>
            {
                row.Access = secrets.Kept(row, wanted);
                (row.Name, row.Address, row.CapacityBytes, row.DailyBytes, row.HoldDays, row.EndsOn, row.SealTo, row.Limits, row.CopyTo) = (
                    wanted.Name, wanted.Address, wanted.CapacityBytes, wanted.DailyBytes, wanted.HoldDays ?? 14, wanted.EndsOn,
                    [.. wanted.SealTo ?? []], limits.IsOk ? [.. limits.Value.Select(l => l.ToString())] : [], wanted.CopyTo);
            }, d => depots.Seen(d),
            d => $"Depot {d.Name} is {d.Address}"), cancel)).ToHttp();
    }

    private static Problem? AddressFault(string address)
    {
        if (address == BuiltInDepot.Address) return null;
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("file" or "http" or "https" or "sftp"))
            return new DepotAddressFaulty(address);
        if (uri.UserInfo.Contains(':', StringComparison.Ordinal)) return new PasswordInAddress();
        return DepotModesText.Of(uri) is { IsOk: false } modes ? modes.Problem : null;
    }
}
