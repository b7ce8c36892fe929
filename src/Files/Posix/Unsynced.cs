using System.Runtime.InteropServices;

namespace YardRelay.Files.Posix;

/// <summary>
/// What was changed on this computer and is not known to be on its medium. POSIX has no call that brings a whole file system there and says
/// what came of it; so what was written, and each folder in which a name changed, is kept open until somebody asks for all of it.
/// </summary>
internal sealed class Unsynced(PosixSystem system)
{
    // Each takes a descriptor, of which some computers give 256.
    private const int Most = 96;

    private readonly Lock _gate = new();
    private readonly Dictionary<(ulong Device, ulong Inode), int> _waiting = [];
    private readonly Dictionary<ulong, Failures> _failures = [];
    private readonly Dictionary<ulong, int> _inside = [];
    private long _round = 1;

    /// <summary>What a medium did not take so far: how often, and what it said last.</summary>
    public readonly record struct Failures(long Count, Trouble Last);

    /// <summary>Rises with each bringing onto a medium: what was noted in an earlier round may no longer be waiting.</summary>
    public long Round => Volatile.Read(ref _round);

    /// <summary>How often a medium has not taken something.</summary>
    public Failures Of(ulong device)
    {
        lock (_gate) return _failures.GetValueOrDefault(device);
    }

    /// <summary>Notes that something open was changed, after it was.</summary>
    /// <returns>The round in which it waits.</returns>
    public long Note(int handle, in NodeFacts facts)
    {
        lock (_gate)
        {
            var key = (facts.Device, facts.Inode);
            if (_waiting.ContainsKey(key)) return _round;
            if (_waiting.Count >= Most) Bring(_waiting.Keys.ToList());
            var again = PosixCalls.dup(handle);
            if (again < 0) Failed(facts.Device, Bring(handle));
            else _waiting.Add(key, again);
            return _round;
        }
    }

    /// <summary>Lets go of a file whose last name is gone: nobody waits for it, and the room it takes is wanted.</summary>
    public void Forget(in NodeFacts facts)
    {
        lock (_gate)
            if (facts is { Links: <= 1, Kind: NodeKind.File } && _waiting.Remove((facts.Device, facts.Inode), out var handle))
                _ = PosixCalls.close(handle);
    }

    /// <summary>Somebody begins to work on a file system.</summary>
    public void Entered(ulong device)
    {
        lock (_gate) _inside[device] = _inside.GetValueOrDefault(device) + 1;
    }

    /// <summary>
    /// Somebody is done with it. Nobody is left who would ask for what waits, and a disk that is to be taken away must not be held by it.
    /// </summary>
    public void Left(ulong device)
    {
        lock (_gate)
        {
            if (_inside.Remove(device, out var inside) && inside > 1) _inside[device] = inside - 1;
            if (_inside.ContainsKey(device)) return;
            Volatile.Write(ref _round, _round + 1);
            foreach (var key in _waiting.Keys.Where(k => k.Device == device).ToList())
                if (_waiting.Remove(key, out var handle)) _ = PosixCalls.close(handle);
        }
    }

    /// <summary>
    /// Brings what waits of a medium there, and lets go of it: some file systems, of servers above all, change no name of what is open.
    /// </summary>
    /// <returns>Whether anything waited.</returns>
    public bool LetGo(ulong device)
    {
        lock (_gate)
        {
            List<(ulong Device, ulong Inode)> these = [.. _waiting.Keys.Where(k => k.Device == device)];
            Bring(these);
            return these.Count > 0;
        }
    }

    /// <summary>Whether anything waits.</summary>
    public bool IsEmpty
    {
        get
        {
            lock (_gate) return _waiting.Count == 0;
        }
    }

    /// <summary>Brings all that was changed on a medium there, and waits.</summary>
    /// <returns>How often it did not take something, ever.</returns>
    public Failures Sync(ulong device, int folder)
    {
        lock (_gate)
        {
            Bring([.. _waiting.Keys.Where(k => k.Device == device)]);
            if (system.SyncVolume(folder) < 0) Failed(device, system.Trouble(Marshal.GetLastPInvokeError()));
            return _failures.GetValueOrDefault(device);
        }
    }

    private void Bring(List<(ulong Device, ulong Inode)> these)
    {
        Volatile.Write(ref _round, _round + 1);
        foreach (var key in these)
        {
            _waiting.Remove(key, out var handle);
            Failed(key.Device, Bring(handle));
            _ = PosixCalls.close(handle);
        }
    }

    private Trouble Bring(int handle)
    {
        if (PosixCalls.fsync(handle) == 0) return default;
        var trouble = system.Trouble(Marshal.GetLastPInvokeError());
        // Some file systems have nothing to do for a folder, and say that they cannot.
        return trouble.Fault is Fault.Invalid or Fault.NotSupported ? default : trouble;
    }

    private void Failed(ulong device, Trouble trouble)
    {
        if (trouble.Fault != Fault.None) _failures[device] = new(_failures.GetValueOrDefault(device).Count + 1, trouble);
    }
}
