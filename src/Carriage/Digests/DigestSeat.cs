using System.Buffers.Binary;
using System.Runtime.CompilerServices;

#pragma warning disable RS0030 // A digest is the processor's work alone: a thread waits here for another, never for a clock or a file.

namespace YardRelay.Carriage.Digests;

/// <summary>
/// The SHA-256 of one stream, at a <see cref="DigestTable"/>. One caller at a time; disposed, its place goes to another stream.
/// </summary>
/// <param name="table">Where it stands.</param>
internal sealed unsafe class DigestSeat(DigestTable table) : IDisposable
{
    /// <summary>Bytes that it holds.</summary>
    public const int Room = 256 * 1024;

    /// <summary>Its owner does not wait.</summary>
    public const int ForNothing = -1;

    // It stays where it is: registers are loaded from it while its owner puts in more. Made when somebody sits down for the first time, and
    // kept.
    private readonly Lazy<byte[]> _room = new(() => GC.AllocateUninitializedArray<byte>(Room, pinned: true));
    private readonly uint[] _state = Sha256Blocks.Start.ToArray();
    private long _came;
    private long _digested;

    /// <summary>Whether a stream has it.</summary>
    public bool IsTaken { get; set; }

    /// <summary>Whether somebody digests from it at this moment.</summary>
    public bool IsBusy { get; set; }

    /// <summary>The owner waits until it holds no more than so many bytes, or <see cref="ForNothing"/>.</summary>
    public int WaitsFor { get; set; } = ForNothing;

    /// <summary>Whether the owner waits.</summary>
    public bool IsWaiting => WaitsFor != ForNothing;

    /// <summary>Ends the owner's waiting.</summary>
    public SemaphoreSlim Wake { get; } = new(0);

    /// <summary>Bytes that lie here.</summary>
    public int Waiting => (int)(Volatile.Read(ref _came) - Volatile.Read(ref _digested));

    /// <summary>Bytes from the first one on that lie one behind the other.</summary>
    public int InARow => Math.Min(Waiting, Room - (int)(_digested % Room));

    /// <summary>Puts bytes behind those that came before; most often without waiting for them to be digested.</summary>
    public void Append(ReadOnlySpan<byte> bytes)
    {
        while (!bytes.IsEmpty)
        {
            if (Waiting == Room) table.Digest(this, Room / 2);
            var at = (int)(_came % Room);
            var some = Math.Min(bytes.Length, Math.Min(Room - at, Room - Waiting));
            bytes[..some].CopyTo(_room.Value.AsSpan(at));
            Volatile.Write(ref _came, _came + some);
            bytes = bytes[some..];
        }
    }

    /// <summary>The digest of all that came, 32 bytes; afterwards it is as new.</summary>
    public byte[] Finish()
    {
        table.Digest(this, Sha256Blocks.Bytes - 1);
        // Section 5.1.1: a one, zeros, and at the end of a block the length in bits.
        var rest = Waiting;
        Span<byte> last = stackalloc byte[2 * Sha256Blocks.Bytes];
        last.Clear();
        _room.Value.AsSpan((int)(_digested % Room), rest).CopyTo(last);
        last[rest] = 0x80;
        var blocks = rest + 1 + sizeof(ulong) <= Sha256Blocks.Bytes ? 1 : 2;
        BinaryPrimitives.WriteUInt64BigEndian(last[((blocks * Sha256Blocks.Bytes) - sizeof(ulong))..], (ulong)_came * 8);
        fixed (uint* state = _state)
        fixed (byte* at = last) Sha256Blocks.Alone(state, at, blocks);
        var digest = new byte[_state.Length * sizeof(uint)];
        for (var i = 0; i < _state.Length; i++) BinaryPrimitives.WriteUInt32BigEndian(digest.AsSpan(i * sizeof(uint)), _state[i]);
        Restart();
        return digest;
    }

    /// <summary>Forgets what came.</summary>
    public void Restart() => table.Clear(this);

    /// <summary>Nothing came yet.</summary>
    public void Clear()
    {
        (_came, _digested) = (0, 0);
        Sha256Blocks.Start.CopyTo(_state);
    }

    /// <summary>The first blocks were digested, and their room is free.</summary>
    public void Took(int blocks) => Volatile.Write(ref _digested, _digested + ((long)blocks * Sha256Blocks.Bytes));

    /// <summary>Digests as many blocks of each of some seats, 1 to 8, that nobody else digests from; each has so many in a row.</summary>
    public static void Digest(IReadOnlyList<DigestSeat> group, int blocks)
    {
        if (group is [var one])
        {
            fixed (uint* state = one._state) Sha256Blocks.Alone(state, one.First, blocks);
            return;
        }
        var states = stackalloc uint[Sha256Blocks.StateWords * Sha256Blocks.Width];
        var at = stackalloc byte*[Sha256Blocks.Width];
        for (var i = 0; i < Sha256Blocks.Width; i++)
        {
            var seat = group[Math.Min(i, group.Count - 1)];
            at[i] = seat.First;
            for (var word = 0; word < Sha256Blocks.StateWords; word++) states[(word * Sha256Blocks.Width) + i] = seat._state[word];
        }
        Sha256Blocks.Together(states, at, blocks);
        for (var i = 0; i < group.Count; i++)
            for (var word = 0; word < Sha256Blocks.StateWords; word++) group[i]._state[word] = states[(word * Sha256Blocks.Width) + i];
    }

    private byte* First => (byte*)Unsafe.AsPointer(ref _room.Value[(int)(_digested % Room)]);

    /// <inheritdoc/>
    public void Dispose() => table.Leave(this);
}
