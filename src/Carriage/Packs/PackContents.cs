using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Packs;

/// <summary>
/// A sealed parcel: stretches of packs. A pack that is needed is brought as it is, sealed, to the local disk and stays there while others
/// of its files are wanted;
/// nothing of it is ever written there in plain.
/// </summary>
internal sealed class PackContents(IDepot depot, ParcelPaths paths, IWork work) : IContents
{
    private const int PacksKept = 6;
    private readonly List<Held> _held = [];
    private readonly Lock _gate = new();
    private readonly CancellationTokenSource _stop = new();

    private sealed class Held(int pack, Task<SealedFile?> opening)
    {
        public int Pack => pack;

        public Task<SealedFile?> Opening => opening;

        public int Users { get; set; }
    }

    public string PlaceOf(Entry entry) => entry.Packs is [var first, ..] ? $"data/{first.Name}" : $"data/{entry.Path}";

    public async Task<Result<Stream>> OpenAsync(Entry entry, CancellationToken cancel)
    {
        var pieces = entry.Packs ?? [];
        // What cannot be had is better known before the first byte than in the middle.
        if (pieces.Count == 1)
        {
            var held = Take(pieces[0].Pack, cancel);
            SealedFile? there = null;
            try
            {
                there = await held.Opening.WaitAsync(cancel);
                // Of an empty file its place at least must be whole.
                if (entry.Bytes == 0) there?.Read(Math.Max(0, pieces[0].At - 1), new byte[1]);
            }
            finally
            {
                if (there is null) Give(held);
            }
            return there is null ? new NotInDepot($"data/{pieces[0].Name}") : new Stretch(this, pieces, held, there);
        }
        return new Stretch(this, pieces, null, null);
    }

    private Held Take(int pack, CancellationToken cancel)
    {
        lock (_gate)
        {
            var held = _held.Find(h => h.Pack == pack && !h.Opening.IsFaulted && !h.Opening.IsCanceled);
            if (held is null) held = Fetch(pack, cancel);
            else _held.Remove(held);
            _held.Add(held);
            held.Users++;
            // Where packs are wanted one after the other, the next is brought while this one is read; who wants a single file brings no
            // other.
            if (_held.Exists(h => h.Pack == pack - 1) && !_held.Exists(h => h.Pack == pack + 1)) _held.Add(Fetch(pack + 1, _stop.Token));
            for (var i = 0; _held.Count > PacksKept && i < _held.Count;)
            {
                if (_held[i] is { Users: 0, Opening.IsCompleted: true } idle) Close(idle);
                else i++;
            }
            return held;
        }
    }

    private Held Fetch(int pack, CancellationToken cancel) => new(pack, work.Start(() => FetchAsync(pack, cancel)));

    private void Give(Held held)
    {
        lock (_gate) held.Users--;
    }

    private void Close(Held held)
    {
        _held.Remove(held);
        _ = held.Opening.ContinueWith(
            opened => opened.Result?.Dispose(),
            CancellationToken.None,
            TaskContinuationOptions.OnlyOnRanToCompletion | TaskContinuationOptions.ExecuteSynchronously,
            TaskScheduler.Default);
    }

    private async Task<SealedFile?> FetchAsync(int pack, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(paths.Data / PackPiece.NameOf(pack), cancel);
        if (!opened.IsOk) return null;
        await using var from = opened.Value;
        var local = work.Temporary();
        try
        {
            await from.CopyToAsync(local.Into, 256 * 1024, cancel);
            return await SealedFile.OpenAsync(local, [paths.Seal!.NeedKey()], cancel)
                ?? throw new SealBrokenException("it is not sealed to the parcel's key.");
        }
        catch
        {
            local.Dispose();
            throw;
        }
    }

    public void Dispose()
    {
        _stop.Cancel();
        lock (_gate)
            foreach (var held in _held.ToList()) Close(held);
        _stop.Dispose();
    }

    /// <summary>The content of one file, piece after piece.</summary>
    private sealed class Stretch(PackContents packs, IReadOnlyList<PackPiece> pieces, Held? held, SealedFile? file) : Stream
    {
        private int _piece;
        private long _inPiece, _done;

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => pieces.Sum(p => p.Bytes);

        public override long Position { get => _done; set => throw new NotSupportedException(); }

        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            while (_piece < pieces.Count && _inPiece == pieces[_piece].Bytes)
            {
                Release();
                (_piece, _inPiece) = (_piece + 1, 0);
            }
            if (_piece == pieces.Count || buffer.IsEmpty) return 0;
            if (file is null)
            {
                held = packs.Take(pieces[_piece].Pack, cancellationToken);
                file = await held.Opening.WaitAsync(cancellationToken)
                    ?? throw new SealBrokenException($"the pack {pieces[_piece].Name} is not there.");
            }
            var piece = pieces[_piece];
            var got = file.Read(piece.At + _inPiece, buffer.Span[..(int)Math.Min(buffer.Length, piece.Bytes - _inPiece)]);
            if (got == 0) throw new SealBrokenException($"the pack {piece.Name} is shorter than it was.");
            (_inPiece, _done) = (_inPiece + got, _done + got);
            return got;
        }

        public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
            ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

        public override int Read(byte[] buffer, int offset, int count) =>
            throw new NotSupportedException("Packs are brought over the network: read asynchronously.");

        private void Release()
        {
            if (held is not null) packs.Give(held);
            (held, file) = (null, null);
        }

        public override void Flush()
        {
        }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            if (disposing) Release();
            base.Dispose(disposing);
        }
    }
}
