using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Carriage.Trips;

/// <content>Further names of files, and links.</content>
internal sealed partial class FileRestorer
{
    /// <summary>A further name of a file that was restored already; null: the disk knows no such thing.</summary>
    public Touchdown? LinkTo(Entry entry, OpenFolder firstFolder, byte[] firstName, OpenFolder folder, byte[] name, Clash clash)
    {
        var there = folder.TryFacts(name, out _);
        if (there is { } stands && IsSame(firstFolder, firstName, stands)) return new(Landed.Stood, name);
        if (entry.Kind == EntryKind.Link && IsLinkTo(folder, name, entry.Target)) return new(Landed.Stood, name);
        var torn = !clash.IsWithOurs
            && there is not null
            && entry.Kind == EntryKind.File
            && _torn.Has(folder, name, entry, firstFolder, firstName);
        if (!torn && Stays(clash.Rule, there, entry)) return new(Landed.Stayed, name);
        if (!torn && !Replaces(clash.Rule, there)) return LinkBeside(entry, firstFolder, firstName, folder, name);
        return IsReplaced(firstFolder, firstName, folder, name, out var broke)
            ? new(torn ? Landed.Restored : Landed.Replaced, name)
            : KnowsNoLinks(broke)
            ? null
            : Open(entry, name, broke.Said("It could not take the place of what stands") + ".");
    }

    private static Touchdown? LinkBeside(Entry entry, OpenFolder firstFolder, byte[] firstName, OpenFolder folder, byte[] name)
    {
        for (var number = 0; number <= MostBeside; number++)
        {
            var target = number == 0 ? name : BesideName.Of(name, number);
            if (firstFolder.TryHardLink(firstName, folder, target, out var trouble))
                return new(number == 0 ? Landed.Restored : Landed.Beside, target);
            if (KnowsNoLinks(trouble)) return null;
            if (trouble.Fault != Fault.Taken) return Open(entry, name, trouble.Said("It could not be linked") + ".");
            if (folder.TryFacts(target, out _) is { } other && IsSame(firstFolder, firstName, other)) return new(Landed.Stood, target);
        }
        return Open(entry, name, NoNameLeft);
    }

    private static bool IsSame(OpenFolder firstFolder, byte[] firstName, NodeFacts facts) =>
        firstFolder.TryFacts(firstName, out _) is { } first && facts.IsSameNodeAs(first);

    private bool IsReplaced(OpenFolder firstFolder, byte[] firstName, OpenFolder folder, byte[] name, out Trouble broke)
    {
        var temporary = workplace.TemporaryName();
        if (firstFolder.TryHardLink(firstName, workplace.Folder, temporary, out broke)
            && workplace.Folder.TryRename(temporary, folder, name, replace: true, out broke))
            return true;
        workplace.Folder.TryRemove(temporary, isFolder: false, out _);
        return false;
    }

    private static bool KnowsNoLinks(Trouble trouble) =>
        trouble.Fault is Fault.NotOwner or Fault.NotSupported or Fault.Invalid or Fault.OtherFileSystem;

    private static bool IsLinkTo(OpenFolder folder, byte[] name, byte[]? target) =>
        folder.TryFacts(name, out _) is { Kind: NodeKind.Link } && folder.ReadLink(name).AsSpan().SequenceEqual(target);

    /// <summary>Makes a link with its time, whole or not at all.</summary>
    public Touchdown MakeLink(Entry entry, OpenFolder folder, byte[] name, ClashRule clash)
    {
        progress.Done();
        var temporary = workplace.TemporaryName();
        try
        {
            workplace.Folder.MakeLink(temporary, entry.Target);
            owning.GiveLink(workplace.Folder, temporary, folder);
            workplace.Folder.SetLinkModified(temporary, entry.Modified);
            var there = folder.TryFacts(name, out _);
            var same = IsLinkTo(folder, name, entry.Target);
            if (!same && Stays(clash, there, entry)) return new(Landed.Stayed, name);
            if (!same
                && Replaces(clash, there)
                && workplace.Folder.TryRename(temporary, folder, name, replace: true, out _))
                return new(Landed.Replaced, name);
            for (var number = 0; number <= MostBeside; number++)
            {
                var target = number == 0 ? name : BesideName.Of(name, number);
                if (IsLinkTo(folder, target, entry.Target))
                    return new(number == 0 ? Landed.Stood : Landed.Beside, target);
                if (workplace.Folder.TryRename(temporary, folder, target, replace: false, out var trouble))
                    return new(number == 0 ? Landed.Restored : Landed.Beside, target);
                if (trouble.Fault == Fault.OtherFileSystem)
                {
                    folder.MakeLink(target, entry.Target);
                    owning.GiveLink(folder, target, folder);
                    folder.SetLinkModified(target, entry.Modified);
                    return new(number == 0 ? Landed.Restored : Landed.Beside, target);
                }
                if (trouble.Fault != Fault.Taken) throw new FileTroubleException(trouble, "It could not be given its name");
            }
            throw new FileTroubleException(new(Fault.Taken), "Every name beside it is taken");
        }
        catch (FileTroubleException broke)
        {
            return new(Landed.Open, name, new(entry.Shown, SnagKind.NotRestored, 0, broke.Message + "."));
        }
        finally
        {
            workplace.Folder.TryRemove(temporary, isFolder: false, out _);
        }
    }
}
