using System.Text.Json;
using System.Text.Json.Serialization;
using YardRelay.Carriage.Depots;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Parcels;

/// <summary>Another hand writes to the parcel.</summary>
public sealed record ParcelLocked(string Holder, DateTimeOffset Until)
    : Problem(
        "parcel.locked",
        $"The parcel is being written to by {Holder}, whose lease runs until {Until:u}. Wait for it to finish, or try again after that "
            + $"time.");

/// <summary>Who holds a parcel: <c>yard/lock/holder.json</c>.</summary>
/// <param name="Space">Where its process number counts; null: a program of before, or of a system with one space, holds it.</param>
internal sealed record LockHolder(
    string Id, string Host, string Boot, int Process, long ProcessStart, DateTimeOffset Until, string? Space = null);

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(LockHolder))]
internal sealed partial class LockShape : JsonSerializerContext;

/// <summary>
/// The right to write to a parcel, for one hand at a time: a folder <c>yard/lock</c>, which only one can make, with the holder in it.
/// The lease is 30 s and renewed every 10 s. A holder on the same computer that is dead is replaced at once, one elsewhere when its lease
/// runs out and it does not renew it:
/// clocks of two computers differ, and are set back, so a lease that looks as if it were over, or as if it ran for hours, is watched first.
/// </summary>
internal sealed class ParcelLock : IAsyncDisposable
{
    private static readonly TimeSpan Lease = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan RenewEvery = TimeSpan.FromSeconds(10);

    /// <summary>Long enough to see a holder renew its lease, if it lives.</summary>
    private static readonly TimeSpan Watch = TimeSpan.FromSeconds(16);

    private readonly IDepot _depot;
    private readonly ParcelPaths _paths;
    private readonly LockHolder _self;
    private readonly IWork _work;
    private readonly CancellationTokenSource _ended = new();
    private readonly CancellationTokenSource _lost = new();
    private readonly Task _renewing;

    private ParcelLock(IDepot depot, ParcelPaths paths, LockHolder self, IWork work)
    {
        (_depot, _paths, _self, _work) = (depot, paths, self, work);
        _renewing = work.Start(RenewAsync);
    }

    /// <summary>Cancelled when the lease could not be renewed in time: the holder must stop writing.</summary>
    public CancellationToken Lost => _lost.Token;

    public static async Task<Result<ParcelLock>> TakeAsync(IDepot depot, ParcelPaths paths, IWork work, CancellationToken cancel)
    {
        var self = new LockHolder(
            work.NewId().ToString("N"), Environment.MachineName, Processes.Boot(), Environment.ProcessId,
            Processes.Began(Environment.ProcessId) ?? 0, work.Time.GetUtcNow() + Lease, Processes.Space());
        var folder = paths.At(ParcelPaths.Lock);
        for (var tries = 0; tries < 5; tries++)
        {
            await depot.MakeParcelAsync(paths.Root, cancel);
            await depot.MakeFoldersAsync(folder.Parent, cancel);
            var made = await depot.MakeFolderAsync(folder, cancel);
            // Somebody may have taken the parcel away since its folder was made.
            if (!made.IsOk && made.Problem is NotInDepot && tries < 4) continue;
            if (!made.TryGet(out var won, out var problem)) return problem;
            if (won)
            {
                await WriteAsync(depot, folder, self, cancel);
                return new ParcelLock(depot, paths, self, work);
            }
            var holder = await ReadPatientlyAsync(depot, folder, work, cancel);
            if (await IsAliveAsync(depot, folder, holder, work, cancel)) return Locked(holder!);
            if (await InheritAsync(depot, paths, holder, self, work, cancel) is { } heir) return Locked(heir);
        }
        return new ParcelLocked("another hand that takes it at the same moment", work.Time.GetUtcNow() + Lease);
    }

    /// <summary>Who writes to the parcel at this moment; null: nobody. Only reads.</summary>
    public static async Task<ParcelLocked?> HeldAsync(IDepot depot, ParcelPaths paths, IWork work, CancellationToken cancel)
    {
        var folder = paths.At(ParcelPaths.Lock);
        return await ReadAsync(depot, folder, cancel) is { } holder && await IsAliveAsync(depot, folder, holder, work, cancel)
            ? Locked(holder)
            : null;
    }

    private static ParcelLocked Locked(LockHolder holder) => new($"process {holder.Process} on {holder.Host}", holder.Until);

    private static async Task<bool> IsAliveAsync(
        IDepot depot, DepotPath folder, LockHolder? holder, IWork work, CancellationToken cancel)
    {
        if (holder is null || IsDead(holder)) return false;
        var left = holder.Until - work.Time.GetUtcNow();
        if (left > TimeSpan.Zero && left <= Lease + TimeSpan.FromSeconds(5)) return true;
        await Task.Delay(Watch, work.Time, cancel);
        return await ReadAsync(depot, folder, cancel) is { } now && now != holder;
    }

