using YardRelay.Core;

namespace YardRelay.Carriage.Depots.Limited;

/// <summary>A depot to and from which content goes no faster than a gate lets it.</summary>
/// <param name="depot">Closed with this one.</param>
public sealed class LimitedDepot(IDepot depot, RateGate gate) : IDepot
{
    /// <inheritdoc/>
    public string Address => depot.Address;

    /// <inheritdoc/>
    public TreeRoot? Ground => depot.Ground;

    /// <inheritdoc/>
    public Task<DepotFeatures> ProbeAsync(CancellationToken cancel) => depot.ProbeAsync(cancel);

    /// <inheritdoc/>
    public Task<Result<long>> SaveAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel) =>
        depot.SaveAsync(path, aside, content.Through(s => new GatedStream(s, gate)), cancel);

    /// <inheritdoc/>
    public async Task<Result<Stream>> OpenAsync(DepotPath path, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(path, cancel);
        return opened.IsOk ? Result<Stream>.Of(new GatedStream(opened.Value, gate)) : opened;
    }

    /// <inheritdoc/>
    public bool HasMedium => depot.HasMedium;

    /// <inheritdoc/>
    public async Task<Result<ReadBack>> OpenBackAsync(DepotPath path, CancellationToken cancel) =>
        (await depot.OpenBackAsync(path, cancel)).TryGet(out var back, out var problem)
            ? back with { Stream = new GatedStream(back.Stream, gate) }
            : problem;

    /// <inheritdoc/>
    public Task<IReadOnlyList<DepotName>> ListAsync(DepotPath folder, CancellationToken cancel) => depot.ListAsync(folder, cancel);

    /// <inheritdoc/>
    public Task<Result<bool>> MakeFolderAsync(DepotPath folder, CancellationToken cancel) => depot.MakeFolderAsync(folder, cancel);

    /// <inheritdoc/>
    public Task MakeParcelAsync(DepotPath parcel, CancellationToken cancel) => depot.MakeParcelAsync(parcel, cancel);

    /// <inheritdoc/>
    public Task MakeFoldersAsync(DepotPath folder, CancellationToken cancel) => depot.MakeFoldersAsync(folder, cancel);

    /// <inheritdoc/>
    public Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel) => depot.MoveAsync(from, to, cancel);

    /// <inheritdoc/>
    public Task RemoveAsync(DepotPath path, CancellationToken cancel) => depot.RemoveAsync(path, cancel);

    /// <inheritdoc/>
    public Task<DepotRoom> RoomAsync(CancellationToken cancel) => depot.RoomAsync(cancel);

    /// <inheritdoc/>
    public Task SettleAsync(CancellationToken cancel) => depot.SettleAsync(cancel);

    /// <inheritdoc/>
    public void Dispose() => depot.Dispose();

    /// <summary>What is read through it passes the gate.</summary>
    private sealed class GatedStream(Stream inner, RateGate gate) : ForwardStream
    {
        // Small enough that a change of the rate is felt soon.
        private const int Most = 64 * 1024;

        public override long Length => inner.Length;

        public override long Position { get => inner.Position; set => throw new NotSupportedException(); }

        public override int Read(Span<byte> buffer)
        {
            var got = inner.Read(buffer[..Math.Min(buffer.Length, Most)]);
            gate.Pass(got);
            return got;
        }

        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            var got = await inner.ReadAsync(buffer[..Math.Min(buffer.Length, Most)], cancellationToken);
            await gate.PassAsync(got, cancellationToken);
            return got;
        }

        protected override void Dispose(bool disposing)
        {
            if (disposing) inner.Dispose();
            base.Dispose(disposing);
        }
    }
}
