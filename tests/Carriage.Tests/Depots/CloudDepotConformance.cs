using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Dav;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

public sealed class CloudDepotConformance : DepotConformance, IAsyncLifetime
{
    private readonly TempFolder _folder = new();
    private CloudShare _share = null!;
    private WebDavDepot _depot = null!;

    protected override IDepot Depot => _depot;

    public async ValueTask InitializeAsync()
    {
        _share = await CloudShare.StartAsync(new() { Folder = _folder.At, QuotaBytes = 90_000_000 });
        _depot = new(new(_share.Address), new() { FirstWait = TimeSpan.FromMilliseconds(5), Tries = 4 });
    }

    [Fact]
    public async Task A_full_share_is_said_so_with_nothing_changed_under_the_name()
    {
        (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream(new byte[10]), 10, Cancel)).IsOk.ShouldBeTrue();
        (await Depot.SaveAsync(
            Letter, Aside, () => new MemoryStream(new byte[100_000_000]), 100_000_000, Cancel)).Problem.ShouldBeOfType<DepotFull>();
        (await DepotTree.ReadAsync(Depot, Letter, Cancel))!.Length.ShouldBe(10);
        (await Depot.RoomAsync(Cancel)).ShouldBe(new DepotRoom(90_000_000 - 10, 10));
    }

    [Theory]
    [InlineData(PartialPut.Kept)]
    [InlineData(PartialPut.Refused)]
    [InlineData(PartialPut.Mistaken)]
    public async Task Parts_of_a_file_are_sent_only_where_the_share_was_seen_to_keep_them(PartialPut does)
    {
        using var folder = new TempFolder();
        await using var share = await CloudShare.StartAsync(new() { Folder = folder.At, PartialPut = does });
        using var depot = new WebDavDepot(new(share.Address), new());
        var (bytes, puts) = (new byte[70_000_000], 0);
        new Random(1).NextBytes(bytes);
        share.Fails = request =>
        {
            if (request.Contains("PUT /aside/on-1", StringComparison.Ordinal)) puts++;
            return false;
        };
        (await depot.SaveAsync(
            Letter,
            DepotPath.Of("aside/on-1"),
            new(() => new MemoryStream(bytes), bytes.Length, goesOn: true),
            Cancel)).IsOk.ShouldBeTrue();
        (await DepotTree.ReadAsync(depot, Letter, Cancel)).AsSpan().SequenceEqual(bytes).ShouldBeTrue();
        puts.ShouldBe(does == PartialPut.Kept ? 4 : 1);
    }

    [Fact]
    public async Task A_share_with_bad_days_is_tried_again_and_one_that_stays_away_is_given_up_with_the_content_opened_anew_each_time()
    {
        var (requests, opened) = (0, 0);
        _share.Fails = _ => Interlocked.Increment(ref requests) % 2 == 1;
        (await Depot.SaveAsync(Letter, Aside, () => { opened++; return new MemoryStream([1, 2, 3]); }, 3, Cancel)).IsOk.ShouldBeTrue();
        (await DepotTree.ReadAsync(Depot, Letter, Cancel)).ShouldBe([1, 2, 3]);
        _share.Fails = static _ => true;
        (await Should.ThrowAsync<DepotUnreachableException>(() => Depot.OpenAsync(Letter, Cancel))).Message.ShouldContain("503");
    }

    public async ValueTask DisposeAsync()
    {
        _depot.Dispose();
        await _share.DisposeAsync();
        _folder.Dispose();
    }
}
