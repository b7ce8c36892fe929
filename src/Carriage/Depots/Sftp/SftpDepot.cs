using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using Renci.SshNet;
using Renci.SshNet.Common;
using Renci.SshNet.Sftp;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots.Sftp;

/// <summary>
/// A depot behind an SSH server, by the SSH File Transfer Protocol (version 3, draft-ietf-secsh-filexfer-02) with OpenSSH's
/// <c>posix-rename</c> and <c>statvfs</c>.
/// </summary>
public sealed partial class SftpDepot : IDepot
{
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(5);
    private readonly SftpDepotOptions _options;
    private readonly string _host, _user, _root;
    private readonly int _port;
    private readonly IGate _connecting;
    private readonly FoldersMade _made;
    private SftpClient? _client;
    private string? _unknownKey;

    /// <summary>
    /// A depot at <c>sftp://user@host[:port]/path</c>; nothing is contacted yet. A password in the address counts where the options have
    /// none.
    /// </summary>
    public SftpDepot(Uri address, SftpDepotOptions options)
    {
        var who = address.UserInfo.Split(':', 2);
        (_host, _port, _root) =
            (address.Host, address.Port > 0 ? address.Port : 22, Uri.UnescapeDataString(address.AbsolutePath).TrimEnd('/'));
        _user = options.User ?? (who[0].Length > 0
            ? Uri.UnescapeDataString(who[0])
            : (options.Reach is null ? Environment.GetEnvironmentVariable("YARD_DEPOT_USER") : null) ?? Environment.UserName);
        _options = options with { Password = options.Password ?? (who.Length > 1 ? Uri.UnescapeDataString(who[1]) : null) };
        (_connecting, _made) = (_options.Work.Gate(1), new(_options.Work));
        Address = $"sftp://{_user}@{_host}{(_port == 22 ? "" : $":{_port}")}{_root}/{_options.Modes.InAddress()}";
    }

    /// <inheritdoc/>
    public string Address { get; }

    private string At(DepotPath path) => path.IsRoot ? _root.Length == 0 ? "/" : _root : $"{_root}/{path.Text}";

    /// <inheritdoc/>
    public async Task<DepotFeatures> ProbeAsync(CancellationToken cancel)
    {
        var folder = ProbeFolder.New(_options.Work.NewId());
        try
        {
            await MakeFoldersAsync(folder, cancel);
            foreach (var name in ProbeNames.All)
            {
                try
                {
                    await TryAsync(async c =>
                    {
                        await c.UploadFileAsync(new MemoryStream(), At(folder / name), cancel);
                        if (name == ProbeNames.Plain) await LetInAsync(c, folder / name, isFolder: false);
                        return true;
                    }, cancel);
                }
                catch (SshException refused) when (name != ProbeNames.Plain && refused is not SshConnectionException)
                {
                    // A name that it will not hold.
                }
            }
            var names = (await ListAsync(folder, cancel)).Select(n => n.Name).ToHashSet();
            if (!names.Contains(ProbeNames.Plain)) throw Gone("it cannot be written to.");
            return ProbeNames.Of(names) with { Modes = await CameBackAsync(folder, cancel) ? _options.Modes : DepotModes.AsMounted };
        }
        catch (SshException refused)
        {
            throw Gone($"it cannot be written to ({refused.Message.TrimEnd('.')}).", refused);
        }
        finally
        {
            await RemoveAsync(folder, CancellationToken.None);
        }
    }

