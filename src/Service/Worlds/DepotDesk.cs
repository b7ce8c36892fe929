using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Depots;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>Sets a depot, and tries it at once.</summary>
internal sealed class DepotDesk(
    Writer writer, DepotReader depots, DepotSecrets secrets, DepotTrial trial, YardDb db, TimeProvider time)
{
    public async Task<Result<DepotSeen>> SetAsync(RefreshKey refresh, string key, DepotWanted wanted, CancellationToken cancel)
    {
        wanted = wanted with { Address = AddressOf(wanted.Address.Trim()) };
        var limits = RateRule.ParseAll(wanted.Limits ?? []);
        if (Faults(key, wanted, limits) is { Count: > 0 } faults) return Result<DepotSeen>.Failed(faults);
        var set = await writer.WriteAsync<DepotSeen>(refresh,
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
                    [.. wanted.SealTo ?? []], [.. limits.Value.Select(l => l.ToString())], wanted.CopyTo);
            }, d => depots.Seen(d),
            d => $"Depot {d.Name} is {d.Address}"), cancel);
        return set.TryGet(out var seen, out _) ? await TryAsync(refresh, key, seen, cancel) : set;
    }

    private async Task<DepotSeen> TryAsync(RefreshKey refresh, string key, DepotSeen seen, CancellationToken cancel)
    {
        var rows = db.Depots.Where(d => d.Refresh == refresh && d.Key == key);
        var tried = await trial.RunAsync(await rows.AsNoTracking().FirstAsync(cancel), cancel);
        if (!tried.IsTried) return seen with { Tried = tried.Words };
        // What was found is no change of the refresh: as with what a hand finds, only the depot shows it.
        await rows.ExecuteUpdateAsync(
            u => u.SetProperty(d => d.HeardAt, time.GetUtcNow())
                .SetProperty(d => d.Trouble, tried.Trouble)
                .SetProperty(d => d.FreeBytes, d => tried.FreeBytes ?? d.FreeBytes),
            cancel);
        return depots.Seen(await rows.AsNoTracking().FirstAsync(cancel)) with { Tried = tried.Words };
    }

    private IReadOnlyList<Problem> Faults(string key, DepotWanted wanted, Result<IReadOnlyList<RateRule>> limits) => WorldWrite.Faults(
        limits.IsOk ? null : limits.Problem,
        WorldWrite.KeyFault("depot", key), WorldWrite.NameFault("depot", wanted.Name),
        AddressFault(wanted.Address),
        wanted.CapacityBytes < 0 || wanted.DailyBytes < 0 ? new DepotRoomProblem() : null,
        (wanted.SealTo ?? []).FirstOrDefault(r => Carriage.Sealing.AgeRecipient.TryParse(r) is null) is { } mistyped
            ? new DepotSealToProblem(mistyped)
            : null,
        wanted.CopyTo == key ? new CopyInTheSameDepot() : null,
        secrets.Against(wanted),
        wanted.HoldDays is < 0 or > 366 ? new DepotHoldProblem(wanted.HoldDays) : null);

    /// <summary>A path is a folder as hands and service see it, with the options that may stand behind it.</summary>
    private static string AddressOf(string given) =>
        given.Split('?', 2) is [['/', ..] path, .. var options]
            ? new UriBuilder { Scheme = "file", Host = "", Path = path, Query = options.FirstOrDefault() ?? "" }.Uri.AbsoluteUri
            : given;

    private static Problem? AddressFault(string address)
    {
        if (address == BuiltInDepot.Address) return null;
        if (address.Contains('\\', StringComparison.Ordinal)
            || !Uri.TryCreate(address, UriKind.Absolute, out var uri)
            || uri.Scheme is not ("file" or "http" or "https" or "sftp"))
            return new DepotAddressFaulty(address);
        if (uri.UserInfo.Contains(':', StringComparison.Ordinal)) return new PasswordInAddress();
        return DepotModesText.Of(uri) is { IsOk: false } modes ? modes.Problem : null;
    }
}
