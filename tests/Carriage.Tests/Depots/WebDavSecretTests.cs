using System.Net;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests;

/// <summary>A name and a password go to a share that asks for them, and to no other.</summary>
public sealed class WebDavSecretTests
{
    [Theory]
    [InlineData("Basic realm=\"share\"", true)]
    [InlineData("basic realm=\"share\"", true)]
    [InlineData("Negotiate", false)]
    [InlineData(null, false)]
    public async Task Nobody_is_told_who_asks_before_they_want_to_know(string? challenge, bool isTold)
    {
        var cancel = TestContext.Current.CancellationToken;
        using var listener = new HttpListener();
        var address = $"http://127.0.0.1:{Ports.Free()}/";
        listener.Prefixes.Add(address);
        listener.Start();
        var heard = new List<string?>();
        var serving = Task.Run(async () =>
        {
            while (await listener.GetContextAsync() is { } context)
            {
                var said = context.Request.Headers["Authorization"];
                heard.Add(said);
                context.Response.StatusCode = said is null && challenge is not null ? 401 : 201;
                if (challenge is not null) context.Response.AddHeader("WWW-Authenticate", challenge);
                context.Response.Close();
            }
        }, cancel);
        using var depot = new WebDavDepot(new(address), new() { User = "ferry", Password = "lighthouse-7", Tries = 2 });
        Task<bool> PutAsync(string name) => depot.PutBytesAsync(DepotPath.Of(name), [1], null, 1, cancel);
        if (challenge is not null && !isTold) await Should.ThrowAsync<DepotUnreachableException>(() => PutAsync("a"));
        else (await PutAsync("a") && await PutAsync("b")).ShouldBeTrue();
        heard[0].ShouldBeNull();
        heard.Skip(1).ShouldAllBe(h => (h != null) == isTold);
        if (isTold) heard.Count.ShouldBe(3, "it asks once");
        listener.Stop();
        await Should.ThrowAsync<Exception>(serving);
    }
}
