using System.Text;
using System.Xml;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using YardRelay.Dav.Calls;

namespace YardRelay.Dav;

/// <summary>
/// A WebDAV server of class 1 and 2 over a folder (RFC 4918), with quota (RFC 4331). A file is seen whole under its name or not at all.
/// No link in the folder is ever followed.
/// </summary>
public sealed class DavShare : IDisposable
{
    internal const string Hidden = ".yard-dav";
    private long _used;
    private long _requests;

    // Counting requests of many at once is as good as dice: whoever asks again could be refused for ever.
    private readonly System.Collections.Concurrent.ConcurrentDictionary<(string Method, PathString Path), bool> _refused = new();
    private readonly FaultPlan? _faults;

    private readonly TreeRoot _root;

    /// <summary>Opens the share; counts what is in it when there is a quota.</summary>
    /// <exception cref="FileTroubleException">The folder cannot be made or opened.</exception>
    public DavShare(DavOptions options, TimeProvider time)
    {
        Options = options;
        _root = new(options.Files, options.Folder);
        using var tree = new DavTree(_root.TryMake(out var trouble) ?? throw new FileTroubleException(trouble, $"serve {options.Folder}"));
        if (options.FaultRate > 0) _faults = new(options.FaultSeed, options.FaultRate);
        Aside = MakeAside(tree, time.GetUtcNow().AddHours(-1).ToUnixTimeSeconds());
        Locks = new(time);
        Properties = new(_root with { Path = _root.Path + "/" + Hidden });
        if (options.Settles)
        {
            Medium = new(_root, options.Boot is { Length: > 0 } boot ? boot : Guid.NewGuid().ToString("N"));
            Medium.Watch(tree.Top);
        }
        _used = options.QuotaBytes is null ? 0 : tree.Size(DavPath.Root, tree.Top.Facts());
    }

    /// <summary>Bytes of content, counted while there is a quota.</summary>
    public long UsedBytes => Interlocked.Read(ref _used);

    /// <summary>Bytes that may still come.</summary>
    internal long RoomBytes => Options.QuotaBytes is { } quota ? quota - UsedBytes : long.MaxValue;

    internal DavOptions Options { get; }

    internal DavLocks Locks { get; }

    internal DavProperties Properties { get; }

    /// <summary>The medium below it; null: nothing is promised of it.</summary>
    internal DavMedium? Medium { get; }

    /// <summary>Held while the tree changes.</summary>
    internal Lock Change { get; } = new();

    /// <summary>The folder in which uploads grow until they are whole.</summary>
    internal DavPath Aside { get; }

    // Several servers may serve one folder: each has a place of its own, and takes away only what nobody can be writing to any more.
    private static DavPath MakeAside(DavTree tree, long before)
    {
        var all = DavPath.Root.Child(Hidden, true).Child("aside", true);
        tree.MakeFolders(all);
        foreach (var (name, facts) in tree.Below(all))
        {
            var old = all.Child(name, true);
            if (facts.Kind == NodeKind.Folder && tree.Below(old).TrueForAll(f => f.Facts.Modified.Seconds < before)) tree.Remove(old);
        }
        var own = all.Child(Guid.NewGuid().ToString("N"), true);
        tree.MakeFolder(own);
        return own;
    }

    /// <summary>Counts bytes that came, or with a minus those that went.</summary>
    internal void Count(long bytes) => Interlocked.Add(ref _used, bytes);

    /// <summary>The folder as it is now; null: it is not there, or cannot be opened.</summary>
    private DavTree? TryOpen()
    {
        if (_root.TryOpen(out _) is not { } top) return null;
        Medium?.Watch(top);
        return new(top);
    }

    /// <summary>Answers one request.</summary>
    /// <param name="context">The request, with any path base taken as the share's prefix.</param>
    public Task HandleAsync(HttpContext context) =>
        _faults is null ? ServeAsync(context) : _faults.RunAsync(context, () => ServeAsync(context));

    private async Task ServeAsync(HttpContext context)
    {
        var (request, response) = (context.Request, context.Response);
        var prefix = request.PathBase.ToUriComponent();
        if (Options.Delay > TimeSpan.Zero) await Task.Delay(Options.Delay, context.RequestAborted);
        if (Options.FailEvery > 0
            && Interlocked.Increment(ref _requests) % Options.FailEvery == 0
            && !_refused.TryRemove((request.Method, request.Path), out _))
        {
            _refused[(request.Method, request.Path)] = true;
            response.StatusCode = 503;
            return;
        }
        if (Options.User is not null && !IsSignedIn(request))
        {
            response.Headers.WWWAuthenticate = "Basic realm=\"share\", charset=\"UTF-8\"";
            response.StatusCode = 401;
            return;
        }
        // As it came, since a decoded path cannot tell %2F from /; a host that keeps none is asked for the path that it made of it.
        var raw = context.Features.Get<IHttpRequestFeature>()!.RawTarget is { Length: > 0 } target
            ? target
            : prefix + request.Path.ToUriComponent();
        if (Uri.TryCreate(raw, UriKind.Absolute, out var whole) && !raw.StartsWith('/')) raw = whole.AbsolutePath;
        if (DavPath.TryParse(raw, prefix) is not { } path || path.Parts.FirstOrDefault() == Hidden)
        {
            response.StatusCode = 400;
            return;
        }
        using var tree = TryOpen();
        if (tree is null)
        {
            response.StatusCode = 503;
            return;
        }
        var call = new DavCall(this, tree, context, prefix, path);
        if (Options.May is { } may && !call.Touched().All(p => may(context, p.Parts)))
        {
            response.StatusCode = 403;
            return;
        }
        try
        {
            var status = await call.RunAsync();
            if (!response.HasStarted) response.StatusCode = status;
        }
        catch (XmlException)
        {
            response.StatusCode = 400;
        }
        catch (FileTroubleException trouble) when (!response.HasStarted)
        {
            response.StatusCode = StatusOf(trouble.Fault);
        }
        await call.SendBodyAsync();
    }

    private static int StatusOf(Fault fault) => fault switch
    {
        Fault.Full => 507,
        Fault.NameTooLong => 414,
        Fault.Shut or Fault.NotOwner or Fault.ThroughLink or Fault.Invalid or Fault.NotSupported or Fault.OtherFileSystem => 403,
        Fault.NotThere or Fault.GoneMeanwhile or Fault.NotAFolder or Fault.IsAFolder or Fault.Taken or Fault.NotEmpty => 409,
        Fault.InUse => 503,
        _ => 500,
    };

    /// <inheritdoc/>
    public void Dispose() => Medium?.Dispose();

    private bool IsSignedIn(HttpRequest request)
    {
        var header = request.Headers.Authorization.ToString();
        if (!header.StartsWith("Basic ", StringComparison.OrdinalIgnoreCase)) return false;
        var expected = Encoding.UTF8.GetBytes(Options.User + ":" + Options.Password);
        var given = new byte[header.Length];
        return Convert.TryFromBase64String(header[6..].Trim(), given, out var length)
            && System.Security.Cryptography.CryptographicOperations.FixedTimeEquals(given.AsSpan(0, length), expected);
    }

}
