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
public sealed class DavShare
{
    internal const string Hidden = ".yard-dav";
    private long _used;
    private long _requests;

    // Counting requests of many at once is as good as dice: whoever asks again could be refused for ever.
    private readonly System.Collections.Concurrent.ConcurrentDictionary<(string Method, PathString Path), bool> _refused = new();
    private readonly FaultPlan? _faults;

    /// <summary>Opens the share; counts what is in it when there is a quota.</summary>
    public DavShare(DavOptions options, TimeProvider time)
    {
        Options = options with { Folder = Path.GetFullPath(options.Folder) };
        Directory.CreateDirectory(Options.Folder);
        if (options.FaultRate > 0) _faults = new(options.FaultSeed, options.FaultRate);
        Aside = MakeAside(Path.Combine(Options.Folder, Hidden, "aside"), time.GetUtcNow().UtcDateTime);
        Locks = new(time);
        Properties = new(Path.Combine(Options.Folder, Hidden, "properties.json"));
        _used = Options.QuotaBytes is null ? 0 : Size(new DirectoryInfo(Options.Folder));
    }

    /// <summary>Bytes of content, counted while there is a quota.</summary>
    public long UsedBytes => Interlocked.Read(ref _used);

    internal DavOptions Options { get; }

    internal DavLocks Locks { get; }

    internal DavProperties Properties { get; }

    /// <summary>Held while the tree changes.</summary>
    internal Lock Change { get; } = new();

    /// <summary>Where uploads grow until they are whole.</summary>
    internal string Aside { get; }

    // Several servers may serve one folder: each has a place of its own, and takes away only what nobody can be writing to any more.
    private static string MakeAside(string all, DateTime now)
    {
        foreach (var old in Directory.CreateDirectory(all).EnumerateFileSystemInfos())
            if (old is DirectoryInfo folder && folder.EnumerateFiles().All(f => f.LastWriteTimeUtc < now.AddHours(-1)))
                folder.Delete(recursive: true);
        return Directory.CreateDirectory(Path.Combine(all, Guid.NewGuid().ToString("N"))).FullName;
    }

    /// <summary>Counts bytes that came, or with a minus those that went.</summary>
    internal void Count(long bytes) => Interlocked.Add(ref _used, bytes);

    internal static long Size(DirectoryInfo folder)
    {
        long sum = 0;
        foreach (var item in folder.EnumerateFileSystemInfos())
        {
            if (item.LinkTarget is not null || item.Name == Hidden) continue;
            sum += item is FileInfo file ? file.Length : Size((DirectoryInfo)item);
        }
        return sum;
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
        var call = new DavCall(this, context, prefix, path);
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
        catch (IOException full) when (full.HResult is 28 or 122 || full.Message.Contains("No space left", StringComparison.Ordinal))
        {
            response.StatusCode = 507;
        }
        catch (Exception wrong) when (wrong is PathTooLongException or UnauthorizedAccessException or ArgumentException)
        {
            response.StatusCode = wrong is PathTooLongException ? 414 : 403;
        }
        await call.SendBodyAsync();
    }

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
