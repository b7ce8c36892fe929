using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;

namespace YardRelay.Dav.Calls;

/// <summary>Properties (RFC 4918, sections 9.1 and 9.2).</summary>
internal sealed partial class DavCall
{
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
        if (tree.Find(path) is not { } there) return 404;
        if (depth is "" or "infinity" && there.Kind == NodeKind.Folder)
        {
            _body = new(new XElement(D + "error", new XElement(D + "propfind-finite-depth")));
            return 403;
        }
        var only = asked?.Element(D + "prop")?.Elements().Select(e => e.Name).ToList();
        var namesOnly = asked?.Element(D + "propname") is not null;
        var answer = new XElement(
            D + "multistatus", new XAttribute(XNamespace.Xmlns + "D", "DAV:"), Describe(path, there, only, namesOnly));
        if (depth == "1" && there.Kind == NodeKind.Folder)
            foreach (var (name, facts) in tree.Below(path))
                answer.Add(Describe(path.Child(name, facts.Kind == NodeKind.Folder), facts, only, namesOnly));
        _body = new(answer);
        return 207;
    }

    private XElement Describe(DavPath at, in NodeFacts item, List<XName>? only, bool namesOnly)
    {
        var all = Live(at, item, only is not null);
        foreach (var (_, xml) in share.Properties.Of(at.Key))
        {
            var dead = XElement.Parse(xml, LoadOptions.PreserveWhitespace);
            all[dead.Name] = dead;
        }
        var response = new XElement(D + "response", new XElement(D + "href", at.Href(prefix, item.Kind == NodeKind.Folder)));
        var found = only is null ? [.. all.Values] : only.Where(all.ContainsKey).Select(n => all[n]).ToList();
        if (namesOnly) found = [.. found.Select(f => new XElement(f.Name))];
        if (found.Count > 0) response.Add(PropStat(found, "200 OK"));
        var missing = only?.Where(n => !all.ContainsKey(n)).Select(n => new XElement(n)).ToList() ?? [];
        if (missing.Count > 0) response.Add(PropStat(missing, "404 Not Found"));
        return response;
    }

    private static XElement PropStat(IEnumerable<XElement> properties, string status) =>
        new(D + "propstat", new XElement(D + "prop", properties), new XElement(D + "status", "HTTP/1.1 " + status));

    private Dictionary<XName, XElement> Live(DavPath at, in NodeFacts item, bool withQuota)
    {
        var live = new Dictionary<XName, XElement>();
        void Add(string name, object? value) => live[D + name] = new(D + name, value);
        Add("resourcetype", item.Kind == NodeKind.Folder ? new XElement(D + "collection") : null);
        Add("creationdate", ModifiedOf(item).ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture));
        Add("getlastmodified", ModifiedOf(item).ToString("R"));
        Add(
            "supportedlock",
            new[] { "exclusive", "shared" }.Select(scope => new XElement(
                D + "lockentry",
                new XElement(D + "lockscope", new XElement(D + scope)),
                new XElement(D + "locktype", new XElement(D + "write")))));
        Add("lockdiscovery", share.Locks.On(at.Key).Select(Active));
        if (item.Kind == NodeKind.File)
        {
            Add("getcontentlength", item.Bytes);
            Add("getcontenttype", "application/octet-stream");
            Add("getetag", ETag(item));
        }
        else if (withQuota)
        {
            // RFC 4331: not part of allprop.
            var room = tree.Top.Room();
            Add(
                "quota-available-bytes",
                share.Options.QuotaBytes is { } quota
                    ? Math.Max(0, quota - share.UsedBytes)
                    : room.FreeBytes);
            Add(
                "quota-used-bytes",
                share.Options.QuotaBytes is null ? room.UsedBytes : share.UsedBytes);
            if (share.Medium is { } medium)
            {
                var name = XName.Get(MediumByHttp.Property, MediumByHttp.Namespace);
                live[name] = new(name, new XAttribute(MediumByHttp.AsOf, medium.AsOf), MediumByHttp.Word(tree.Top.ReadsFrom));
            }
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
        new XElement(
            D + "lockroot", new XElement(D + "href", prefix + "/" + string.Join('/', held.Key.Split('/').Select(Uri.EscapeDataString)))));

    private async Task<int> PropPatchAsync()
    {
        var asked = (await ReadXmlAsync())?.Root;
        if (asked is null || asked.Name != D + "propertyupdate") return 400;
        if (tree.Find(path) is not { } there) return 404;
        if (Locked(path, false, false) is not 0 and var locked) return locked;
        var live = Live(path, there, true);
        var changes = new List<(XName Name, XElement? Value)>();
        foreach (var part in asked.Elements().Where(e => e.Name == D + "set" || e.Name == D + "remove"))
            foreach (var property in part.Elements(D + "prop").Elements())
                changes.Add((property.Name, part.Name == D + "set" ? property : null));
        var refused = changes.Where(c => live.ContainsKey(c.Name)).Select(c => c.Name).ToHashSet();
        if (refused.Count == 0) share.Properties.Change(path.Key, changes);
        var response = new XElement(D + "response", new XElement(D + "href", path.Href(prefix, there.Kind == NodeKind.Folder)));
        foreach (var group in changes.DistinctBy(c => c.Name).GroupBy(c =>
            refused.Count == 0 ? "200 OK" : refused.Contains(c.Name) ? "403 Forbidden" : "424 Failed Dependency"))
            response.Add(PropStat(group.Select(c => new XElement(c.Name)), group.Key));
        _body = new(new XElement(D + "multistatus", new XAttribute(XNamespace.Xmlns + "D", "DAV:"), response));
        return 207;
    }
}
