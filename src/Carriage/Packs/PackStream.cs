using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;

namespace YardRelay.Carriage.Packs;

/// <summary>
/// The archive of a pack, made while it is read: each member's header, its content from the source, and the end. Its length is known
/// before.
/// </summary>
internal sealed class PackStream(OpenFolder root, IReadOnlyList<Member> members, Odometer progress, Traces traces) : ReadOnlyStream
{
    private int _member = -1;
    private byte[] _fixed = new byte[4 * PaxHeader.Block];
    private int _fixedAt, _fixedEnd;
    private OpenFile? _file;
    private long _left;
    private bool _inContent, _over;

    /// <summary>Bytes of the archive that holds these members.</summary>
    public static long LengthOf(IEnumerable<Member> members) => members.Sum(m => m.Length) + PaxHeader.EndBytes;

    /// <summary>Bytes of the source that were read, for a retry to count back.</summary>
    public long Counted { get; private set; }

    public override long Length => LengthOf(members);

    public override int Read(Span<byte> buffer)
    {
        var filled = 0;
        while (filled < buffer.Length && (Give(buffer[filled..]) is > 0 and var got || Next(out got))) filled += got;
        Went(filled);
        return filled;
    }

    private int Give(Span<byte> into)
    {
        if (_fixedAt < _fixedEnd)
        {
            var take = Math.Min(into.Length, _fixedEnd - _fixedAt);
            _fixed.AsSpan(_fixedAt, take).CopyTo(into);
            _fixedAt += take;
            return take;
        }
        return _inContent && _left > 0 ? Content(into[..(int)Math.Min(into.Length, _left)]) : 0;
    }

    private int Content(Span<byte> into)
    {
        var member = members[_member];
        if (_file is not null)
        {
            try
            {
                if (_file.Read(member.From + member.Bytes - _left, into) is > 0 and var got)
                {
                    member.Took(into[..got]);
                    progress.Moved(got);
                    Counted += got;
                    _left -= got;
                    return got;
                }
                member.Fail(MemberEnd.Changed, "It became shorter while it was read.");
            }
            catch (FileTroubleException broke)
            {
                member.Fail(MemberEnd.Unreadable, $"The disk could not be read: {broke.Message}.");
            }
            _file.Dispose();
            _file = null;
        }
        // The archive has promised its length: zeros keep the promise, and the member does not count.
        into.Clear();
        _left -= into.Length;
        return into.Length;
    }

    /// <summary>Goes on to what comes next; false at the end.</summary>
    private bool Next(out int got)
    {
        got = 0;
        if (_over) return false;
        var padding = 0;
        if (_member >= 0)
        {
            var member = members[_member];
            if (!_inContent)
            {
                (_inContent, _left) = (true, member.Bytes);
                if (member.Facts is not null) _file = member.Open(root, traces);
                return true;
            }
            if (_file is not null) member.Close(_file);
            _file?.Dispose();
            (_file, _inContent, padding) = (null, false, PaxHeader.Padding(member.Bytes));
        }
        _over = ++_member == members.Count;
        (_fixedAt, _fixedEnd) = (0, padding + (_over ? PaxHeader.EndBytes : members[_member].HeaderBytes));
        if (_fixed.Length < _fixedEnd) _fixed = new byte[_fixedEnd];
        _fixed.AsSpan(0, _fixedEnd).Clear();
        if (!_over) members[_member].WriteHeader(_fixed.AsSpan(padding, _fixedEnd - padding));
        return true;
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing) _file?.Dispose();
        base.Dispose(disposing);
    }
}
