using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>An old computer whose disk is not what it was: from the hand to the person who says what it is, and on.</summary>
public sealed class OtherSourceTests : IDisposable
{
    private readonly Yard _yard = new();

    private TempFolder Folder => _yard.Folder;

    private JsonNode Swap() => JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!;

    private JsonNode Snag() => Swap()["snags"]!.AsArray().Single(s => (string?)s!["end"] != "retried")!;

    private void Order(string kind)
    {
        _yard.Line("swap", "order", kind, "spring-0001");
        _yard.TryLine("swap", "wait", "--seconds", Yard.OrderPatience);
    }

    private bool IsStaged() =>
        Swap()["swap"]!["line"]!.AsArray().Single(s => (string?)s!["station"] == "staged")!["at"] is not null;

    private async Task StageAsync()
    {
        await _yard.StartServiceAsync();
        await _yard.StartCloudAsync();
        for (var n = 0; n < 20; n++)
        {
            Directory.CreateDirectory(Folder["disks/KB-1/ida/Documents"]);
            await File.WriteAllTextAsync(Folder[$"disks/KB-1/ida/Documents/tides-{n}.csv"], $"high,low {n}");
        }
        await File.WriteAllTextAsync(
            Folder["roster.csv"], "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\n");
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        _yard.Line("depot", "set", "cloud", "--name", "Cloud", "--address", _yard.CloudAddress);
        _yard.Line("roster", "take", Folder["roster.csv"]);
        Folder.Make("disks/KB-11");
        await _yard.EnrolAsync();
        _yard.Work();
        Order("first-trip");
        IsStaged().ShouldBeTrue(_yard.Said);
    }

    [Fact]
    public async Task A_disk_that_is_not_mounted_shuts_the_gates_and_once_it_is_back_the_trip_ends_the_doubt()
    {
        await StageAsync();
        Directory.Move(Folder["disks/KB-1"], Folder["away"]);
        Folder.Make("disks/KB-1");
        Order("top-up-trip");
        ((string?)Snag()["kind"], IsStaged()).ShouldBe(("sourceDoubted", false));
        ((string)Snag()["reason"]!).ShouldContain("20 of the 20 files that trip 1 left in the parcel are gone. Is the disk mounted");
        _yard.TryLine("swap", "order", "restore", "spring-0001").All.ShouldContain("its files are not staged and verified");
        Directory.Delete(Folder["disks/KB-1"]);
        Directory.Move(Folder["away"], Folder["disks/KB-1"]);
        Order("top-up-trip");
        Swap()["snags"]!.AsArray().ShouldAllBe(s => (string?)s!["end"] == "retried");
        IsStaged().ShouldBeTrue(_yard.Said);
    }

    [Fact]
    public async Task What_a_person_says_was_deleted_lets_the_next_trip_go_on_and_is_told_apart()
    {
        await StageAsync();
        Directory.Delete(Folder["disks/KB-1/ida/Documents"], recursive: true);
        Order("top-up-trip");
        var id = (string)Snag()["id"]!;
        _yard.Line("snag", "retry").ShouldContain("1 order given");
        _yard.TryLine("swap", "wait", "--seconds", Yard.OrderPatience);
        ((string?)Snag()["end"]).ShouldBe("open", "a retry alone answers nothing");
        _yard.TryLine("snag", "waive", "spring-0001", id[..8], "--reason", "not needed").Err.ShouldContain("no file to give up");
        _yard.Line("snag", "source", "spring-0001", id[..8], "deleted", "--reason", "she moved them to the share").ShouldContain("kit");
        Order("top-up-trip");
        IsStaged().ShouldBeTrue(_yard.Said);
        Swap()["orders"]!.ToJsonString().ShouldContain("20 files gone since the trip before");
        _yard.Line("swap", "show", "spring-0001").ShouldContain("20 files that an earlier trip carried were deleted at the old computer");
        Order("top-up-trip");
        _yard.Line("swap", "report", "spring-0001").ShouldContain("kept in the parcel, and not brought along");
    }

    [Fact]
    public async Task An_earlier_state_of_the_whole_parcel_is_found_out_and_counts_only_by_the_word_of_a_person()
    {
        await StageAsync();
        var info = Directory.GetFiles(Folder["cloud"], "parcel.json", SearchOption.AllDirectories).Single();
        var parcel = Path.GetFullPath(Path.Combine(info, "../.."));
        Run.Quietly("cp", "-a", parcel, Folder["kept"]);
        await File.WriteAllTextAsync(Folder["disks/KB-1/ida/Documents/tides-0.csv"], "high,low, and slack");
        Order("top-up-trip");
        IsStaged().ShouldBeTrue(_yard.Said);
        Directory.Delete(parcel, recursive: true);
        Run.Quietly("cp", "-a", Folder["kept"], parcel);
        Order("verify");
        ((string?)Snag()["kind"], IsStaged()).ShouldBe(("otherLists", false), _yard.Said);
        ((string)Snag()["reason"]!).ShouldContain("those of trip 1, and trip 2 has ended since");
        Swap()["orders"]!.ToJsonString().ShouldContain("they were put back. What they name is there and whole.");
        Order("top-up-trip");
        Swap()["orders"]!.ToJsonString().ShouldContain("they were put back");
        _yard.Line("snag", "waive", "spring-0001", ((string)Snag()["id"]!)[..8], "--reason", "the share's disk was put back, I saw it");
        Order("top-up-trip");
        IsStaged().ShouldBeTrue(_yard.Said);
    }

    public void Dispose() => _yard.Dispose();
}
