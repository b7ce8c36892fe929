using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Simulated;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A depot whose disk says that it took what it did not: what counts is what can be read back from it, not from memory.</summary>
public abstract class MediumTests : IAsyncLifetime
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");
    private static readonly AgeIdentity Recovery = AgeIdentity.Create();
    private readonly SimulatedDisk _old = new(TimeProvider.System), _disk = new(TimeProvider.System);
    private IDepot _depot = null!;

    /// <summary>The depot in a folder of that disk.</summary>
    protected abstract Task<IDepot> DepotAsync(TreeRoot folder);

    protected SimulatedDisk Disk => _disk;

    protected IDepot Depot => _depot;

    public async ValueTask InitializeAsync()
    {
        _disk.At("/depot").TryMake(out _)!.Dispose();
        _disk.Settle();
        using var home = _old.At("/home").TryMake(out _)!;
        foreach (var name in new[] { "letter.txt", "quay.jpg", "tide.csv" })
        {
            using var file = home.OpenFileAt(Encoding.UTF8.GetBytes(name), FileUse.MakeNew);
            file.Write(0, Encoding.UTF8.GetBytes($"what {name} says"));
        }
        _depot = await DepotAsync(_disk.At("/depot"));
    }

    protected Task<Result<TripReport>> CarryAsync(bool seals = false, IDepot? depot = null) => new Trip(
        depot ?? _depot,
        Parcel,
        new() { Sealing = seals ? new([Recovery.Recipient], null) : null, Keys = new([Recovery]) },
        new(),
        ThreadWork.Here)
        .RunAsync(_old.At("/home"), TestContext.Current.CancellationToken);

    protected async Task IsThereAfterAPowerCutAsync()
    {
        _disk.CutPower(new(7));
        var restored = await new Restore(_depot, Parcel, 4, new(), ThreadWork.Here, LandingPlan.Original, new([Recovery]))
            .RunAsync(_old.At("/new"), TestContext.Current.CancellationToken);
        restored.Value.IsWhole.ShouldBeTrue();
        using var there = _old.At("/home").Open();
        using var back = _old.At("/new").Open();
        SeenTree.Of(back).ShouldBe(SeenTree.Of(there));
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task What_the_disk_did_not_take_is_a_snag_and_comes_anew_with_the_next_trip(bool seals)
    {
        // Lists are brought onto the disk one by one, packs too; small files many at once.
        _disk.Lies = sync => seals ? sync.Path.Contains("/aside/", StringComparison.Ordinal) && !IsList(sync) : sync.Path == "/depot";
        var lied = (await CarryAsync(seals)).Value;
        lied.Snags.Select(s => s.Kind).ShouldAllBe(k => k == SnagKind.DamagedInDepot);
        (lied.Open.Files, lied.Carried.Files, lied.Added.Files).ShouldBe((3, 0, 0));
        _disk.Lies = null;

        var anew = (await CarryAsync(seals)).Value;

        (anew.IsWhole, anew.Added.Files).ShouldBe((true, 3));
        anew.ReadBack.ShouldNotBeNull().Medium.Files.ShouldBePositive();
        await IsThereAfterAPowerCutAsync();
    }

    private static bool IsList(SimulatedCall sync) => sync.Path.Contains("/tag-", StringComparison.Ordinal);

    [Theory]
    [InlineData(ParcelPaths.Info)]
    [InlineData(ParcelPaths.Entries)]
    [InlineData(ParcelPaths.TagManifest)]
    public async Task No_trip_ends_with_a_list_that_the_disk_did_not_take(string list)
    {
        _disk.Lies = sync => sync.Path.EndsWith("/tag-" + list.Replace('/', '-'), StringComparison.Ordinal);
        (await Should.ThrowAsync<IOException>(CarryAsync())).Message.ShouldContain(list);
        _disk.Lies = null;
        (await CarryAsync()).Value.IsWhole.ShouldBeTrue();
        await IsThereAfterAPowerCutAsync();
    }

    [Fact]
    public async Task A_verification_reads_the_disk_and_says_what_it_could_only_read_from_memory()
    {
        (await CarryAsync()).Value.IsWhole.ShouldBeTrue();
        using (var data = _disk.At("/depot/ida/data").Open())
        using (var file = data.OpenFileAt("tide.csv"u8, FileUse.Write))
            file.Write(0, "what"u8);
        var found = (await VerifyAsync()).Value;
        (found.IsWhole, found.Read!.Cache.Files, found.Read.Medium.Files).ShouldBe((true, 1, 2));
    }

    [Fact]
    public async Task What_stood_there_gives_way_only_to_what_the_disk_gives_back()
    {
        (await CarryAsync()).Value.IsWhole.ShouldBeTrue();
        var before = Seen("/depot/ida/data");
        using (var home = _old.At("/home").Open())
        using (var file = home.OpenFileAt("tide.csv"u8, FileUse.Write))
            file.Write(0, "WHAT"u8);
        _disk.Lies = sync => sync.Path != "/depot" && !IsList(sync);

        var lied = (await CarryAsync()).Value;

        lied.Snags.ShouldHaveSingleItem().Kind.ShouldBe(SnagKind.DamagedInDepot);
        Seen("/depot/ida/data").ShouldBe(before, "the older state is the last good copy");
        _disk.Lies = null;
        (await CarryAsync()).Value.IsWhole.ShouldBeTrue();
        await IsThereAfterAPowerCutAsync();
    }

    private string Seen(string path)
    {
        using var folder = _disk.At(path).Open();
        return SeenTree.Of(folder);
    }

    private Task<Result<VerifyReport>> VerifyAsync() =>
        new Verification(_depot, Parcel, 4, new(), ThreadWork.Here).RunAsync(TestContext.Current.CancellationToken);

    public virtual ValueTask DisposeAsync()
    {
        _depot.Dispose();
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }
}

/// <summary>A disk of the computer that carries.</summary>
public sealed class FolderMediumTests : MediumTests
{
    protected override Task<IDepot> DepotAsync(TreeRoot folder) => Task.FromResult<IDepot>(new FolderDepot(folder));
}
