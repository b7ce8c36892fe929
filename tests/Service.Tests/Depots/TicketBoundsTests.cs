using YardRelay.Service.Depots;

namespace YardRelay.Service.Tests;

public sealed class TicketBoundsTests
{
    [Fact]
    public async Task A_ticket_brings_so_many_bytes_over_all_its_files_and_not_one_more()
    {
        var ticket = new TicketBounds.Ticket(1000);
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
    public void Requests_of_one_ticket_at_once_have_a_bound_and_each_that_ends_makes_room()
    {
        var ticket = new TicketBounds.Ticket(1);
        for (var i = 0; i < TicketBounds.MostAtOnce; i++) ticket.Begin().ShouldBeTrue();
        ticket.Begin().ShouldBeFalse();
        ticket.End();
        ticket.End();
        ticket.Begin().ShouldBeTrue();
    }
}
