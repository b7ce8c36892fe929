using System.Collections.Concurrent;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Sealing;

/// <summary>
/// A sealed file on a local disk of which any stretch can be read; the pieces read last are kept. Calls from several threads at once open
/// pieces side by side, each once.
/// </summary>
internal sealed class SealedFile : IDisposable
{
    // More than there are files at once: these follow one another, and a piece that is still wanted is not opened again.
    private const int PiecesKept = Pace.Lanes.Most;
    private const int Sealed = SealingStream.Piece + SealingStream.Tag;
    private readonly Temporary _file;
    private readonly byte[] _key;
    private readonly long _start;
    private readonly long _pieces;
    private readonly List<Piece> _kept = [];
    private readonly ConcurrentBag<Opener> _idle = [];
    private readonly Lock _gate = new();

    /// <summary>An opened piece; not opened yet: less than no bytes.</summary>
    private sealed class Piece
    {
        public Lock Opening { get; } = new();

        public byte[] Content { get; } = new byte[SealingStream.Piece];

        public long Number { get; set; }

        public int Bytes { get; set; } = NotOpened;

        public int Users { get; set; }
    }

    private const int NotOpened = -1;

    /// <summary>What one thread opens a piece with.</summary>
    private sealed record Opener(PieceCipher Cipher, byte[] In);

    private SealedFile(Temporary file, byte[] key, long start)
    {
        (_file, _key, _start) = (file, key, start);
        _pieces = (file.Into.Length - start + Sealed - 1) / Sealed;
    }

    /// <summary>Opens with one of the keys; null where none fits. The file is closed with the result, or here.</summary>
    public static async Task<SealedFile?> OpenAsync(Temporary file, IReadOnlyList<AgeIdentity> identities, CancellationToken cancel)
    {
        await using var start = file.Open();
        var key = await AgeHeader.ReadAsync(start, identities, null, cancel);
        var nonce = new byte[16];
        if (key is not null && await start.ReadAtLeastAsync(nonce, 16, false, cancel) == 16)
            return new(file, AgeHeader.PayloadKey(key, nonce), start.Position);
        file.Dispose();
        return key is null ? null : throw new SealBrokenException("it ends behind its header.");
    }

    /// <summary>Reads up to a piece's end, at least one byte but behind the end of the content.</summary>
    public int Read(long at, Span<byte> into)
    {
        var number = at / SealingStream.Piece;
        if (number >= _pieces) return 0;
        var piece = Take(number);
        try
        {
            lock (piece.Opening)
            {
                if (piece.Bytes == NotOpened) piece.Bytes = Open(number, piece.Content);
                var inPiece = (int)(at % SealingStream.Piece);
                if (inPiece >= piece.Bytes) return 0;
                var take = Math.Min(into.Length, piece.Bytes - inPiece);
                piece.Content.AsSpan(inPiece, take).CopyTo(into);
                return take;
            }
        }
        finally
        {
            lock (_gate) piece.Users--;
        }
    }

    private Piece Take(long number)
    {
        lock (_gate)
        {
            var piece = _kept.Find(p => p.Number == number);
            if (piece is not null) _kept.Remove(piece);
            else if (_kept.Count >= PiecesKept && _kept.Find(p => p.Users == 0) is { } oldest)
            {
                _kept.Remove(piece = oldest);
                (piece.Number, piece.Bytes) = (number, NotOpened);
            }
            else piece = new() { Number = number };
            _kept.Add(piece);
            piece.Users++;
            return piece;
        }
    }

    private int Open(long number, Span<byte> into)
    {
        if (!_idle.TryTake(out var opener)) opener = new(new(_key), new byte[Sealed]);
        try
        {
            var (got, offset) = (0, _start + (number * Sealed));
            while (got < Sealed && _file.Read(offset + got, opener.In.AsSpan(got)) is > 0 and var more) got += more;
            return opener.Cipher.Decrypt(number, number == _pieces - 1, opener.In.AsSpan(0, got), into);
        }
        finally
        {
            _idle.Add(opener);
        }
    }

    public void Dispose()
    {
        foreach (var opener in _idle) opener.Cipher.Dispose();
        _file.Dispose();
    }
}
