using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;
using YardRelay.Core.Ledger;
using YardRelay.Peers;
using YardRelay.Records;
using YardRelay.Service.Keeping;
using YardRelay.Service.Notices;

namespace YardRelay.Service.Tests;

/// <summary>Heads that are kept outside the records.</summary>
public sealed class HeadPostTests(OnSqlite service) : IClassFixture<OnSqlite>
{
    [Fact]
    public async Task Once_a_day_the_signed_heads_of_all_ledgers_are_put_at_the_end_of_a_file()
    {
        var refresh = await service.RefreshAsync();
        using var folder = new TempFolder();
        var file = folder["heads"];
        var (time, signer) = (new OneMoment(service.Now), service.Services.GetRequiredService<LedgerSigner>());
        var post = new HeadPost(
            service.Services.GetRequiredService<IDbContextFactory<YardDb>>(), signer,
            service.Services.GetRequiredService<ServiceOptions>() with { HeadsFile = file }, time, NullLogger<HeadPost>.Instance);
        await post.RoundAsync(default);
        var first = (await File.ReadAllLinesAsync(file)).Select(KeptHead.TryParse).ToList();
        first.Select(h => h!.Chain).ShouldBe([refresh, ServiceRow.OfAll]);
        first.ShouldAllBe(h => h!.Key == LedgerSeal.FingerprintOf(signer.PublicKey)
            && LedgerSeal.Holds(h.Chain, h.Head, h.Signature, signer.PublicKey));
        await post.RoundAsync(default);
        (await File.ReadAllLinesAsync(file)).Length.ShouldBe(first.Count);
        time.Now += TimeSpan.FromDays(1);
        await post.RoundAsync(default);
        (await File.ReadAllLinesAsync(file)).Length.ShouldBe(2 * first.Count);
    }

    private sealed class OneMoment(DateTimeOffset now) : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = now;

        public override DateTimeOffset GetUtcNow() => Now;
    }
}
