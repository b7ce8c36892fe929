using System.Text;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Carriage.Computers;

/// <summary>Reads from a disk what <see cref="Homes"/> and <see cref="UserFolders"/> ask for.</summary>
internal static class HomeFolders
{
    private const int MostHomes = 200;

    /// <summary>
    /// Where the homes below a source lie, with '/' between parts; none where it is a home itself, or has far too many folders to be one
    /// of homes. Looks only for what tells a home, and lists no folder but those above them.
    /// </summary>
    public static IReadOnlyList<string> PathsOf(TreeRoot from)
    {
        using var top = from.TryOpen(out _);
        if (top is null) return [];
        var homes = Homes.Find(path => path.Length == 0 || Homes.Above.Contains(path) ? Listed(top, path) : Signs(top, path));
        return [.. homes.Where(h => h.Path.Length > 0).Select(h => h.Path)];
    }

    private static IReadOnlyCollection<string> Listed(OpenFolder top, string path)
    {
        try
        {
            using var folder = top.TryOpenFolder(Encoding.UTF8.GetBytes(path), FolderUse.ListQuietly, out _);
            var names = folder?.Names() ?? [];
            return names.Count > MostHomes ? [] : [.. names.Select(Encoding.UTF8.GetString)];
        }
        catch (FileTroubleException)
        {
            // What cannot be listed shows in the walk.
            return [];
        }
    }

    private static IReadOnlyCollection<string> Signs(OpenFolder top, string path)
    {
        using var folder = top.TryOpenFolder(Encoding.UTF8.GetBytes(path), FolderUse.Pass, out _);
        return folder is null ? [] : [.. Homes.Signs.Where(s => folder.TryFacts(Encoding.UTF8.GetBytes(s), out _) is not null)];
    }

    /// <summary>Names of the folders in a folder; none where it cannot be read.</summary>
    public static IReadOnlyCollection<string> Names(string path)
    {
        try
        {
            // Only to tell whose homes these are; what cannot be listed shows in the walk.
            return new DirectoryInfo(path).EnumerateFileSystemInfos()
                .Where(f => f is DirectoryInfo { LinkTarget: null } || f.Name == ".bashrc")
                .Select(f => f.Name).ToHashSet();
        }
        catch (Exception shut) when (shut is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }

    /// <summary>The folders people use in a home, by their path in it.</summary>
    public static IReadOnlyDictionary<string, string> Of(Home home, string from) => home.Platform switch
    {
        HomePlatform.Windows => UserFolders.OfWindows(null),
        HomePlatform.Mac => UserFolders.OfMac(),
        _ => UserFolders.OfLinux(ComputerRecords.UserDirs(Path.Combine(from, home.Path))),
    };
}
