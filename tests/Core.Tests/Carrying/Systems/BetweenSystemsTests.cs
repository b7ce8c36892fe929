using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying.Systems;

namespace YardRelay.Core.Tests.Carrying.Systems;

public sealed class BetweenSystemsTests
{
    private static readonly ComputerKind Windows = new(
        HomePlatform.Windows, 64, DiskKind.NoCase), Linux = new(HomePlatform.Linux, 64, DiskKind.Full), Stick = new(
            HomePlatform.Windows, 64, DiskKind.Plain);

    private static PassageLine Line(ComputerKind old, ComputerKind @new, string what) =>
        BetweenSystems.Of(old, @new).Single(l => l.What.Contains(what, StringComparison.Ordinal));

    [Fact]
    public void Every_way_has_every_line_once_and_says_something_that_can_be_done()
    {
        var kinds = new[] { HomePlatform.Windows, HomePlatform.Mac, HomePlatform.Linux }.SelectMany(p =>
            new[] { 32, 64 }.SelectMany(w => Enum.GetValues<DiskKind>().Select(d => new ComputerKind(p, w, d)))).ToList();
        var lines = BetweenSystems.Of(Linux, Linux).Select(l => l.What).ToList();
        foreach (var old in kinds)
            foreach (var @new in kinds)
            {
                var table = BetweenSystems.Of(old, @new);
                table.Select(l => l.What).ShouldBe(lines);
                table.ShouldAllBe(l => l.Words.Length > 8 && l.Words.EndsWith('.') && char.IsUpper(l.Words[0]));
                Line(old, @new, "Documents").Passage.ShouldBe(Passage.Goes);
                Line(old, @new, "Programs").Passage.ShouldBe(Passage.CleanStart);
                // Nothing gets easier by another system.
                if (old.Platform != @new.Platform)
                    table.Count(l => l.Passage == Passage.Goes)
                        .ShouldBeLessThanOrEqualTo(BetweenSystems.Of(old, old with { Disk = @new.Disk })
                            .Count(l => l.Passage == Passage.Goes));
            }
    }

    [Fact]
    public void Names_links_and_word_size_are_told_where_they_matter()
    {
        Line(Linux, Windows, "Names").Words.ShouldContain("259");
        Line(Linux, Windows, "Names").Words.ShouldContain("case");
        Line(Windows, Linux, "Names").Passage.ShouldBe(Passage.Goes);
        Line(Linux, Stick, "Links").Passage.ShouldBe(Passage.CleanStart);
        Line(Linux, Stick, "4 GB").Passage.ShouldBe(Passage.WithCare);
        Line(Windows with { WordBits = 32 }, Windows, "Programs").Words.ShouldContain("64-bit");
        Line(Windows, Windows with { WordBits = 32 }, "Programs").Words.ShouldContain("does not run");
    }
}
