namespace YardRelay.Carriage.Depots;

/// <summary>
/// Who on the depot's own system may reach what is staged there, whatever permissions a file has where it comes from and gets back.
/// </summary>
public enum DepotModes
{
    /// <summary>The account that stages it, and nobody else: folders 0700, files 0600.</summary>
    Private,

    /// <summary>That account, and the group of the folder in which the parcel lies: folders 0770, files 0660.</summary>
    Group,

    /// <summary>
    /// Whoever may as the share is mounted and as the account makes files; also all that there is where a file system keeps no permissions.
    /// </summary>
    AsMounted,
}

/// <summary>How modes are written in a depot's address, and what they are on a system.</summary>
public static class DepotModesText
{
    private const string Key = "modes";

    /// <summary>Their word in an address: <c>private</c>, <c>group</c>, <c>as-mounted</c>.</summary>
    public static string Word(this DepotModes modes) => modes switch
    {
        DepotModes.Private => "private",
        DepotModes.Group => "group",
        _ => "as-mounted",
    };

    /// <summary>The modes that an address asks for: <c>?modes=WORD</c> behind its path; without that they are private.</summary>
    public static Core.Result<DepotModes> Of(Uri address)
    {
        if (address.Query.Length <= 1) return DepotModes.Private;
        if (address.Scheme is not ("file" or "sftp"))
            return new DepotModesProblem(address.Query, "A share on the web has permissions of its own, which its server sets.");
        var asked = address.Query[1..].Split('=', 2);
        foreach (var modes in Enum.GetValues<DepotModes>())
            if (asked is [Key, var word] && word == modes.Word()) return modes;
        return new DepotModesProblem(address.Query, "A '?' that is part of a name is written %3F.");
    }

    /// <summary>What an address shows of them: nothing where they are private.</summary>
    internal static string InAddress(this DepotModes modes) => modes == DepotModes.Private ? "" : $"?{Key}={modes.Word()}";

    /// <summary>Permissions of a file that is made, before those are set that its account's mask forbids.</summary>
    internal static ushort OfFile(this DepotModes modes) => modes switch
    {
        DepotModes.Private => 0x180,
        DepotModes.Group => 0x1B0,
        _ => 0x1B6,
    };

    /// <summary>Permissions of a folder that is made.</summary>
    internal static ushort OfFolder(this DepotModes modes) => modes switch
    {
        DepotModes.Private => 0x1C0,
        DepotModes.Group => 0x1F8,
        _ => 0x1FF,
    };
}
