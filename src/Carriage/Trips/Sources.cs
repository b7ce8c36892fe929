using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Names;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;

namespace YardRelay.Carriage.Trips;

/// <summary>Source and depot lie in one another.</summary>
public sealed record SourceEntangled(string Folder, string Depot, string How)
    : Problem(
        "carry.entangled",
        $"'{Folder}' cannot be carried to {Depot}: {How} Choose a depot elsewhere, or leave its folder out with a carry list.");

/// <summary>The folders that are carried.</summary>
internal static class Sources
{
    /// <summary>Why a folder cannot be read, found out before anything is begun; null: it can, as far as is known.</summary>
    public static SourceUnusable? Unusable(TreeRoot from)
    {
        using var open = from.TryOpen(out var trouble);
        if (trouble.Fault is Fault.NotThere or Fault.NotAFolder) return new(from.Path, "there is no such folder.");
        if (open is null) return new(from.Path, trouble.Said("it cannot be opened") + ".");
        try
        {
            open.Names();
            return null;
        }
        catch (FileTroubleException broke)
        {
            return new(from.Path, broke.Trouble.Said("it cannot be listed") + ".");
        }
    }

    /// <summary>Whether a disk is not the one that is meant; null: it bears the label, or none is asked for.</summary>
    public static SourceUnusable? Mislabelled(TreeRoot from, string? label)
    {
        if (label is null) return null;
        try
        {
            using var open = from.Open();
            return FolderDepot.LabelOf(open) switch
            {
                null => new(from.Path, $"no disk labelled '{label}' is there. Plug it in and mount it, or label it with 'yardhand label'."),
                { } stands when stands != label => new(from.Path, $"the disk there is labelled '{stands}', not '{label}'."),
                _ => null,
            };
        }
        catch (FileTroubleException broke)
        {
            return new(from.Path, broke.Message + ".");
        }
    }

    /// <summary>Whether a trip would carry its own depot, or out of it; null: as far as can be told it would not.</summary>
    /// <param name="list">What comes along: a depot that it leaves out is in nobody's way.</param>
    public static SourceEntangled? Entangled(TreeRoot from, IDepot depot, CarryList list)
    {
        if (depot.Ground is not { } ground || ground.Files != from.Files) return null;
        if (Below(ground, from) is { } path)
            return path.Length > 0 && list.Of(path, isFolder: true, out _) == CarryVerdict.Leave
                ? null
                : new(from.Path, depot.Address, "the depot lies in it, and a trip would carry itself.");
        return Below(from, ground) is null ? null : new(from.Path, depot.Address, "it lies in the depot, among other people's parcels.");
    }

    /// <summary>
    /// The path by which a folder lies below another, or is it; null: it does not. Folders are told by what they are, not by their names.
    /// </summary>
    private static string? Below(TreeRoot folder, TreeRoot above)
    {
        if (FactsOf(above) is not { } wanted) return null;
        var path = "";
        for (var at = folder with { Path = folder.Files.Resolved(folder.Path) }; ; at = at with { Path = at.Files.Above(at.Path)! })
        {
            if (FactsOf(at) is { } facts && facts.IsSameNodeAs(wanted)) return path;
            if (at.Files.Above(at.Path) is null) return null;
            var name = PercentText.Encode(at.Files.NameOf(at.Path));
            path = path.Length == 0 ? name : name + "/" + path;
        }
    }

    private static NodeFacts? FactsOf(TreeRoot root)
    {
        using var open = root.TryOpen(out _);
        try
        {
            return open?.Facts();
        }
        catch (FileTroubleException)
        {
            return null;
        }
    }
}
