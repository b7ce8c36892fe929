using Microsoft.Extensions.Time.Testing;
using YardRelay.Carriage.Depots.Limited;

namespace YardRelay.Carriage.Tests.Depots;

public sealed class LimitedDepotTests
{
    /// <summary>Moves a clock by hand until a task is done, and says how much time that took by this clock.</summary>
    private static async Task<TimeSpan> ElapsedAsync(FakeTimeProvider clock, Task work, TimeSpan most)
    {
        var started = clock.GetTimestamp();
        while (!work.IsCompleted && clock.GetElapsedTime(started) < most)
        {
            clock.Advance(TimeSpan.FromMilliseconds(10));
            await Task.Delay(1, TestContext.Current.CancellationToken);
        }
        return clock.GetElapsedTime(started);
    }

    [Fact]
    public async Task Several_at_once_together_go_no_faster_than_the_gate_and_not_much_slower()
    {
        var clock = new FakeTimeProvider();
        var gate = new RateGate(clock) { BytesPerSecond = 1_000_000 };
        async Task SendAsync()
        {
            for (var i = 0; i < 25; i++) await gate.PassAsync(40_000, TestContext.Current.CancellationToken);
        }

        var took = await ElapsedAsync(clock, Task.WhenAll(SendAsync(), SendAsync(), SendAsync()), TimeSpan.FromSeconds(10));
        took.TotalSeconds.ShouldBeInRange(2.4, 4.0, "3 MB at 1 MB/s, half a second in advance");
    }

    [Fact]
    public async Task Nothing_passes_while_nothing_may_and_what_waits_goes_on_when_the_rate_changes()
    {
        var clock = new FakeTimeProvider();
        var gate = new RateGate(clock) { BytesPerSecond = 0 };
        var passing = gate.PassAsync(10, TestContext.Current.CancellationToken).AsTask();
        (await ElapsedAsync(clock, passing, TimeSpan.FromSeconds(3))).TotalSeconds.ShouldBeGreaterThanOrEqualTo(3);
        passing.IsCompleted.ShouldBeFalse();
        gate.BytesPerSecond = null;
        (await ElapsedAsync(clock, passing, TimeSpan.FromSeconds(3))).TotalSeconds.ShouldBeLessThan(1);
        passing.IsCompletedSuccessfully.ShouldBeTrue();
    }
}
