namespace YardRelay.Core.Carrying.Catalogues;

/// <summary>What an organisation offers for a program that is found on an old computer.</summary>
/// <param name="Program">Its name, with <c>*</c> for anything; case does not count.</param>
/// <param name="Offer">What is installed on the new computer.</param>
/// <param name="Where">Where to get it; null: everybody knows.</param>
/// <param name="IsLicenceBound">Its licence must be given back on the old computer first.</param>
public sealed record CatalogueLine(string Program, string Offer, string? Where, bool IsLicenceBound);

/// <summary>The organisation's catalogue of programs.</summary>
public sealed class ProgramCatalogue(IReadOnlyList<CatalogueLine> lines)
{
    /// <summary>The line for a program: the one that says most of its name; null: there is none.</summary>
    public CatalogueLine? For(string program) =>
        lines.Where(l => Fits(l.Program, program))
            .OrderByDescending(l => l.Program.Count(c => c != '*'))
            .ThenBy(l => l.Program.Count(c => c == '*')).FirstOrDefault();

    private static bool Fits(string pattern, string name)
    {
        // Each part between stars must come in turn; where no star stands at an end, the end must fit.
        var parts = pattern.Trim().Split('*');
        if (!name.StartsWith(parts[0], StringComparison.OrdinalIgnoreCase)) return false;
        if (parts.Length == 1) return name.Length == parts[0].Length;
        var at = parts[0].Length;
        for (var i = 1; i < parts.Length - 1; i++)
        {
            var found = name.IndexOf(parts[i], at, StringComparison.OrdinalIgnoreCase);
            if (found < 0) return false;
            at = found + parts[i].Length;
        }
        return name.Length - at >= parts[^1].Length && name.EndsWith(parts[^1], StringComparison.OrdinalIgnoreCase);
    }
}
