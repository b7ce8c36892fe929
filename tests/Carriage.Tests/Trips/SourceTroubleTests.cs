using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Simulated;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A source that does not say all: source, depot and target lie on one simulated disk.</summary>
public sealed class SourceTroubleTests : IDisposable
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");
    private readonly SimulatedDisk _disk = new(TimeProvider.System);
    private readonly FolderDepot _depot;

    public SourceTroubleTests()
    {
        _disk.At("/depot").TryMake(out _)!.Dispose();
        foreach (var (folder, name) in new[] { ("letters", "to-sol.txt"), ("photos", "quay.jpg"), ("photos/old", "ferry.jpg") })
            Write(folder, name);
        _depot = new(_disk.At("/depot"));
    }

    private void Write(string folder, string name)
    {
        using var open = _disk.At("/home/" + folder).TryMake(out _)!;
        using var file = open.OpenFileAt(Encoding.UTF8.GetBytes(name), FileUse.MakeNew);
        file.Write(0, Encoding.UTF8.GetBytes($"what {name} says"));
    }

    private Task<Result<TripReport>> CarryAsync() =>
        new Trip(_depot, Parcel, new(), new(), ThreadWork.Here).RunAsync(_disk.At("/home"), TestContext.Current.CancellationToken);

    private async Task<string> RestoredAsync(string to)
    {
        var restored = await new Restore(_depot, Parcel, 4, new(), ThreadWork.Here, LandingPlan.Original)
            .RunAsync(_disk.At(to), TestContext.Current.CancellationToken);
        restored.Value.IsWhole.ShouldBeTrue();
        return Seen(to);
    }

    private string Seen(string path)
    {
        using var open = _disk.At(path).Open();
        return SeenTree.Of(open);
    }

    [Theory]
    [InlineData("list", Fault.Broken)]
    [InlineData("list", Fault.GoneMeanwhile)]
    [InlineData("open", Fault.TimedOut)]
    [InlineData("open", Fault.NotThere)]
    [InlineData("look", Fault.Broken)]
    public async Task A_folder_that_does_not_say_what_is_in_it_is_a_snag_and_nothing_of_it_counts_as_gone(string call, Fault why)
    {
        (await CarryAsync()).Value.IsWhole.ShouldBeTrue();
        Write("letters", "new.txt");
        _disk.Fails = asked => asked == new SimulatedCall(call, "/home/photos") ? why : Fault.None;
        var partly = (await CarryAsync()).Value;
        partly.Snags.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
            s => s.Path.ShouldStartWith("photos"), s => s.Kind.ShouldBe(SnagKind.Unreadable));
        partly.Added.Files.ShouldBe(1);
        _disk.Fails = null;
        (await RestoredAsync("/new")).ShouldBe(Seen("/home"));
        (await CarryAsync()).Value.Snags.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("/home/letters/to-sol.txt")]
    [InlineData("/home/photos")]
    public async Task Attributes_that_cannot_be_read_are_named_until_they_can(string at)
    {
        _disk.Fails = asked => asked == new SimulatedCall("attributes", at) ? Fault.Broken : Fault.None;
        for (var trip = 0; trip < 2; trip++)
        {
            var report = (await CarryAsync()).Value;
            var snag = report.Snags.ShouldHaveSingleItem();
            (snag.Kind, "/home/" + snag.Path, snag.CountsAsFile).ShouldBe((SnagKind.AttributeLost, at, false));
            report.Folders.Sum(f => f.Open.Files).ShouldBe(0, "the content is there");
        }
        _disk.Fails = null;
        (await CarryAsync()).Value.Snags.ShouldBeEmpty();
        (await RestoredAsync("/new")).ShouldBe(Seen("/home"));
    }

    [Theory]
    [InlineData("list", Fault.Broken)]
    [InlineData("open", Fault.Shut)]
    public async Task A_source_that_cannot_be_looked_at_at_all_is_said_and_the_parcel_stays_as_it_is(string call, Fault why)
    {
        (await CarryAsync()).Value.IsWhole.ShouldBeTrue();
        _disk.Fails = asked => asked == new SimulatedCall(call, "/home") ? why : Fault.None;
        (await CarryAsync()).Problem.ShouldBeOfType<SourceUnusable>();
        _disk.Fails = null;
        (await RestoredAsync("/new")).ShouldBe(Seen("/home"));
    }

    public void Dispose() => _depot.Dispose();
}
