using System.IO.Enumeration;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>A path below a home with <c>*</c> and <c>?</c> inside its parts; <c>**/</c> before it: at any depth.</summary>
public sealed class PlacePattern
{
    private readonly NamePattern[] _parts;

    private PlacePattern(string text, bool anywhere, string[] parts) =>
        (Text, IsAnywhere, _parts) = (text, anywhere, [.. parts.Select(p => new NamePattern(p))]);

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
            ? new PlacesPatternProblem(text)
                : new PlacePattern(text, anywhere, parts);
    }

    /// <summary>Whether the path is the one that is meant.</summary>
    /// <param name="path">Parts below the home.</param>
    /// <param name="tellsCase">Whether <c>A</c> and <c>a</c> are two names on this platform.</param>
    public bool Matches(ReadOnlySpan<string> path, bool tellsCase)
    {
        var skip = path.Length - _parts.Length;
        if (skip < 0 || (skip > 0 && !IsAnywhere)) return false;
        for (var i = _parts.Length - 1; i >= 0; i--)
            if (!_parts[i].Matches(path[skip + i], tellsCase)) return false;
        return true;
    }

    /// <summary>What a file in a folder must be called to be meant; null: none that lies directly in this folder is.</summary>
    internal NamePattern? NameIn(IReadOnlyList<string> folder, bool tellsCase)
    {
        var skip = folder.Count + 1 - _parts.Length;
        if (skip < 0 || (skip > 0 && !IsAnywhere)) return null;
        for (var i = _parts.Length - 2; i >= 0; i--)
            if (!_parts[i].Matches(folder[skip + i], tellsCase)) return null;
        return _parts[^1];
    }

    /// <summary>Whether a file in a folder is one that is meant.</summary>
    public bool MatchesFile(IReadOnlyList<string> folder, string name, bool tellsCase) =>
        NameIn(folder, tellsCase)?.Matches(name, tellsCase) == true;

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
        Around,
        Other,
    }

    private readonly string _text;
    private readonly string _ending;
    private readonly Form _form;

    public NamePattern(string text)
    {
        var star = text.AsSpan().IndexOfAny('*', '?');
        var only = star >= 0 && text[star] == '*' && text.AsSpan(star + 1).IndexOfAny('*', '?') < 0;
        _form = star < 0
            ? Form.Plain
            : text == "*"
            ? Form.Anything
            : !only
            ? Form.Other
            : star == 0
            ? Form.Ending
            : star == text.Length - 1
            ? Form.Beginning
            : Form.Around;
        (_text, _ending) = _form is Form.Plain or Form.Other ? (text, "") : (text[..star], text[(star + 1)..]);
    }

    public bool Matches(string name, bool tellsCase)
    {
        var by = tellsCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        return _form switch
        {
            Form.Plain => name.Length == _text.Length && name.Equals(_text, by),
            Form.Anything => true,
            Form.Ending => name.EndsWith(_ending, by),
            Form.Beginning => name.StartsWith(_text, by),
            Form.Around => name.Length >= _text.Length + _ending.Length && name.StartsWith(_text, by) && name.EndsWith(_ending, by),
            _ => FileSystemName.MatchesSimpleExpression(_text, name, ignoreCase: !tellsCase),
        };
    }
}
