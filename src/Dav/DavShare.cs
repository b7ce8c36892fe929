using System.Buffers;
using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;

namespace YardRelay.Dav;

/// <summary>
/// A WebDAV server of class 1 and 2 over a folder (RFC 4918), with quota (RFC 4331). A file is seen whole under its name or not at all.
/// No link in the folder is ever followed.
/// </summary>
public sealed class DavShare
{
    internal const string Hidden = ".yard-dav";
    private readonly DavOptions _options;
    private readonly DavLocks _locks;
    private readonly DavProperties _properties;
    private readonly Lock _change = new();
    private readonly string _aside;
    private long _used;
    private long _requests;

    /// <summary>Opens the share; counts what is in it when there is a quota.</summary>
    public DavShare(DavOptions options, TimeProvider time)
    {
        _options = options with { Folder = Path.GetFullPath(options.Folder) };
        Directory.CreateDirectory(_options.Folder);
        _aside = Path.Combine(_options.Folder, Hidden, "aside");
        if (Directory.Exists(_aside)) Directory.Delete(_aside, recursive: true);
        Directory.CreateDirectory(_aside);
        _locks = new(time);
        _properties = new(Path.Combine(_options.Folder, Hidden, "properties.json"));
        _used = _options.QuotaBytes is null ? 0 : Size(new DirectoryInfo(_options.Folder));
    }

    /// <summary>Bytes of content, counted while there is a quota.</summary>
    public long UsedBytes => Interlocked.Read(ref _used);

    private static long Size(DirectoryInfo folder)
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
    public async Task HandleAsync(HttpContext context)
    {
        var (request, response) = (context.Request, context.Response);
        var prefix = request.PathBase.ToUriComponent();
        if (_options.Delay > TimeSpan.Zero) await Task.Delay(_options.Delay, context.RequestAborted);
        if (_options.FailEvery > 0 && Interlocked.Increment(ref _requests) % _options.FailEvery == 0)
        {
            response.StatusCode = 503;
            return;
        }
        if (_options.User is not null && !IsSignedIn(request))
        {
            response.Headers.WWWAuthenticate = "Basic realm=\"share\", charset=\"UTF-8\"";
            response.StatusCode = 401;
            return;
        }
        var raw = context.Features.Get<IHttpRequestFeature>()!.RawTarget;
        if (Uri.TryCreate(raw, UriKind.Absolute, out var whole) && !raw.StartsWith('/')) raw = whole.AbsolutePath;
        if (DavPath.TryParse(raw, prefix) is not { } path || path.Parts.FirstOrDefault() == Hidden)
        {
            response.StatusCode = 400;
            return;
        }
        var call = new Call(this, context, prefix, path);
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
        var expected = Encoding.UTF8.GetBytes(_options.User + ":" + _options.Password);
        var given = new byte[header.Length];
        return Convert.TryFromBase64String(header[6..].Trim(), given, out var length) && System.Security.Cryptography.CryptographicOperations.FixedTimeEquals(given.AsSpan(0, length), expected);
    }

    /// <summary>One request being answered.</summary>
    private sealed class Call(DavShare share, HttpContext context, string prefix, DavPath path)
    {
        private static readonly XNamespace D = "DAV:";
        private XDocument? _body;
        private IfHeader _if = null!;

        private HttpRequest Request => context.Request;

        private HttpResponse Response => context.Response;

        private string Disk(DavPath at) => Path.Combine([share._options.Folder, .. at.Parts]);

        /// <summary>What stands at a path, never through a link.</summary>
        private FileSystemInfo? Find(DavPath at)
        {
            var here = share._options.Folder;
            FileSystemInfo found = new DirectoryInfo(here);
            foreach (var part in at.Parts)
            {
                if (found is not DirectoryInfo) return null;
                here = Path.Combine(here, part);
                found = Directory.Exists(here) ? new DirectoryInfo(here) : new FileInfo(here);
                if (!found.Exists || found.LinkTarget is not null) return null;
            }
            return found;
        }

