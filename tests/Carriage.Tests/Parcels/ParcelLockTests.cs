using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Carriage.Trips;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Parcels;

/// <summary>The right to write to a parcel, over hours that pass in a blink.</summary>
public sealed class ParcelLockTests : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly FolderDepot _depot;
    private readonly ParcelPaths _paths = new(DepotPath.Of("ida"));

    public ParcelLockTests() => _depot = new(TreeRoot.Here(_folder.At));

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private readonly VirtualClock _clock = new();

    private Task<Core.Result<ParcelLock>> TakeAsync(VirtualClock.Party party, IDepot? depot = null) =>
        Task.Run(() => ParcelLock.TakeAsync(depot ?? _depot, _paths, new ThreadWork(party), Cancel));

    private async Task<Core.Result<ParcelLock>> TakeAsync()
    {
        var party = _clock.Join();
        return (await _clock.RunAsync((party, TakeAsync(party))))[0];
    }

    private string HolderFile => _folder["ida/yard/lock/holder.json"];

    private void HeldElsewhere(DateTimeOffset until) => Hold(new("other", "bench-7", "boot", 4711, 1, until));

    private void Hold(LockHolder holder)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(HolderFile)!);
        // Whole or not at all, as a depot saves it.
        File.WriteAllText(HolderFile + ".new", JsonSerializer.Serialize(holder, TripJson.Lines));
        File.Move(HolderFile + ".new", HolderFile, overwrite: true);
    }

    [Fact]
    public async Task A_holder_on_another_computer_is_respected_as_long_as_its_lease_runs_and_replaced_after_it()
    {
        HeldElsewhere(_clock.Join().GetUtcNow().AddSeconds(25));
        var refused = (await TakeAsync()).Problem.ShouldBeOfType<ParcelLocked>();
        refused.Message.ShouldContain("process 4711 on bench-7");
        HeldElsewhere(_clock.Join().GetUtcNow().AddSeconds(-1));
        await using (var taken = (await TakeAsync()).Value) File.ReadAllText(HolderFile).ShouldNotContain("bench-7");
        Directory.GetFileSystemEntries(_folder["ida/yard"]).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_lock_whose_taker_died_before_it_said_who_it_is_does_not_stand_for_ever()
    {
        Directory.CreateDirectory(Path.GetDirectoryName(HolderFile)!);
        await using var taken = (await TakeAsync()).Value;
        taken.Lost.IsCancellationRequested.ShouldBeFalse();
        File.WriteAllText(HolderFile, "{ half a hol");
        (await TakeAsync()).IsOk.ShouldBeTrue("what is damaged says nothing of a holder");
    }

    [Fact]
    public async Task A_dead_holder_whose_parent_has_not_noticed_is_replaced_at_once_and_one_in_another_container_is_not()
    {
        // The first sleep is never waited for by the second, which takes the shell's place.
        using var parent = Run.Start("sh", ["-c", "sleep 300 & echo $!; exec sleep 300"]);
        try
        {
            var child = int.Parse((await parent.StandardOutput.ReadLineAsync(Cancel))!, System.Globalization.CultureInfo.InvariantCulture);
            var holder = new LockHolder(
                "one", Environment.MachineName, Processes.Boot(), child, Processes.Began(child)!.Value,
                _clock.Join().GetUtcNow().AddSeconds(25), Processes.Space());
            Hold(holder);
            (await TakeAsync()).Problem.ShouldBeOfType<ParcelLocked>();
            Run.Must("kill", "-9", $"{child}");
            SpinWait.SpinUntil(() => Processes.Began(child) is null, TimeSpan.FromSeconds(20)).ShouldBeTrue();
            Directory.Exists($"/proc/{child}").ShouldBeTrue("it is dead and stands there still");
            Hold(holder with { Space = "pid:[1]" });
            (await TakeAsync()).Problem.ShouldBeOfType<ParcelLocked>();
            Hold(holder);
            await using var taken = (await TakeAsync()).Value;
        }
        finally
        {
            parent.Kill();
        }
    }

    [Fact]
    public async Task Of_many_that_take_over_a_dead_holders_lock_at_once_one_gets_it()
    {
        for (var round = 0; round < 5; round++)
        {
            HeldElsewhere(_clock.Join().GetUtcNow().AddSeconds(-1));
            var parties = Enumerable.Range(0, 8).Select(_ => _clock.Join()).ToList();
            var all = await _clock.RunAsync([.. parties.Select(p => (p, TakeAsync(p)))]);
            all.Count(a => a.IsOk).ShouldBe(1);
            foreach (var lost in all.Where(a => !a.IsOk)) lost.Problem.ShouldBeOfType<ParcelLocked>();
            await all.Single(a => a.IsOk).Value.DisposeAsync();
        }
    }

    [Theory, InlineData(-3), InlineData(3)]
    public async Task A_holder_that_lives_keeps_its_parcel_and_a_dead_one_loses_it_though_their_clocks_are_hours_apart(int hours)
    {
        // On the clock of whoever comes, the holder's lease is long over, or runs for hours.
        var elsewhere = _clock.Join(TimeSpan.FromHours(hours));
        void Renew() => HeldElsewhere(elsewhere.GetUtcNow().AddSeconds(30));
        Renew();
        using (_clock.Every(TimeSpan.FromSeconds(10), Renew))
            for (var tries = 0; tries < 3; tries++) (await TakeAsync()).Problem.ShouldBeOfType<ParcelLocked>();
        await using var taken = (await TakeAsync()).Value;
        File.ReadAllText(HolderFile).ShouldNotContain("bench-7");
    }

    [Fact]
    public async Task The_lease_is_renewed_while_work_goes_on_and_given_up_when_another_holds_it()
    {
        var party = _clock.Join();
        var held = (await _clock.RunAsync((party, TakeAsync(party))))[0].Value;
        string Until() => JsonDocument.Parse(File.ReadAllText(HolderFile)).RootElement.GetProperty("until").GetString()!;
        var first = Until();
        await _clock.UntilAsync(party, () => Until() != first);
        held.Lost.IsCancellationRequested.ShouldBeFalse();
        HeldElsewhere(_clock.Join().GetUtcNow().AddHours(9));
        await _clock.UntilAsync(party, () => held.Lost.IsCancellationRequested);
        await held.DisposeAsync();
        File.ReadAllText(HolderFile).ShouldContain("bench-7", Case.Sensitive, "what another holds is not taken away");
    }

    [Fact]
    public async Task A_depot_that_stays_away_longer_than_the_lease_ends_the_work_on_it()
    {
        var away = false;
        var depot = new DepotThat(_depot) { BeforeSave = _ => { if (away) throw new DepotUnreachableException("x", "gone."); } };
        var party = _clock.Join();
        var held = (await _clock.RunAsync((party, TakeAsync(party, depot))))[0].Value;
        away = true;
        await _clock.UntilAsync(party, () => held.Lost.IsCancellationRequested);
        await held.DisposeAsync();
    }

    public void Dispose()
    {
        _depot.Dispose();
        _folder.Dispose();
    }
}
