using System.Net;
using System.Net.Http.Headers;
using System.Security.Authentication;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.WebDav;

/// <summary>A depot on a WebDAV share (RFC 4918), quota by RFC 4331. Files are put aside, then moved to their name.</summary>
public sealed partial class WebDavDepot : IDepot
{
    private static readonly XNamespace Dav = "DAV:";
    private readonly Uri _base;
    private readonly WebDavDepotOptions _options;
    private readonly HttpClient _http;
    private readonly FoldersMade _made;
    private readonly PartsProbe _parts;

    /// <summary>
    /// A depot at <paramref name="address"/>; user and password may stand in it, or in YARD_DEPOT_USER and YARD_DEPOT_PASSWORD.
    /// </summary>
    public WebDavDepot(Uri address, WebDavDepotOptions options)
    {
        _options = options;
        (_made, _parts) = (new(options.Work), new(options.Work));
        var clean = new UriBuilder(address) { UserName = "", Password = "", Fragment = "", Query = "" };
        if (!clean.Path.EndsWith('/')) clean.Path += "/";
        _base = clean.Uri;
        var handler = new SocketsHttpHandler
        {
            MaxConnectionsPerServer = 32,
            PooledConnectionLifetime = TimeSpan.FromMinutes(5),
            ConnectTimeout = TimeSpan.FromSeconds(10),
            AllowAutoRedirect = false,
            UseCookies = false
        };
        if (options.Reach is { } reach) (handler.ConnectCallback, handler.UseProxy) = (reach.ConnectAsync, false);
        if (options.ServerKey is { } key)
            handler.SslOptions.RemoteCertificateValidationCallback = (_, shown, _, _) =>
                shown is X509Certificate2 certificate && certificate.PublicKey.ExportSubjectPublicKeyInfo().AsSpan().SequenceEqual(key);
        _http = new HttpClient(handler)
        {
            Timeout = Timeout.InfiniteTimeSpan,
        };
        var user = options.User is { } given
            ? given + ":" + options.Password
            : address.UserInfo.Length > 0
            ? Uri.UnescapeDataString(address.UserInfo)
            : options.Reach is null && Environment.GetEnvironmentVariable("YARD_DEPOT_USER") is { Length: > 0 } name
            ? name + ":" + Environment.GetEnvironmentVariable("YARD_DEPOT_PASSWORD")
            : null;
        if (user is not null) _who = new("Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes(user)));
    }

    /// <inheritdoc/>
    public string Address => _options.ServerKey is null ? _base.ToString().TrimEnd('/') : $"direct://{_base.Authority}";

    private Uri At(DepotPath path, bool folder = false) =>
        new(_base, path.IsRoot ? "" : string.Join('/', path.Text.Split('/').Select(Uri.EscapeDataString)) + (folder ? "/" : ""));

    private async Task<HttpResponseMessage> SendAsync(
        Func<HttpRequestMessage> make, CancellationToken cancel, TimeSpan? within = null)
    {
        var wait = _options.FirstWait;
        for (var attempt = 1; ; attempt++)
        {
            var why = "";
            Exception? cause = null;
            TimeSpan? asked = null;
            try
            {
                var response = await AnswerAsync(make, within, cancel);
                if (response.StatusCode is not (HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests
                    or HttpStatusCode.InternalServerError or HttpStatusCode.BadGateway or HttpStatusCode.ServiceUnavailable
                    or HttpStatusCode.GatewayTimeout or HttpStatusCode.Locked))
                    return response;
                why = $"it answers {(int)response.StatusCode} {response.ReasonPhrase}.";
                asked = response.Headers.RetryAfter is { } after ? after.Delta ?? after.Date - _options.Work.Time.GetUtcNow() : null;
                response.Dispose();
            }
            catch (Exception broke)
                when (broke is HttpRequestException or TimeoutException
                    || (broke is IOException && broke is not EndOfStreamException and not DepotUnreachableException)
                    || (broke is OperationCanceledException && !cancel.IsCancellationRequested))
            {
                // A source that ends early surfaces wrapped; it is no fault of the depot and no retry helps.
                if (broke.InnerException is EndOfStreamException early) throw early;
                if (broke.InnerException is SourceBrokeException source) throw source;
                if (broke.InnerException is AuthenticationException && _options.ServerKey is not null)
                    throw new DepotUnreachableException(
                        Address,
                        "the hand that receives there has another code. Type the code that it shows now, and compare the address.",
                        broke);
                cause = broke;
                why = broke is OperationCanceledException ? "it does not answer in time." : broke.Message;
            }
            if (attempt >= _options.Tries) throw new DepotUnreachableException(Address, $"{attempt} tries failed; {why}", cause);
            if (asked > _options.LongestAsked)
                throw new DepotUnreachableException(
                    Address, $"{why} It asks to come again in {asked.Value.TotalMinutes:0} minutes.", cause);
            // Somebody who says when to come again is not asked before.
            await Task.Delay(asked > wait ? asked.Value : wait, _options.Work.Time, cancel);
            wait = wait * 2 < _options.LongestWait ? wait * 2 : _options.LongestWait;
        }
    }

    /// <summary>
    /// Puts a few bytes of a file, as a part of it where <paramref name="from"/> is not null. Whether the share took them.
    /// </summary>
    internal async Task<bool> PutBytesAsync(DepotPath path, byte[] bytes, long? from, long whole, CancellationToken cancel)
    {
        using var response = await SendAsync(() =>
        {
            var request = Request("PUT", path);
            request.Content = new ByteArrayContent(bytes);
            if (from is { } start) request.Content.Headers.ContentRange = new(start, start + bytes.Length - 1, whole);
            return request;
        }, cancel);
        return response.IsSuccessStatusCode;
    }

    private HttpRequestMessage Request(
        string method, DepotPath path, bool folder = false, DepotPath? destination = null, bool overwrite = false)
    {
        var request = new HttpRequestMessage(new(method), At(path, folder));
        if (destination is not { } to) return request;
        request.Headers.Add("Destination", At(to, folder).AbsoluteUri);
        request.Headers.Add("Overwrite", overwrite ? "T" : "F");
        return request;
    }

    /// <inheritdoc/>
    public async Task<DepotFeatures> ProbeAsync(CancellationToken cancel)
    {
        var folder = ProbeFolder.New(_options.Work.NewId());
        var making = MakeFoldersAsync(folder, cancel);
        try
        {
            var (status, _) = await AskAsync(DepotPath.Root, 0, asFolder: true, cancel);
            if (status != HttpStatusCode.MultiStatus)
                throw new DepotUnreachableException(
                    Address,
                    status == HttpStatusCode.NotFound
                        ? "there is no folder at that address."
                        : $"it answers {(int)status} where a WebDAV share answers 207.");
            await making;
            await Task.WhenAll(ProbeNames.All.Select(async name =>
            {
                using var saved = await SendAsync(() => Empty(folder / name), cancel);
                if (name == ProbeNames.Plain && !saved.IsSuccessStatusCode)
                    throw new DepotUnreachableException(Address, $"it cannot be written to (it answers {(int)saved.StatusCode}).");
            }));
            return ProbeNames.Of((await ListAsync(folder, cancel)).Select(n => n.Name).ToHashSet());
        }
        finally
        {
            await making.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            await RemoveAsync(folder, CancellationToken.None);
        }

        HttpRequestMessage Empty(DepotPath path)
        {
            var request = Request("PUT", path);
            request.Content = new ByteArrayContent([]);
            return request;
        }
    }

    private async Task<bool> IsFolderAsync(DepotPath path, CancellationToken cancel)
    {
        var (status, answer) = await AskAsync(path, 0, asFolder: false, cancel);
        return status == HttpStatusCode.MovedPermanently || (answer?.Descendants(Dav + "collection").Any() ?? false);
    }

    private async Task<long?> LengthAsync(DepotPath path, CancellationToken cancel)
    {
        using var response = await SendAsync(() => Request("HEAD", path), cancel);
        return response.IsSuccessStatusCode ? response.Content.Headers.ContentLength : null;
    }

    /// <inheritdoc/>
    public Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel) => OpenAsync(path, past: false, null, cancel);

