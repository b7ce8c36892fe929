using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Core;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A depot that does something of its own before it saves, refuses, or says other things of itself.</summary>
internal sealed class DepotThat(IDepot inner) : IDepot
{
    public IDepot Inner => inner;

    public Action<string>? BeforeSave { get; init; }

    public Action<string>? BeforeOpen { get; init; }

    public Func<string, Problem?>? Refuses { get; init; }

    public Func<DepotFeatures, DepotFeatures>? Features { get; init; }

    /// <summary>Told of content as it is sent.</summary>
    public Action<int>? Sends { get; init; }

    public DepotRoom? Room { get; init; }

    /// <summary>Keeps a name as something else, and says nothing of it.</summary>
    public Func<string, string>? Mangles { get; init; }

    public string Address => inner.Address;

    public async Task<DepotFeatures> ProbeAsync(CancellationToken cancel) =>
        await inner.ProbeAsync(cancel) is var probed && Features is not null ? Features(probed) : probed;

    public Task<Result<long>> SaveAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        BeforeSave?.Invoke(path.Text);
        return Refuses?.Invoke(path.Text) is { } problem
            ? Task.FromResult<Result<long>>(problem)
            : inner.SaveAsync(
                Mangles is null ? path : path.Parent / Mangles(path.Name),
                aside,
                Sends is null ? content : content.Through(s => new OpenPart(s, Sends)),
                cancel);
    }

    public Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel)
    {
        BeforeOpen?.Invoke(path.Text);
        return inner.OpenAsync(path, cancel);
    }

    public Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel) => inner.ListAsync(folder, cancel);

    public Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel) => inner.MakeFolderAsync(folder, cancel);

    public Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel) => inner.MakeFoldersAsync(folder, cancel);

    public Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel) => inner.MoveAsync(from, to, cancel);

    public Task RemoveAsync(DepotPath path, CancellationToken cancel) => inner.RemoveAsync(path, cancel);

    public Task<DepotRoom> RoomAsync(CancellationToken cancel) => Room is { } room ? Task.FromResult(room) : inner.RoomAsync(cancel);

    public Task SettleAsync(CancellationToken cancel) => inner.SettleAsync(cancel);

    public void Dispose() => inner.Dispose();
}
