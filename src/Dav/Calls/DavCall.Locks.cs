using System.Xml.Linq;

namespace YardRelay.Dav.Calls;

/// <summary>Locks (RFC 4918, sections 9.10 and 9.11).</summary>
internal sealed partial class DavCall
{
    private async Task<int> LockAsync()
    {
        var asked = (await ReadXmlAsync())?.Root;
        var timeout = Timeout();
        DavLock? held;
        var made = false;
        if (asked is null)
        {
            held = share.Locks.Refresh(path.Key, _if.Tokens, timeout);
            if (held is null) return 412;
        }
        else
        {
            var depth = Request.Headers["Depth"].ToString();
            if (asked.Name != D + "lockinfo" || depth is not ("" or "0" or "infinity")) return 400;
            var shared = asked.Descendants(D + "shared").Any();
            lock (share.Change)
            {
                var there = tree.Find(path);
                if (there is null && !IsFolder(path.Parent)) return 409;
                if (there is null && Locked(path, false, true) is not 0 and var locked) return locked;
                held = share.Locks.Take(
                    path.Key, shared, depth != "0", asked.Element(D + "owner")?.ToString(SaveOptions.DisableFormatting), timeout);
                if (held is null) return 423;
                if (there is null)
                {
                    tree.MakeFile(path).Dispose();
                    made = true;
                }
            }
            Response.Headers["Lock-Token"] = $"<{held.Token}>";
        }
        _body = new(new XElement(
            D + "prop", new XAttribute(XNamespace.Xmlns + "D", "DAV:"), new XElement(D + "lockdiscovery", Active(held))));
        return made ? 201 : 200;
    }

    private TimeSpan Timeout()
    {
        var asked = Request.Headers["Timeout"].ToString().Split(',')[0].Trim();
        var seconds = asked.StartsWith("Second-", StringComparison.OrdinalIgnoreCase) && long.TryParse(asked[7..], out var s)
            ? Math.Clamp(s, 1, 3600)
            : 600;
        return TimeSpan.FromSeconds(seconds);
    }

    private int Unlock()
    {
        var token = Request.Headers["Lock-Token"].ToString().Trim();
        if (token.Length < 3 || token[0] != '<' || token[^1] != '>') return 400;
        return share.Locks.Release(path.Key, token[1..^1]) ? 204 : 409;
    }
}
