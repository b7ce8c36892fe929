using System.IO.Enumeration;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>A path below a home with <c>*</c> and <c>?</c> inside its parts; <c>**/</c> before it: at any depth.</summary>
public sealed class PlacePattern
{
    private readonly string[] _parts;

    private PlacePattern(string text, bool anywhere, string[] parts) => (Text, IsAnywhere, _parts) = (text, anywhere, parts);

    /// <summary>As it was written.</summary>
    public string Text { get; }

    /// <summary>Whether it is for any depth.</summary>
    public bool IsAnywhere { get; }

    /// <summary>Reads a pattern.</summary>
    public static Result<PlacePattern> Parse(string text)
    {
        var anywhere = text.StartsWith("**/", StringComparison.Ordinal);
        var parts = (anywhere ? text[3..] : text).Split('/');
        return parts.Any(p => p is "" or "." or ".." or "**") || parts.Length > 12
            ? new Problem("places.pattern", $"'{text}' is no pattern for a place. Write a path below the home such as Library/Mail, with * inside its parts, or **/NAME for any depth.") : new PlacePattern(text, anywhere, parts);
    }

    /// <summary>Whether the path is the one that is meant.</summary>
    /// <param name="path">Parts below the home.</param>
    /// <param name="tellsCase">Whether <c>A</c> and <c>a</c> are two names on this platform.</param>
    public bool Matches(IReadOnlyList<string> path, bool tellsCase)
    {
        var skip = path.Count - _parts.Length;
        if (skip < 0 || (skip > 0 && !IsAnywhere)) return false;
        for (var i = _parts.Length - 1; i >= 0; i--)
            if (!NameMatches(_parts[i], path[skip + i], tellsCase)) return false;
        return true;
    }

    /// <summary>The same for a file in a folder, without joining the two.</summary>
    public bool MatchesFile(IReadOnlyList<string> folder, string name, bool tellsCase)
    {
        if (!NameMatches(_parts[^1], name, tellsCase)) return false;
        var skip = folder.Count + 1 - _parts.Length;
        if (skip < 0 || (skip > 0 && !IsAnywhere)) return false;
        for (var i = _parts.Length - 2; i >= 0; i--)
            if (!NameMatches(_parts[i], folder[skip + i], tellsCase)) return false;
        return true;
    }

    /// <summary>Whether a name is one that is meant: <c>*</c> and <c>?</c> stand for anything and for one character.</summary>
    public static bool NameMatches(string pattern, string name, bool tellsCase)
    {
        var by = tellsCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        var star = pattern.AsSpan().IndexOfAny('*', '?');
        if (star < 0) return name.Equals(pattern, by);
        // What patterns nearly always are, without the cost of all that they could be.
        if (pattern.Length == 1 && pattern[0] == '*') return true;
        if (pattern[star] == '*' && pattern.AsSpan(star + 1).IndexOfAny('*', '?') < 0)
        {
            if (star == 0) return name.AsSpan().EndsWith(pattern.AsSpan(1), by);
            if (star == pattern.Length - 1) return name.AsSpan().StartsWith(pattern.AsSpan(0, star), by);
        }
        return FileSystemName.MatchesSimpleExpression(pattern, name, ignoreCase: !tellsCase);
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}
