using YardRelay.Carriage.Depots;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Tests.Depots;

public sealed class ResumingStreamTests
{
    private sealed class Broken : MemoryStream
    {
        public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default) =>
            throw new IOException("The connection broke off.");
    }

    [Fact]
    public async Task Content_that_cannot_be_gone_on_with_ends_with_the_word_that_the_depot_went_away_and_not_with_any_exception()
    {
        await using var reading = new ResumingStream(
            new Broken(),
            broke => broke is IOException and not DepotUnreachableException,
            (_, _) => Task.FromResult<Stream?>(null),
            tries: 3,
            TimeSpan.Zero,
            ThreadWork.Here,
            broke => new DepotUnreachableException("https://depot.example", $"reading film.mov broke off: {broke.Message}", broke));
        (await Should.ThrowAsync<DepotUnreachableException>(async () => await reading.ReadExactlyAsync(new byte[10])))
            .Message.ShouldContain("could not be had as it was");
    }
}
