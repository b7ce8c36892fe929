namespace YardRelay.Carriage.Parcels;

/// <summary>
/// Rights that belong to an owner and not to a file: to run as that account, and attributes that only an administrator sets. They come
/// back only where the owner is the same.
/// </summary>
internal static class OwnersRights
{
    private const ushort AsUser = 0x800, AsGroup = 0x400;

    /// <summary>Whether a name has any, so that its owner must be known.</summary>
    public static bool AreIn(ushort mode, SortedDictionary<string, byte[]>? attributes) =>
        (mode & (AsUser | AsGroup)) != 0 || (attributes?.Keys.Any(IsPrivileged) ?? false);

    /// <summary>Attributes that an administrator alone sets.</summary>
    public static bool IsPrivileged(string attribute) =>
        !IsBookkeeping(attribute)
            && (attribute.StartsWith("security.", StringComparison.Ordinal) || attribute.StartsWith("trusted.", StringComparison.Ordinal));

    /// <summary>What the system keeps for itself, and makes anew on each computer.</summary>
    public static bool IsBookkeeping(string attribute) =>
        attribute is "security.selinux" or "security.ima" or "security.evm" or "com.apple.provenance";

    /// <summary>The mode that a name may have here, and what of it is lost.</summary>
    public static ushort Mode(Entry entry, NodeOwner here, List<string> lost)
    {
        var mode = entry.Mode;
        if ((mode & AsUser) != 0 && entry.Owner?.User != here.User)
        {
            mode &= unchecked((ushort)~AsUser);
            lost.Add("set-user-id");
        }
        if ((mode & AsGroup) != 0 && entry.Owner?.Group != here.Group)
        {
            mode &= unchecked((ushort)~AsGroup);
            lost.Add("set-group-id");
        }
        return mode;
    }
}
