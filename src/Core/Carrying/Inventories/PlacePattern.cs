using System.IO.Enumeration;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>A path below a home with <c>*</c> and <c>?</c> inside its parts; <c>**/</c> before it: at any depth.</summary>
public sealed class PlacePattern
{
    private readonly NamePattern[] _parts;

    private PlacePattern(string text, bool anywhere, string[] parts) => (Text, IsAnywhere, _parts) = (text, anywhere, [.. parts.Select(p => new NamePattern(p))]);

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
            if (!_parts[i].Matches(path[skip + i], tellsCase)) return false;
        return true;
    }

    /// <summary>The same for a file in a folder, without joining the two.</summary>
    public bool MatchesFile(IReadOnlyList<string> folder, string name, bool tellsCase)
    {
        var skip = folder.Count + 1 - _parts.Length;
        if (skip < 0 || (skip > 0 && !IsAnywhere) || !_parts[^1].Matches(name, tellsCase)) return false;
        for (var i = _parts.Length - 2; i >= 0; i--)
            if (!_parts[i].Matches(folder[skip + i], tellsCase)) return false;
        return true;
    }

    /// <summary>Whether a name is one that is meant: <c>*</c> and <c>?</c> stand for anything and for one character.</summary>
    public static bool NameMatches(string pattern, string name, bool tellsCase) => new NamePattern(pattern).Matches(name, tellsCase);

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>A name with <c>*</c> and <c>?</c> in it, looked at once and then held against many.</summary>
internal readonly struct NamePattern
{
    private enum Form
    {
        Plain,
        Anything,
        Ending,
        Beginning,
        Other,
    }

    private readonly string _text;
    private readonly Form _form;

    public NamePattern(string text)
    {
        var star = text.AsSpan().IndexOfAny('*', '?');
        var only = star >= 0 && text[star] == '*' && text.AsSpan(star + 1).IndexOfAny('*', '?') < 0;
        _form = star < 0 ? Form.Plain : text == "*" ? Form.Anything : only && star == 0 ? Form.Ending : only && star == text.Length - 1 ? Form.Beginning : Form.Other;
        _text = _form switch { Form.Ending => text[1..], Form.Beginning => text[..^1], _ => text };
    }

    public bool Matches(string name, bool tellsCase)
    {
        var by = tellsCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        return _form switch
        {
            Form.Plain => name.Length == _text.Length && name.Equals(_text, by),
            Form.Anything => true,
            Form.Ending => name.AsSpan().EndsWith(_text, by),
            Form.Beginning => name.AsSpan().StartsWith(_text, by),
            _ => FileSystemName.MatchesSimpleExpression(_text, name, ignoreCase: !tellsCase),
        };
    }
}
