using System.Globalization;
using Renci.SshNet;
using Renci.SshNet.Common;

namespace YardRelay.Carriage.Depots.Sftp;

/// <content>Who on the server's system may reach what is staged.</content>
public sealed partial class SftpDepot
{
    private const ushort Permissions = 0x1FF;

    /// <inheritdoc/>
    public async Task MakeParcelAsync(DepotPath parcel, CancellationToken cancel)
    {
        await MakeFoldersAsync(parcel.Parent, isShared: true, cancel);
        await MakeFoldersAsync(parcel, cancel);
        await TryAsync(async c =>
        {
            await LetInAsync(c, parcel, isFolder: true);
            return true;
        }, cancel);
    }

    /// <param name="isShared">Parcels share it: it is made as the server makes folders.</param>
    private Task MakeFoldersAsync(DepotPath folder, bool isShared, CancellationToken cancel) => _made.OnceAsync(folder, async () =>
    {
        await MakeFoldersAsync(folder.Parent, isShared, cancel);
        try
        {
            await TryAsync(async c =>
            {
                if (isShared) await c.CreateDirectoryAsync(At(folder), cancel);
                else await MakeAsync(c, folder, cancel);
                return true;
            }, cancel);
        }
        catch (SshException)
        {
            // It stands already, or something else does; then what is done in it will tell.
        }
        return true;
    });

    private async Task MakeAsync(SftpClient client, DepotPath folder, CancellationToken cancel)
    {
        await client.CreateDirectoryAsync(At(folder), cancel);
        await LetInAsync(client, folder, isFolder: true);
    }

    private Task LetInAsync(SftpClient client, DepotPath path, bool isFolder) => _options.Work.Start(() =>
    {
        LetIn(client, path, isFolder);
        return Task.CompletedTask;
    });

    /// <summary>Sets the depot's modes, where others stand. A server may keep no such thing, or not let this account.</summary>
    private void LetIn(SftpClient client, DepotPath path, bool isFolder)
    {
        if (_options.Modes == DepotModes.AsMounted) return;
        try
        {
            var its = client.GetAttributes(At(path));
            var (stands, mode) = (ModeOf(its), isFolder ? _options.Modes.OfFolder() : _options.Modes.OfFile());
            if ((stands & Permissions) == mode || its.IsSymbolicLink) return;
            var handsGroupDown = its.IsGroupIDBitSet;
            // Digits of eight, read as a number of ten.
            its.SetPermissions(short.Parse(Convert.ToString(mode, 8), CultureInfo.InvariantCulture));
            its.IsGroupIDBitSet = handsGroupDown;
            client.SetAttributes(At(path), its);
        }
        catch (SshException refused) when (refused is not SshConnectionException)
        {
            // What comes back is told by a probe.
        }
    }

    /// <summary>Whether the modes that were asked for are those that stand, of a folder with a file that was made in it.</summary>
    private async Task<bool> CameBackAsync(DepotPath folder, CancellationToken cancel)
    {
        return _options.Modes != DepotModes.AsMounted
            && await IsAsync(folder, _options.Modes.OfFolder())
            && await IsAsync(folder / ProbeNames.Plain, _options.Modes.OfFile());

        async Task<bool> IsAsync(DepotPath path, ushort mode) =>
            await FactsAsync(path, cancel) is { } facts && (ModeOf(facts) & Permissions) == mode;
    }
}
