using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Parcels;

/// <summary>What is not a parcel's own stays as it is, whatever is done with the parcel.</summary>
public sealed class ParcelGroundTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<Given> CarriedAsync()
    {
        var given = new Given();
        given.Write("letters/to-sol.txt", "the ferry leaves at nine");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        return given;
    }

    private static async Task<Result<CopyReport>> CopyAsync(Given given, string to)
    {
        using var second = new FolderDepot(TreeRoot.Here(to));
        return await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here).BringUpAsync(Cancel);
    }

    private static Task<Result<TripReport>> CarryAsync(Given given, string parcel, string? from = null, CarryList? list = null) =>
        new Trip(given.Depot, DepotPath.Of(parcel), new() { CarryList = list ?? CarryList.Everything }, new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(from ?? given.Source), Cancel);

    [Fact]
    public async Task A_second_copy_does_not_begin_where_somebody_elses_files_stand()
    {
        using var given = await CarriedAsync();
        Directory.CreateDirectory(given["second/ida/data"]);
        File.WriteAllText(given["second/ida/data/letter.txt"], "theirs");
        (await CopyAsync(given, given["second"])).Problem.ShouldBeOfType<GroundTaken>();
        Directory.GetFileSystemEntries(given["second/ida"], "*", SearchOption.AllDirectories).Length.ShouldBe(2);
        File.ReadAllText(given["second/ida/data/letter.txt"]).ShouldBe("theirs");
    }

    [Fact]
    public async Task A_second_copy_by_a_link_to_the_first_is_none()
    {
        using var given = await CarriedAsync();
        Directory.CreateSymbolicLink(given["beside"], given["depot"]);
        (await CopyAsync(given, given["beside"])).Problem.ShouldBeOfType<SecondCopyIsFirst>();
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task Lists_are_not_mended_from_a_second_copy_of_another_trip()
    {
        using var given = await CarriedAsync();
        Directory.CreateDirectory(given["second"]);
        (await CopyAsync(given, given["second"])).Value.IsWhole.ShouldBeTrue();
        given.Write("letters/to-sol.txt", "the ferry leaves at ten");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        File.AppendAllText(Path.Combine(given.Bag, ParcelPaths.TagManifest), "garbled\n");
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        for (var times = 0; times < 3; times++)
            await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here)
                .MendAsync((await given.VerifyAsync()).Damages, Cancel);
        File.ReadAllText(Path.Combine(given.Bag, "data/letters/to-sol.txt")).ShouldBe("the ferry leaves at ten");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task Parcels_do_not_lie_in_one_another_and_a_purge_leaves_what_is_not_its_own()
    {
        using var given = await CarriedAsync();
        (await CarryAsync(given, "ida/data/inner")).Problem.ShouldBeOfType<ParcelNested>();
        // One that came to lie there otherwise.
        (await CarryAsync(given, "other")).IsOk.ShouldBeTrue();
        Directory.Move(Path.Combine(given["depot"], "other"), Path.Combine(given.Bag, "other"));
        var purged = (await new Purge(given.Depot, Given.Parcel, ThreadWork.Here).RunAsync("ida", Cancel)).Value;
        (purged.Left.Count, purged.Others.ShouldHaveSingleItem()).ShouldBe((0, "ida/other"));
        Directory.GetFileSystemEntries(given.Bag).Select(Path.GetFileName).ShouldBe(["other"]);
        (await new Verification(given.Depot, DepotPath.Of("ida/other"), 4, new(), ThreadWork.Here).RunAsync(Cancel))
            .Value.IsWhole.ShouldBeTrue();
    }

    [Theory]
    [InlineData("ida")]
    [InlineData("ida/data")]
    public async Task A_parcel_or_what_lies_in_one_is_not_adopted(string folder)
    {
        using var given = await CarriedAsync();
        (await new Adoption(given.Depot, DepotPath.Of("mine"), 4, new(), ThreadWork.Here).RunAsync(DepotPath.Of(folder), null, Cancel))
            .Problem.Code.ShouldBe("adopt.parcel");
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task A_folder_with_a_parcel_deep_in_it_is_not_adopted()
    {
        using var given = await CarriedAsync();
        Directory.CreateDirectory(Path.Combine(given["depot"], "box/shelf"));
        Directory.Move(given.Bag, Path.Combine(given["depot"], "box/shelf/ida"));
        (await new Adoption(given.Depot, DepotPath.Of("mine"), 4, new(), ThreadWork.Here).RunAsync(DepotPath.Of("box"), null, Cancel))
            .Problem.Message.ShouldContain("box/shelf/ida");
        Directory.GetFileSystemEntries(given["depot"]).Select(Path.GetFileName).ShouldBe(["box"]);
    }

    [Fact]
    public async Task A_depot_in_its_source_is_refused_also_by_a_link_and_one_that_is_left_out_is_not()
    {
        using var given = await CarriedAsync();
        var above = Path.GetDirectoryName(given.Source)!;
        (await CarryAsync(given, "all", above)).Problem.ShouldBeOfType<SourceEntangled>();
        Directory.CreateSymbolicLink(given["elsewhere"], above);
        (await CarryAsync(given, "all", given["elsewhere"])).Problem.ShouldBeOfType<SourceEntangled>();
        (await CarryAsync(given, "all", Path.Combine(given.Bag, "data"))).Problem.ShouldBeOfType<SourceEntangled>();
        Directory.Exists(Path.Combine(given["depot"], "all")).ShouldBeFalse();
        var list = CarryList.Read("version: 1\nleaveOut:\n  - {path: depot, reason: it is the depot, by: Noor}\n").Value;
        (await CarryAsync(given, "all", above, list)).IsOk.ShouldBeTrue();
    }
}
