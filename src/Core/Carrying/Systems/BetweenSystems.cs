using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Carrying.Systems;

/// <summary>How something gets from an old computer to a new one.</summary>
public enum Passage
{
    /// <summary>It comes along as it is.</summary>
    Goes,

    /// <summary>It comes along, and somebody has to do or to know something.</summary>
    WithCare,

    /// <summary>It cannot come along: it is set up, installed or bought anew.</summary>
    CleanStart,
}

/// <summary>A file system, as far as it matters to what it takes.</summary>
public enum DiskKind
{
    /// <summary>Names of any letters, told apart by case; links, rights and times to a part of a second: ext4, XFS, Btrfs.</summary>
    Full,

    /// <summary>Names that differ only in case are one: NTFS and APFS as they are set up.</summary>
    NoCase,

    /// <summary>No links, no rights, no file of 4 GB, times to two seconds: FAT32 and exFAT, which holds larger files.</summary>
    Plain,
}

/// <summary>A kind of computer.</summary>
/// <param name="WordBits">32 or 64.</param>
public sealed record ComputerKind(HomePlatform Platform, int WordBits, DiskKind Disk);

/// <summary>One line of the table: what, how it passes, and what that means.</summary>
public sealed record PassageLine(string What, Passage Passage, string Words);

/// <summary>
/// What goes between kinds of computers and systems, and what only by a clean start. Common knowledge of the trade, kept here so that it is
/// said before a swap and not after it.
/// </summary>
public static class BetweenSystems
{
    /// <summary>The table for one way.</summary>
    public static IReadOnlyList<PassageLine> Of(ComputerKind old, ComputerKind @new)
    {
        var same = old.Platform == @new.Platform;
        return
        [
            new("Documents, pictures, films, music", Passage.Goes, "Byte for byte, with their times."),
            Names(old, @new),
            @new.Disk == DiskKind.Plain
                ? new("Links, rights, file attributes", Passage.CleanStart, "The new disk holds none of them; they stay in the parcel.")
                : same
                    ? new("Links, rights, file attributes", Passage.Goes, "Rights and owner become those of the new account.")
                    : new(
                        "Links, rights, file attributes",
                        Passage.WithCare,
                        "Links inside of what is carried work; those to places of the old system point nowhere. Rights become those of "
                            + "the new account."),
            @new.Disk == DiskKind.Plain
                ? new("Files of 4 GB and more", Passage.WithCare, "FAT32 takes none of them, exFAT does. Look which one it is.")
                : new("Files of 4 GB and more", Passage.Goes, "As they are."),
            new(
                "Browser bookmarks and history",
                same ? Passage.Goes : Passage.WithCare,
                same
                    ? "With the profile, once the same browser is installed and closed."
                    : "Export them to a file before the swap and import it; a profile of another system is not always read."),
            new(
                "Saved passwords",
                Passage.WithCare,
                same
                    ? "Only where the person's key store comes along and opens with the same password; else from the organisation's "
                        + "password store."
                    : "The key store of one system is closed to the other: export, or begin anew."),
            new(
                "Mail on the computer",
                same ? Passage.Goes : Passage.WithCare,
                same
                    ? "With the profile, once the same program is installed and closed."
                    : "Mail that lies on a server comes by itself; what lies only here is imported by the new program, folder by folder."),
            new(
                "Settings of programs",
                same ? Passage.WithCare : Passage.CleanStart,
                same
                    ? "By the rules for places, into the same or a newer version of the program."
                    : "They are written for the other system. Note down what matters."),
            new(
                "Programs",
                Passage.CleanStart,
                old.WordBits == 32 && @new.WordBits == 64
                    ? "Installed anew, in their 64-bit version; a plug-in or driver with 32 bits only is replaced."
                    : old.WordBits == 64 && @new.WordBits == 32
                    ? "Installed anew; what has 64 bits only does not run any more. Think again whether this is the right computer."
                    : same
                    ? "Installed anew from the catalogue; licence-bound ones are signed out of on the old computer first."
                    : "Installed anew, where there is a version for the new system; the report says what the catalogue offers."),
            new(
                "Photo, music and mail libraries",
                same ? Passage.WithCare : Passage.CleanStart,
                same
                    ? "Whole, or not at all; opened once by the same or a newer program, which may rebuild them."
                    : "The pictures and songs come along; albums and marks live in the program's own library. Export them before the "
                        + "swap."),
            new(
                "Fonts and dictionaries",
                same ? Passage.Goes : Passage.WithCare,
                same ? "From the person's own folders." : "The files come along; they are installed anew."),
            new(
                "Desktop, its picture and layout",
                same ? Passage.WithCare : Passage.CleanStart,
                same ? "By the rules for places; icons may be in other places." : "Set up anew; the picture itself comes along."),
            new(
                "Printers, networks, drives",
                Passage.CleanStart,
                "Connected anew at the desk; they belong to the computer and not to the person."),
            new(
                "Backup history",
                same ? Passage.WithCare : Passage.CleanStart,
                same
                    ? "The new computer takes the same archive over, where the backup program allows it."
                    : "The old archive is kept to its end and a new one begun."),
            new(
                "Encrypted folders and virtual disks",
                Passage.WithCare,
                same
                    ? "As one file, with its key: try it before the old computer goes."
                    : "As one file; opened only by a program that both systems have."),
        ];
    }

    private static PassageLine Names(ComputerKind old, ComputerKind @new)
    {
        var reasons = new List<string>();
        if (old.Disk == DiskKind.Full && @new.Disk != DiskKind.Full)
            reasons.Add("names that differ only in case cannot stand side by side");
        if (old.Platform != HomePlatform.Windows && @new.Platform == HomePlatform.Windows)
            reasons.Add(
                "names with \" * : < > ? \\ | or a final dot, and paths of more than 259 characters, are not opened by every program");
        if (old.Platform == HomePlatform.Mac != (@new.Platform == HomePlatform.Mac))
            reasons.Add("accents may be written in another form, and look the same");
        return reasons.Count == 0
            ? new("Names and folders", Passage.Goes, "As they are.")
            : new(
                "Names and folders",
                Passage.WithCare,
                $"{char.ToUpperInvariant(reasons[0][0])}{reasons[0][1..]}{string.Concat(reasons.Skip(1).Select(r => "; " + r))}. The look "
                    + $"before a trip names each.");
    }
}
