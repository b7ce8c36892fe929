using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Files;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots.Folders;

public sealed class FolderDepotConformance : DepotConformance, IDisposable
{
    private readonly TempFolder _folder = new();

    public FolderDepotConformance() => Depot = new FolderDepot(TreeRoot.Here(_folder.At));

    protected override IDepot Depot { get; }

    [Fact]
    public async Task What_is_all_zeros_takes_no_room_and_comes_back_byte_for_byte()
    {
        var bytes = new byte[24_000_000];
        foreach (var at in new[] { 0, 5_000_000, 23_999_999 }) bytes[at] = 7;
        for (var turn = 0; turn < 2; turn++)
        {
            (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream(bytes), bytes.Length, Cancel)).Value.ShouldBe(bytes.Length);
            (await DepotTree.ReadAsync(Depot, Letter, Cancel)).AsSpan().SequenceEqual(bytes).ShouldBeTrue();
            long.Parse(Run.Must("stat", "-c", "%b", _folder["ida/Documents/letter.txt"])).ShouldBeLessThan(10_000, "blocks of 512 bytes");
            // And one that ends in nothing.
            bytes[^1] = 0;
        }
    }

    [Fact]
    public async Task Nothing_is_read_or_written_through_a_link()
    {
        using var outside = new TempFolder();
        File.WriteAllText(outside["secret"], "outside");
        File.CreateSymbolicLink(_folder["way"], outside.At);
        (await Depot.OpenAsync(DepotPath.Of("way/secret"), Cancel)).Problem.ShouldBeOfType<NotInDepot>();
        (await Depot.SaveAsync(
            DepotPath.Of("way/new"), Aside, () => new MemoryStream([1]), 1, Cancel)).Problem.ShouldBeOfType<DepotRefused>();
        await Depot.RemoveAsync(DepotPath.Of("way"), Cancel);
        Directory.GetFiles(outside.At).ShouldBe([outside["secret"]]);
    }

    [Fact]
    public async Task A_folder_that_is_not_there_is_a_depot_that_cannot_be_reached()
    {
        using var gone = new FolderDepot(TreeRoot.Here(_folder["not-mounted"]));
        (await Should.ThrowAsync<DepotUnreachableException>(() => gone.ProbeAsync(Cancel))).Message.ShouldContain("mounted");
    }

    public void Dispose()
    {
        Depot.Dispose();
        _folder.Dispose();
    }
}
