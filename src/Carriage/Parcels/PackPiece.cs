namespace YardRelay.Carriage.Parcels;

/// <summary>Where a stretch of a file lies: in which pack, from which byte of its archive on.</summary>
internal readonly record struct PackPiece(int Pack, long At, long Bytes)
{
    /// <summary>Most of a file that one pack takes, and about what a pack has.</summary>
    public const long Most = 64L << 20;

    private const string Prefix = "pack-", Ending = ".tar.age";

    public string Name => NameOf(Pack);

    public static string NameOf(int pack) => $"{Prefix}{pack:000000}{Ending}";

    /// <summary>The number of a pack by its name; null: it is none.</summary>
    public static int? TryNumber(string name) =>
        name.StartsWith(Prefix, StringComparison.Ordinal)
            && name.EndsWith(Ending, StringComparison.Ordinal)
            && int.TryParse(name[Prefix.Length..^Ending.Length], out var number)
            && number > 0
            && NameOf(number) == name
            ? number
            : null;
}