        private static string ETag(FileInfo file) => $"\"{file.LastWriteTimeUtc.Ticks:x}-{file.Length:x}\"";

        public async Task<int> RunAsync()
        {
            if (IfHeader.TryParse(Request.Headers["If"]) is not { } header) return 400;
            _if = header;
            if (!_if.Holds((resource, token) => Tagged(resource) is { } at && share._locks.On(at.Key).Any(l => l.Token == token), resource => Tagged(resource) is { } at && Find(at) is FileInfo file ? ETag(file) : null)) return 412;
            return Request.Method switch
            {
                "OPTIONS" => Options(),
                "GET" or "HEAD" => await GetAsync(),
                "PUT" => await PutAsync(),
                "DELETE" => Delete(),
                "MKCOL" => MakeFolder(),
                "COPY" => CopyOrMove(move: false),
                "MOVE" => CopyOrMove(move: true),
                "PROPFIND" => await PropFindAsync(),
                "PROPPATCH" => await PropPatchAsync(),
                "LOCK" => await LockAsync(),
                "UNLOCK" => Unlock(),
                _ => NotAllowed(),
            };
        }

        private DavPath? Tagged(string? resource) => resource is null ? path : Destination(resource);

        private DavPath? Destination(string? header)
        {
            if (string.IsNullOrEmpty(header)) return null;
            var raw = header.StartsWith('/') ? header : Uri.TryCreate(header, UriKind.Absolute, out var uri) ? header[(header.IndexOf("://", StringComparison.Ordinal) + 3 + uri.Authority.Length)..] : null;
            return raw is null || DavPath.TryParse(raw, prefix) is not { } found || found.Parts.FirstOrDefault() == Hidden ? null : found;
        }

        private int Options()
        {
            Response.Headers["DAV"] = "1, 2";
            Response.Headers["MS-Author-Via"] = "DAV";
            Response.Headers.Allow = "OPTIONS, GET, HEAD, PUT, DELETE, MKCOL, COPY, MOVE, PROPFIND, PROPPATCH, LOCK, UNLOCK";
            return 200;
        }

        private int NotAllowed()
        {
            Options();
            return 405;
        }

        private async Task<int> GetAsync()
        {
            switch (Find(path))
            {
                case FileInfo file when !path.AsFolder:
                    Response.Headers.ETag = ETag(file);
                    await Results.File(file.FullName, "application/octet-stream", lastModified: file.LastWriteTimeUtc, entityTag: new(ETag(file)), enableRangeProcessing: true).ExecuteAsync(context);
                    return Response.StatusCode;
                case DirectoryInfo folder:
                    var names = string.Concat(folder.EnumerateFileSystemInfos().Where(i => i.Name != Hidden).Select(i => i.Name).Order(StringComparer.Ordinal).Select(n => n + "\n"));
                    Response.ContentType = "text/plain; charset=utf-8";
                    Response.ContentLength = Encoding.UTF8.GetByteCount(names);
                    if (Request.Method == "GET") await Response.WriteAsync(names, context.RequestAborted);
                    return 200;
                default:
                    return 404;
            }
        }

        /// <summary>423 when a lock that covers one of the places was not submitted; otherwise 0.</summary>
        private int Locked(DavPath at, bool tree, bool changesParent)
        {
            var needed = share._locks.On(at.Key).Concat(tree ? share._locks.In(at.Key) : []);
            if (changesParent && !at.IsRoot) needed = needed.Concat(share._locks.On(at.Parent.Key));
            var groups = needed.GroupBy(l => (l.Key, l.IsShared));
            // Of several shared locks on one resource, holding one is enough.
            return groups.All(g => g.Any(l => _if.Tokens.Contains(l.Token))) ? 0 : 423;
        }

