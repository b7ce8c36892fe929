using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class VerificationTests
{
    [Theory, InlineData(false), InlineData(true)]
    public async Task A_flipped_byte_in_any_file_of_a_parcel_is_found_and_named(bool seals)
    {
        using var given = new Given { Seals = seals };
        given.Write("Documents/letter.txt", "Dear Ida");
        given.Write("Pictures/gull.jpg", "gull");
        await given.CarryAsync();
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
        var files = Directory.GetFiles(given.Bag, "*", SearchOption.AllDirectories).Where(f => new FileInfo(f).Length > 0).ToList();
        files.Count.ShouldBeGreaterThan(9);
        foreach (var file in files)
        {
            var whole = File.ReadAllBytes(file);
            foreach (var at in new[] { 0, whole.Length / 2, whole.Length - 1 })
            {
                var broken = (byte[])whole.Clone();
                broken[at] ^= 0x11;
                File.WriteAllBytes(file, broken);
                var report = await given.VerifyAsync();
                report.IsWhole.ShouldBeFalse($"{file} at {at}");
                var name = Path.GetRelativePath(given.Bag, file);
                if (name != "tagmanifest-sha256.txt")
                    report.Damages.ShouldContain(
                        d => d.Path == name && d.Kind != DamageKind.Missing, $"{file} at {at}: {string.Join("; ", report.Damages)}");
            }
            File.WriteAllBytes(file, whole);
        }
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task What_is_damaged_in_any_file_of_a_parcel_comes_anew_with_the_next_trip(bool seals)
    {
        using var given = new Given { Seals = seals };
        given.Write("Documents/letter.txt", "Dear Ida");
        given.Write("Pictures/gull.jpg", "gull");
        File.CreateSymbolicLink(Path.Combine(given.Source, "Pictures/link"), "gull.jpg");
        await given.CarryAsync();
        await Task.Delay(80, TestContext.Current.CancellationToken);
        foreach (var file in Directory.GetFiles(given.Bag, "*", SearchOption.AllDirectories)
            .Where(f => new FileInfo(f) is { Length: > 0, LinkTarget: null }).Order())
        {
            var name = Path.GetRelativePath(given.Bag, file);
            if (name == ParcelPaths.Info) continue; // It says what the parcel is; without it there is none to go on with.
            foreach (var missing in new[] { false, true })
            {
                // A pack that comes anew is another one.
                var at = File.Exists(file) ? file : Directory.GetFiles(Path.Combine(given.Bag, "data"))[0];
                if (missing) File.Delete(at);
                else
                {
                    var broken = File.ReadAllBytes(at);
                    broken[^1] ^= 0x11;
                    File.WriteAllBytes(at, broken);
                }
                var report = await given.VerifyAsync();
                report.IsWhole.ShouldBeFalse(name);
                await Doubts.SaveAsync(given.Depot, Given.Parcel, report, ThreadWork.Here, TestContext.Current.CancellationToken);
                (await given.CarryAsync()).IsWhole.ShouldBeTrue(name);
                (await given.VerifyAsync()).Damages.ShouldBeEmpty($"{name}, {(missing ? "missing" : "changed")}");
                File.Exists(Path.Combine(given.Bag, ParcelPaths.Doubts)).ShouldBeFalse();
            }
        }
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        YardRelay.Peers.SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_manifest_of_very_many_lines_that_name_nothing_is_judged_to_its_end_with_a_list_that_has_one()
    {
        var lines = Seeds.Large(200_000, whole: 1_000_000);
        using var given = new Given();
        given.Write("Documents/letter.txt", "Dear Ida");
        await given.CarryAsync();
        await using (var manifest = new StreamWriter(Path.Combine(given.Bag, ParcelPaths.Manifest), append: true))
            for (var i = 0; i < lines; i++) manifest.Write($"{i:x64}  data/Made up/{i:0000000}\n");
        var report = await given.VerifyAsync();
        (report.Damages.Count, report.DamageCount).ShouldBe(
            (Verification.MostNamed, (2 * lines) + 1), "each line twice, by the lists and by the depot, and the manifest itself");
        report.Damages.ShouldContain(d => d.Kind == DamageKind.Changed && d.Path == ParcelPaths.Manifest);
        // A restore goes by the entries, which know nothing of what is made up.
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        Directory.GetFiles(given.Target, "*", SearchOption.AllDirectories)
            .Select(f => Path.GetRelativePath(given.Target, f))
            .ShouldBe(["Documents/letter.txt"]);
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task Only_what_changed_since_the_parcel_was_last_found_whole_is_read_where_that_is_asked(bool seals)
    {
        using var given = new Given { Seals = seals };
        for (var i = 0; i < 30; i++) given.Write($"Documents/{i:00}.txt", $"text {i}");
        var (depot, read, cancel) = (given.Depot, new List<string>(), TestContext.Current.CancellationToken);
        given.Depot = new DepotThat(depot)
        {
            BeforeOpen = path => { lock (read) if (path.StartsWith("ida/data/", StringComparison.Ordinal)) read.Add(path); }
        };
        async Task<(VerifyReport Report, int Read)> VerifyAsync(bool changedOnly)
        {
            var verification = new Verification(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here, changedOnly: changedOnly);
            read.Clear();
            var report = (await verification.RunAsync(cancel)).Value;
            var files = read.Count;
            await verification.NoteAsync(report, cancel);
            return (report, files);
        }

        await given.CarryAsync();
        var all = Directory.GetFiles(Path.Combine(given.Bag, "data"), "*", SearchOption.AllDirectories).Length;
        (await VerifyAsync(changedOnly: true)).Read.ShouldBe(all, "nothing was found whole yet");
        (await VerifyAsync(changedOnly: true)).Read.ShouldBe(0);
        await Task.Delay(80, cancel);
        given.Write("Documents/07.txt", "another text");
        given.Write("Documents/new.txt", "new");
        await given.CarryAsync();
        (await VerifyAsync(changedOnly: true)).Read.ShouldBe(seals ? 1 : 2);
        // What lies there, and is gone, is seen all the same; and what was damaged meanwhile, when all is read.
        var damaged = Directory.GetFiles(Path.Combine(given.Bag, "data"), "*", SearchOption.AllDirectories).Order().First();
        var bytes = File.ReadAllBytes(damaged);
        bytes[^1] ^= 1;
        File.WriteAllBytes(damaged, bytes);
        (await VerifyAsync(changedOnly: false)).Report.Damages.Single().Kind.ShouldBe(DamageKind.Changed);
        File.Delete(damaged);
        (await VerifyAsync(changedOnly: true)).Report.Damages[0].Kind.ShouldBe(DamageKind.Missing);
        // Not blessed by having been found damaged: once mended by a trip, it is read anew.
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await VerifyAsync(changedOnly: false)).Report.IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task A_trip_that_reads_all_finds_what_nobody_verified_and_stages_only_that()
    {
        using var given = new Given();
        for (var i = 0; i < 5; i++) given.Write($"Documents/{i}", $"text {i}");
        await given.CarryAsync();
        await Task.Delay(80, TestContext.Current.CancellationToken);
        File.WriteAllText(Path.Combine(given.Bag, "data/Documents/3"), "tex! 3");
        (await given.CarryAsync()).Added.Files.ShouldBe(0, "an ordinary trip trusts what its lists say");
        given.ReadsAll = true;
        var report = await given.CarryAsync();
        (report.Added.Files, report.Kept.Files).ShouldBe((1, 4));
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }

    [Fact]
    public async Task Each_missing_and_each_extra_file_is_named_by_its_path_in_the_bag()
    {
        using var given = new Given();
        for (var i = 0; i < 12; i++) given.Write($"Documents/{i:00}.txt", $"{i}");
        await given.CarryAsync();
        foreach (var gone in new[] { "data/Documents/00.txt", "data/Documents/11.txt", "bagit.txt", "yard/snags.jsonl" })
            File.Delete(Path.Combine(given.Bag, gone));
        foreach (var extra in new[] { "data/a-first.txt", "data/Documents/05.txt.bak", "data/zz/last", "yard/stray", "other.txt" })
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(given.Bag, extra))!);
            File.WriteAllText(Path.Combine(given.Bag, extra), "x");
        }
        var damages = (await given.VerifyAsync()).Damages;
        damages.Where(d => d.Kind == DamageKind.Missing)
            .Select(d => d.Path)
            .ShouldBe(["bagit.txt", "data/Documents/00.txt", "data/Documents/11.txt", "yard/snags.jsonl"], ignoreOrder: true);
        damages.Where(d => d.Kind == DamageKind.Extra)
            .Select(d => d.Path)
            .ShouldBe(["data/a-first.txt", "data/Documents/05.txt.bak", "data/zz/last", "yard/stray", "other.txt"], ignoreOrder: true);
        Directory.Delete(given.Bag, recursive: true);
        (await new Verification(given.Depot, Given.Parcel, 2, new(), ThreadWork.Here)
            .RunAsync(TestContext.Current.CancellationToken)).Problem.ShouldBeOfType<NoParcel>();
    }

    [Fact]
    public async Task A_sample_reads_as_many_as_asked_finds_what_is_missing_anywhere_and_another_seed_takes_others()
    {
        using var given = new Given();
        for (var i = 0; i < 400; i++) given.Write($"d/{i}", $"text {i}");
        await given.CarryAsync();
        Task<YardRelay.Core.Result<VerifyReport>> SampleAsync(double share, int seed) =>
            new Verification(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here, share, seed)
                .RunAsync(TestContext.Current.CancellationToken);
        var tenth = (await SampleAsync(0.1, 1)).Value;
        tenth.IsWhole.ShouldBeTrue();
        (400 - tenth.NotRead).ShouldBeInRange(15, 75);
        (await given.VerifyAsync()).NotRead.ShouldBe(0);
        for (var i = 0; i < 400; i++) File.WriteAllText(Path.Combine(given.Bag, $"data/d/{i}"), $"tex! {i}");
        var (first, second) = (
            (await SampleAsync(0.1, 1)).Value.Damages.Select(d => d.Path).ToHashSet(),
            (await SampleAsync(0.1, 2)).Value.Damages.Select(d => d.Path).ToHashSet());
        first.Count.ShouldBe((int)(400 - tenth.NotRead), "the same seed reads the same files");
        first.SetEquals(second).ShouldBeFalse();
        File.Delete(Path.Combine(given.Bag, "data/d/77"));
        (await SampleAsync(0.001, 3)).Value.Damages.ShouldContain(d => d.Kind == DamageKind.Missing && d.Path == "data/d/77");
    }
}
