using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>
/// Names of people's files as technicians and coordinators see them: where the refresh asks for consent and the person has not given it,
/// only the folder and what kind of file it is.
/// </summary>
internal sealed class SnagNames
{
    private readonly IReadOnlySet<string> _hidden;

    private SnagNames(IReadOnlySet<string> hidden) => _hidden = hidden;

    /// <param name="swaps">Swaps that are looked at.</param>
    public static async Task<SnagNames> ReadAsync(YardDb db, IReadOnlyCollection<string> swaps, CancellationToken cancel) =>
        new((await db.Swaps.AsNoTracking()
            .Where(s => swaps.Contains(s.Id)
                && db.Refreshes.Any(r => r.Key == s.Refresh && r.AsksForNames)
                && !db.People.Any(p => p.Refresh == s.Refresh && p.Key == s.Person && p.NamesAllowedAt != null))
            .Select(s => s.Id)
            .ToListAsync(cancel)).ToHashSet());

    /// <summary>Swaps whose names nobody but the person may see, as a question to the records.</summary>
    public static IQueryable<string> Hidden(YardDb db, string refresh) =>
        db.Swaps.Where(s =>
            s.Refresh == refresh
                && db.Refreshes.Any(r => r.Key == refresh && r.AsksForNames)
                && !db.People.Any(p => p.Refresh == refresh && p.Key == s.Person && p.NamesAllowedAt != null))
            .Select(s => s.Id);

    /// <summary>A path as it may be seen.</summary>
    public string Of(string swap, string path) => _hidden.Contains(swap) ? Masked(path) : path;

    /// <summary>The same snags with paths as they may be seen; for showing, never to be kept.</summary>
    public List<SnagRow> Of(List<SnagRow> rows)
    {
        foreach (var row in rows) row.Path = Of(row.Swap, row.Path);
        return rows;
    }

    /// <summary><c>Documents/Letters/To the bank.docx</c> is <c>Documents/….docx</c>.</summary>
    public static string Masked(string path)
    {
        var slash = path.IndexOf('/', StringComparison.Ordinal);
        var kind = Path.GetExtension(path.TrimEnd('/'));
        // What comes after the last dot is a kind of file only where it is short; else it may be part of a name.
        return $"{(slash > 0 ? path[..(slash + 1)] : "")}…"
            + $"{(kind.Length is > 1 and <= 6 && kind.Skip(1).All(char.IsAsciiLetterOrDigit) ? kind : "")}";
    }
}
