using System.Collections.Immutable;

namespace YardRelay.Files.Simulated;

/// <summary>The content of a simulated file: blocks that were written, holes between. It never changes: a write makes another.</summary>
/// <param name="Bytes">The length.</param>
/// <param name="Written">What was written, by number of the block.</param>
internal sealed record Blocks(long Bytes, ImmutableSortedDictionary<long, byte[]> Written)
{
    /// <summary>How many bytes a block has.</summary>
    public const int Size = 4096;

    public static readonly Blocks Empty = new(0, ImmutableSortedDictionary<long, byte[]>.Empty);

    public int Read(long at, Span<byte> into)
    {
        var length = (int)Math.Clamp(Bytes - at, 0, into.Length);
        for (var done = 0; done < length;)
        {
            var (block, from) = Math.DivRem(at + done, Size);
            var piece = into[done..Math.Min(length, done + Size - (int)from)];
            if (Written.TryGetValue(block, out var stored)) stored.AsSpan((int)from, piece.Length).CopyTo(piece);
            else piece.Clear();
            done += piece.Length;
        }
        return length;
    }

    public Blocks Write(long at, ReadOnlySpan<byte> content)
    {
        var written = Written;
        for (var done = 0; done < content.Length;)
        {
            var (block, from) = Math.DivRem(at + done, Size);
            var piece = content[done..Math.Min(content.Length, done + Size - (int)from)];
            var stored = written.TryGetValue(block, out var stands) ? (byte[])stands.Clone() : new byte[Size];
            piece.CopyTo(stored.AsSpan((int)from));
            written = written.SetItem(block, stored);
            done += piece.Length;
        }
        return new(content.IsEmpty ? Bytes : Math.Max(Bytes, at + content.Length), written);
    }

    public Blocks Cut(long bytes)
    {
        if (bytes >= Bytes) return this with { Bytes = bytes };
        var (last, from) = Math.DivRem(bytes, Size);
        var written = Written.RemoveRange(Written.Keys.Where(b => b > last || (b == last && from == 0)));
        if (from > 0 && written.TryGetValue(last, out var stands))
        {
            var stored = (byte[])stands.Clone();
            stored.AsSpan((int)from).Clear();
            written = written.SetItem(last, stored);
        }
        return new(bytes, written);
    }

    /// <summary>The stretches that were written.</summary>
    public List<(long Offset, long Bytes)> Stretches(long bytes)
    {
        var found = new List<(long Offset, long Bytes)>();
        foreach (var block in Written.Keys)
        {
            var (from, to) = (block * Size, Math.Min(bytes, (block + 1) * Size));
            if (from >= to) break;
            if (found.Count > 0 && found[^1].Offset + found[^1].Bytes == from) found[^1] = (found[^1].Offset, to - found[^1].Offset);
            else found.Add((from, to - from));
        }
        return found;
    }
}
