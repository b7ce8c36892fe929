using YardRelay.Files.Working;
using YardRelay.Service.Depots;

namespace YardRelay.Service.Tests;

public sealed class TicketBoundsTests
{
    [Fact]
    public async Task A_ticket_brings_so_many_bytes_over_all_its_files_and_not_one_more()
    {
        var ticket = new TicketBounds.Ticket(1000, ThreadWork.Here);
        foreach (var size in new[] { 400, 600 })
            (await ReadAsync(size)).ShouldBe(size);
        ticket.HasRoom(0).ShouldBeTrue();
        ticket.HasRoom(1).ShouldBeFalse();
        await Should.ThrowAsync<IOException>(() => ReadAsync(1));

        async Task<int> ReadAsync(int size)
        {
            using var body = new TicketedBody(new MemoryStream(new byte[size]), ticket);
            using var read = new MemoryStream();
            await body.CopyToAsync(read);
            return (int)read.Length;
        }
    }

    [Fact]
    public async Task What_comes_faster_than_the_ticket_allows_waits_and_what_may_not_come_now_waits_until_it_may()
    {
        var ticket = new TicketBounds.Ticket(1 << 30, ThreadWork.Here);
        ticket.Keep(1_000_000);
        var began = TimeProvider.System.GetTimestamp();
        await ReadAsync(2_000_000);
        // Half a second may be drawn in advance, and a quarter more than the share comes.
        TimeProvider.System.GetElapsedTime(began).ShouldBeGreaterThan(TimeSpan.FromSeconds(0.9));
        ticket.Keep(0);
        var held = ReadAsync(1);
        (await Task.WhenAny(held, Task.Delay(500, TestContext.Current.CancellationToken))).ShouldNotBe(held);
        ticket.Keep(null);
        await held;

        async Task ReadAsync(int size)
        {
            using var body = new TicketedBody(new MemoryStream(new byte[size]), ticket);
            await body.CopyToAsync(Stream.Null, TestContext.Current.CancellationToken);
        }
    }

    [Fact]
    public void Requests_of_one_ticket_at_once_have_a_bound_and_each_that_ends_makes_room()
    {
        var ticket = new TicketBounds.Ticket(1, ThreadWork.Here);
        for (var i = 0; i < TicketBounds.MostAtOnce; i++) ticket.Begin().ShouldBeTrue();
        ticket.Begin().ShouldBeFalse();
        ticket.End();
        ticket.End();
        ticket.Begin().ShouldBeTrue();
    }
}
