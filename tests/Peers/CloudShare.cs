using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using YardRelay.Dav;

namespace YardRelay.Peers;

/// <summary>The stand-in cloud share, in this process on a real port.</summary>
public sealed class CloudShare : IAsyncDisposable
{
    private readonly WebApplication _app;
    private readonly SemaphoreSlim _oneAtATime = new(1);

    private DavShare _share;

    private CloudShare(WebApplication app, string address, DavShare share) => (_app, Address, _share) = (app, address, share);

    public string Address { get; }

    /// <summary>Names that come out the same are one to it; null: each is what it is.</summary>
    public Func<string, string>? Folds { get; set; }

    /// <summary>The form in which it writes names down; null: as they are given.</summary>
    public Func<string, string>? Forms { get; set; }

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
        CloudShare self = null!;
        app.Run(context =>
        {
            if (!self.Fails(context.Request.Method + " " + context.Request.Path))
            {
                return self is { Folds: not null } or { Forms: not null }
                    ? self.FoldedAsync(context, options.Folder)
                    : self._share.HandleAsync(context);
            }
            context.Response.StatusCode = 503;
            return Task.CompletedTask;
        });
        await app.StartAsync();
        var address = app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First() + "/";
        return self = new(app, address, new(options, TimeProvider.System));
    }

    /// <summary>Serves as another program would that was started meanwhile.</summary>
    public void ServeAnew(DavOptions options)
    {
        _share.Dispose();
        _share = new(options, TimeProvider.System);
    }

    // One after the other: between a look and what is done by it nobody comes.
    private async Task FoldedAsync(HttpContext context, string folder)
    {
        await _oneAtATime.WaitAsync(context.RequestAborted);
        try
        {
            Fold(context.Request, folder);
            await _share.HandleAsync(context);
        }
        finally
        {
            _oneAtATime.Release();
        }
    }

    private void Fold(HttpRequest request, string folder)
    {
        var target = request.HttpContext.Features.Get<IHttpRequestFeature>()!;
        target.RawTarget = Standing(target.RawTarget.Split('?')[0], folder);
        if (request.Headers["Destination"] is [{ } to])
            request.Headers["Destination"] = Standing(to[to.IndexOf('/', "https://".Length)..], folder);
    }

    // Each name as it stands in its folder, or as it would be written there.
    private string Standing(string path, string folder)
    {
        var (at, standing) = (folder, "");
        foreach (var name in path.Split('/', StringSplitOptions.RemoveEmptyEntries).Select(Uri.UnescapeDataString))
        {
            var there = Directory.Exists(at) ? Directory.GetFileSystemEntries(at).Select(e => Path.GetFileName(e)!).ToList() : [];
            var found = there.Contains(name) ? name : there.Find(t => Folds is not null && Folds(t) == Folds(name));
            at = Path.Combine(at, found ??= Forms?.Invoke(name) ?? name);
            standing += "/" + Uri.EscapeDataString(found);
        }
        return standing + (path.EndsWith('/') ? "/" : "");
    }

    public async ValueTask DisposeAsync()
    {
        await _app.StopAsync(new CancellationTokenSource(TimeSpan.FromSeconds(1)).Token);
        await _app.DisposeAsync();
        _share.Dispose();
        _oneAtATime.Dispose();
    }
}
