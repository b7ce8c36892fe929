using YardRelay.Carriage.Depots.Limited;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Trips;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Files.Working;
using YardRelay.Hand.Service;

namespace YardRelay.Hand.Orders;

/// <summary>A hand at work for the service: takes orders, does them, reports numbered batches that also renew the lease.</summary>
internal sealed class Worker(HandState state, string folder, Power power, string powerFolder, TextWriter say, TimeProvider time)
    : IDisposable
{
    // Two hours: who comes back from a long night's upgrade still gets the result.
    private const int MostTries = 2400;
    private static readonly TimeSpan ReportEvery = TimeSpan.FromSeconds(1);
    private readonly YardClient _client = new(new(state.Service), state.Token);

    /// <summary>Works until told to stop, or until there was no order for so long.</summary>
    public async Task<int> RunAsync(TimeSpan? idle, CancellationToken cancel)
    {
        var lastWork = time.GetTimestamp();
        var wait = TimeSpan.FromSeconds(1);
        while (!cancel.IsCancellationRequested)
        {
            try
            {
                var poll = idle is { } most ? Math.Clamp((int)(most - time.GetElapsedTime(lastWork)).TotalSeconds, 0, 25) : 25;
                var taken = await _client.TakeOrderAsync(poll, cancel);
                wait = TimeSpan.FromSeconds(1);
                if (!taken.TryGet(out var order, out var refused) && refused is not null)
                {
                    say.WriteLine($"{state.Tag}: {refused.Message}");
                    if (refused is Refused { Status: 401 or 403 }) return Runs.ExitCodes.Unreachable;
                    await Task.Delay(wait, time, cancel);
                    continue;
                }
                if (order is not null)
                {
                    if (order.Beside == true) await Beside.DoAsync(order, folder, powerFolder, say, cancel);
                    else await DoAsync(order, cancel);
                    lastWork = time.GetTimestamp();
                }
                else if (idle is { } limit && time.GetElapsedTime(lastWork) >= limit) return Runs.ExitCodes.AllAccounted;
            }
            catch (ServiceUnreachableException gone)
            {
                say.WriteLine($"{state.Tag}: {gone.Message} Trying again in {wait.TotalSeconds:0} s.");
                await Task.Delay(wait, time, cancel);
                wait = TimeSpan.FromSeconds(Math.Min(60, wait.TotalSeconds * 2));
            }
        }
        return Runs.ExitCodes.AllAccounted;
    }

    /// <summary>Does one order, to its end or until it went on elsewhere.</summary>
    public async Task DoAsync(OrderTaken order, CancellationToken cancel)
    {
        var what = order.Work.Name;
        say.WriteLine($"{state.Tag}: {what} begins{(order.Attempt > 1 ? $" (attempt {order.Attempt})" : "")}");
        var odometer = new Odometer();
        var (share, waits) = (order.BytesPerSecond, Waits());
        var gate = new RateGate(new ThreadWork(time)) { BytesPerSecond = waits is null ? share : 0 };
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var number = 1;
        var run = new OrderRun(state, odometer, gate, time);
        var isBegunTold = false;
        var work = Task.Run(() => run.DoAsync(order.Work, stop.Token), CancellationToken.None);
        var (lastBytes, lastAt) = (0L, time.GetTimestamp());
        while (await Task.WhenAny(work, Task.Delay(ReportEvery, time, cancel)) != work)
        {
            cancel.ThrowIfCancellationRequested();
            var bytes = odometer.Bytes;
            var rate = (long)((bytes - lastBytes) / Math.Max(0.1, time.GetElapsedTime(lastAt).TotalSeconds));
            (lastBytes, lastAt) = (bytes, time.GetTimestamp());
            if (Waits() is var now && now != waits)
                say.WriteLine(
                    $"{state.Tag}: {what} {((waits = now) is null ? "goes on" : $"waits: the computer runs on its {now}")}");
            var goesOn = await ReportAsync(new(
                order.Attempt, time.GetUtcNow(), Progress(odometer, Math.Max(0, rate)) with { Waits = waits }));
            gate.BytesPerSecond = waits is null ? share : 0;
            if (goesOn) continue;
            // The order went on elsewhere: two hands must not write to one parcel.
            await stop.CancelAsync();
            await ((Task)work).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            say.WriteLine($"{state.Tag}: {what} stopped, the order went on elsewhere");
            return;
        }
        if (work.IsCanceled) return;
        var (outcome, found) = await work;
        say.WriteLine(await ReportAsync(new(order.Attempt, time.GetUtcNow(), Progress(odometer, 0), outcome, found))
            ? $"{state.Tag}: {what} {outcome.Words}"
            : $"{state.Tag}: {what} was done, but the order had gone on elsewhere; what was found is not counted");

        string? Waits() => order.Beside == true && power.IsOnBattery ? "battery" : null;

        async Task<bool> ReportAsync(OrderReport report)
        {
            if (!isBegunTold) report = report with { Begun = run.Begun };
            for (var tries = 1; tries <= MostTries; tries++)
            {
                try
                {
                    var taken = await _client.ReportAsync(order.Id, number, report, cancel);
                    if (taken.IsOk)
                    {
                        number = taken.Value.Next;
                        isBegunTold |= report.Begun is not null;
                        if (report.Outcome is null) share = taken.Value.BytesPerSecond;
                        return true;
                    }
                    if (taken.Problem is not Refused { Status: >= 500 } broke || report.Outcome is null)
                        return taken.Problem is not Refused { Status: 401 or 403 or 404 or 409 };
                    // A service, or what stands before it, that breaks has not taken the result.
                    say.WriteLine($"{state.Tag}: {broke.Message} The result is kept; trying again.");
                    await Task.Delay(TimeSpan.FromSeconds(3), time, cancel);
                }
                catch (ServiceUnreachableException) when (report.Outcome is null)
                {
                    // Progress can be missed; the work goes on while the service is away.
                    return true;
                }
                catch (ServiceUnreachableException gone)
                {
                    say.WriteLine($"{state.Tag}: {gone.Message} The result is kept; trying again.");
                    await Task.Delay(TimeSpan.FromSeconds(3), time, cancel);
                }
            }
            return false;
        }
    }

    private static OrderProgress Progress(Odometer odometer, long rate) =>
        new(odometer.Files, odometer.TotalFiles, odometer.Bytes, odometer.TotalBytes, rate, odometer.FirstIsThere ? true : null);

    public void Dispose() => _client.Dispose();
}
