using System.Diagnostics;

namespace YardRelay.Carriage.Parcels;

/// <summary>
/// What tells a program from any other: which start of the computer, which space of process numbers (containers have one each, on one
/// computer and with one name, if they like), which number, and when it began.
/// </summary>
internal static class Processes
{
    /// <summary>The start of this computer; empty: it does not tell.</summary>
    public static string Boot() => Files.Working.ThisComputer.Boot();

    /// <summary>The space in which this program's number counts; null: the system has only one.</summary>
    public static string? Space() =>
        OperatingSystem.IsLinux() ? File.ResolveLinkTarget("/proc/self/ns/pid", returnFinalTarget: false)?.Name : null;

    /// <summary>When a program began, in seconds; null: it runs no more, be it that its parent has not noticed yet.</summary>
    public static long? Began(int process)
    {
        try
        {
            using var found = Process.GetProcessById(process);
            return IsDead(process) ? null : found.StartTime.ToUniversalTime().Ticks / TimeSpan.TicksPerSecond;
        }
        catch (Exception gone) when (gone is ArgumentException or InvalidOperationException or System.ComponentModel.Win32Exception)
        {
            return null;
        }
    }

    // proc(5): the state comes behind the name, which stands in brackets and may hold any.
    private static bool IsDead(int process)
    {
        var stat = Text($"/proc/{process}/stat");
        return stat.LastIndexOf(')') is >= 0 and var end && end + 2 < stat.Length && stat[end + 2] is 'Z' or 'X' or 'x';
    }

    private static string Text(string path)
    {
        try
        {
            return File.ReadAllText(path).Trim();
        }
        catch (Exception none) when (none is IOException or UnauthorizedAccessException)
        {
            return "";
        }
    }
}
