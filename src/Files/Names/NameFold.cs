using System.Text;

namespace YardRelay.Files.Names;

/// <summary>
/// Which names a disk may take for one. Disks differ (simple or full folding, with or without what cannot be seen, by one version of
/// Unicode or another), so two names are one here as soon as they are to any of them: whoever keeps two apart without need loses
/// nothing, and whoever takes two for different ones loses a file.
/// </summary>
public static class NameFold
{
    private const int SmallI = 'i', DotAbove = 0x307;

    /// <summary>The same text for all names that some disk takes for one by case or by form.</summary>
    public static string Of(string name) =>
        Ascii.IsValid(name) ? name.ToLowerInvariant() : TextOf(Apart(Folded(Apart(name.EnumerateRunes().Select(r => r.Value)))));

    /// <summary>The same text for all names that are one by form: canonical decomposition, Unicode's NFD.</summary>
    public static string Form(string name) => Ascii.IsValid(name) ? name : TextOf(Apart(name.EnumerateRunes().Select(r => r.Value)));

    /// <summary>Whether a character comes back as it is from a disk with a form of its own, whatever stands before it.</summary>
    public static bool IsStable(Rune one) => one.IsAscii || !UnicodeTables.Here.MayChange(one.Value);

    // A capital I with a dot is an i to a disk that looks at each character, and an i with a dot to one that looks at what it is made of.
    private static IEnumerable<int> Folded(List<int> apart)
    {
        var stands = 0;
        foreach (var one in apart.Where(o => !UnicodeTables.Here.IsIgnored(o)))
        {
            if (one == DotAbove && stands == SmallI) continue;
            foreach (var small in UnicodeTables.Here.FoldOf(one) ?? [one])
            {
                if (UnicodeTables.Here.ClassOf(small) == 0) stands = small;
                yield return small;
            }
        }
    }

    private static List<int> Apart(IEnumerable<int> name)
    {
        List<int> all = [.. name.SelectMany(o => UnicodeTables.Here.PartsOf(o) ?? [o])];
        // Marks on one letter come in the order of their classes; those of one class stay as they are.
        for (var from = 0; from < all.Count; from++)
        {
            var to = from;
            while (to < all.Count && UnicodeTables.Here.ClassOf(all[to]) != 0) to++;
            if (to - from > 1)
            {
                var marks = all.GetRange(from, to - from).OrderBy(UnicodeTables.Here.ClassOf).ToArray();
                for (var at = 0; at < marks.Length; at++) all[from + at] = marks[at];
            }
            from = to;
        }
        return all;
    }

    private static string TextOf(List<int> all)
    {
        var text = new StringBuilder(all.Count);
        foreach (var one in all) text.Append(new Rune(one).ToString());
        return text.ToString();
    }
}
