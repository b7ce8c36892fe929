using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>What a trip before brought is not in the depot any more: the next trip looks, and does not call it all in the depot.</summary>
public sealed class LostInDepotTests
{
    private static async Task<Given> StagedAsync(bool seals)
    {
        var given = new Given { Seals = seals };
        foreach (var folder in new[] { "A", "B", "C/deep" })
            for (var i = 0; i < 5; i++) given.Write($"{folder}/{i}.txt", $"{folder} {i}");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        return given;
    }

    private static async Task WholeAsync(Given given)
    {
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("folder")]
    [InlineData("file")]
    [InlineData("cut")]
    [InlineData("all")]
    public async Task What_is_gone_from_the_depot_or_was_cut_comes_anew(string what)
    {
        using var given = await StagedAsync(seals: false);
        var data = Path.Combine(given.Bag, "data");
        switch (what)
        {
            case "folder": Directory.Delete(Path.Combine(data, "C"), recursive: true); break;
            case "file": File.Delete(Path.Combine(data, "A/3.txt")); break;
            case "cut": File.WriteAllText(Path.Combine(data, "B/0.txt"), ""); break;
            default: Directory.Delete(data, recursive: true); break;
        }

        var report = await given.CarryAsync();

        report.IsWhole.ShouldBeTrue();
        report.Added.Files.ShouldBe(what switch { "folder" => 5, "all" => 15, _ => 1 });
        await WholeAsync(given);
    }

    [Fact]
    public async Task A_pack_that_is_gone_comes_anew()
    {
        using var given = await StagedAsync(seals: true);
        foreach (var pack in Directory.GetFiles(Path.Combine(given.Bag, "data"))) File.Delete(pack);
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        await WholeAsync(given);
    }

    [Fact]
    public async Task What_is_gone_at_both_ends_is_named_once_and_no_trip_calls_itself_whole()
    {
        using var given = await StagedAsync(seals: false);
        File.Delete(Path.Combine(given.Source, "A/3.txt"));
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        File.Delete(Path.Combine(given.Bag, "data/A/3.txt"));

        var report = await given.CarryAsync();

        var snag = report.Snags.ShouldHaveSingleItem();
        (snag.Path, snag.Kind).ShouldBe(("A/3.txt", SnagKind.DamagedInDepot));
        report.IsWhole.ShouldBeFalse();
    }

    [Fact]
    public async Task What_lies_in_the_depot_and_no_list_names_stays_is_known_from_then_on_and_is_not_restored()
    {
        using var given = await StagedAsync(seals: false);
        string[] names = ["A/0", "A/zz.txt", "B/1.txt~", "first"];
        foreach (var name in names) File.WriteAllText(Path.Combine(given.Bag, "data", name), name);
        (await given.VerifyAsync()).Damages.Count.ShouldBe(4);

        var report = await given.CarryAsync();

        (report.IsWhole, report.Folders.Sum(f => f.Gone.Files)).ShouldBe((true, 4));
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        File.ReadAllText(Path.Combine(given.Bag, "data/A/zz.txt")).ShouldBe("A/zz.txt");
        (await given.CarryAsync()).GoneNow.Files.ShouldBe(0, "once is enough");
        await WholeAsync(given);
    }

    [Theory]
    [InlineData("file")]
    [InlineData("folder")]
    [InlineData("link")]
    public async Task What_no_list_names_is_in_nobodys_way(string comes)
    {
        using var given = await StagedAsync(seals: false);
        File.WriteAllText(Path.Combine(given.Bag, "data/A/new"), "left");
        var path = Path.Combine(given.Source, "A/new");
        if (comes == "link") File.CreateSymbolicLink(path, "0.txt");
        else given.Write(comes == "folder" ? "A/new/inside" : "A/new", "new");

        (await given.CarryAsync()).IsWhole.ShouldBeTrue();

        await WholeAsync(given);
    }

    [Fact]
    public async Task Where_more_is_damaged_than_can_be_named_the_next_trip_reads_all()
    {
        using var given = await StagedAsync(seals: false);
        foreach (var name in new[] { "A/0.txt", "B/1.txt" }) File.WriteAllText(Path.Combine(given.Bag, "data", name), "X X");
        var found = await given.VerifyAsync();
        await Doubts.SaveAsync(
            given.Depot, Given.Parcel, found with { Damages = [found.Damages[0]], MoreDamages = 1 }, ThreadWork.Here,
            TestContext.Current.CancellationToken);
        (await given.CarryAsync()).Added.Files.ShouldBe(2);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }
}
