namespace YardRelay.Core.Carrying.Inventories;

/// <summary>What a place in a home is to its person.</summary>
public enum PlaceKind
{
    /// <summary>A folder that people work in: Desktop, Documents and the like.</summary>
    Folder,

    /// <summary>A browser's profile: bookmarks, logins, history.</summary>
    Browser,

    /// <summary>Mail kept on the computer.</summary>
    Mail,

    /// <summary>Settings that a person would miss: looks, dictionaries, signatures, of programs.</summary>
    Settings,

    /// <summary>A library of photos, music or mail that belongs together: carried whole or not at all.</summary>
    Library,

    /// <summary>
    /// A cloud's folder. That its files are in the cloud is not proven by that: they come along unless a rule or a person says so.
    /// </summary>
    Cloud,

    /// <summary>Nothing that anybody would miss: caches, temporary files, shortcuts.</summary>
    Clutter,

    /// <summary>Outside the folders people are expected to use, and worth asking about.</summary>
    Unusual,
}

/// <summary>How a place is known. Rules are kept as YAML that can be shown, edited and extended; docs/formats.md has the form.</summary>
/// <param name="Key">Names the rule; a later rule with the same key takes its place.</param>
/// <param name="Name">What people call the place.</param>
/// <param name="Paths">Patterns below the home, for each platform the rule is for.</param>
/// <param name="Marks">Names of which one must lie directly in the folder; empty: the path alone tells. May hold <c>*</c>.</param>
/// <param name="Files">Whether the patterns are for files; else they are for folders.</param>
/// <param name="Needs">What it needs on the new computer to be of use; null: nothing.</param>
/// <param name="Whose">Of a cloud: person, organisation or team.</param>
/// <param name="Of">Of a library: what kind it is (photo, music, mail), to point two of a kind out.</param>
/// <param name="KeptThere">Of a cloud: who saw that all of it is in the cloud, or what proves it, so that it stays out; null: nothing
/// does.</param>
public sealed record PlaceRule(
    string Key, PlaceKind Kind, string Name, IReadOnlyDictionary<HomePlatform, IReadOnlyList<PlacePattern>> Paths,
    IReadOnlyList<string> Marks, bool Files, string? Needs, string? Whose, string? Of, string? KeptThere = null)
{
    internal NamePattern[] MarkNames { get; } = [.. Marks.Select(m => new NamePattern(m))];
}
