namespace YardRelay.Carriage.Depots;

/// <summary>The names by which every kind of depot is tried out, and what it turns out to be by those that come back.</summary>
internal static class ProbeNames
{
    /// <summary>A name that any depot can hold; one that does not, cannot be written to.</summary>
    public const string Plain = "case";

    private const string Odd = "a\"*:<>?\\|%41 é.", Large = "CASE";

    // The same letter as one character, and as a letter and its mark.
    private const string Both = "both-\u00E9-e\u0301", Whole = "form-\u00E9", Apart = "form-e\u0301";

    /// <summary>All of them: the plain one first, and last what a share may take ill.</summary>
    public static IReadOnlyList<string> All { get; } = [Plain, Large, Both, Whole, Apart, Odd];

    /// <summary>What a depot is that lists these names after all were saved.</summary>
    public static DepotFeatures Of(IReadOnlyCollection<string> listed) => new(
        listed.Contains(Odd), listed.Contains(Plain) && listed.Contains(Large), listed.Contains(Whole) && listed.Contains(Apart),
        listed.Contains(Both));
}
