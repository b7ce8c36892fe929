namespace YardRelay.Carriage.Depots;

/// <summary>
/// Content that is read once, from its start to its end. Whoever derives says how a stretch is read, waiting and not waiting.
/// </summary>
internal abstract class ForwardStream : ReadOnlyStream
{
    /// <inheritdoc/>
    public override long Length => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Position { get => throw new NotSupportedException(); set => throw new NotSupportedException(); }

    /// <inheritdoc/>
    public abstract override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default);
}
