namespace YardRelay.Carriage.Sealing;

/// <summary>A sealed file on a local disk of which any stretch can be read; the pieces read last are kept. Safe for calls from several threads at once.</summary>
internal sealed class SealedFile : IDisposable
{
    private const int PiecesKept = 8;
    private const int Sealed = SealingStream.Piece + SealingStream.Tag;
    private readonly FileStream _file;
    private readonly PieceCipher _cipher;
    private readonly long _start;
    private readonly long _pieces;
    private readonly long _length;
    private readonly byte[] _in = new byte[Sealed];
    private readonly List<(long Number, int Bytes, byte[] Content)> _kept = [];
    private readonly Lock _gate = new();

    private SealedFile(FileStream file, byte[] key, long start)
    {
        (_file, _cipher, _start, _length) = (file, new(key), start, file.Length);
        _pieces = (_length - start + Sealed - 1) / Sealed;
    }

    /// <summary>Opens with one of the keys; null where none fits. The file is closed with the result, or here.</summary>
    public static async Task<SealedFile?> OpenAsync(FileStream file, IReadOnlyList<AgeIdentity> identities, CancellationToken cancel)
    {
        var key = await AgeHeader.ReadAsync(file, identities, null, cancel);
        var nonce = new byte[16];
        if (key is not null && await file.ReadAtLeastAsync(nonce, 16, false, cancel) == 16) return new(file, AgeHeader.PayloadKey(key, nonce), file.Position);
        await file.DisposeAsync();
        return key is null ? null : throw new SealBrokenException("it ends behind its header.");
    }

    /// <summary>Reads up to a piece's end, at least one byte but behind the end of the content.</summary>
    public int Read(long at, Span<byte> into)
    {
        lock (_gate)
        {
            var number = at / SealingStream.Piece;
            if (number >= _pieces) return 0;
            var (bytes, content) = PieceAt(number);
            var inPiece = (int)(at % SealingStream.Piece);
            if (inPiece >= bytes) return 0;
            var take = Math.Min(into.Length, bytes - inPiece);
            content.AsSpan(inPiece, take).CopyTo(into);
            return take;
        }
    }

    private (int, byte[]) PieceAt(long number)
    {
        foreach (var kept in _kept)
            if (kept.Number == number) return (kept.Bytes, kept.Content);
        var got = 0;
        var offset = _start + (number * Sealed);
        while (got < Sealed && RandomAccess.Read(_file.SafeFileHandle, _in.AsSpan(got), offset + got) is > 0 and var more) got += more;
        var content = _kept.Count < PiecesKept ? new byte[SealingStream.Piece] : _kept[0].Content;
        if (_kept.Count == PiecesKept) _kept.RemoveAt(0);
        var bytes = _cipher.Decrypt(number, number == _pieces - 1, _in.AsSpan(0, got), content);
        _kept.Add((number, bytes, content));
        return (bytes, content);
    }

    public void Dispose()
    {
        _cipher.Dispose();
        _file.Dispose();
    }
}
