using System.Text;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.Folders;

/// <content>The label by which removable disks are told apart.</content>
public sealed partial class FolderDepot
{
    /// <summary>The file in a depot's folder that bears the label of its disk.</summary>
    public const string LabelFile = "yard-disk.txt";

    /// <summary>Labels the disk. One that bears another label keeps it.</summary>
    /// <returns>What is wrong; null: it bears the label now.</returns>
    public static Problem? Label(TreeRoot folder, string label)
    {
        if (label.Length is 0 or > 60 || label.Any(char.IsControl) || label != label.Trim())
            return new DiskLabelProblem();
        try
        {
            using var open = folder.Open();
            if (LabelOf(open) is { } stands) return stands == label ? null : new DiskLabelledProblem(stands, LabelFile);
            using var file = open.TryOpenFile(Encoding.UTF8.GetBytes(LabelFile), FileUse.MakeNew, out var trouble, 0x1B6);
            if (file is null) return new DiskWriteProblem(trouble.Said("make " + LabelFile));
            file.Write(0, Encoding.UTF8.GetBytes(label + "\n"));
            return null;
        }
        catch (FileTroubleException broke)
        {
            return new DiskWriteProblem(broke.Message);
        }
    }

    /// <summary>The label that a disk bears; null: none.</summary>
    /// <exception cref="FileTroubleException">It may bear one, and that cannot be read.</exception>
    internal static string? LabelOf(OpenFolder folder)
    {
        using var file = folder.TryOpenFile(Encoding.UTF8.GetBytes(LabelFile), FileUse.Read, out var trouble);
        // What cannot be read may still bear a label.
        if (file is null && trouble.Fault != Fault.NotThere) throw new FileTroubleException(trouble, "read " + LabelFile);
        if (file?.Facts() is not { Kind: NodeKind.File, Bytes: < 1000 } facts) return null;
        using var text = new StreamReader(new FileReadStream(file, facts.Bytes, leaveOpen: true), Encoding.UTF8);
        return text.ReadToEnd().Trim();
    }
}
