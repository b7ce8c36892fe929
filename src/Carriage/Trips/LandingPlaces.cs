using System.Text;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Carriage.Trips;

/// <summary>The folders of the new computer in which parts of a parcel land elsewhere than they were.</summary>
internal static class LandingPlaces
{
    /// <summary>An account whose home is not there yet: nothing is restored before somebody made it.</summary>
    public static TargetUnusable? Missing(OpenFolder root, LandingPlan plan)
    {
        foreach (var move in plan.Moves.Where(m => m.MustStand))
        {
            using var home = root.TryOpenFolder(PercentText.TryDecode(move.To) ?? [], FolderUse.List, out _);
            if (home is null)
                return new(
                    move.To,
                    "there is no such account's folder. Make the account on the new computer first, or land the files in a folder with "
                        + "--folder.");
        }
        return null;
    }

    /// <summary>Opens a folder below the root, and makes what is missing on the way; never through a link.</summary>
    public static SharedFolder? Reach(OpenFolder root, byte[] path, out string why)
    {
        why = "";
        var at = new SharedFolder(root.OpenFolderAt([]));
        foreach (var part in Encoding.Latin1.GetString(path)
            .Split('/', StringSplitOptions.RemoveEmptyEntries)
            .Select(Encoding.Latin1.GetBytes))
        {
            at.Opened.TryMakeFolder(part, 0x1ED, out _);
            var next = at.Opened.TryOpenFolder(part, FolderUse.List, out var trouble);
            at.Release();
            if (next is null)
            {
                why = trouble.Said("The folder where it lands could not be opened");
                return null;
            }
            at = new(next);
        }
        return at;
    }
}
