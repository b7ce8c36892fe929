namespace YardRelay.Core.Carrying;

/// <summary>Files and their logical bytes, counted per name.</summary>
public readonly record struct Amount(long Files, long Bytes)
{
    /// <summary>Nothing.</summary>
    public static readonly Amount None;

    /// <summary>One file.</summary>
    public static Amount File(long bytes) => new(1, bytes);

    /// <summary>Both together.</summary>
    public static Amount operator +(Amount a, Amount b) => new(a.Files + b.Files, a.Bytes + b.Bytes);

    /// <summary>The smaller of each.</summary>
    public static Amount Least(Amount a, Amount b) => new(Math.Min(a.Files, b.Files), Math.Min(a.Bytes, b.Bytes));

    /// <summary>The first without the second.</summary>
    public static Amount operator -(Amount a, Amount b) => new(a.Files - b.Files, a.Bytes - b.Bytes);
}