        private bool Preconditions(FileSystemInfo? there, out int refusal)
        {
            refusal = 412;
            var etag = there is FileInfo file ? ETag(file) : null;
            var match = Request.Headers.IfMatch.ToString();
            var none = Request.Headers.IfNoneMatch.ToString();
            if (match.Length > 0 && (there is null || (match != "*" && match != etag))) return false;
            return none.Length == 0 || there is null || (none != "*" && none != etag);
        }

        private async Task<int> PutAsync()
        {
            if (Request.Headers.ContentRange.Count > 0) return 400;
            var there = Find(path);
            if (there is DirectoryInfo || path.AsFolder) return 405;
            if (Find(path.Parent) is not DirectoryInfo) return 409;
            if (!Preconditions(there, out var refusal)) return refusal;
            if (Locked(path, false, there is null) is not 0 and var locked) return locked;
            var aside = Path.Combine(share._aside, Guid.NewGuid().ToString("N"));
            try
            {
                var length = Request.ContentLength;
                if (share._options.QuotaBytes is { } quota && length is { } announced && announced > quota - share.UsedBytes) return await DrainAsync(507);
                long written = 0;
                var file = new FileStream(aside, FileMode.CreateNew, FileAccess.Write, FileShare.None, 0, useAsync: false);
                await using (file)
                {
                    var buffer = ArrayPool<byte>.Shared.Rent(64 * 1024);
                    try
                    {
                        while (await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got)
                        {
                            written += got;
                            if (share._options.QuotaBytes is { } most && written > most - share.UsedBytes) return 507;
                            file.Write(buffer, 0, got);
                        }
                    }
                    finally
                    {
                        ArrayPool<byte>.Shared.Return(buffer);
                    }
                }
                lock (share._change)
                {
                    if (Find(path.Parent) is not DirectoryInfo) return 409;
                    there = Find(path);
                    if (there is DirectoryInfo) return 405;
                    if (!Preconditions(there, out refusal)) return refusal;
                    if (Directory.Exists(Disk(path)) || (there is null && new FileInfo(Disk(path)).LinkTarget is not null)) return 403;
                    var before = there is FileInfo old ? old.Length : 0;
                    File.Move(aside, Disk(path), overwrite: true);
                    Interlocked.Add(ref share._used, written - before);
                }
                Response.Headers.ETag = ETag(new(Disk(path)));
                return there is null ? 201 : 204;
            }
            catch (IOException) when (context.RequestAborted.IsCancellationRequested)
            {
                return 400;
            }
            finally
            {
                File.Delete(aside);
            }
        }

        /// <summary>Takes the rest of a refused upload, within bounds, so that the client reads the answer and not a broken pipe.</summary>
        private async Task<int> DrainAsync(int status)
        {
            var buffer = new byte[64 * 1024];
            for (long taken = 0; taken < 8 << 20 && await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got;) taken += got;
            return status;
        }

        private int Delete()
        {
            lock (share._change)
            {
                var there = Find(path);
                if (there is null) return 404;
                if (path.IsRoot) return 403;
                if (Locked(path, true, true) is not 0 and var locked) return locked;
                Remove(path, there);
                return 204;
            }
        }

        private void Remove(DavPath at, FileSystemInfo there)
        {
            var size = share._options.QuotaBytes is null ? 0 : there is FileInfo file ? file.Length : Size((DirectoryInfo)there);
            if (there is DirectoryInfo folder) folder.Delete(recursive: true);
            else there.Delete();
            Interlocked.Add(ref share._used, -size);
            share._properties.Remove(at.Key);
            share._locks.Forget(at.Key);
        }

        private int MakeFolder()
        {
            if (Request.ContentLength > 0 || Request.Headers.TransferEncoding.Count > 0) return 415;
            lock (share._change)
            {
                if (Find(path) is not null || path.IsRoot || new FileInfo(Disk(path)).LinkTarget is not null) return 405;
                if (Find(path.Parent) is not DirectoryInfo) return 409;
                if (Locked(path, false, true) is not 0 and var locked) return locked;
                Directory.CreateDirectory(Disk(path));
                return 201;
            }
        }