    /// <summary>
    /// Clears a dead holder's lock away. Only one may: between the look at a dead lock and its removal another may have cleared it and
    /// taken the parcel.
    /// So whoever clears makes a folder named after the dead holder first, which one alone can make, and looks again.
    /// </summary>
    /// <returns>Who clears it at this moment, when that is somebody else; null: look again.</returns>
    private static async Task<LockHolder?> InheritAsync(
        IDepot depot, ParcelPaths paths, LockHolder? dead, LockHolder self, IWork work, CancellationToken cancel)
    {
        var folder = paths.At(ParcelPaths.Lock);
        // An heir may die as well; then the next number is free.
        for (var number = 1; ; number++)
        {
            var heirs = paths.At($"{ParcelPaths.Lock}-heir-{dead?.Id ?? "unknown"}-{number}");
            if (!(await depot.MakeFolderAsync(heirs, cancel)).TryGet(out var made, out _)) return null;
            if (!made)
            {
                var heir = await ReadPatientlyAsync(depot, heirs, work, cancel);
                if (await IsAliveAsync(depot, heirs, heir, work, cancel)) return heir;
                if (await IsGoneAsync(depot, heirs, cancel)) return null;
                continue;
            }
            await WriteAsync(depot, heirs, self, cancel);
            var now = await ReadAsync(depot, folder, cancel);
            if (now == dead)
            {
                var stale = paths.At(ParcelPaths.Lock + "-stale-" + self.Id);
                if (await depot.MoveAsync(folder, stale, cancel)) await depot.RemoveAsync(stale, cancel);
            }
            for (; number > 0; number--)
                await depot.RemoveAsync(paths.At($"{ParcelPaths.Lock}-heir-{dead?.Id ?? "unknown"}-{number}"), cancel);
            return null;
        }
    }

    private static async Task<bool> IsGoneAsync(IDepot depot, DepotPath folder, CancellationToken cancel) =>
        (await depot.ListAsync(folder.Parent, cancel)).All(n => n.Name != folder.Name);

    // A lock without a holder is one that is being taken this moment, or whose taker died at once.
    private static async Task<LockHolder?> ReadPatientlyAsync(IDepot depot, DepotPath folder, IWork work, CancellationToken cancel)
    {
        if (await ReadAsync(depot, folder, cancel) is { } holder) return holder;
        await Task.Delay(TimeSpan.FromSeconds(1), work.Time, cancel);
        return await ReadAsync(depot, folder, cancel);
    }

    // Of a program in another space of process numbers nothing can be told from here: its lease tells.
    private static bool IsDead(LockHolder holder) =>
        holder.Host == Environment.MachineName
            && holder.Boot == Processes.Boot()
            && (holder.Space is null || holder.Space == Processes.Space())
            && Processes.Began(holder.Process) != holder.ProcessStart;

    private static async Task WriteAsync(IDepot depot, DepotPath folder, LockHolder self, CancellationToken cancel)
    {
        var text = JsonSerializer.SerializeToUtf8Bytes(self, LockShape.Default.LockHolder);
        await depot.SaveAsync(folder / "holder.json", folder / $"holder-{self.Id}", () => new MemoryStream(text), text.Length, cancel);
    }

    private static async Task<LockHolder?> ReadAsync(IDepot depot, DepotPath folder, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(folder / "holder.json", cancel);
        if (!opened.IsOk) return null;
        await using var stream = opened.Value;
        try
        {
            return await JsonSerializer.DeserializeAsync(stream, LockShape.Default.LockHolder, cancel);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>Whether the same lock stands in another depot: both are one place.</summary>
    public async Task<bool> IsAlsoInAsync(IDepot other, CancellationToken cancel) =>
        await ReadAsync(other, _paths.At(ParcelPaths.Lock), cancel) is { } there && there.Id == _self.Id;

    private async Task RenewAsync()
    {
        var good = _work.Time.GetTimestamp();
        while (!_ended.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(RenewEvery, _work.Time, _ended.Token);
                if (await ReadAsync(_depot, _paths.At(ParcelPaths.Lock), _ended.Token) is { } holder && holder.Id != _self.Id)
                {
                    await _work.CancelAsync(_lost);
                    return;
                }
                await WriteAsync(_depot, _paths.At(ParcelPaths.Lock), _self with { Until = _work.Time.GetUtcNow() + Lease }, _ended.Token);
                good = _work.Time.GetTimestamp();
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (IOException)
            {
                if (_work.Time.GetElapsedTime(good) > Lease)
                {
                    await _work.CancelAsync(_lost);
                    return;
                }
            }
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _work.CancelAsync(_ended);
        await _renewing;
        try
        {
            // A holder that slept past its lease may find another's lock here.
            var folder = _paths.At(ParcelPaths.Lock);
            if (!_lost.IsCancellationRequested && (await ReadAsync(_depot, folder, CancellationToken.None))?.Id == _self.Id)
                await _depot.RemoveAsync(folder, CancellationToken.None);
        }
        catch (IOException)
        {
            // The depot is gone; the lease runs out by itself.
        }
        _ended.Dispose();
        _lost.Dispose();
    }
}
