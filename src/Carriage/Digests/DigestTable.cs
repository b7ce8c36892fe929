#pragma warning disable RS0030 // A digest is the processor's work alone: a thread waits here for another, never for a clock or a file.

namespace YardRelay.Carriage.Digests;

/// <summary>
/// Where streams that are read at the same time are digested side by side. Each has a seat that holds some of its bytes, and goes on
/// reading and writing while there is room.
/// Whoever finds the own seat full digests what lies on all seats: one processor does for eight streams what it else does for less than
/// three, and the others read and write meanwhile.
/// Nobody waits for bytes of another, only for one who digests at this moment.
/// </summary>
internal sealed class DigestTable
{
    // So much of each stream goes at once: enough that looking around costs nothing, little enough that others soon have room.
    private const int Piece = 16 * 1024;

    // Fewer are faster each by itself, on a processor of its own.
    private const int LeastTogether = 3;

    private static readonly Lock Opening = new();
    private static readonly List<DigestTable> Tables = [];

    private static int _seated;

    private readonly Lock _gate = new();
    private readonly DigestSeat[] _seats = new DigestSeat[Sha256Blocks.Width];
    private DigestSeat? _turn;

    private DigestTable()
    {
        for (var i = 0; i < _seats.Length; i++) _seats[i] = new(this);
    }

    /// <summary>Streams that sit at any table.</summary>
    public static int Seated => Volatile.Read(ref _seated);

    /// <summary>Takes a seat, at a table where most sit already; there is always one.</summary>
    public static DigestSeat Sit()
    {
        lock (Opening)
        {
            var table = Tables.Where(t => t._seats.Any(s => !s.IsTaken)).MaxBy(t => t._seats.Count(s => s.IsTaken));
            if (table is null) Tables.Add(table = new());
            var seat = table._seats.First(s => !s.IsTaken);
            seat.IsTaken = true;
            _seated++;
            return seat;
        }
    }

    /// <summary>Leaves a seat, once nobody digests from it any more.</summary>
    public void Leave(DigestSeat seat)
    {
        Clear(seat);
        lock (Opening)
        {
            if (seat.IsTaken) _seated--;
            seat.IsTaken = false;
        }
    }

    /// <summary>Takes away what lies on a seat, once nobody digests from it any more.</summary>
    public void Clear(DigestSeat seat)
    {
        while (true)
        {
            lock (_gate)
            {
                if (!seat.IsBusy)
                {
                    seat.Clear();
                    return;
                }
                seat.WaitsFor = int.MaxValue;
            }
            seat.Wake.Wait();
        }
    }

    /// <summary>Digests, or waits for the one who does, until a seat holds no more than so many bytes.</summary>
    public void Digest(DigestSeat mine, int most)
    {
        var group = new List<DigestSeat>(_seats.Length);
        while (true)
        {
            int blocks;
            lock (_gate)
            {
                if (mine.Waiting <= most)
                {
                    PassOn(mine);
                    return;
                }
                Gather(mine, group);
                blocks = group.Count == 0 ? 0 : group.Min(s => Math.Min(Piece, s.InARow)) / Sha256Blocks.Bytes;
                foreach (var seat in group) seat.IsBusy = true;
                if (group.Count == 0) mine.WaitsFor = most;
            }
            if (blocks == 0)
            {
                mine.Wake.Wait();
                continue;
            }
            DigestSeat.Digest(group, blocks);
            lock (_gate)
                foreach (var seat in group)
                {
                    seat.IsBusy = false;
                    seat.Took(blocks);
                    // With less than a piece it is in no group any more, and goes on by itself.
                    if (seat.Waiting <= seat.WaitsFor || seat.Waiting < Piece) WakeUp(seat);
                }
        }
    }

    /// <summary>Who is digested now: several together, or this one alone; none where another has the turn and will come to it.</summary>
    private void Gather(DigestSeat mine, List<DigestSeat> group)
    {
        group.Clear();
        if (mine.IsBusy) return;
        if (mine.Waiting >= Piece)
        {
            if (_turn is not null && _turn != mine) return;
            foreach (var seat in _seats)
                if (seat is { IsBusy: false, Waiting: >= Piece }) group.Add(seat);
            if (group.Count >= LeastTogether)
            {
                _turn = mine;
                return;
            }
            group.Clear();
        }
        PassOn(mine);
        group.Add(mine);
    }

    // Where nobody has the turn nobody may go on waiting: the fullest one looks for itself.
    private void PassOn(DigestSeat mine)
    {
        if (_turn == mine) _turn = null;
        if (_turn is null && _seats.Where(s => s is { IsWaiting: true, IsBusy: false }).MaxBy(s => s.Waiting) is { } next) WakeUp(next);
    }

    private static void WakeUp(DigestSeat seat)
    {
        if (!seat.IsWaiting) return;
        seat.WaitsFor = DigestSeat.ForNothing;
        seat.Wake.Release();
    }
}
