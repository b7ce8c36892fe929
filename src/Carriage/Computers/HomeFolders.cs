using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Carriage.Computers;

/// <summary>Reads from a disk what <see cref="Homes"/> and <see cref="UserFolders"/> ask for.</summary>
internal static class HomeFolders
{
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