        private int CopyOrMove(bool move)
        {
            if (Destination(Request.Headers["Destination"]) is not { } to) return Request.Headers["Destination"].Count == 0 ? 400 : 502;
            var depth = Request.Headers["Depth"].ToString();
            if (depth is not ("" or "infinity" or "0") || (move && depth == "0")) return 400;
            lock (share._change)
            {
                var source = Find(path);
                if (source is null) return 404;
                if (path.IsRoot || to.IsRoot || to.Key == path.Key || to.Key.StartsWith(path.Key + "/", StringComparison.Ordinal) || path.Key.StartsWith(to.Key + "/", StringComparison.Ordinal)) return 403;
                if (Find(to.Parent) is not DirectoryInfo) return 409;
                var target = Find(to);
                if (target is null && new FileInfo(Disk(to)).LinkTarget is not null) return 403;
                if (target is not null && Request.Headers["Overwrite"].ToString().Equals("F", StringComparison.OrdinalIgnoreCase)) return 412;
                if (Locked(to, true, target is null) is not 0 and var locked) return locked;
                if (move && Locked(path, true, true) is not 0 and var held) return held;
                var size = move || share._options.QuotaBytes is null ? 0 : source is FileInfo file ? file.Length : depth == "0" ? 0 : Size((DirectoryInfo)source);
                if (share._options.QuotaBytes is { } quota && size > quota - share.UsedBytes) return 507;
                // A file goes over a file in one step; only a folder in the way must go first.
                if (target is FileInfo over && move && source is FileInfo)
                {
                    var gone = over.Length;
                    File.Move(Disk(path), Disk(to), overwrite: true);
                    Interlocked.Add(ref share._used, -gone);
                    share._properties.Remove(to.Key);
                }
                else
                {
                    if (target is not null) Remove(to, target);
                    if (move && source is DirectoryInfo) Directory.Move(Disk(path), Disk(to));
                    else if (move) File.Move(Disk(path), Disk(to));
                    else CopyTree(source, Disk(to), depth != "0");
                }
                Interlocked.Add(ref share._used, size);
                share._properties.Copy(path.Key, to.Key, depth != "0");
                if (move)
                {
                    share._properties.Remove(path.Key);
                    share._locks.Forget(path.Key);
                }
                return target is null ? 201 : 204;
            }
        }

        private static void CopyTree(FileSystemInfo source, string to, bool deep)
        {
            if (source is FileInfo file)
            {
                file.CopyTo(to);
                return;
            }
            Directory.CreateDirectory(to);
            if (!deep) return;
            foreach (var below in ((DirectoryInfo)source).EnumerateFileSystemInfos())
                if (below.LinkTarget is null) CopyTree(below, Path.Combine(to, below.Name), true);
        }

