using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using Microsoft.AspNetCore.Http;

namespace YardRelay.Dav.Calls;

/// <summary>One request being answered: what it asks for, what stands in its way, and the answer's body.</summary>
internal sealed partial class DavCall(DavShare share, DavTree tree, HttpContext context, string prefix, DavPath path)
{
    private static readonly XNamespace D = "DAV:";
    private XDocument? _body;
    private string? _text;
    private IfHeader _if = null!;

    private HttpRequest Request => context.Request;

    private HttpResponse Response => context.Response;

    private static string ETag(in NodeFacts file) => FormattableString.Invariant($"\"{file.Modified}-{file.Bytes:x}\"");

    private static DateTimeOffset ModifiedOf(in NodeFacts facts) =>
        DateTimeOffset.FromUnixTimeSeconds(Math.Clamp(facts.Modified.Seconds, -62_135_596_800, 253_402_300_799));

    public async Task<int> RunAsync()
    {
        if (IfHeader.TryParse(Request.Headers["If"]) is not { } header) return 400;
        _if = header;
        if (!_if.Holds(
            (resource, token) => Tagged(resource) is { } at && share.Locks.On(at.Key).Any(l => l.Token == token),
            resource => Tagged(resource) is { } at && tree.Find(at) is { Kind: NodeKind.File } file ? ETag(file) : null))
            return 412;
        return Request.Method switch
        {
            "OPTIONS" => Options(),
            "GET" or "HEAD" => await GetAsync(),
            "PUT" => await PutAsync(),
            "POST" => Settle(),
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

    /// <summary>The paths that the request reads or changes.</summary>
    public IEnumerable<DavPath> Touched()
    {
        yield return path;
        if (Request.Method is "MOVE" or "COPY" && Destination(Request.Headers["Destination"]) is { } to) yield return to;
    }

    private DavPath? Tagged(string? resource) => resource is null ? path : Destination(resource);

    private DavPath? Destination(string? header)
    {
        if (string.IsNullOrEmpty(header)) return null;
        var raw = header.StartsWith('/')
            ? header
            : Uri.TryCreate(header, UriKind.Absolute, out var uri) && uri.Authority == Request.Host.Value
            ? header[(header.IndexOf("://", StringComparison.Ordinal) + 3 + uri.Authority.Length)..]
            : null;
        return raw is null || DavPath.TryParse(raw, prefix) is not { } found || found.Parts.FirstOrDefault() == DavShare.Hidden
            ? null
            : found;
    }

    private int Options()
    {
        Response.Headers["DAV"] = "1, 2";
        Response.Headers["MS-Author-Via"] = "DAV";
        Response.Headers.Allow = "OPTIONS, GET, HEAD, PUT, DELETE, MKCOL, COPY, MOVE, PROPFIND, PROPPATCH, LOCK, UNLOCK"
            + (share.Medium is null ? "" : ", POST");
        return 200;
    }

    /// <summary>Brings what was written onto the medium, of a file its content; 424 where that did not take all of it.</summary>
    private int Settle()
    {
        if (share.Medium is not { } medium) return NotAllowed();
        try
        {
            if (path.IsRoot || tree.Find(path) is { Kind: NodeKind.Folder }) medium.Settle();
            else using (var file = tree.Top.OpenFileAt(path.Bytes, FileUse.Read)) file.Sync();
            _text = medium.AsOf;
            return 200;
        }
        catch (FileTroubleException trouble)
        {
            _text = trouble.Message;
            return 424;
        }
    }

    private int NotAllowed()
    {
        Options();
        return 405;
    }

    /// <summary>423 when a lock that covers one of the places was not submitted; otherwise 0.</summary>
    private int Locked(DavPath at, bool tree, bool changesParent)
    {
        var needed = share.Locks.On(at.Key).Concat(tree ? share.Locks.In(at.Key) : []);
        if (changesParent && !at.IsRoot) needed = needed.Concat(share.Locks.On(at.Parent.Key));
        var groups = needed.GroupBy(l => (l.Key, l.IsShared));
        // Of several shared locks on one resource, holding one is enough.
        return groups.All(g => g.Any(l => _if.Tokens.Contains(l.Token))) ? 0 : 423;
    }

    private bool Preconditions(in NodeFacts? there, out int refusal)
    {
        refusal = 412;
        var etag = there is { Kind: NodeKind.File } file ? ETag(file) : null;
        var match = Request.Headers.IfMatch.ToString();
        var none = Request.Headers.IfNoneMatch.ToString();
        if (match.Length > 0 && (there is null || (match != "*" && match != etag))) return false;
        return none.Length == 0 || there is null || (none != "*" && none != etag);
    }

    /// <summary>Sends the text or XML of the answer, where there is any.</summary>
    public async Task SendBodyAsync()
    {
        if (Response.HasStarted) return;
        if (_text is not null)
        {
            Response.ContentType = "text/plain; charset=utf-8";
            await Response.WriteAsync(_text, context.RequestAborted);
        }
        if (_body is null) return;
        using var text = new MemoryStream();
        await using (var writer = XmlWriter.Create(text, new() { Encoding = new UTF8Encoding(false), Async = true }))
            await _body.SaveAsync(writer, context.RequestAborted);
        Response.ContentType = "application/xml; charset=utf-8";
        Response.ContentLength = text.Length;
        await Response.Body.WriteAsync(text.ToArray(), context.RequestAborted);
    }
}
