using System.Text;

namespace YardRelay.Files.Simulated;

/// <summary>A simulated disk as a side of the seam.</summary>
internal sealed class SimulatedFileSystem(SimulatedDisk disk) : FileSystem
{
    public override OpenFolder? TryOpenRoot(string path, out Trouble trouble)
    {
        var below = Encoding.UTF8.GetBytes(path.Trim('/'));
        lock (disk.Gate)
        {
            trouble = disk.Ask("open", SimulatedDisk.Top, below);
            if (trouble.Fault != Fault.None || disk.Find(SimulatedDisk.Top, below, out trouble) is not { } number) return null;
            if (disk[number].Kind == NodeKind.Folder) return new SimulatedFolder(disk, number);
            trouble = new(Fault.NotAFolder);
            return null;
        }
    }

    public override string? Above(string path) =>
        path.Trim('/') is { Length: > 0 } names ? "/" + names[..Math.Max(0, names.LastIndexOf('/'))] : null;

    public override string Resolved(string path) => path;

    public override NodeOwner? TryFindAccount(string name) => null;

    public override byte[] NameOf(string path) => Encoding.UTF8.GetBytes(path.TrimEnd('/')[(path.TrimEnd('/').LastIndexOf('/') + 1)..]);
}
