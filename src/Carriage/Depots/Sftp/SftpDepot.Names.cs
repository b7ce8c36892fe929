using Renci.SshNet.Sftp;

namespace YardRelay.Carriage.Depots.Sftp;

/// <content>What a server says of a name.</content>
public sealed partial class SftpDepot
{
    private static DepotName NameOf(string name, SftpFileAttributes its) =>
        new(name, its.IsDirectory, its.IsRegularFile ? its.Size : 0)
        {
            Modified = new(new DateTimeOffset(its.LastWriteTimeUtc).ToUnixTimeSeconds(), 0),
            Mode = ModeOf(its),
        };

    private static ushort ModeOf(SftpFileAttributes its)
    {
        bool[] bits =
        [
            its.IsUIDBitSet, its.IsGroupIDBitSet, its.IsStickyBitSet,
            its.OwnerCanRead, its.OwnerCanWrite, its.OwnerCanExecute,
            its.GroupCanRead, its.GroupCanWrite, its.GroupCanExecute,
            its.OthersCanRead, its.OthersCanWrite, its.OthersCanExecute,
        ];
        return (ushort)bits.Aggregate(0, (mode, bit) => (mode << 1) | (bit ? 1 : 0));
    }
}
