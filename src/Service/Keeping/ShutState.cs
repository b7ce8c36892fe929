using System.Runtime.InteropServices;
using Microsoft.Data.Sqlite;
using YardRelay.Records;

namespace YardRelay.Service.Keeping;

/// <summary>What the service keeps is its own account's alone, from the first moment on and whatever the umask is.</summary>
internal static partial class ShutState
{
    private const UnixFileMode Folders = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    private const UnixFileMode Files = UnixFileMode.UserRead | UnixFileMode.UserWrite;
    private const UnixFileMode Others = (UnixFileMode)0b111_111;

    /// <summary>
    /// Whatever this process makes from now on is made for its owner only; its folders and its database are shut if they stood open.
    /// </summary>
    /// <exception cref="BadSettingException">The state folder is somebody else's, or is one that others use.</exception>
    public static void Begin(ServiceOptions options)
    {
        _ = umask((uint)Others);
        if (RecordsOptions.IsPostgres(options.Database)) return;
        ShutFolder(options.State);
        var database = new SqliteConnectionStringBuilder(options.Database).DataSource;
        foreach (var file in new[] { database, database + "-wal", database + "-shm" }.Where(File.Exists)) Shut(file, Files);
    }

    /// <summary>Makes the built-in depot's folder for its owner only, or shuts it.</summary>
    /// <returns>What keeps it open, in words; null: nothing.</returns>
    public static string? ShutDepot(string folder)
    {
        try
        {
            Directory.CreateDirectory(folder, Folders);
            if ((File.GetUnixFileMode(folder) & Others) != 0) File.SetUnixFileMode(folder, Folders);
            return (File.GetUnixFileMode(folder) & Others) == 0 ? null : "its file system keeps no modes";
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            return refused.Message;
        }
    }

    /// <summary>A folder that others can look into is shut where it is the service's own, and no other's.</summary>
    private static void ShutFolder(string folder)
    {
        Directory.CreateDirectory(folder, Folders);
        if ((File.GetUnixFileMode(folder) & Others) == 0) return;
        var isOwn = !Directory.EnumerateFileSystemEntries(folder).Any() || File.Exists(Path.Combine(folder, "yardrelay.db"));
        if (!isOwn)
            throw new BadSettingException(
                $"'{folder}' holds other things, and others can look into it. 'state' takes a folder that is the service's own.");
        Shut(folder, Folders);
    }

    private static void Shut(string path, UnixFileMode mode)
    {
        try
        {
            if ((File.GetUnixFileMode(path) & Others) != 0) File.SetUnixFileMode(path, mode);
        }
        catch (UnauthorizedAccessException)
        {
            throw new BadSettingException(
                $"'{path}' is open to others and belongs to another account, so that it cannot be shut. Run the service as its owner.");
        }
    }

    [LibraryImport("libc")]
    private static partial uint umask(uint mask);
}
