using System.Text;

namespace YardRelay.Carriage.Depots.Folders;

/// <content>Who on the depot's system may reach what is staged.</content>
public sealed partial class FolderDepot
{
    // What a folder hands its group down with.
    private const ushort HandsGroupDown = 0x400, Permissions = 0x1FF;

    /// <inheritdoc/>
    public Task MakeParcelAsync(DepotPath parcel, CancellationToken cancel)
    {
        MakeAll(parcel.Parent, DepotModes.AsMounted);
        MakeAll(parcel);
        using var folder = Root.TryOpenFolder(Bytes(parcel), FolderUse.List, out _);
        if (folder is not null && _modes != DepotModes.AsMounted) LetIn(folder, _modes.OfFolder());
        return Task.CompletedTask;
    }

    private static bool TryMake(OpenFolder parent, string name, DepotModes modes, out Trouble trouble)
    {
        var bytes = Encoding.UTF8.GetBytes(name);
        if (!parent.TryMakeFolder(bytes, modes.OfFolder(), out trouble)) return false;
        if (modes != DepotModes.Group) return true;
        using var made = parent.TryOpenFolder(bytes, FolderUse.List, out _);
        if (made is not null) LetIn(made, modes.OfFolder());
        return true;
    }

    /// <summary>Sets what the account's mask took away, or what somebody else gave. A file system may keep no such thing.</summary>
    private static void LetIn(OpenNode node, ushort mode)
    {
        try
        {
            var stands = node.Facts().Mode;
            if ((stands & Permissions) != mode) node.SetMode((ushort)(mode | (stands & HandsGroupDown)));
        }
        catch (FileTroubleException)
        {
            // What comes back is told by a probe.
        }
    }

    /// <summary>Whether the modes that were asked for are those that stand, in a folder with a file that was made in it.</summary>
    private bool CameBack(OpenFolder folder)
    {
        if (_modes == DepotModes.AsMounted || !folder.KeepsModes || !Is(folder.Facts(), _modes.OfFolder())) return false;
        return folder.TryFacts(Encoding.UTF8.GetBytes(ProbeNames.Plain), out _) is { } file && Is(file, _modes.OfFile());

        static bool Is(NodeFacts facts, ushort mode) => (facts.Mode & Permissions) == mode;
    }
}
