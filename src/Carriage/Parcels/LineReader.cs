namespace YardRelay.Carriage.Parcels;

/// <summary>Lines of a stream as bytes without their end (LF, or CR LF), in bounded memory: a line is at most 16 MiB.</summary>
internal sealed class LineReader(Stream stream) : IDisposable
{
    private const int LongestLine = 16 << 20;
    private byte[] _buffer = new byte[128 * 1024];
    private int _start;
    private int _end;
    private bool _over;

    /// <summary>The next line, valid until the next call; null at the end.</summary>
    /// <exception cref="InvalidDataException">A line is longer than the bound.</exception>
    public async ValueTask<ReadOnlyMemory<byte>?> NextAsync(CancellationToken cancel)
    {
        while (true)
        {
            var at = _buffer.AsSpan(_start, _end - _start).IndexOf((byte)'\n');
            if (at >= 0)
            {
                var line = _buffer.AsMemory(_start, at > 0 && _buffer[_start + at - 1] == '\r' ? at - 1 : at);
                _start += at + 1;
                return line;
            }
            if (_over)
            {
                if (_start == _end) return null;
                var last = _buffer.AsMemory(_start, _end - _start);
                _start = _end;
                return last;
            }
            if (_start > 0)
            {
                _buffer.AsSpan(_start, _end - _start).CopyTo(_buffer);
                (_start, _end) = (0, _end - _start);
            }
            if (_end == _buffer.Length)
            {
                if (_buffer.Length >= LongestLine) throw new InvalidDataException("a line is longer than 16 MiB");
                Array.Resize(ref _buffer, _buffer.Length * 2);
            }
            var got = await stream.ReadAsync(_buffer.AsMemory(_end), cancel);
            if (got == 0) _over = true;
            _end += got;
        }
    }

    public void Dispose() => stream.Dispose();
}
