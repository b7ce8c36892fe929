using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

/// <summary>A share that Yard Relay serves itself, which speaks of its medium.</summary>
public sealed class ServedDepotConformance : DepotConformance, IAsyncLifetime
{
    private readonly TempFolder _folder = new();
    private CloudShare _share = null!;
    private WebDavDepot _depot = null!;

    protected override IDepot Depot => _depot;

    public async ValueTask InitializeAsync()
    {
        _share = await CloudShare.StartAsync(new() { Folder = _folder.At, Settles = true });
        _depot = new(new(_share.Address), new() { FirstWait = TimeSpan.FromMilliseconds(5), Tries = 4 });
    }

    [Fact]
    public async Task It_says_where_its_bytes_come_from_as_the_disk_below_it_does()
    {
        await Depot.ProbeAsync(Cancel);
        (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream([1, 2, 3]), 3, Cancel)).IsOk.ShouldBeTrue();
        await Depot.SettleAsync(Cancel);
        using var below = TreeRoot.Here(_folder.At).Open();
        var back = (await Depot.OpenBackAsync(Letter, Cancel)).Value;
        await using (back.Stream) back.From.ShouldBe(below.ReadsFrom);
        Depot.HasMedium.ShouldBe(below.ReadsFrom == ReadFrom.Medium);
    }

    public async ValueTask DisposeAsync()
    {
        _depot.Dispose();
        await _share.DisposeAsync();
        _folder.Dispose();
    }
}