    /// <param name="past">Asks whoever stands between here and the share not to answer from memory.</param>
    /// <param name="told">Sees the answer's headers where it has the file.</param>
    private async Task<Result<Stream>> OpenAsync(
        DepotPath path, bool past, Action<HttpResponseMessage>? told, CancellationToken cancel)
    {
        var response = await SendAsync(() =>
        {
            var request = Request("GET", path);
            if (past) request.Headers.CacheControl = new() { NoCache = true };
            return request;
        }, cancel);
        if (response.IsSuccessStatusCode)
        {
            told?.Invoke(response);
            return Result(new ResumingStream(
                await response.Content.ReadAsStreamAsync(cancel),
                static b => b is (IOException and not DepotUnreachableException) or HttpRequestException,
                (from, stop) => ReopenAsync(path, from, response.Headers.ETag, response.Content.Headers.ContentLength, stop),
                _options.Tries,
                _options.FirstWait,
                _options.Work,
                b => new DepotUnreachableException(Address, $"reading {path} broke off: {b.Message}", b)));
        }
        var status = response.StatusCode;
        response.Dispose();
        if (status is HttpStatusCode.NotFound or HttpStatusCode.Gone or HttpStatusCode.Conflict or HttpStatusCode.BadRequest
            or HttpStatusCode.MovedPermanently)
            return new NotInDepot(path.Text);
        // Servers say so of a folder, and of a file that they will not give.
        if (status is HttpStatusCode.Forbidden or HttpStatusCode.MethodNotAllowed)
            return await IsFolderAsync(path, cancel)
                ? new NotInDepot(path.Text)
                : throw new DepotShutException(Address, $"it answers {(int)status} to a read of {path.Text}.");
        throw new DepotUnreachableException(Address, $"it answers {(int)status} to a read of {path.Text}.");

        static Result<Stream> Result(Stream stream) => stream;
    }

