namespace YardRelay.Files.Simulated;

/// <summary>
/// A file of a simulated disk that a program has mapped into its memory. Its first write leaves a trace in the file's times; further ones
/// leave none, until what was written is brought onto the medium, or came there by itself.
/// </summary>
public sealed class SimulatedMap
{
    private readonly SimulatedDisk _disk;
    private readonly ulong _number;

    internal SimulatedMap(SimulatedDisk disk, ulong number) => (_disk, _number) = (disk, number);

    /// <summary>Changes a byte; false: the file does not reach so far any more.</summary>
    public bool Write(long at, byte value)
    {
        lock (_disk.Gate)
        {
            if (at >= _disk[_number].Content.Bytes) return false;
            _disk.WriteMapped(_number, at, value);
            return true;
        }
    }
}
