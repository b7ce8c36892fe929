using System.Text.RegularExpressions;

namespace YardRelay.Core.Carrying.Inventories;

/// <summary>
/// The folders people use, and what their platform calls them in this home. Pure: texts go in, paths below the home come out.
/// </summary>
public static partial class UserFolders
{
    private static readonly (string Name, string Xdg, string Windows, string[] Usual)[] Known =
    [
        ("Desktop", "XDG_DESKTOP_DIR", "Desktop", ["Desktop"]),
        ("Documents", "XDG_DOCUMENTS_DIR", "Personal", ["Documents", "My Documents"]),
        ("Downloads", "XDG_DOWNLOAD_DIR", "{374DE290-123F-4565-9164-39C4925E467B}", ["Downloads"]),
        ("Pictures", "XDG_PICTURES_DIR", "My Pictures", ["Pictures", "My Pictures"]),
        ("Music", "XDG_MUSIC_DIR", "My Music", ["Music", "My Music"]),
        ("Videos", "XDG_VIDEOS_DIR", "My Video", ["Videos", "My Videos"]),
        ("Templates", "XDG_TEMPLATES_DIR", "Templates", ["Templates"]),
        ("Public", "XDG_PUBLICSHARE_DIR", "Public", ["Public"]),
    ];

    [GeneratedRegex("""^\s*(XDG_[A-Z]+_DIR)="\$HOME/?(.*)"\s*$""", RegexOptions.Multiline)]
    private static partial Regex XdgLine();

    /// <summary>
    /// Linux: <c>user-dirs.dirs</c> (xdg-user-dirs), whose values are <c>"$HOME/Name"</c>; a value of <c>"$HOME/"</c> switches a folder
    /// off. Elsewhere than below the home does not count.
    /// </summary>
    /// <param name="userDirs">Content of <c>.config/user-dirs.dirs</c>; null: there is none, and the usual names hold.</param>
    /// <returns>Path below the home, with '/' between parts, to the folder's name.</returns>
    public static IReadOnlyDictionary<string, string> OfLinux(string? userDirs)
    {
        if (userDirs is null) return Usual(StringComparer.Ordinal);
        var named = XdgLine().Matches(userDirs).ToDictionary(m => m.Groups[1].Value, m =>
            m.Groups[2].Value.Replace("\\", "", StringComparison.Ordinal).Trim('/'));
        return Map(StringComparer.Ordinal, k => named.TryGetValue(k.Xdg, out var path) ? path.Length == 0 ? [] : [path] : k.Usual[..1]);
    }

    /// <summary>
    /// Windows: known folders, from the values of <c>HKCU\…\Explorer\User Shell Folders</c>. A folder that was moved into a cloud's
    /// folder or onto another drive is not below the home any more, or lies there where the value says.
    /// </summary>
    /// <param name="shellFolders">Names and values; null: not at hand, and the usual names hold.</param>
    public static IReadOnlyDictionary<string, string> OfWindows(IReadOnlyDictionary<string, string>? shellFolders) =>
        shellFolders is null
            ? Usual(StringComparer.OrdinalIgnoreCase)
            : Map(StringComparer.OrdinalIgnoreCase, k =>
                shellFolders.TryGetValue(k.Windows, out var value) ? BelowProfile(value) : k.Usual[..1]);

    /// <summary>macOS: a fixed layout; the Finder translates the names, the disk does not.</summary>
    public static IReadOnlyDictionary<string, string> OfMac() =>
        Map(StringComparer.OrdinalIgnoreCase, k => k.Name == "Videos" ? ["Movies"] : k.Name == "Templates" ? [] : k.Usual[..1]);

    private static string[] BelowProfile(string value)
    {
        var path = value.Replace('\\', '/').TrimEnd('/');
        const string Profile = "%USERPROFILE%/";
        return path.StartsWith(Profile, StringComparison.OrdinalIgnoreCase) ? [path[Profile.Length..]] : [];
    }

    private static IReadOnlyDictionary<string, string> Usual(StringComparer by) => Map(by, k => k.Usual);

    private static Dictionary<string, string> Map(
        StringComparer by, Func<(string Name, string Xdg, string Windows, string[] Usual), string[]> paths)
    {
        var map = new Dictionary<string, string>(by);
        foreach (var known in Known)
            foreach (var path in paths(known)) map.TryAdd(path, known.Name);
        return map;
    }
}
