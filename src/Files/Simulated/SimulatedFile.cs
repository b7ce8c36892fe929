namespace YardRelay.Files.Simulated;

/// <summary>An open file of a simulated disk.</summary>
internal sealed class SimulatedFile(SimulatedDisk disk, ulong number) : OpenFile(new SimulatedHandle(disk, number))
{
    public ulong Number => number;

    public override int Read(long at, Span<byte> into)
    {
        lock (disk.Gate)
        {
            disk.Must("read", number);
            return disk[number].Content.Read(at, into);
        }
    }

    public override void Write(long at, ReadOnlySpan<byte> from)
    {
        lock (disk.Gate)
        {
            disk.Must("write", number);
            var content = disk[number].Content.Write(at, from);
            if ((content.Written.Count - disk[number].Content.Written.Count) * Blocks.Size > disk.Room().FreeBytes)
                throw new FileTroubleException(new(Fault.Full), "write");
            disk.Change(number, n => n with { Content = content }, content: true);
        }
    }

    public override void SetLength(long bytes)
    {
        lock (disk.Gate)
        {
            disk.Must("write", number);
            disk.Change(number, n => n with { Content = n.Content.Cut(bytes) }, content: true);
        }
    }

    public override void Sync()
    {
        lock (disk.Gate) disk.Sync(number, all: false);
    }

    public override ReadFrom Forget(long bytes)
    {
        lock (disk.Gate) return disk.Forget(number);
    }

    public override List<(long Offset, long Bytes)>? DataStretches(long bytes)
    {
        lock (disk.Gate)
        {
            var found = disk[number].Content.Stretches(bytes);
            return found.Count == 1 && found[0] == (0, bytes) ? null : found;
        }
    }
}
