using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Tests.Carrying.CarryLists;

public sealed class NeedOrderTests
{
    private static readonly Home Ida = new("ida", "ida", HomePlatform.Linux);

    [Fact]
    public void What_people_name_comes_first_in_their_order_then_what_work_needs_in_the_words_of_the_platform()
    {
        var german = UserFolders.OfLinux(
            "XDG_DESKTOP_DIR=\"$HOME/Schreibtisch\"\nXDG_DOCUMENTS_DIR=\"$HOME/Dokumente\"\n"
                + "XDG_PICTURES_DIR=\"$HOME/Bilder\"\n");
        var passes = NeedOrder.Passes(["ida/Tides", "ida/Archive/2026"], [Ida], _ => german, isShort: true);
        passes.Take(3).Select(p => string.Join(' ', p)).ShouldBe(["ida/Tides", "ida/Archive/2026", "ida/Dokumente ida/Schreibtisch"]);
        passes[3].ShouldContain("ida/.config");
        passes[3].ShouldContain("ida/Mail");
        passes[4].ShouldBe(["ida/Bilder"]);
        NeedOrder.Passes(["ida/Tides"], [Ida], _ => german, isShort: false).Single().ShouldBe(["ida/Tides"]);
        NeedOrder.Passes([], [Ida], _ => german, isShort: false).ShouldBeEmpty();
    }

    [Fact]
    public void However_much_is_named_the_passes_have_an_end_and_nothing_is_lost()
    {
        var named = Enumerable.Range(0, 400).Select(i => $"folder{i:000}").ToList();
        foreach (var isShort in new[] { false, true })
        {
            var passes = NeedOrder.Passes(named, [Ida], _ => UserFolders.OfMac(), isShort);
            passes.Count.ShouldBeLessThanOrEqualTo(NeedOrder.MostPasses);
            passes.SelectMany(p => p).Take(400).ShouldBe(named);
            passes.ShouldAllBe(p => p.Count > 0);
        }
    }
}
