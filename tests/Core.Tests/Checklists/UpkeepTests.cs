using YardRelay.Core.Checklists;

namespace YardRelay.Core.Tests.Checklists;

public sealed class UpkeepTests
{
    private static readonly string[] Options = ["every month", "every quarter", "every half year"];
    private const long Gigabyte = 1_000_000_000;

    [Theory]
    [InlineData(100, 100, 30, "every half year")]
    [InlineData(100, 90, 30, "every half year")]
    [InlineData(100, 102, 30, "every quarter")]
    [InlineData(100, 102, 5, "every month")]
    [InlineData(100, 110, 30, "every month")]
    [InlineData(100, 109, 30, "every quarter")]
    public void The_faster_the_files_grow_the_sooner_a_computer_is_looked_after(long before, long now, int days, string proposed) =>
        Upkeep.Propose(before * Gigabyte, now * Gigabyte, TimeSpan.FromDays(days), Options)!.Value.ShouldBe(proposed);

    [Fact]
    public void Nothing_is_proposed_where_nothing_can_be_said()
    {
        Upkeep.Propose(Gigabyte, 2 * Gigabyte, TimeSpan.FromHours(23), Options).ShouldBeNull();
        Upkeep.Propose(0, Gigabyte, TimeSpan.FromDays(9), Options).ShouldBeNull();
        Upkeep.Propose(200 * Gigabyte, 202 * Gigabyte, TimeSpan.FromDays(15), Options)!.Words
            .ShouldBe("The files grew by 2 GB in 15 days, 2 % a month.");
    }
}
