using YardRelay.Carriage.Names;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;

namespace YardRelay.Carriage.Trips;

/// <summary>Only some folders or files are to come along, and none of them is there.</summary>
public sealed record NothingChosen(string Folder, string Chosen) : Problem(
    "carry.nothing-chosen",
    $"Nothing of what is to come along stands in '{Folder}', '{Chosen}' for one. Look how it is written there; nothing was done.");

/// <summary>Lines of a carry list that found nothing: most often mistyped, so that what was meant comes along or stays unseen.</summary>
internal static class IdleLines
{
    private const int Most = 100;

    /// <summary>Which lines these are, as they are written; not all where they are many.</summary>
    /// <param name="reasons">Reasons for which a trip left files out.</param>
    public static IReadOnlyList<string> Of(TreeRoot from, CarryList list, IReadOnlyCollection<string> reasons)
    {
        using var root = from.TryOpen(out _);
        if (root is null) return [];
        return [
            .. list.Rules.Select(r => r.Path).Concat(list.First).Distinct().Where(p => IsAbsent(root, p))
                .Concat(list.Names.Where(n => !reasons.Contains(n.Reason)).Select(n => n.Names))
                .Take(Most)
        ];
    }

    /// <summary>Whether a list names all that comes along, and nothing of it is there; null: something is.</summary>
    public static NothingChosen? IsNothingChosen(TreeRoot from, CarryList list)
    {
        if (!list.IsOnlyThese) return null;
        using var root = from.TryOpen(out _);
        var chosen = list.Rules.Where(r => r.Carries).Select(r => r.Path).ToList();
        return root is not null && chosen.TrueForAll(p => IsAbsent(root, p)) ? new(from.Path, chosen[0]) : null;
    }

    private static bool IsAbsent(OpenFolder root, string shown)
    {
        var path = PercentText.TryDecode(shown) ?? [];
        var slash = Array.LastIndexOf(path, (byte)'/');
        using var folder = root.TryOpenFolder(slash < 0 ? [] : path.AsSpan(0, slash), FolderUse.Pass, out var trouble);
        if (folder is not null) folder.TryFacts(path.AsSpan(slash + 1), out trouble);
        return trouble.Fault is Fault.NotThere or Fault.NotAFolder;
    }
}
