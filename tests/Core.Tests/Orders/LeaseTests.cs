using YardRelay.Core.Orders;

namespace YardRelay.Core.Tests.Orders;

public sealed class LeaseTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 9, 0, 0, TimeSpan.Zero);

    [Fact]
    public void Each_batch_renews_it_and_a_repeated_one_changes_nothing()
    {
        var lease = Lease.Take("a", 0, Now);
        lease.ShouldBe(new("a", 1, 1, Now + Lease.Length));
        lease = lease.Renew(1, Now.AddSeconds(30));
        (lease.NextBatch, lease.Until).ShouldBe((2, Now.AddSeconds(30) + Lease.Length));
        lease.Repeats(1).ShouldBeTrue();
        lease.Against("a", 1, 1).ShouldBeNull();
        lease.Against("a", 1, 3).ShouldBe(new BatchMissing(2, 3));
    }

    [Fact]
    public void What_went_on_elsewhere_or_ended_takes_no_more_but_the_last_batch_once_more()
    {
        var second = Lease.Take("b", 1, Now);
        second.Against("a", 1, 1).ShouldBeOfType<LeaseLost>();
        second.Against("b", 1, 1).ShouldBeOfType<LeaseLost>();
        var ended = second.Renew(1, Now).End(2);
        ended.Against("b", 2, 2).ShouldBeNull();
        ended.Against("b", 2, 3).ShouldBeOfType<LeaseLost>();
    }
}
