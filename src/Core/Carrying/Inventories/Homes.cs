namespace YardRelay.Core.Carrying.Inventories;

/// <summary>A person's home on a computer.</summary>
/// <param name="Account">Name of the account; empty where the folder that is looked at is the home itself.</param>
/// <param name="Path">Below what is looked at, with '/' between parts; empty: all of it.</param>
public sealed record Home(string Account, string Path, HomePlatform Platform);

/// <summary>Which homes stand below a folder: it may be a home, the folder of all homes, or a whole disk.</summary>
public static class Homes
{
    /// <summary>Names of which one in a folder makes it a home, and which tell its platform.</summary>
    public static IReadOnlyList<string> Signs { get; } = [
        "Desktop", "Documents", "Downloads", "AppData", ".config", "Library", ".mozilla", ".bashrc"
    ];

    /// <summary>Folders of a disk in which homes lie.</summary>
    public static IReadOnlyList<string> Above { get; } = ["Users", "home"];

    private static readonly HashSet<string> Nobody = new(StringComparer.OrdinalIgnoreCase)
    {
        "Public",
        "Default",
        "Default User",
        "All Users",
        "Shared",
        "Guest",
        "lost+found",
        "defaultuser0"
    };

    /// <summary>Finds the homes.</summary>
    /// <param name="folders">Names of the folders directly below a path; for the empty path, of what is looked at.</param>
    public static IReadOnlyList<Home> Find(Func<string, IReadOnlyCollection<string>> folders)
    {
        var top = folders("");
        if (IsHome(top)) return [new("", "", PlatformOf(top))];
        foreach (var all in Above)
            if (top.Contains(all) && Below(all, folders) is { Count: > 0 } found) return found;
        return Below("", folders) is { Count: > 0 } homes ? homes : [new("", "", PlatformOf(top))];
    }

    private static List<Home> Below(string path, Func<string, IReadOnlyCollection<string>> folders) =>
        [.. folders(path).Where(n => !Nobody.Contains(n)).Order(StringComparer.Ordinal)
            .Select(n => (Name: n, Path: path.Length == 0 ? n : $"{path}/{n}")).Select(n => (n.Name, n.Path, In: folders(n.Path)))
            .Where(n => IsHome(n.In)).Select(n => new Home(n.Name, n.Path, PlatformOf(n.In)))];

    private static bool IsHome(IReadOnlyCollection<string> names) => Signs.Any(names.Contains);

    private static HomePlatform PlatformOf(IReadOnlyCollection<string> names) =>
        names.Contains("AppData")
            ? HomePlatform.Windows
            : names.Contains("Library") && !names.Contains(".config")
            ? HomePlatform.Mac
            : HomePlatform.Linux;
}