        private async Task<XDocument?> ReadXmlAsync()
        {
            using var text = new MemoryStream();
            var buffer = new byte[16 * 1024];
            while (await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got)
            {
                text.Write(buffer, 0, got);
                if (text.Length > 1 << 20) throw new XmlException("The request's XML is larger than 1 MiB.");
            }
            if (text.Length == 0) return null;
            text.Position = 0;
            using var reader = XmlReader.Create(text, new() { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
            return XDocument.Load(reader, LoadOptions.PreserveWhitespace);
        }

        private async Task<int> PropFindAsync()
        {
            var asked = (await ReadXmlAsync())?.Root;
            if (asked is not null && asked.Name != D + "propfind") return 400;
            var depth = Request.Headers["Depth"].ToString();
            var there = Find(path);
            if (there is null) return 404;
            if (depth is "" or "infinity" && there is DirectoryInfo)
            {
                _body = new(new XElement(D + "error", new XElement(D + "propfind-finite-depth")));
                return 403;
            }
            var only = asked?.Element(D + "prop")?.Elements().Select(e => e.Name).ToList();
            var namesOnly = asked?.Element(D + "propname") is not null;
            var answer = new XElement(D + "multistatus", new XAttribute(XNamespace.Xmlns + "D", "DAV:"), Describe(path, there, only, namesOnly));
            if (depth == "1" && there is DirectoryInfo folder)
                foreach (var below in folder.EnumerateFileSystemInfos().OrderBy(i => i.Name, StringComparer.Ordinal))
                    if (below.Name != Hidden && below.LinkTarget is null) answer.Add(Describe(path.Child(below.Name, below is DirectoryInfo), below, only, namesOnly));
            _body = new(answer);
            return 207;
        }

        private XElement Describe(DavPath at, FileSystemInfo item, List<XName>? only, bool namesOnly)
        {
            var all = Live(at, item, only is not null);
            foreach (var (_, xml) in share._properties.Of(at.Key))
            {
                var dead = XElement.Parse(xml, LoadOptions.PreserveWhitespace);
                all[dead.Name] = dead;
            }
            var response = new XElement(D + "response", new XElement(D + "href", at.Href(prefix, item is DirectoryInfo)));
            var found = only is null ? [.. all.Values] : only.Where(all.ContainsKey).Select(n => all[n]).ToList();
            if (namesOnly) found = [.. found.Select(f => new XElement(f.Name))];
            if (found.Count > 0) response.Add(PropStat(found, "200 OK"));
            var missing = only?.Where(n => !all.ContainsKey(n)).Select(n => new XElement(n)).ToList() ?? [];
            if (missing.Count > 0) response.Add(PropStat(missing, "404 Not Found"));
            return response;
        }

        private static XElement PropStat(IEnumerable<XElement> properties, string status) =>
            new(D + "propstat", new XElement(D + "prop", properties), new XElement(D + "status", "HTTP/1.1 " + status));

        private Dictionary<XName, XElement> Live(DavPath at, FileSystemInfo item, bool withQuota)
        {
            var live = new Dictionary<XName, XElement>();
            void Add(string name, object? value) => live[D + name] = new(D + name, value);
            Add("resourcetype", item is DirectoryInfo ? new XElement(D + "collection") : null);
            Add("creationdate", item.CreationTimeUtc.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture));
            Add("getlastmodified", item.LastWriteTimeUtc.ToString("R"));
            Add("supportedlock", new[] { "exclusive", "shared" }.Select(scope => new XElement(D + "lockentry", new XElement(D + "lockscope", new XElement(D + scope)), new XElement(D + "locktype", new XElement(D + "write")))));
            Add("lockdiscovery", share._locks.On(at.Key).Select(Active));
            if (item is FileInfo file)
            {
                Add("getcontentlength", file.Length);
                Add("getcontenttype", "application/octet-stream");
                Add("getetag", ETag(file));
            }
            else if (withQuota)
            {
                // RFC 4331: not part of allprop.
                Add("quota-available-bytes", share._options.QuotaBytes is { } quota ? Math.Max(0, quota - share.UsedBytes) : new DriveInfo(share._options.Folder).AvailableFreeSpace);
                Add("quota-used-bytes", share._options.QuotaBytes is null ? new DriveInfo(share._options.Folder).TotalSize - new DriveInfo(share._options.Folder).TotalFreeSpace : share.UsedBytes);
            }
            return live;
        }

        private XElement Active(DavLock held) => new(
            D + "activelock",
            new XElement(D + "locktype", new XElement(D + "write")),
            new XElement(D + "lockscope", new XElement(D + (held.IsShared ? "shared" : "exclusive"))),
            new XElement(D + "depth", held.IsDeep ? "infinity" : "0"),
            held.OwnerXml is null ? null : XElement.Parse(held.OwnerXml),
            new XElement(D + "timeout", $"Second-{(long)held.Timeout.TotalSeconds}"),
            new XElement(D + "locktoken", new XElement(D + "href", held.Token)),
            new XElement(D + "lockroot", new XElement(D + "href", prefix + "/" + string.Join('/', held.Key.Split('/').Select(Uri.EscapeDataString)))));

        private async Task<int> PropPatchAsync()
        {
            var asked = (await ReadXmlAsync())?.Root;
            if (asked is null || asked.Name != D + "propertyupdate") return 400;
            var there = Find(path);
            if (there is null) return 404;
            if (Locked(path, false, false) is not 0 and var locked) return locked;
            var live = Live(path, there, true);
            var changes = new List<(XName Name, XElement? Value)>();
            foreach (var part in asked.Elements().Where(e => e.Name == D + "set" || e.Name == D + "remove"))
                foreach (var property in part.Elements(D + "prop").Elements())
                    changes.Add((property.Name, part.Name == D + "set" ? property : null));
            var refused = changes.Where(c => live.ContainsKey(c.Name)).Select(c => c.Name).ToHashSet();
            if (refused.Count == 0) share._properties.Change(path.Key, changes);
            var response = new XElement(D + "response", new XElement(D + "href", path.Href(prefix, there is DirectoryInfo)));
            foreach (var group in changes.DistinctBy(c => c.Name).GroupBy(c => refused.Count == 0 ? "200 OK" : refused.Contains(c.Name) ? "403 Forbidden" : "424 Failed Dependency"))
                response.Add(PropStat(group.Select(c => new XElement(c.Name)), group.Key));
            _body = new(new XElement(D + "multistatus", new XAttribute(XNamespace.Xmlns + "D", "DAV:"), response));
            return 207;
        }

        private async Task<int> LockAsync()
        {
            var asked = (await ReadXmlAsync())?.Root;
            var timeout = Timeout();
            DavLock? held;
            var made = false;
            if (asked is null)
            {
                held = share._locks.Refresh(path.Key, _if.Tokens, timeout);
                if (held is null) return 412;
            }
            else
            {
                var depth = Request.Headers["Depth"].ToString();
                if (asked.Name != D + "lockinfo" || depth is not ("" or "0" or "infinity")) return 400;
                var shared = asked.Descendants(D + "shared").Any();
                lock (share._change)
                {
                    var there = Find(path);
                    if (there is null && Find(path.Parent) is not DirectoryInfo) return 409;
                    if (there is null && Locked(path, false, true) is not 0 and var locked) return locked;
                    held = share._locks.Take(path.Key, shared, depth != "0", asked.Element(D + "owner")?.ToString(SaveOptions.DisableFormatting), timeout);
                    if (held is null) return 423;
                    if (there is null)
                    {
                        File.WriteAllBytes(Disk(path), []);
                        made = true;
                    }
                }
                Response.Headers["Lock-Token"] = $"<{held.Token}>";
            }
            _body = new(new XElement(D + "prop", new XAttribute(XNamespace.Xmlns + "D", "DAV:"), new XElement(D + "lockdiscovery", Active(held))));
            return made ? 201 : 200;
        }

        private TimeSpan Timeout()
        {
            var asked = Request.Headers["Timeout"].ToString().Split(',')[0].Trim();
            var seconds = asked.StartsWith("Second-", StringComparison.OrdinalIgnoreCase) && long.TryParse(asked[7..], out var s) ? Math.Clamp(s, 1, 3600) : 600;
            return TimeSpan.FromSeconds(seconds);
        }

        private int Unlock()
        {
            var token = Request.Headers["Lock-Token"].ToString().Trim();
            if (token.Length < 3 || token[0] != '<' || token[^1] != '>') return 400;
            return share._locks.Release(path.Key, token[1..^1]) ? 204 : 409;
        }

        /// <summary>Sends the XML of the answer, where there is any.</summary>
        public async Task SendBodyAsync()
        {
            if (_body is null || Response.HasStarted) return;
            using var text = new MemoryStream();
            await using (var writer = XmlWriter.Create(text, new() { Encoding = new UTF8Encoding(false), Async = true })) await _body.SaveAsync(writer, context.RequestAborted);
            Response.ContentType = "application/xml; charset=utf-8";
            Response.ContentLength = text.Length;
            await Response.Body.WriteAsync(text.ToArray(), context.RequestAborted);
        }
    }
}
