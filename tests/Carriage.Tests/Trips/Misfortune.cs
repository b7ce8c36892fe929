using YardRelay.Files.Simulated;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>What befalls one command.</summary>
internal enum Ill
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>The program is killed at some call.</summary>
    Kill,

    /// <summary>The power goes at some call, of all disks at once.</summary>
    Power,

    /// <summary>Some call answers that it does not know, once.</summary>
    Once,

    /// <summary>Calls answer so again and again.</summary>
    Often,

    /// <summary>A disk that is written to has little room.</summary>
    Full,

    /// <summary>A sync answers that the medium did not take all.</summary>
    Sync,

    /// <summary>A sync of the depot says that the medium took what it did not.</summary>
    Lie,
}

/// <summary>Brings an ill upon the calls that one command makes.</summary>
internal sealed class Misfortune(Ill ill, Random random, SimulatedWork work)
{
    private static readonly Fault[] Faults = [Fault.Broken, Fault.Shut, Fault.TimedOut, Fault.GoneMeanwhile, Fault.InUse];

    // Most commands of a small tree make some hundreds of calls.
    private readonly int _at = (int)Math.Pow(10, random.NextDouble() * 3.2);
    private readonly Fault _fault = Faults[random.Next(Faults.Length)];

    // A small tree never takes so many, whatever befalls it.
    private const int Most = 30_000;
    private int _calls;
    private bool _isDead;

    /// <summary>Told of each call before it is made; true: it is the person's, and nothing befalls it.</summary>
    public Func<SimulatedCall, bool> IsTheirs { get; set; } = _ => false;

    /// <summary>How many calls were made.</summary>
    public int Calls => _calls;

    /// <summary>What a call answers; does not come back where the program dies of it.</summary>
    public Fault Of(SimulatedCall call)
    {
        if (IsTheirs(call)) return Fault.None;
        _calls++;
        if (_isDead) throw new KilledException();
        if (_calls > Most) throw new BrokenPromiseException($"It goes on for ever: {call}");
        switch (ill)
        {
            case Ill.Kill or Ill.Power when _calls >= _at:
                _isDead = true;
                work.Kill();
                return Fault.None;
            case Ill.Once when _calls == _at && call.What != "sync":
                return _fault;
            case Ill.Often when call.What != "sync" && random.Next(_at + 1) == 0:
                return _fault;
            case Ill.Sync when call.What == "sync" && random.Next(3) == 0:
                return Fault.Broken;
            default:
                return Fault.None;
        }
    }
}
