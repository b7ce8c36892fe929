using System.Text;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Posix;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Carriage.Trips;

/// <summary>The folders of the new computer in which parts of a parcel land elsewhere than they were.</summary>
internal static class LandingPlaces
{
    /// <summary>An account whose home is not there yet: nothing is restored before somebody made it.</summary>
    public static TargetUnusable? Missing(PosixHandle root, LandingPlan plan)
    {
        foreach (var move in plan.Moves.Where(m => m.MustStand))
        {
            using var home = PosixFile.TryOpenBeneath(
                root.Number, PercentText.TryDecode(move.To) ?? [], Libc.Directory | Libc.NoFollow, out _);
            if (home is null)
                return new(
                    move.To,
                    "there is no such account's folder. Make the account on the new computer first, or land the files in a folder with "
                        + "--folder.");
        }
        return null;
    }

    /// <summary>Opens a folder below the root, and makes what is missing on the way; never through a link.</summary>
    public static FolderHandle? Reach(PosixHandle root, byte[] path, out string why)
    {
        why = "";
        var at = new FolderHandle(PosixFile.OpenBeneath(root.Number, [], Libc.Directory));
        foreach (var part in Encoding.Latin1.GetString(path)
            .Split('/', StringSplitOptions.RemoveEmptyEntries)
            .Select(Encoding.Latin1.GetBytes))
        {
            PosixFile.TryMakeFolder(at.Number, part, 0x1ED, out _);
            var next = PosixFile.TryOpen(at.Number, part, Libc.Directory | Libc.NoFollow, out var errno);
            at.Release();
            if (next is null)
            {
                why = new PosixException(errno, "The folder where it lands could not be opened").Message;
                return null;
            }
            at = new(next);
        }
        return at;
    }
}
