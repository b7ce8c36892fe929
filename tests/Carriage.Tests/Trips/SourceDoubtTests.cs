using System.Text;
using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Files.Simulated;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>Whether a trip carries what the trip before carried: homes, disks and a depot in memory, on one thread.</summary>
public sealed class SourceDoubtTests
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");
    private readonly SimulatedClock _clock = new(new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero));
    private readonly SimulatedDisk _depot;
    private SimulatedDisk _home;

    public SourceDoubtTests()
    {
        (_home, _depot) = (new(_clock) { Identity = "one" }, new(_clock));
        _depot.At("/depot").TryMake(out _)!.Dispose();
        for (var n = 0; n < 12; n++) Write($"Letters/l{n}", $"letter {n}");
        for (var n = 0; n < 12; n++) Write($"Photos/p{n}", $"photo {n}");
        for (var n = 0; n < 20; n++) Write($".cache/c{n}", $"cache {n}");
        Write("note", "a note");
    }

    private void Write(string path, string text)
    {
        _clock.Pass(TimeSpan.FromSeconds(1));
        var cut = path.LastIndexOf('/');
        using var folder = _home.At("/home/" + path[..Math.Max(0, cut)]).TryMake(out _)!;
        var name = Encoding.UTF8.GetBytes(path[(cut + 1)..]);
        folder.TryRemove(name, isFolder: false, out _);
        using var file = folder.OpenFileAt(name, FileUse.MakeNew);
        file.Write(0, Encoding.UTF8.GetBytes(text));
    }

    private void Remove(string folder, int from = 0)
    {
        using var open = _home.At("/home/" + folder).Open();
        foreach (var name in open.Names().Skip(from)) open.TryRemove(name, isFolder: false, out _).ShouldBeTrue();
    }

    private void EachFile(Action<OpenFile> what)
    {
        foreach (var folder in new[] { "Letters", "Photos" })
        {
            using var open = _home.At("/home/" + folder).Open();
            foreach (var name in open.Names())
            {
                using var file = open.OpenFileAt(name, FileUse.Write);
                what(file);
            }
        }
    }

    private T Run<T>(Func<FolderDepot, SimulatedWork, Task<T>> what)
    {
        var work = new SimulatedWork(_clock, 1);
        using var depot = new FolderDepot(_depot.At("/depot"), null, work);
        work.Run(() => what(depot, work), out var outcome);
        return outcome!.GetAwaiter().GetResult();
    }

    private Result<TripReport> Carry(SourceAnswer? answer = null) =>
        Run((depot, work) => new Trip(depot, Parcel, new() { Answer = answer }, new(), work)
            .RunAsync(_home.At("/home"), CancellationToken.None));

    private SourceDoubt Stopped(SourceAnswer? answer = null)
    {
        var before = Seen.Of(_depot.At("/depot/ida/data"));
        var doubt = Carry(answer).Problem.ShouldBeOfType<SourceDoubted>().Doubt;
        Seen.Of(_depot.At("/depot/ida/data")).ShouldBe(before);
        return doubt;
    }

    private void Happens(string what)
    {
        switch (what)
        {
            case "nothing is mounted":
                _home = new(_clock) { Identity = "two" };
                _home.At("/home").TryMake(out _)!.Dispose();
                break;
            case "somebody else's home":
                _home = new(_clock) { Identity = "two" };
                for (var n = 0; n < 30; n++) Write($"Letters/l{n}", $"another letter {n}");
                break;
            case "a folder was emptied":
                Remove("Photos");
                break;
            case "an earlier state was put back":
                EachFile(f => f.SetModified(new(1_700_000_000, 0)));
                break;
            case "copied to another disk without its times":
                _home.Identity = "two";
                EachFile(f => f.SetModified(new(1_900_000_000, 0)));
                break;
            case "copied to another disk with its times":
                _home = _home.Copy();
                _home.Identity = "two";
                break;
            case "all was worked on":
                EachFile(f => f.SetModified(new(1_900_000_000, 0)));
                break;
            case "the caches were emptied":
                Remove(".cache");
                break;
            case "a folder was tidied up":
                Remove("Photos", from: 2);
                break;
            default:
                throw new ArgumentException(what);
        }
    }

    [Theory]
    [InlineData("nothing is mounted", DoubtKind.AllGone)]
    [InlineData("somebody else's home", DoubtKind.OtherFiles)]
    [InlineData("a folder was emptied", DoubtKind.FoldersGone)]
    [InlineData("an earlier state was put back", DoubtKind.WentBack)]
    [InlineData("copied to another disk without its times", DoubtKind.OtherFiles)]
    public void A_trip_stops_before_it_changes_anything_when(string what, DoubtKind kind)
    {
        Carry().IsOk.ShouldBeTrue();
        Happens(what);
        var doubt = Stopped();
        doubt.Kind.ShouldBe(kind);
        doubt.Known.Files.ShouldBe(25, "caches come and go");
    }

    [Theory]
    [InlineData("copied to another disk with its times")]
    [InlineData("all was worked on")]
    [InlineData("the caches were emptied")]
    [InlineData("a folder was tidied up")]
    public void A_trip_goes_on_when(string what)
    {
        Carry().IsOk.ShouldBeTrue();
        Happens(what);
        Carry().IsOk.ShouldBeTrue();
    }

    [Fact]
    public void Whoever_looks_before_a_trip_is_told_of_the_doubt()
    {
        Carry().IsOk.ShouldBeTrue();
        Source().Sign.ShouldBe(Sign.Good);
        Happens("somebody else's home");
        Source().Sign.ShouldBe(Sign.Stop);

        Finding Source() => Run((depot, work) => new WillItGo(depot, Parcel, CarryList.Everything, new(), work)
            .RunAsync(_home.At("/home"), CancellationToken.None)).Value.Findings.Single(f => f.Check == "source");
    }

    [Fact]
    public void A_parcel_that_says_nothing_of_its_source_is_raised_by_the_next_trip_and_a_newer_format_is_refused()
    {
        Carry().IsOk.ShouldBeTrue();
        Info(text => text.Replace("\"format\":2", "\"format\":1", StringComparison.Ordinal));
        using (var lists = _depot.At("/depot/ida/yard").Open()) lists.TryRemove("source.json"u8, isFolder: false, out _).ShouldBeTrue();
        Carry().IsOk.ShouldBeTrue();
        Stored("yard/parcel.json").ShouldContain("\"format\":2");
        Stored("yard/source.json").ShouldContain("\"since\": 2");
        Run((depot, work) => new Verification(depot, Parcel, 4, new(), work).RunAsync(CancellationToken.None)).Value.IsWhole.ShouldBeTrue();
        Info(text => text.Replace("\"format\":2", "\"format\":3", StringComparison.Ordinal));
        Carry().Problem.Message.ShouldContain("Use a newer yardhand");
    }

    private void Info(Func<string, string> change)
    {
        var text = change(Stored("yard/parcel.json"));
        using var parcel = _depot.At("/depot/ida").Open();
        using var file = parcel.OpenFileAt("yard/parcel.json"u8, FileUse.Write);
        file.SetLength(0);
        file.Write(0, Encoding.UTF8.GetBytes(text));
    }

    [Fact]
    public void An_answer_holds_for_what_the_person_saw_and_more_loss_asks_again()
    {
        Carry().IsOk.ShouldBeTrue();
        Remove("Photos");
        var answer = new SourceAnswer(SourceVerdict.Deleted, Stopped().Unlike, "Kit Moss", "she deleted them");
        Remove("Letters", from: 6);
        Stopped(answer).Unlike.ShouldBe(18);
        Stopped(answer with { Verdict = SourceVerdict.Same, Unlike = 18 });
        var report = Carry(answer with { Unlike = 18 }).Value;
        report.GoneNow.Files.ShouldBe(18);
        report.Settled.ShouldNotBeNull();
        Carry().Value.GoneNow.Files.ShouldBe(0);
        Stored("yard/source.json").ShouldContain("she deleted them");
    }

    [Fact]
    public void What_an_earlier_state_would_write_over_stays_in_the_parcel()
    {
        Write("Letters/l0", "the last words");
        Carry().IsOk.ShouldBeTrue();
        Write("Letters/l0", "the first words");
        Happens("an earlier state was put back");
        Carry(new(SourceVerdict.Same, Stopped().Unlike, "Kit Moss", "the disk was put back")).Value.IsWhole.ShouldBeTrue();
        using (var folder = _depot.At("/depot/ida/data/Letters").Open())
            Stored("data/Letters/" + Encoding.UTF8.GetString(
                folder.Names().Single(n => Encoding.UTF8.GetString(n).StartsWith("l0=~gone", StringComparison.Ordinal))))
                .ShouldBe("the last words");
        Run((depot, work) => new Verification(depot, Parcel, 4, new(), work).RunAsync(CancellationToken.None)).Value.IsWhole.ShouldBeTrue();
        var to = new SimulatedDisk(_clock);
        to.At("/").TryMake(out _)!.Dispose();
        Run((depot, work) => new Restore(depot, Parcel, 4, new(), work, LandingPlan.Original)
            .RunAsync(to.At("/t"), CancellationToken.None)).Value.IsWhole.ShouldBeTrue();
        Seen.Of(to.At("/t")).ShouldBe(Seen.Of(_home.At("/home")));
    }

    [Fact]
    public void Caches_that_are_still_there_do_not_stand_for_the_few_files_that_are_gone()
    {
        _home = new(_clock) { Identity = "one" };
        for (var n = 0; n < 3; n++) Write($"Letters/l{n}", $"letter {n}");
        for (var n = 0; n < 40; n++) Write($".cache/c{n}", $"cache {n}");
        Carry().IsOk.ShouldBeTrue();
        Remove("Letters");
        Stopped().Kind.ShouldBe(DoubtKind.AllGone);
    }

    [Fact]
    public void Of_a_disk_with_several_homes_each_folder_of_each_home_is_looked_at()
    {
        for (var n = 0; n < 12; n++) Write($"ida/Documents/d{n}", $"document {n}");
        for (var n = 0; n < 40; n++) Write($"ida/.cache/c{n}", $"cache {n}");
        for (var n = 0; n < 30; n++) Write($"sol/Documents/d{n}", $"another document {n}");
        for (var n = 0; n < 30; n++) Write($"ida/Pictures/p{n}", $"picture {n}");
        Carry().IsOk.ShouldBeTrue();
        Remove("ida/.cache");
        Remove("ida/Documents");
        var doubt = Stopped();
        (doubt.Kind, doubt.Unlike).ShouldBe((DoubtKind.FoldersGone, 12));
        doubt.Folders[0].Folder.ShouldBe("ida/Documents");
    }

    [Fact]
    public void A_mount_that_is_not_there_any_more_stops_a_trip_however_little_lay_on_it()
    {
        Write("Photos/disk/a", "one");
        Carry().IsOk.ShouldBeTrue();
        _home.Mount("/home/Photos/disk", 2);
        Carry().IsOk.ShouldBeTrue();
        _home.Mount("/home/Photos/disk", 1);
        Remove("Photos/disk");
        Stopped().Folders.ShouldContain(f => f.IsMount && f.Folder == "Photos/disk" && f.Gone.Files == 1);
    }

    private string Stored(string path)
    {
        using var parcel = _depot.At("/depot/ida").Open();
        var file = parcel.OpenFileAt(Encoding.UTF8.GetBytes(path), FileUse.Read);
        using var text = new StreamReader(new FileReadStream(file, file.Facts().Bytes));
        return text.ReadToEnd();
    }
}
