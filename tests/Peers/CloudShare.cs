using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using YardRelay.Dav;

namespace YardRelay.Peers;

/// <summary>The stand-in cloud share, in this process on a real port.</summary>
public sealed class CloudShare : IAsyncDisposable
{
    private readonly WebApplication _app;

    private CloudShare(WebApplication app, string address) => (_app, Address) = (app, address);

    public string Address { get; }

    /// <summary>Told of each request; true: answer 503 instead.</summary>
    public Func<string, bool> Fails { get; set; } = static _ => false;

    public static async Task<CloudShare> StartAsync(DavOptions options)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(k =>
        {
            k.Limits.MaxRequestBodySize = null;
            k.Listen(System.Net.IPAddress.Loopback, 0);
        });
        var app = builder.Build();
        var share = new DavShare(options, TimeProvider.System);
        CloudShare? self = null;
        app.Run(context =>
        {
            if (self?.Fails(context.Request.Method + " " + context.Request.Path) != true) return share.HandleAsync(context);
            context.Response.StatusCode = 503;
            return Task.CompletedTask;
        });
        await app.StartAsync();
        return self = new(app, app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First() + "/");
    }

    public async ValueTask DisposeAsync()
    {
        await _app.StopAsync(new CancellationTokenSource(TimeSpan.FromSeconds(1)).Token);
        await _app.DisposeAsync();
    }
}
