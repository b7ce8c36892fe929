namespace YardRelay.Core.Carrying;

/// <summary>Amounts as people read them; decimal units, as disks are sold.</summary>
public static class ByteText
{
    /// <summary><c>0 B</c>, <c>48 kB</c>, <c>6.1 GB</c>: at most one decimal.</summary>
    public static string Of(long bytes)
    {
        string[] units = ["B", "kB", "MB", "GB", "TB", "PB"];
        double value = bytes;
        var unit = 0;
        for (; Math.Abs(value) >= 999.5 && unit < units.Length - 1; unit++) value /= 1000;
        return unit == 0 || value >= 99.95 ? $"{value:0} {units[unit]}" : $"{value:0.#} {units[unit]}";
    }

    /// <summary><c>8 s</c>, <c>3 min</c>, <c>1 h 20 min</c>.</summary>
    public static string Of(TimeSpan time) =>
        time.TotalSeconds < 90
            ? $"{Math.Max(0, Math.Ceiling(time.TotalSeconds)):0} s"
            : time.TotalMinutes < 90
            ? $"{Math.Round(time.TotalMinutes):0} min"
            : $"{(int)time.TotalHours} h {time.Minutes:00} min";

    /// <summary><c>1 file</c>, <c>8,402 files</c>.</summary>
    public static string Files(long files) => files == 1 ? "1 file" : $"{files:#,0} files";
}
