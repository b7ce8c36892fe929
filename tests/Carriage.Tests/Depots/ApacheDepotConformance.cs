using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

public sealed class ApacheDepotConformance : DepotConformance, IDisposable
{
    private readonly ApacheShare _share = new();

    public ApacheDepotConformance() => Depot = new WebDavDepot(new(_share.Address), new());

    protected override IDepot Depot { get; }

    [Fact]
    public async Task A_file_that_it_will_not_give_and_one_that_it_will_not_remove_are_there_all_the_same()
    {
        await Depot.SaveAsync(Letter, Aside, () => new MemoryStream([1]), 1, Cancel);
        Run.Must("chown", "-R", "root", Path.Combine(_share.Content, "ida/Documents"));
        Run.Must("chmod", "0", Path.Combine(_share.Content, Letter.Text));
        Run.Must("chmod", "0755", Path.Combine(_share.Content, "ida/Documents"));
        await Should.ThrowAsync<DepotUnreachableException>(() => Depot.OpenAsync(Letter, Cancel));
        await Should.ThrowAsync<DepotUnreachableException>(() => Depot.RemoveAsync(Letter, Cancel));
        (await Depot.OpenAsync(Letter.Parent, Cancel)).Problem.ShouldBeOfType<NotInDepot>();
    }

    public void Dispose()
    {
        Depot.Dispose();
        _share.Dispose();
    }
}
