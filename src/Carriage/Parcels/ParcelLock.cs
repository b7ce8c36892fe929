using System.Diagnostics;
using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Trips;
using YardRelay.Core;

namespace YardRelay.Carriage.Parcels;

/// <summary>Another hand writes to the parcel.</summary>
public sealed record ParcelLocked(string Holder, DateTimeOffset Until)
    : Problem("parcel.locked", $"The parcel is being written to by {Holder}, whose lease runs until {Until:u}. Wait for it to finish, or try again after that time.");

/// <summary>Who holds a parcel: <c>yard/lock/holder.json</c>.</summary>
internal sealed record LockHolder(string Id, string Host, string Boot, int Process, long ProcessStart, DateTimeOffset Until);

/// <summary>
/// The right to write to a parcel, for one hand at a time: a folder <c>yard/lock</c>, which only one can make, with the holder in it.
/// The lease is 30 s and renewed every 10 s. A holder on the same computer that is dead, or one whose lease ran out, is replaced.
/// </summary>
internal sealed class ParcelLock : IAsyncDisposable
{
    private static readonly TimeSpan Lease = TimeSpan.FromSeconds(30);

    private readonly IDepot _depot;
    private readonly ParcelPaths _paths;
    private readonly LockHolder _self;
    private readonly TimeProvider _time;
    private readonly CancellationTokenSource _ended = new();
    private readonly CancellationTokenSource _lost = new();
    private readonly Task _renewing;

    private ParcelLock(IDepot depot, ParcelPaths paths, LockHolder self, TimeProvider time)
    {
        (_depot, _paths, _self, _time) = (depot, paths, self, time);
        _renewing = Task.Run(RenewAsync);
    }

    /// <summary>Cancelled when the lease could not be renewed in time: the holder must stop writing.</summary>
    public CancellationToken Lost => _lost.Token;

    public static async Task<Result<ParcelLock>> TakeAsync(IDepot depot, ParcelPaths paths, TimeProvider time, CancellationToken cancel)
    {
        var self = new LockHolder(Guid.NewGuid().ToString("N"), Environment.MachineName, BootId(), Environment.ProcessId, ProcessStart(Environment.ProcessId) ?? 0, time.GetUtcNow() + Lease);
        var folder = paths.At(ParcelPaths.Lock);
        await depot.MakeFoldersAsync(folder.Parent, cancel);
        for (var tries = 0; tries < 5; tries++)
        {
            var made = await depot.MakeFolderAsync(folder, cancel);
            if (!made.TryGet(out var won, out var problem)) return problem;
            if (won)
            {
                await WriteAsync(depot, paths, self, cancel);
                return new ParcelLock(depot, paths, self, time);
            }
            var holder = await ReadAsync(depot, paths, cancel);
            // A lock without a holder is one that is being taken this moment, or whose taker died at once.
            if (holder is null)
            {
                await Task.Delay(TimeSpan.FromSeconds(1), time, cancel);
                holder = await ReadAsync(depot, paths, cancel);
            }
            if (holder is not null && !IsDead(holder) && holder.Until > time.GetUtcNow()) return new ParcelLocked($"process {holder.Process} on {holder.Host}", holder.Until);
            var stale = paths.At(ParcelPaths.Lock + "-stale-" + self.Id);
            if (await depot.MoveAsync(folder, stale, cancel)) await depot.RemoveAsync(stale, cancel);
        }
        return new ParcelLocked("another hand that takes it at the same moment", time.GetUtcNow() + Lease);
    }

    private static bool IsDead(LockHolder holder) => holder.Host == Environment.MachineName && holder.Boot == BootId() && ProcessStart(holder.Process) != holder.ProcessStart;

    private static string BootId() => File.Exists("/proc/sys/kernel/random/boot_id") ? File.ReadAllText("/proc/sys/kernel/random/boot_id").Trim() : "";

    private static long? ProcessStart(int process)
    {
        try
        {
            using var found = Process.GetProcessById(process);
            return found.StartTime.ToUniversalTime().Ticks / TimeSpan.TicksPerSecond;
        }
        catch (Exception gone) when (gone is ArgumentException or InvalidOperationException or System.ComponentModel.Win32Exception)
        {
            return null;
        }
    }

    private static async Task WriteAsync(IDepot depot, ParcelPaths paths, LockHolder self, CancellationToken cancel)
    {
        var text = JsonSerializer.SerializeToUtf8Bytes(self, TripJson.Lines);
        await depot.SaveAsync(paths.At(ParcelPaths.Lock) / "holder.json", paths.At(ParcelPaths.Lock) / $"holder-{self.Id}", () => new MemoryStream(text), text.Length, cancel);
    }

    private static async Task<LockHolder?> ReadAsync(IDepot depot, ParcelPaths paths, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(paths.At(ParcelPaths.Lock) / "holder.json", cancel);
        if (!opened.IsOk) return null;
        await using var stream = opened.Value;
        try
        {
            return await JsonSerializer.DeserializeAsync<LockHolder>(stream, TripJson.Lines, cancel);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private async Task RenewAsync()
    {
        var good = _time.GetTimestamp();
        while (!_ended.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(TimeSpan.FromSeconds(10), _time, _ended.Token);
                if (await ReadAsync(_depot, _paths, _ended.Token) is { } holder && holder.Id != _self.Id)
                {
                    await _lost.CancelAsync();
                    return;
                }
                await WriteAsync(_depot, _paths, _self with { Until = _time.GetUtcNow() + Lease }, _ended.Token);
                good = _time.GetTimestamp();
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (IOException)
            {
                if (_time.GetElapsedTime(good) > Lease)
                {
                    await _lost.CancelAsync();
                    return;
                }
            }
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _ended.CancelAsync();
        await _renewing;
        try
        {
            if (!_lost.IsCancellationRequested) await _depot.RemoveAsync(_paths.At(ParcelPaths.Lock), CancellationToken.None);
        }
        catch (IOException)
        {
            // The depot is gone; the lease runs out by itself.
        }
        _ended.Dispose();
        _lost.Dispose();
    }
}