    /// <inheritdoc/>
    public async Task<Result<long>> SaveAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        var (whole, goesOn) = (false, false);
        try
        {
            for (var again = false; ; again = true)
            {
                await MakeFoldersAsync(path.Parent, cancel);
                await MakeFoldersAsync(aside.Parent, cancel);
                try
                {
                    await TryAsync(async c =>
                    {
                        var from = content.GoesOn
                            && await FactsAsync(aside, cancel) is { IsRegularFile: true } begun
                            && begun.Size <= content.Bytes
                            ? begun.Size
                            : 0;
                        await using var reading = new ExactStream(content.Open(from), content.Bytes - from);
                        try
                        {
                            if (from == 0) await c.UploadFileAsync(reading, At(aside), cancel);
                            else await AppendAsync(c, reading, At(aside), from, cancel);
                        }
                        catch (Exception) when (reading.Broke is { } broke)
                        {
                            System.Runtime.ExceptionServices.ExceptionDispatchInfo.Throw(broke);
                        }
                        await _options.Work.Start(() =>
                        {
                            if (from == 0) LetIn(c, aside, isFolder: false);
                            c.RenameFile(At(aside), At(path), isPosix: true);
                            return Task.CompletedTask;
                        });
                        return true;
                    }, cancel);
                    whole = true;
                    return content.Bytes;
                }
                catch (SftpPathNotFoundException) when (!again)
                {
                    // A folder that was made before is gone meanwhile.
                    _made.ForgetAll();
                }
            }
        }
        catch (Exception broke) when (content.GoesOn && broke is OperationCanceledException or DepotUnreachableException)
        {
            // Stopped, or the server went away: what lies aside is the beginning of what comes next time.
            goesOn = true;
            throw;
        }
        catch (SshException refused)
        {
            if (await RoomAsync(cancel) is { FreeBytes: { } free } && free < content.Bytes) return new DepotFull(Address, content.Bytes);
            if (await FactsAsync(path, cancel) is { IsDirectory: true })
                return new DepotRefused(path.Text, "a folder stands under that name.");
            for (var up = path.Parent; !up.IsRoot; up = up.Parent)
                if (await FactsAsync(up, cancel) is { IsDirectory: false })
                    return new DepotRefused(path.Text, "the way to it runs through a file or a link.");
            return new DepotRefused(path.Text, $"it said '{refused.Message.TrimEnd('.')}'.");
        }
        finally
        {
            if (!whole && !goesOn) await RemoveAsync(aside, CancellationToken.None);
        }
    }

    private static async Task AppendAsync(SftpClient client, ExactStream content, string path, long from, CancellationToken cancel)
    {
        await using var file = await client.OpenAsync(path, FileMode.Open, FileAccess.Write, cancel);
        file.Seek(from, SeekOrigin.Begin);
        await content.CopyToAsync(file, 256 * 1024, cancel);
    }

    /// <summary>What stands under a name, no link followed; null: nothing.</summary>
    private async Task<SftpFileAttributes?> FactsAsync(DepotPath path, CancellationToken cancel)
    {
        try
        {
            // Its parent's list tells without following a link, which asking for the name itself would.
            if (path.IsRoot) return await TryAsync(c => c.GetAttributesAsync(At(path), cancel), cancel);
            return await TryAsync(async c =>
            {
                await foreach (var file in c.ListDirectoryAsync(At(path.Parent), cancel))
                    if (file.Name == path.Name) return file.Attributes;
                return null;
            }, cancel);
        }
        catch (SshException told) when (IsAbsence(told))
        {
            return null;
        }
        catch (SshException told)
        {
            throw Gone($"it will not say what {path.Text} is ({told.Message.TrimEnd('.')}).", told);
        }
    }

    // A name that cannot be, or leads through what is no folder, is not there; all else is an answer that nothing follows from.
    private static bool IsAbsence(SshException told) =>
        told is SftpPathNotFoundException or SftpException { StatusCode: StatusCode.NoSuchFile or StatusCode.BadMessage };

    /// <inheritdoc/>
    public async Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel)
    {
        try
        {
            return await TryAsync(async c =>
            {
                var facts = await c.GetAttributesAsync(At(path), cancel);
                if (facts.IsDirectory) return (Result<Stream>)new NotInDepot(path.Text);
                return new ResumingStream(
                    await c.OpenAsync(At(path), FileMode.Open, FileAccess.Read, cancel),
                    IsBroken,
                    (from, stop) => ReopenAsync(path, from, facts.Size, stop),
                    _options.Tries,
                    _options.FirstWait,
                    _options.Work,
                    b => Gone($"reading {path} broke off: {b.Message}", b));
            }, cancel);
        }
        catch (SshException told) when (IsAbsence(told))
        {
            return new NotInDepot(path.Text);
        }
        catch (SshException told)
        {
            throw Gone($"it will not open {path.Text} ({told.Message.TrimEnd('.')}).", told);
        }
    }

    /// <summary>The content from a byte on, after its connection broke; null where it is another one meanwhile.</summary>
    private Task<Stream?> ReopenAsync(DepotPath path, long from, long bytes, CancellationToken cancel) => TryAsync<Stream?>(async c =>
    {
        var stream = await c.OpenAsync(At(path), FileMode.Open, FileAccess.Read, cancel);
        if (stream.Length != bytes)
        {
            await stream.DisposeAsync();
            return null;
        }
        stream.Seek(from, SeekOrigin.Begin);
        return stream;
    }, cancel);

    /// <inheritdoc/>
    public async Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel)
    {
        try
        {
            return await TryAsync(async c =>
            {
                var names = new List<DepotName>();
                await foreach (var file in c.ListDirectoryAsync(At(folder), cancel))
                    if (file.Name is not ("." or ".."))
                        names.Add(NameOf(file.Name, file.Attributes));
                return names;
            }, cancel);
        }
        catch (SshException told) when (IsAbsence(told))
        {
            return [];
        }
        catch (SshException told)
        {
            // Some servers have no better word for what is no folder.
            if (!folder.IsRoot && await FactsAsync(folder, cancel) is { IsDirectory: false }) return [];
            throw Gone($"it will not list {folder.Text} ({told.Message.TrimEnd('.')}).", told);
        }
    }

    /// <inheritdoc/>
    public async Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel)
    {
        try
        {
            return await TryAsync(async c =>
            {
                await MakeAsync(c, folder, cancel);
                return true;
            }, cancel);
        }
        catch (SftpPathNotFoundException)
        {
            _made.ForgetAll();
            return new NotInDepot(folder.Parent.Text);
        }
        catch (SshException refused)
        {
            if (await FactsAsync(folder, cancel) is not null) return false;
            if (await RoomAsync(cancel) is { FreeBytes: 0 }) return new DepotFull(Address, 0);
            throw Gone($"it will not make the folder {folder.Text} ({refused.Message.TrimEnd('.')}).", refused);
        }
    }

    /// <inheritdoc/>
    public Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel) => MakeFoldersAsync(folder, isShared: false, cancel);

    /// <inheritdoc/>
    public async Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel)
    {
        _made.Forget(from);
        if (await FactsAsync(to, cancel) is not null) return false;
        var tries = 0;
        try
        {
            // The protocol's own rename, not OpenSSH's: it fails where something stands.
            return await TryAsync(async c =>
            {
                tries++;
                await c.RenameFileAsync(At(from), At(to), cancel);
                return true;
            }, cancel);
        }
        catch (SshException)
        {
            // One that was done before the connection broke finds nothing to move when it is asked again.
            return tries > 1 && await this.HasMovedAsync(from, to, cancel);
        }
    }

    /// <inheritdoc/>
    public async Task RemoveAsync(DepotPath path, CancellationToken cancel)
    {
        _made.Forget(path);
        if (await FactsAsync(path, cancel) is not { } facts) return;
        await RemoveAsync(path, facts.IsDirectory, cancel);
    }

    private async Task RemoveAsync(DepotPath path, bool isFolder, CancellationToken cancel)
    {
        if (isFolder)
            foreach (var below in await ListAsync(path, cancel)) await RemoveAsync(path / below.Name, below.IsFolder, cancel);
        try
        {
            await TryAsync(async c =>
            {
                if (isFolder) await c.DeleteDirectoryAsync(At(path), cancel);
                else await c.DeleteFileAsync(At(path), cancel);
                return true;
            }, cancel);
        }
        catch (SftpPathNotFoundException)
        {
            // Somebody else was faster.
        }
        catch (SshException refused)
        {
            throw Gone($"it will not remove {path.Text} ({refused.Message.TrimEnd('.')}).", refused);
        }
    }

    /// <inheritdoc/>
    public async Task<DepotRoom> RoomAsync(CancellationToken cancel)
    {
        try
        {
            var status = await TryAsync(c => c.GetStatusAsync(At(DepotPath.Root), cancel), cancel);
            return new(
                (long)(status.AvailableBlocks * status.BlockSize), (long)((status.TotalBlocks - status.FreeBlocks) * status.BlockSize));
        }
        catch (Exception unknown) when (unknown is SshException or NotSupportedException)
        {
            // A server without statvfs.
            return new(null, null);
        }
    }

    /// <inheritdoc/>
    public Task SettleAsync(CancellationToken cancel) => Task.CompletedTask;

    /// <inheritdoc/>
    public void Dispose()
    {
        _client?.Dispose();
        _connecting.Dispose();
    }
}
