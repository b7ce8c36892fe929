using System.Runtime.InteropServices;

namespace YardRelay.Hand.Service;

/// <summary>Whether the computer runs on its battery.</summary>
/// <param name="folder">Where Linux tells about power: a folder for each supply, with <c>type</c>, <c>online</c> and <c>status</c> in
/// it.</param>
internal sealed partial class Power(string folder)
{
    /// <summary>Where Linux tells about power (Documentation/ABI/testing/sysfs-class-power of the kernel).</summary>
    public const string Usual = "/sys/class/power_supply";

    /// <summary>What cannot be told counts as mains: work that never goes on would be worse.</summary>
    public bool IsOnBattery =>
        OperatingSystem.IsWindows() ? Status.OfWindows() : Directory.Exists(folder) && OfLinux(Directory.EnumerateDirectories(folder));

    private static bool OfLinux(IEnumerable<string> supplies)
    {
        var isDischarging = false;
        foreach (var supply in supplies)
        {
            var type = Said(supply, "type");
            // Where any mains is on, it is on mains, whatever a battery of a mouse does.
            if (type is "Mains" or "USB" && Said(supply, "online") == "1") return false;
            isDischarging |= type == "Battery" && Said(supply, "scope") != "Device" && Said(supply, "status") == "Discharging";
        }
        return isDischarging;
    }

    private static string Said(string supply, string what)
    {
        try
        {
            return File.ReadAllText(Path.Combine(supply, what)).Trim();
        }
        catch (IOException)
        {
            return "";
        }
    }

    // SYSTEM_POWER_STATUS of the Windows API: the first byte is 0 on battery, 1 on mains, 255 where it is not known.
    [StructLayout(LayoutKind.Sequential)]
    private partial struct Status
    {
        private byte _line;
        private byte _battery;
        private byte _percent;
        private byte _saver;
        private int _seconds;
        private int _full;

        public static bool OfWindows() => GetSystemPowerStatus(out var status) && status._line == 0;

        [LibraryImport("kernel32")]
        [return: MarshalAs(UnmanagedType.Bool)]
        private static partial bool GetSystemPowerStatus(out Status status);
    }
}
