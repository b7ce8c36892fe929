namespace YardRelay.Files.Linux;

/// <summary>An open file of Linux.</summary>
internal sealed unsafe class LinuxFile(LinuxHandle handle) : OpenFile
{
    public int Number => handle.Number;

    public override NodeFacts Facts() => handle.Facts();

    public override SortedDictionary<string, byte[]>? Attributes() => handle.Attributes();

    public override bool TrySetAttribute(string name, byte[] value) => handle.TrySetAttribute(name, value);

    public override bool TryRemoveAttribute(string name) => handle.TryRemoveAttribute(name);

    public override void SetMode(ushort mode) => handle.SetMode(mode);

    public override void SetModified(Stamp modified) => handle.SetModified(modified);

    public override int Read(long at, Span<byte> into)
    {
        fixed (byte* to = into)
        {
            var got = Libc.pread(handle.Number, to, (nuint)into.Length, at);
            return got < 0 ? throw LinuxTrouble.Thrown("read") : (int)got;
        }
    }

    public override void Write(long at, ReadOnlySpan<byte> from)
    {
        while (!from.IsEmpty)
        {
            fixed (byte* it = from)
            {
                var done = Libc.pwrite(handle.Number, it, (nuint)from.Length, at);
                if (done < 0) throw LinuxTrouble.Thrown("write");
                at += done;
                from = from[(int)done..];
            }
        }
    }

    public override void SetLength(long bytes)
    {
        if (Libc.ftruncate(handle.Number, bytes) < 0) throw LinuxTrouble.Thrown("set length");
    }

    public override List<(long Offset, long Bytes)>? DataStretches(long bytes)
    {
        var found = new List<(long, long)>();
        for (long at = 0; at < bytes;)
        {
            var data = Libc.lseek(handle.Number, at, Libc.SeekData);
            if (data < 0) break; // ENXIO: only a hole is left
            var hole = Libc.lseek(handle.Number, data, Libc.SeekHole);
            if (hole < 0) return null;
            hole = Math.Min(hole, bytes);
            if (hole > data) found.Add((data, hole - data));
            at = Math.Max(hole, data + 1);
        }
        return found.Count == 1 && found[0] == (0, bytes) ? null : found;
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing) handle.Dispose();
    }
}
