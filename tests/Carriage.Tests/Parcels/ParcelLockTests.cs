using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Carriage.Trips;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Parcels;

/// <summary>The right to write to a parcel, over hours that pass in a blink.</summary>
public sealed class ParcelLockTests : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly FolderDepot _depot;
    private readonly ParcelPaths _paths = new(DepotPath.Of("ida"));

    public ParcelLockTests() => _depot = new(_folder.At);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private Task<Core.Result<ParcelLock>> TakeAsync(TimeProvider? time = null, IDepot? depot = null) =>
        ParcelLock.TakeAsync(depot ?? _depot, _paths, time ?? TimeProvider.System, Cancel);

    private string HolderFile => _folder["ida/yard/lock/holder.json"];

    private void HeldElsewhere(DateTimeOffset until)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(HolderFile)!);
        // Whole or not at all, as a depot saves it.
        File.WriteAllText(
            HolderFile + ".new", JsonSerializer.Serialize(new LockHolder("other", "bench-7", "boot", 4711, 1, until), TripJson.Lines));
        File.Move(HolderFile + ".new", HolderFile, overwrite: true);
    }

    [Fact]
    public async Task A_holder_on_another_computer_is_respected_as_long_as_its_lease_runs_and_replaced_after_it()
    {
        HeldElsewhere(DateTimeOffset.UtcNow.AddSeconds(25));
        var refused = (await TakeAsync()).Problem.ShouldBeOfType<ParcelLocked>();
        refused.Message.ShouldContain("process 4711 on bench-7");
        HeldElsewhere(DateTimeOffset.UtcNow.AddSeconds(-1));
        await using (var taken = (await TakeAsync(new QuickTime(20))).Value) File.ReadAllText(HolderFile).ShouldNotContain("bench-7");
        Directory.GetFileSystemEntries(_folder["ida/yard"]).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_lock_whose_taker_died_before_it_said_who_it_is_does_not_stand_for_ever()
    {
        Directory.CreateDirectory(Path.GetDirectoryName(HolderFile)!);
        await using var taken = (await TakeAsync(new QuickTime(20))).Value;
        taken.Lost.IsCancellationRequested.ShouldBeFalse();
        File.WriteAllText(HolderFile, "{ half a hol");
        (await TakeAsync(new QuickTime(20))).IsOk.ShouldBeTrue("what is damaged says nothing of a holder");
    }

    [Fact]
    public async Task Of_many_that_take_over_a_dead_holders_lock_at_once_one_gets_it()
    {
        for (var round = 0; round < 5; round++)
        {
            HeldElsewhere(DateTimeOffset.UtcNow.AddSeconds(-1));
            var all = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => Task.Run(() => TakeAsync(new QuickTime(20)), Cancel)));
            all.Count(a => a.IsOk).ShouldBe(1);
            foreach (var lost in all.Where(a => !a.IsOk)) lost.Problem.ShouldBeOfType<ParcelLocked>();
            await all.Single(a => a.IsOk).Value.DisposeAsync();
        }
    }

    [Theory, InlineData(-3), InlineData(3)]
    public async Task A_holder_that_lives_keeps_its_parcel_and_a_dead_one_loses_it_though_their_clocks_are_hours_apart(int hours)
    {
        // On the clock of whoever comes, the holder's lease is long over, or runs for hours.
        var elsewhere = new QuickTime(20, TimeSpan.FromHours(hours));
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        var living = Task.Run(async () =>
        {
            while (!stop.IsCancellationRequested)
            {
                HeldElsewhere(elsewhere.GetUtcNow().AddSeconds(30));
                await Task.Delay(TimeSpan.FromSeconds(10), elsewhere, stop.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }, Cancel);
        await SoonAsync(() => File.Exists(HolderFile));
        for (var tries = 0; tries < 3; tries++) (await TakeAsync(new QuickTime(20))).Problem.ShouldBeOfType<ParcelLocked>();
        await stop.CancelAsync();
        await living;
        await using var taken = (await TakeAsync(new QuickTime(20))).Value;
        File.ReadAllText(HolderFile).ShouldNotContain("bench-7");
    }

    [Fact]
    public async Task The_lease_is_renewed_while_work_goes_on_and_given_up_when_another_holds_it()
    {
        var time = new QuickTime(200);
        var held = (await TakeAsync(time)).Value;
        string Until() => JsonDocument.Parse(File.ReadAllText(HolderFile)).RootElement.GetProperty("until").GetString()!;
        var first = Until();
        await SoonAsync(() => Until() != first);
        held.Lost.IsCancellationRequested.ShouldBeFalse();
        HeldElsewhere(DateTimeOffset.UtcNow.AddHours(9));
        await SoonAsync(() => held.Lost.IsCancellationRequested);
        await held.DisposeAsync();
        File.ReadAllText(HolderFile).ShouldContain("bench-7", Case.Sensitive, "what another holds is not taken away");
    }

    [Fact]
    public async Task A_depot_that_stays_away_longer_than_the_lease_ends_the_work_on_it()
    {
        var away = false;
        var depot = new DepotThat(_depot) { BeforeSave = _ => { if (away) throw new DepotUnreachableException("x", "gone."); } };
        var held = (await TakeAsync(new QuickTime(200), depot)).Value;
        away = true;
        await SoonAsync(() => held.Lost.IsCancellationRequested);
        await held.DisposeAsync();
    }

    private static async Task SoonAsync(Func<bool> isSo)
    {
        for (var tries = 0; tries < 400 && !isSo(); tries++) await Task.Delay(10, Cancel);
        isSo().ShouldBeTrue();
    }

    public void Dispose()
    {
        _depot.Dispose();
        _folder.Dispose();
    }

    /// <summary>A clock on which every wait is so many times shorter, and which runs as much faster.</summary>
    private sealed class QuickTime(double times, TimeSpan ahead = default) : TimeProvider
    {
        private readonly long _from = System.GetTimestamp();
        private readonly DateTimeOffset _start = DateTimeOffset.UtcNow;

        private TimeSpan Gone => System.GetElapsedTime(_from) * times;

        public override DateTimeOffset GetUtcNow() => _start + ahead + Gone;

        public override long TimestampFrequency => TimeSpan.TicksPerSecond;

        public override long GetTimestamp() => Gone.Ticks;

        public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
            System.CreateTimer(
                callback, state, dueTime < TimeSpan.Zero ? dueTime : dueTime / times, period < TimeSpan.Zero ? period : period / times);
    }
}
