namespace YardRelay.Files.Posix;

/// <summary>An open file.</summary>
internal sealed unsafe class PosixFile(PosixHandle handle) : OpenFile(handle)
{
    private readonly PosixHandle _handle = handle;

    public override int Read(long at, Span<byte> into)
    {
        fixed (byte* to = into)
        {
            var got = PosixCalls.pread(_handle.Number, to, (nuint)into.Length, at);
            return got < 0 ? throw _handle.Thrown("read") : (int)got;
        }
    }

    public override void Write(long at, ReadOnlySpan<byte> from)
    {
        while (!from.IsEmpty)
        {
            fixed (byte* it = from)
            {
                var done = PosixCalls.pwrite(_handle.Number, it, (nuint)from.Length, at);
                if (done < 0) throw _handle.Thrown("write");
                at += done;
                from = from[(int)done..];
            }
        }
        _handle.Note();
    }

    public override void SetLength(long bytes)
    {
        if (PosixCalls.ftruncate(_handle.Number, bytes) < 0) throw _handle.Thrown("set length");
        _handle.Note();
    }

    public override void Sync()
    {
        if (_handle.System.SyncFile(_handle.Number) < 0) throw _handle.Thrown("bring onto the disk");
    }

    /// <summary>POSIX has no way to ask: whoever reads is told that nobody knows.</summary>
    public override ReadFrom Forget(long bytes) => ReadFrom.Unknown;

    public override List<(long Offset, long Bytes)>? DataStretches(long bytes)
    {
        var (number, numbers) = (_handle.Number, _handle.System.Numbers);
        return Files.DataStretches.Of(
            bytes, at => PosixCalls.lseek(number, at, numbers.SeekData), at => PosixCalls.lseek(number, at, numbers.SeekHole));
    }
}
