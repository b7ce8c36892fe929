using System.Net;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Direct;
using YardRelay.Core.Carrying;
using YardRelay.Dav;

namespace YardRelay.Hand.Direct;

/// <summary>
/// The receiving end of the direct way: the protocol of the built-in depot over TLS, with the key and the password that come of a code.
/// </summary>
internal sealed class DirectReceiver : IAsyncDisposable
{
    // Guessing a hundred bits is hopeless; a caller that tries all the same is not answered for ever.
    private const int MostRefusals = 200;
    private readonly WebApplication _app;
    private readonly DavShare _share;
    private readonly TimeProvider _time;
    private readonly HashSet<string> _senders = [];
    private readonly TaskCompletionSource _shut = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private long _files, _bytes, _lastAt;
    private int _refused, _underWay;

    private DirectReceiver(WebApplication app, DavShare share, TimeProvider time) =>
        (_app, _share, _time, _lastAt) = (app, share, time, time.GetTimestamp());

    /// <summary>Where it listens.</summary>
    public int Port { get; private set; }

    /// <summary>Files and bytes that came, tag files among them.</summary>
    public Amount Received => new(Interlocked.Read(ref _files), Interlocked.Read(ref _bytes));

    /// <summary>A sentence for whoever looks on.</summary>
    public event Action<string>? Said;

    /// <summary>Begins to listen.</summary>
    /// <exception cref="IOException">The port is taken.</exception>
    public static async Task<DirectReceiver> StartAsync(
        string folder, DirectCode code, IPEndPoint at, TimeProvider time, CancellationToken cancel)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseKestrelHttpsConfiguration();
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.Limits.MaxRequestBodySize = null;
            kestrel.Limits.MinRequestBodyDataRate = null;
            kestrel.Listen(at, l => l.UseHttps(code.Certificate(time.GetUtcNow())));
        });
        var app = builder.Build();
        ProbeFolder.RemoveLeftOver(folder);
        var share = new DavShare(new() { Folder = folder, Settles = true, User = DirectCode.User, Password = code.Password }, time);
        var receiver = new DirectReceiver(app, share, time);
        app.Run(receiver.HandleAsync);
        await app.StartAsync(cancel);
        receiver.Port = new Uri(app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First()).Port;
        return receiver;
    }

    private async Task HandleAsync(HttpContext context)
    {
        if (Volatile.Read(ref _refused) >= MostRefusals)
        {
            context.Response.StatusCode = 403;
            return;
        }
        Interlocked.Increment(ref _underWay);
        try
        {
            await _share.HandleAsync(context);
        }
        finally
        {
            Interlocked.Exchange(ref _lastAt, _time.GetTimestamp());
            Interlocked.Decrement(ref _underWay);
        }
        var from = context.Connection.RemoteIpAddress?.ToString() ?? "?";
        if (context.Response.StatusCode == 401)
        {
            if (context.Request.Headers.Authorization.Count > 0 && Interlocked.Increment(ref _refused) == MostRefusals)
            {
                Said?.Invoke($"{from} tried wrong codes {MostRefusals} times. Nothing is received any more; begin again with a new code.");
                _shut.TrySetResult();
            }
            return;
        }
        bool isNew;
        lock (_senders) isNew = _senders.Add(from);
        if (isNew) Said?.Invoke($"Paired with {from}.");
        if (context.Request.Method == "PUT" && context.Response.StatusCode is 201 or 204)
        {
            Interlocked.Increment(ref _files);
            Interlocked.Add(ref _bytes, context.Request.ContentLength ?? 0);
        }
    }

    /// <summary>Waits until told to stop, or until nothing came for so long.</summary>
    public async Task WaitAsync(TimeSpan? idle, CancellationToken cancel)
    {
        try
        {
            while (idle is not { } most || Volatile.Read(ref _underWay) > 0 || _time.GetElapsedTime(Interlocked.Read(ref _lastAt)) < most)
                if (await Task.WhenAny(_shut.Task, Task.Delay(TimeSpan.FromMilliseconds(200), _time, cancel)) is var ended
                    && (ended == _shut.Task || ended.IsCanceled))
                    return;
        }
        catch (OperationCanceledException)
        {
            // What came stays.
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _app.StopAsync(new CancellationTokenSource(TimeSpan.FromSeconds(2)).Token);
        await _app.DisposeAsync();
        _share.Dispose();
    }
}
