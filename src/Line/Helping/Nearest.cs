namespace YardRelay.Line.Helping;

/// <summary>What somebody may have meant by a word that is none.</summary>
internal static class Nearest
{
    /// <summary>The known words that are nearest to one, at most three; none: nothing is near.</summary>
    public static IReadOnlyList<string> Of(string word, IEnumerable<string> known)
    {
        var near = known.Distinct()
            .Select(k => (Word: k, Far: k.StartsWith(word, StringComparison.OrdinalIgnoreCase) ? 0 : Distance(word, k)))
            .Where(k => k.Far <= Math.Max(1, Math.Min(word.Length, k.Word.Length) / 3))
            .OrderBy(k => k.Far)
            .ThenBy(k => k.Word, StringComparer.Ordinal)
            .ToList();
        return [.. near.TakeWhile(k => k.Far == near[0].Far).Take(3).Select(k => k.Word)];
    }

    /// <summary>How many letters are put in, taken out, changed or have changed places (optimal string alignment).</summary>
    private static int Distance(string a, string b)
    {
        var far = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++) far[i, 0] = i;
        for (var j = 0; j <= b.Length; j++) far[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
            for (var j = 1; j <= b.Length; j++)
            {
                var other = char.ToLowerInvariant(a[i - 1]) == char.ToLowerInvariant(b[j - 1]) ? 0 : 1;
                far[i, j] = Math.Min(Math.Min(far[i - 1, j] + 1, far[i, j - 1] + 1), far[i - 1, j - 1] + other);
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1]) far[i, j] = Math.Min(far[i, j], far[i - 2, j - 2] + 1);
            }
        return far[a.Length, b.Length];
    }
}
