using YardRelay.Core.Orders;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Orders;

public sealed class OrderTests
{
    /// <summary>
    /// What each order answers for each kind of swap in each of 512 states, as it stood when orders were plain names: a letter for each
    /// answer, then a line of letters for each order and kind.
    /// </summary>
    private static readonly string[] Kept = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "answers.txt"));

    private static SwapStanding Standing(SwapKind kind, int state)
    {
        bool Is(int bit) => (state >> bit & 1) == 1;
        var newTag = Is(0) || kind is SwapKind.Leave ? null : kind is SwapKind.Reimage ? "OLD" : "NEW";
        return new(
            kind, kind is SwapKind.Issue ? null : "OLD", newTag, Is(1) ? 2 : 0, Is(2), Is(3), Is(4), Is(5), Is(6), Is(8) ? "REC" : null,
            Is(7));
    }

    [Fact]
    public void Every_order_answers_for_every_state_of_a_swap_as_it_always_did()
    {
        var answers = Kept.TakeWhile(l => l[1] == ' ').ToDictionary(l => l[0], l => l[2..]);
        var rows = Kept.Skip(answers.Count).Select(l => l.Split(' ')).ToList();
        rows.Count.ShouldBe(Order.All.Count * Enum.GetValues<SwapKind>().Length);
        foreach (var row in rows)
        {
            var (order, kind) = (Order.Of(row[0]).ShouldNotBeNull(), Enum.Parse<SwapKind>(row[1]));
            for (var state = 0; state < 512; state++)
            {
                var standing = Standing(kind, state);
                var answer = order.ComputerOf(standing).TryGet(out var tag, out var why) ? $"at {tag}" : $"no: {((OrderNotNow)why).Why}";
                answer.ShouldBe(answers[row[2][state]], $"{order.Name} for {standing}");
            }
        }
    }

    [Fact]
    public void What_a_first_trip_that_broke_off_left_is_carried_on_purged_or_landed_by_a_rescue_and_nothing_else()
    {
        string[] Can(SwapKind kind) => [.. Order.All
            .Where(o => o.Reach.Parcel != ParcelUse.None && o.ComputerOf(Standing(kind, 0) with { HasBegun = true }).IsOk)
            .Select(o => o.Name).Order(StringComparer.Ordinal)];
        Can(SwapKind.Renew).ShouldBe([OrderNames.FirstTrip, OrderNames.Purge]);
        Can(SwapKind.Rescue).ShouldBe([OrderNames.Look, OrderNames.PartRestore, OrderNames.Purge, OrderNames.Restore]);
    }

    [Fact]
    public void Each_kind_has_a_name_and_words_of_its_own()
    {
        Order.All.Select(o => o.Name).ShouldBeUnique();
        Order.All.Select(o => o.Words).ShouldBeUnique();
        // A case of the union that is not among them would be found by nobody.
        typeof(Order).GetNestedTypes().Where(t => t.IsSubclassOf(typeof(Order)))
            .ShouldBe(Order.All.Select(o => o.GetType()).Distinct(), ignoreOrder: true);
        Order.Of("stroll").ShouldBeNull();
    }
}
