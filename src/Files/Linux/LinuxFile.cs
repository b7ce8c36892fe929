namespace YardRelay.Files.Linux;

/// <summary>An open file of Linux.</summary>
internal sealed unsafe class LinuxFile(LinuxHandle handle) : OpenFile(handle)
{
    private readonly LinuxHandle _handle = handle;

    public int Number => _handle.Number;

    public override int Read(long at, Span<byte> into)
    {
        fixed (byte* to = into)
        {
            var got = PosixCalls.pread(_handle.Number, to, (nuint)into.Length, at);
            return got < 0 ? throw LinuxTrouble.Thrown("read") : (int)got;
        }
    }

    public override void Write(long at, ReadOnlySpan<byte> from)
    {
        while (!from.IsEmpty)
        {
            fixed (byte* it = from)
            {
                var done = PosixCalls.pwrite(_handle.Number, it, (nuint)from.Length, at);
                if (done < 0) throw LinuxTrouble.Thrown("write");
                at += done;
                from = from[(int)done..];
            }
        }
    }

    public override void SetLength(long bytes)
    {
        if (PosixCalls.ftruncate(_handle.Number, bytes) < 0) throw LinuxTrouble.Thrown("set length");
    }

    public override void Sync()
    {
        if (PosixCalls.fsync(_handle.Number) < 0) throw LinuxTrouble.Thrown("bring onto the disk");
    }

    public override ReadFrom Forget(long bytes)
    {
        if (LinuxMedia.Of(_handle.Number) is not ReadFrom.Medium and var elsewhere) return elsewhere;
        _ = Libc.posix_fadvise(_handle.Number, 0, 0, Libc.NotNeeded);
        // That was advice: whether it was taken is asked.
        return LinuxMedia.Keeps(_handle.Number, bytes) ? ReadFrom.Cache : ReadFrom.Medium;
    }

    public override List<(long Offset, long Bytes)>? DataStretches(long bytes) =>
        Files.DataStretches.Of(
            bytes, at => PosixCalls.lseek(_handle.Number, at, Libc.SeekData), at => PosixCalls.lseek(_handle.Number, at, Libc.SeekHole));
}
