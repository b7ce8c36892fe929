namespace YardRelay.Files.Working;

/// <summary>What tells this computer's runs apart.</summary>
public static class ThisComputer
{
    /// <summary>Its start, in words that no other start has; empty: it does not tell.</summary>
    public static string Boot()
    {
        try
        {
            return File.ReadAllText("/proc/sys/kernel/random/boot_id").Trim();
        }
        catch (Exception untold) when (untold is IOException or UnauthorizedAccessException)
        {
            return "";
        }
    }
}
