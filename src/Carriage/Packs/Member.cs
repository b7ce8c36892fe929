using System.Security.Cryptography;
using YardRelay.Carriage.Parcels;

namespace YardRelay.Carriage.Packs;

/// <summary>How the reading of a member for its pack ended.</summary>
internal enum MemberEnd
{
    Unread,
    Whole,
    Changed,
    Unreadable,
}

/// <summary>
/// What goes into a pack under one name: a file or a stretch of one, a folder or a link. Its length stands in the archive before it is
/// read;
/// so a file that changes meanwhile is filled up with zeros, does not count, and comes once more in another pack.
/// </summary>
/// <param name="entry">What is known of it: its stored name gives the name in the archive.</param>
/// <param name="raw">Its path at the source.</param>
/// <param name="facts">What it was when it was looked at; null for what has no content.</param>
/// <param name="from">First byte of it that comes.</param>
/// <param name="bytes">How many bytes come.</param>
/// <param name="part">Its name in the archive, where that is not the entry's.</param>
/// <param name="before">The digest up to <paramref name="from"/>.</param>
internal sealed class Member(
    Entry entry, byte[] raw, NodeFacts? facts, long from, long bytes, string? part = null, IncrementalHash? before = null)
{
    private readonly Entry _promised = entry;

    public Entry Entry { get; private set; } = entry;

    public byte[] Raw => raw;

    public NodeFacts? Facts => facts;

    public long From => from;

    public long Bytes => bytes;

    /// <summary>
    /// Makes its header in the archive, in a place of <see cref="HeaderBytes"/>. It is not kept: thousands of members wait for their pack.
    /// </summary>
    public void WriteHeader(Span<byte> into) =>
        PaxHeader.Write(into, _promised.Kind, part ?? _promised.Path.Text, bytes, _promised.Mode, _promised.Modified, TargetOf(_promised));

    /// <summary>Length of its header, known while it waits: it says where in the pack its content begins.</summary>
    public int HeaderBytes { get; } = PaxHeader.LengthOf(entry.Kind, part ?? entry.Path.Text, entry.Modified, TargetOf(entry));

    /// <summary>Header, content, and what fills its last block.</summary>
    public long Length => HeaderBytes + bytes + PaxHeader.Padding(bytes);

    private static string? TargetOf(Entry entry) => entry.Target is { } target ? Names.PercentText.Encode(target) : null;

    public MemberEnd End { get; private set; }

    public string? Why { get; private set; }

    /// <summary>The digest of the file up to the end of this stretch, once it is whole.</summary>
    public string? Sha256 { get; private set; }

    /// <summary>The same, to go on with; for a stretch of a file only.</summary>
    public IncrementalHash? Digest { get; private set; }

    /// <summary>Opens it anew, from <see cref="From"/> on; null, and the end told, where it is not what it was.</summary>
    public OpenFile? Open(OpenFolder root, Traces traces)
    {
        Digest?.Dispose();
        (End, Why, Digest) = (MemberEnd.Unread, null, before?.Clone() ?? IncrementalHash.CreateHash(HashAlgorithmName.SHA256));
        var file = root.TryOpenFile(raw, FileUse.ReadQuietly, out var trouble);
        if (file is null)
        {
            Fail(
                trouble.IsForbidden ? MemberEnd.Unreadable : MemberEnd.Changed,
                trouble.Said("It cannot be opened") + ".");
            return null;
        }
        if (!IsAsItWas(file))
        {
            file.Dispose();
            Fail(MemberEnd.Changed, "It changed before it was read.");
            return null;
        }
        Entry = EntryFacts.Described(Entry, file, facts!.Value, traces);
        return file;
    }

    public void Took(ReadOnlySpan<byte> read) => Digest!.AppendData(read);

    /// <summary>All of it was read: it counts if it is still what it was.</summary>
    public void Close(OpenFile file)
    {
        if (IsAsItWas(file)) (End, Sha256) = (MemberEnd.Whole, Convert.ToHexStringLower(Digest!.GetCurrentHash()));
        else Fail(MemberEnd.Changed, "It changed while it was read.");
        if (part is not null) return;
        Digest!.Dispose();
        Digest = null;
    }

    public void Fail(MemberEnd end, string why) => (End, Why) = (end, why);

    private bool IsAsItWas(OpenFile file)
    {
        var (now, then) = (file.Facts(afresh: true), facts!.Value);
        return now.Kind == NodeKind.File
            && now.Bytes == then.Bytes
            && now.Modified == then.Modified
            && now.Changed == then.Changed
            && now.Inode == then.Inode;
    }
}
