namespace YardRelay.Dav;

/// <summary>The If header of RFC 4918, section 10.4.</summary>
internal sealed class IfHeader
{
    private sealed record Condition(bool Not, string? Token, string? ETag);

    private readonly List<(string? Resource, List<Condition> All)> _lists = [];

    /// <summary>Every state token that the client submitted.</summary>
    public IEnumerable<string> Tokens => _lists.SelectMany(l => l.All).Where(c => c.Token is not null).Select(c => c.Token!);

    /// <summary>Reads the header; null when it is malformed. Without a header there is nothing to hold.</summary>
    public static IfHeader? TryParse(string? header)
    {
        var made = new IfHeader();
        if (string.IsNullOrWhiteSpace(header)) return made;
        string? resource = null;
        for (var at = 0; at < header.Length;)
        {
            if (char.IsWhiteSpace(header[at])) at++;
            else if (header[at] == '<')
            {
                var end = header.IndexOf('>', at);
                if (end < 0) return null;
                resource = header[(at + 1)..end];
                at = end + 1;
            }
            else if (header[at] == '(')
            {
                var list = new List<Condition>();
                var not = false;
                for (at++; ;)
                {
                    if (at >= header.Length) return null;
                    if (char.IsWhiteSpace(header[at])) at++;
                    else if (header[at] == ')')
                    {
                        at++;
                        break;
                    }
                    else if (string.Compare(header, at, "Not", 0, 3, StringComparison.OrdinalIgnoreCase) == 0)
                    {
                        not = true;
                        at += 3;
                    }
                    else if (header[at] is '<' or '[')
                    {
                        var end = header.IndexOf(header[at] == '<' ? '>' : ']', at);
                        if (end < 0) return null;
                        var text = header[(at + 1)..end];
                        list.Add(header[at] == '<' ? new(not, text, null) : new(not, null, text));
                        not = false;
                        at = end + 1;
                    }
                    else return null;
                }
                if (list.Count == 0) return null;
                made._lists.Add((resource, list));
            }
            else return null;
        }
        return made;
    }

    /// <summary>Whether one of the lists holds.</summary>
    /// <param name="locked">Whether a resource (null: the request's own) is locked with a token.</param>
    /// <param name="etag">The entity tag of a resource; null: it has none.</param>
    public bool Holds(Func<string?, string, bool> locked, Func<string?, string?> etag) =>
        _lists.Count == 0
            || _lists.Any(list =>
                list.All.All(c => c.Not != (c.Token is not null ? locked(list.Resource, c.Token) : etag(list.Resource) == c.ETag)));
}
