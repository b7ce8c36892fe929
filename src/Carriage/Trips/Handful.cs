using System.Buffers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// Some small files of a source, read one after the other and digested side by side: most files of a home are so small that what lies
/// around each costs more than its bytes. What is unusual about any of them is not dealt with here: it has no part in it, and goes the way
/// of large files, on which all is told.
/// </summary>
internal sealed class Handful
{
    /// <summary>Files in one, at most.</summary>
    public const int Most = 16;

    /// <summary>Bytes of a file that has a part in one, at most.</summary>
    public const int MostBytes = 16 * 1024;

    private readonly byte[] _buffer;
    private readonly Entry?[] _entries;
    private readonly (int At, int Bytes)[] _contents;
    private int _used;
    private bool _isKept;

    /// <param name="files">At most <see cref="Most"/>.</param>
    private Handful(int files, int room) =>
        (_buffer, _entries, _contents) = (ArrayPool<byte>.Shared.Rent(room), new Entry?[files], new (int, int)[files]);

    /// <summary>Whether a file of so many bytes may have a part in one.</summary>
    public static bool MayHold(long bytes) => bytes <= MostBytes;

    /// <summary>Reads what can be read at once.</summary>
    public static Handful Read(IReadOnlyList<FileOnItsWay> files, TripOptions options, Odometer progress)
    {
        var read = new Handful(files.Count, files.Sum(f => MayHold(f.Template.Bytes) ? SideBySide.Room((int)f.Template.Bytes) : 0));
        for (var i = 0; i < files.Count; i++)
            if (MayHold(files[i].Template.Bytes)) read._entries[i] = read.TryRead(i, files[i], options, progress);
        read.Digest();
        return read;
    }

    /// <summary>What is known of a file once it is read, its digest included; null: it has no part in this.</summary>
    public Entry? this[int file] => _entries[file];

    /// <summary>Opens the content of a file that has a part in this.</summary>
    public Stream Open(int file) => new MemoryStream(_buffer, _contents[file].At, _contents[file].Bytes, writable: false);

    /// <summary>Whether a stream has the content of a file to the byte, and nothing behind it.</summary>
    public ValueTask<bool> IsSameAsync(int file, Stream stream, CancellationToken cancel) =>
        AtHand.IsSameAsync(_buffer.AsMemory(_contents[file].At, _contents[file].Bytes), stream, cancel);

    /// <summary>A save of it did not go well: a connection may still be sending, and its memory never goes to others.</summary>
    public void Keep() => _isKept = true;

    /// <summary>Nobody needs it any more: its memory goes to others, unless it is kept.</summary>
    public void LetGo()
    {
        if (!_isKept) ArrayPool<byte>.Shared.Return(_buffer);
    }

    private Entry? TryRead(int at, FileOnItsWay file, TripOptions options, Odometer progress)
    {
        progress.Now(file.Template.Shown);
        using var opened = FileCarrier.TryOpen(file.Item, out _);
        if (opened is null) return null;
        try
        {
            var facts = opened.Facts();
            if (facts.Kind != NodeKind.File || facts.Bytes != file.Template.Bytes || FileCarrier.MayBeThere(file.Old, facts)) return null;
            var entry = EntryFacts.Described(file.Template, opened, facts, options.Traces);
            var into = _buffer.AsSpan(_used, (int)facts.Bytes);
            for (var done = 0; done < into.Length;)
            {
                var got = opened.Read(done, into[done..]);
                if (got == 0) return null;
                done += got;
            }
            if (WatchedStream.IsTorn(facts, opened.Facts(afresh: true))) return null;
            progress.Moved(into.Length);
            _contents[at] = (_used, into.Length);
            _used += SideBySide.Room(into.Length);
            return entry;
        }
        catch (FileTroubleException)
        {
            return null;
        }
    }

    private void Digest()
    {
        Span<(int, int)> contents = stackalloc (int, int)[Most];
        Span<byte> digests = stackalloc byte[Most * SideBySide.DigestBytes];
        var read = 0;
        for (var i = 0; i < _entries.Length; i++)
            if (_entries[i] is not null) contents[read++] = _contents[i];
        SideBySide.Digest(_buffer, contents[..read], digests);
        for (var i = 0; i < _entries.Length; i++)
            if (_entries[i] is { } entry)
            {
                _entries[i] = entry with { Sha256 = Convert.ToHexStringLower(digests[..SideBySide.DigestBytes]) };
                digests = digests[SideBySide.DigestBytes..];
            }
    }
}
