namespace YardRelay.Files.Simulated;

/// <summary>An open file of a simulated disk.</summary>
internal sealed class SimulatedFile(SimulatedDisk disk, ulong number) : OpenFile
{
    private readonly SimulatedHandle _handle = new(disk, number);

    public ulong Number => number;

    public override NodeFacts Facts()
    {
        lock (disk.Gate) return _handle.Facts();
    }

    public override SortedDictionary<string, byte[]>? Attributes()
    {
        lock (disk.Gate) return _handle.Attributes();
    }

    public override bool TrySetAttribute(string name, byte[] value)
    {
        lock (disk.Gate) return _handle.TrySetAttribute(name, value);
    }

    public override bool TryRemoveAttribute(string name)
    {
        lock (disk.Gate) return _handle.TryRemoveAttribute(name);
    }

    public override void SetMode(ushort mode)
    {
        lock (disk.Gate) _handle.SetMode(mode);
    }

    public override void SetModified(Stamp modified)
    {
        lock (disk.Gate) _handle.SetModified(modified);
    }

    public override int Read(long at, Span<byte> into)
    {
        lock (disk.Gate)
        {
            _handle.Ask("read");
            return disk[number].Content.Read(at, into);
        }
    }

    public override void Write(long at, ReadOnlySpan<byte> from)
    {
        lock (disk.Gate)
        {
            _handle.Ask("write");
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
            _handle.Ask("write");
            disk.Change(number, n => n with { Content = n.Content.Cut(bytes) }, content: true);
        }
    }

    public override List<(long Offset, long Bytes)>? DataStretches(long bytes)
    {
        lock (disk.Gate)
        {
            var found = disk[number].Content.Stretches(bytes);
            return found.Count == 1 && found[0] == (0, bytes) ? null : found;
        }
    }

    protected override void Dispose(bool disposing)
    {
    }
}
