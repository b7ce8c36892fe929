using System.Text;
using System.Text.Json;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Carriage.Computers;

/// <summary>
/// What a computer that is not running here tells of itself: a file <c>FOLDER.computer.json</c> beside the folder that is looked at.
/// </summary>
public sealed record ComputerDescription(IReadOnlyList<ProgramFound> Programs, IReadOnlyList<RunningFound> Running)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { RespectNullableAnnotations = true };

    /// <summary>Where the description of a folder lies.</summary>
    public static string FileOf(string folder) => Path.GetFullPath(folder).TrimEnd('/') + ".computer.json";

    /// <summary>Reads it; null where there is none, or it cannot be read.</summary>
    public static ComputerDescription? Of(string folder)
    {
        try
        {
            return File.Exists(FileOf(folder))
                ? JsonSerializer.Deserialize<ComputerDescription>(File.ReadAllText(FileOf(folder)), Json)
                : null;
        }
        catch (Exception broken) when (broken is JsonException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}

/// <summary>
/// The records that platforms keep themselves: installed programs, and what is running and has files open. What cannot be read is passed
/// over.
/// </summary>
internal static class ComputerRecords
{
    private const int LargestRecord = 64 << 20;
    private const int MostApplications = 2000;
    private const int MostProcesses = 20_000;

    /// <summary>Programs by the records on the disk that is looked at; where it is a home of this computer, by this computer's.</summary>
    public static IReadOnlyList<ProgramFound> Programs(string root)
    {
        var disk = File.Exists(Path.Combine(root, "var/lib/dpkg/status")) || Directory.Exists(Path.Combine(root, "Applications"))
            ? root
            : IsHomeHere(root)
            ? "/"
            : null;
        if (disk is null) return [];
        if (Text(Path.Combine(disk, "var/lib/dpkg/status")) is { } status) return InstalledPrograms.OfDpkg(status);
        var applications = Path.Combine(disk, "Applications");
        return !Directory.Exists(applications)
            ? []
            : [.. Directory.EnumerateDirectories(applications, "*.app")
                .Take(MostApplications)
                .Select(a => Text(Path.Combine(a, "Contents/Info.plist"))).OfType<string>()
                .Select(InstalledPrograms.OfInfoPlist).OfType<ProgramFound>()];
    }

    private static bool IsHomeHere(string root) =>
        Path.GetFullPath(root).TrimEnd('/') + "/" is var at
            && (Environment.GetFolderPath(Environment.SpecialFolder.UserProfile).TrimEnd('/') + "/" == at
                || File.Exists("/etc/passwd")
                    && File.ReadLines("/etc/passwd").Any(l =>
                        l.Split(':') is { Length: > 5 } account && account[5].TrimEnd('/') + "/" == at));

    /// <summary>
    /// Programs that have files below the folder open, by <c>/proc</c> (proc(5)); of other people's programs only with the right to look.
    /// </summary>
    public static IReadOnlyList<RunningFound> Running(string root)
    {
        if (!Directory.Exists("/proc")) return [];
        var below = Path.GetFullPath(root).TrimEnd('/') + "/";
        var open = new SortedDictionary<string, int>(StringComparer.Ordinal);
        foreach (var process in Directory.EnumerateDirectories("/proc").Where(p => char.IsAsciiDigit(p[6])).Take(MostProcesses))
        {
            if (process == $"/proc/{Environment.ProcessId}") continue;
            try
            {
                var files = Directory.EnumerateFileSystemEntries(process + "/fd")
                    .Count(fd => new FileInfo(fd).LinkTarget?.StartsWith(below, StringComparison.Ordinal) == true);
                if (files > 0)
                    open[File.ReadAllText(process + "/comm").Trim()] = open.GetValueOrDefault(File.ReadAllText(process + "/comm").Trim())
                        + files;
            }
            catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
            {
                // It ended meanwhile, or is somebody else's.
            }
        }
        return [.. open.Select(o => new RunningFound(o.Key, o.Value))];
    }

    /// <summary>Content of <c>user-dirs.dirs</c> of a home; null: there is none.</summary>
    public static string? UserDirs(string home) => Text(Path.Combine(home, ".config/user-dirs.dirs"));

    private static string? Text(string path)
    {
        try
        {
            return new FileInfo(path) is { Exists: true, LinkTarget: null, Length: <= LargestRecord }
                ? File.ReadAllText(path, Encoding.UTF8)
                : null;
        }
        catch (Exception shut) when (shut is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