    /// <summary>
    /// The content from a byte on; null where it is another one meanwhile. A share that knows no ranges sends all of it, and what was read
    /// is passed over.
    /// </summary>
    private async Task<Stream?> ReopenAsync(DepotPath path, long from, EntityTagHeaderValue? tag, long? bytes, CancellationToken cancel)
    {
        var response = await SendAsync(() =>
        {
            var request = Request("GET", path);
            request.Headers.Range = new(from, null);
            return request;
        }, cancel);
        var whole = response.StatusCode == HttpStatusCode.OK;
        if ((!whole && response.StatusCode != HttpStatusCode.PartialContent)
            || (tag is not null && response.Headers.ETag is { } now && !now.Equals(tag))
            || (!whole && response.Content.Headers.ContentRange?.From != from)
            || (bytes is { } length && response.Content.Headers.ContentLength is { } rest && rest != (whole ? length : length - from)))
        {
            response.Dispose();
            return null;
        }
        var stream = await response.Content.ReadAsStreamAsync(cancel);
        var skip = new byte[81920];
        for (var left = whole ? from : 0; left > 0;)
        {
            var got = await stream.ReadAsync(skip.AsMemory(0, (int)Math.Min(skip.Length, left)), cancel);
            if (got == 0) return null;
            left -= got;
        }
        return stream;
    }

    private Task<HttpResponseMessage> PropFindAsync(DepotPath folder, int depth, bool asFolder, CancellationToken cancel) => SendAsync(() =>
    {
        var request = Request("PROPFIND", folder, asFolder);
        request.Headers.Add("Depth", depth.ToString());
        request.Content = new StringContent(
            """
            <?xml version="1.0" encoding="utf-8"?>
            <propfind xmlns="DAV:"><prop>
            <resourcetype/><getcontentlength/><getlastmodified/><quota-available-bytes/><quota-used-bytes/>
            <medium xmlns="urn:yard-relay:depot"/>
            </prop></propfind>
            """,
            Encoding.UTF8,
            new MediaTypeHeaderValue("application/xml"));
        return request;
    }, cancel);

