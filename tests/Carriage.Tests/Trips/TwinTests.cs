using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Names;
using YardRelay.Files.Simulated;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>Names that are two at the source, and one to the disk that they come to.</summary>
public sealed class TwinTests : IDisposable
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");
    private readonly SimulatedDisk _old = new(TimeProvider.System), _disk = new(TimeProvider.System), _new = new(TimeProvider.System);
    private readonly FolderDepot _depot;

    public TwinTests()
    {
        _disk.At("/depot").TryMake(out _)!.Dispose();
        _old.At("/home").TryMake(out _)!.Dispose();
        _depot = new(_disk.At("/depot"));
    }

    /// <summary>How disks are that take names for one: by case and form, by form alone, or giving them a form of their own.</summary>
    public static TheoryData<string> Kinds => ["folds", "one form", "composes", "decomposes"];

    private static void Be(SimulatedDisk disk, string kind)
    {
        disk.Folds = kind == "folds" ? n => NameFold.Form(n).ToUpperInvariant() : NameFold.Form;
        // The letters that these tests have in two forms.
        disk.Forms = kind == "composes"
            ? n => n.Replace("o\u0308", "ö", StringComparison.Ordinal).Replace("e\u0301", "é", StringComparison.Ordinal)
            : kind == "decomposes" ? NameFold.Form
            : null;
    }

    private void Write(string path, string text)
    {
        var slash = path.LastIndexOf('/');
        using var folder = (slash < 0 ? _old.At("/home") : _old.At("/home/" + path[..slash])).TryMake(out _)!;
        using var file = folder.OpenFileAt(Encoding.UTF8.GetBytes(path[(slash + 1)..]), FileUse.MakeNew);
        file.Write(0, Encoding.UTF8.GetBytes(text));
    }

    private void Rename(string from, string to)
    {
        using var home = _old.At("/home").Open();
        home.TryRename(Encoding.UTF8.GetBytes(from), home, Encoding.UTF8.GetBytes(to), replace: false, out _).ShouldBeTrue();
    }

    private void Remove(string path)
    {
        using var home = _old.At("/home").Open();
        home.TryRemove(Encoding.UTF8.GetBytes(path), isFolder: false, out _).ShouldBeTrue();
    }

    private async Task<TripReport> CarryAsync()
    {
        var report = (await new Trip(_depot, Parcel, new(), new(), ThreadWork.Here)
            .RunAsync(_old.At("/home"), TestContext.Current.CancellationToken)).Value;
        report.IsWhole.ShouldBeTrue(string.Join(", ", report.Snags));
        var verified = await new Verification(_depot, Parcel, 4, new(), ThreadWork.Here).RunAsync(TestContext.Current.CancellationToken);
        verified.Value.Damages.ShouldBeEmpty();
        return report;
    }

    private async Task<RestoreReport> RestoreAsync(string to = "/new", ClashRule rule = ClashRule.Beside) =>
        (await new Restore(_depot, Parcel, 4, new(), ThreadWork.Here, LandingPlan.Create([], [], [], rule, []).Value)
            .RunAsync(_new.At(to), TestContext.Current.CancellationToken)).Value;

    private static string[] Texts(SimulatedDisk disk, string path)
    {
        using var top = disk.At(path).Open();
        return [.. Below(top).Order(StringComparer.Ordinal)];

        static List<string> Below(OpenFolder folder)
        {
            var texts = new List<string>();
            foreach (var name in folder.Names())
                if (folder.TryFacts(name, out _) is { Kind: NodeKind.Folder })
                {
                    using var inside = folder.OpenFolderAt(name);
                    texts.AddRange(Below(inside));
                }
                else
                {
                    using var text = new StreamReader(new FileReadStream(folder.OpenFileAt(name, FileUse.Read), 1000));
                    texts.Add(text.ReadToEnd());
                }
            return texts;
        }
    }

    [Theory, MemberData(nameof(Kinds))]
    public async Task What_comes_new_never_takes_the_place_of_what_the_parcel_keeps(string kind)
    {
        Be(_disk, kind);
        foreach (var name in new[] { "Möwe.txt", "Mo\u0308we.txt", "Plan.txt", "Quay/Log", "Döse/x" }) Write(name, "first " + name);
        for (var i = 0; i < 20; i++) Write($"Kept/{i}", $"what is in {i}");
        await CarryAsync();
        // One is deleted and its twin comes; one is named anew, which is the same to the depot; and so is a folder.
        Remove("Möwe.txt");
        Remove("Mo\u0308we.txt");
        Write("MO\u0308WE.TXT", "second");
        Rename("Plan.txt", "PLAN.txt");
        Rename("Quay", "quay");
        Rename("Döse", "Do\u0308se");
        (await CarryAsync()).Folders.Sum(f => f.Gone.Files).ShouldBeGreaterThanOrEqualTo(2);
        Write("plan.TXT", "third");
        await CarryAsync();
        (await CarryAsync()).Added.Files.ShouldBe(0, "what has its name keeps it");
        (await RestoreAsync()).IsWhole.ShouldBeTrue();
        using var there = _old.At("/home").Open();
        using var back = _new.At("/new").Open();
        SeenTree.Of(back).ShouldBe(SeenTree.Of(there));
        var kept = Texts(_disk, "/depot/ida/data");
        foreach (var was in new[] { "first Möwe.txt", "first Mo\u0308we.txt" })
            kept.ShouldContain(was, "deleted at the source, it stays here");
    }

    [Theory, MemberData(nameof(Kinds))]
    public async Task A_restore_keeps_both_whatever_the_new_disk_takes_for_one(string kind)
    {
        foreach (var name in new[] { "Möwe.txt", "Mo\u0308we.txt", "Plan.txt", "PLAN.txt", "Quay/Log", "quay/Log", "Tide", "TIDE/x" })
            Write(name, "in " + name);
        await CarryAsync();
        Be(_new, kind);
        foreach (var rule in Enum.GetValues<ClashRule>())
            for (var run = 0; run < 2; run++)
            {
                var report = await RestoreAsync($"/{rule}", rule);
                report.IsWhole.ShouldBeTrue();
                Texts(_new, $"/{rule}").ShouldBe(Texts(_old, "/home"), $"each once, by {rule}, also where it is restored once more");
            }
    }

    [Fact]
    public async Task A_disk_that_knows_no_links_gets_files_of_their_own_and_what_it_cannot_hold_is_named()
    {
        foreach (var name in new[] { "Plan.txt", "Quay/Log", "plan.TXT" }) Write(name, "in " + name);
        using (var home = _old.At("/home").Open())
        {
            home.TryHardLink("Plan.txt"u8, home, "again"u8, out _).ShouldBeTrue();
            home.MakeLink("way"u8, "Plan.txt"u8);
        }
        await CarryAsync();
        Be(_new, "folds");
        _new.IsPlain = true;
        foreach (var rule in Enum.GetValues<ClashRule>())
            for (var run = 0; run < 2; run++)
            {
                var report = await RestoreAsync($"/{rule}", rule);
                report.Snags.Select(s => (s.Path, s.Kind)).ShouldBe([("way", SnagKind.NotRestored), ("./", SnagKind.AttributeLost)]);
                report.Damages.ShouldBeEmpty();
                Texts(_new, $"/{rule}").ShouldBe(["in Plan.txt", "in Plan.txt", "in Quay/Log", "in plan.TXT"]);
            }
    }

    [Fact]
    public async Task A_second_copy_that_would_mix_names_is_refused_by_name_before_anything_is_written()
    {
        foreach (var name in new[] { "Quay/Log", "quay/Log", "Möwe.txt" }) Write(name, name);
        await CarryAsync();
        foreach (var (kind, said) in new[] { ("folds", "'data/quay/Log'"), ("decomposes", "'data/Möwe.txt'") })
        {
            var disk = new SimulatedDisk(TimeProvider.System);
            disk.At("/second").TryMake(out _)!.Dispose();
            Be(disk, kind);
            using var second = new FolderDepot(disk.At("/second"));
            var refused = await new SecondCopy(_depot, second, Parcel, new(), ThreadWork.Here)
                .BringUpAsync(TestContext.Current.CancellationToken);
            refused.Problem.ShouldBeOfType<SecondCopyMixesNames>().Message.ShouldContain(said);
            using var left = disk.At("/second").Open();
            left.Names().ShouldBeEmpty();
        }
    }

    public void Dispose() => _depot.Dispose();
}
