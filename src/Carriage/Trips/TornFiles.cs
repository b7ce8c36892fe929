using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What an earlier run of a restore left in the target, and a power cut has been at: files with the right name and time, and with nothing,
/// a beginning, or zeros where content was not on the medium yet. They are ours, and give way.
/// </summary>
internal sealed class TornFiles(Workplace workplace)
{
    private const int Piece = 256 * 1024;

    /// <summary>Whether what stands may be one.</summary>
    public bool MayBe(Entry entry, NodeFacts? stands) =>
        workplace.GoesOn && stands is { Kind: NodeKind.File } there && there.Modified == entry.Modified && there.Bytes <= entry.Bytes;

    /// <summary>Whether what stands reads as ours, and the medium never took it.</summary>
    public bool IsOnlyInMemory(Entry entry, NodeFacts stands) => workplace.WasNotTaken && MayBe(entry, stands);

    /// <summary>Whether what stands is one: it bears our time, and has nothing in it but what ours has, or zeros.</summary>
    public bool Has(OpenFolder folder, byte[] name, Entry entry, OpenFile ours)
    {
        if (!workplace.GoesOn) return false;
        using var theirs = folder.TryOpenFile(name, FileUse.Read, out _);
        return theirs is not null && MayBe(entry, theirs.Facts()) && HasNothingElse(theirs, ours);
    }

    /// <summary>The same where ours bears a name.</summary>
    public bool Has(OpenFolder folder, byte[] name, Entry entry, OpenFolder oursIn, byte[] oursAs)
    {
        if (!workplace.GoesOn) return false;
        using var ours = oursIn.TryOpenFile(oursAs, FileUse.Read, out _);
        return ours is not null && Has(folder, name, entry, ours);
    }

    private static bool HasNothingElse(OpenFile theirs, OpenFile ours)
    {
        byte[] mine = new byte[Piece], their = new byte[Piece];
        for (long at = 0; theirs.Read(at, their) is > 0 and var got; at += got)
        {
            var had = 0;
            while (had < got && ours.Read(at + had, mine.AsSpan(had, got - had)) is > 0 and var more) had += more;
            for (var i = 0; i < got; i++)
                if (their[i] != 0 && (i >= had || their[i] != mine[i])) return false;
        }
        return true;
    }
}