    /// <summary>
    /// What a share says of a folder or file; no document where it does not answer with 207. Half an answer is none: it is asked again.
    /// </summary>
    private async Task<(HttpStatusCode Status, XDocument? Answer)> AskAsync(
        DepotPath path, int depth, bool asFolder, CancellationToken cancel)
    {
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                using var response = await PropFindAsync(path, depth, asFolder, cancel);
                if (response.StatusCode != HttpStatusCode.MultiStatus) return (response.StatusCode, null);
                await using var body = await response.Content.ReadAsStreamAsync(cancel);
                using var reader = XmlReader.Create(body, new()
                {
                    Async = true,
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null
                });
                var answer = await XDocument.LoadAsync(reader, LoadOptions.None, cancel);
                LearnMedium(answer);
                return (response.StatusCode, answer);
            }
            catch (Exception broke)
                when (broke is XmlException or HttpRequestException || (broke is IOException and not DepotUnreachableException))
            {
                if (attempt >= _options.Tries)
                    throw new DepotUnreachableException(
                        Address,
                        broke is XmlException ? "its list of names is not well-formed XML." : $"its answer broke off: {broke.Message}",
                        broke);
                await Task.Delay(_options.FirstWait * attempt, _options.Work.Time, cancel);
            }
        }
    }

    /// <inheritdoc/>
    public async Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel)
    {
        var (status, answer) = await AskAsync(folder, 1, asFolder: true, cancel);
        if (status is HttpStatusCode.NotFound) return [];
        if (answer is null) throw new DepotUnreachableException(Address, $"it answers {(int)status} to a list.");
        var own = Uri.UnescapeDataString(At(folder, folder: true).AbsolutePath).TrimEnd('/');
        var names = new List<DepotName>();
        foreach (var item in answer.Descendants(Dav + "response"))
        {
            var href = item.Element(Dav + "href")?.Value.Trim() ?? "";
            var path = Uri.UnescapeDataString(href.StartsWith('/')
                ? href
                : Uri.TryCreate(href, UriKind.Absolute, out var whole)
                ? whole.AbsolutePath
                : href)
                .TrimEnd('/');
            if (path.Length <= own.Length) continue;
            var isFolder = item.Descendants(Dav + "collection").Any();
            names.Add(new(
                path[(path.LastIndexOf('/') + 1)..],
                isFolder,
                !isFolder && long.TryParse(item.Descendants(Dav + "getcontentlength").FirstOrDefault()?.Value, out var bytes) ? bytes : 0)
            {
                Modified = ModifiedOf(item)
            });
        }
        // A plain file answers with itself alone.
        return names;
    }

    /// <inheritdoc/>
    public async Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel)
    {
        using var response = await SendAsync(() => Request("MKCOL", folder, folder: true), cancel);
        if (response.IsSuccessStatusCode)
        {
            _made.Add(folder);
            return true;
        }
        if (response.StatusCode is HttpStatusCode.Conflict or HttpStatusCode.NotFound) _made.ForgetAll();
        return response.StatusCode switch
        {
            HttpStatusCode.MethodNotAllowed or HttpStatusCode.MovedPermanently => false,
            HttpStatusCode.Conflict or HttpStatusCode.NotFound => new NotInDepot(folder.Parent.Text),
            HttpStatusCode.InsufficientStorage => new DepotFull(Address, 0),
            // Some servers answer 403 to the loser of a race for the same name, or 400 where a file has it.
            HttpStatusCode.Forbidden or HttpStatusCode.BadRequest
                when (await ListAsync(folder.Parent, cancel)).Any(n => n.Name == folder.Name) => false,
            _ => throw new DepotUnreachableException(Address, $"it answers {(int)response.StatusCode} to a new folder."),
        };
    }

    /// <inheritdoc/>
    public Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel) => _made.OnceAsync(folder, async () =>
    {
        await MakeFoldersAsync(folder.Parent, cancel);
        return (await MakeFolderAsync(folder, cancel)).IsOk;
    });

    /// <inheritdoc/>
    public async Task<DepotRoom> RoomAsync(CancellationToken cancel)
    {
        var (status, answer) = await AskAsync(DepotPath.Root, 0, asFolder: true, cancel);
        if (answer is null) throw new DepotUnreachableException(Address, $"it answers {(int)status}.");
        long? Read(string name) => long.TryParse(answer.Descendants(Dav + name).FirstOrDefault()?.Value, out var bytes) ? bytes : null;
        return new(Read("quota-available-bytes"), Read("quota-used-bytes"));
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _http.Dispose();
        _parts.Dispose();
    }
}
