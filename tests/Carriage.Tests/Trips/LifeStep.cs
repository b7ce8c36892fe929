namespace YardRelay.Carriage.Tests.Trips;

/// <summary>What is done next in the life of a parcel.</summary>
internal enum Doing
{
    /// <summary>A person works on the old computer.</summary>
    Edit,

    /// <summary>Hours or weeks go by.</summary>
    Wait,

    /// <summary>A trip.</summary>
    Carry,

    /// <summary>A verification that notes what it found.</summary>
    Verify,

    /// <summary>A restore into a new folder.</summary>
    Restore,

    /// <summary>A file or a list of the parcel is damaged where it lies.</summary>
    Damage,

    /// <summary>The power goes while nothing runs.</summary>
    CutPower,

    /// <summary>A trip while the old computer's disk is not mounted, or somebody else's is.</summary>
    CarryAnother,

    /// <summary>The old computer is put back to an earlier state.</summary>
    PutBack,

    /// <summary>A name comes that is the same to some disks.</summary>
    Twin,

    /// <summary>The parcel is brought up in a second depot.</summary>
    CopyAgain,

    /// <summary>What a verification finds is mended from there.</summary>
    Mend,

    /// <summary>A last look at the old computer, before it is emptied.</summary>
    LastLook,

    /// <summary>A closing trip, while the person still works on the old computer.</summary>
    Close,

    /// <summary>A program that has files of the old computer in its memory writes to them.</summary>
    WriteInMemory,
}

/// <summary>
/// One step of a life. What it does is chance from the life's seed and the step's own number, so that others can be left out.
/// </summary>
/// <param name="Number">Its place in the whole life.</param>
/// <param name="Ill">What befalls it.</param>
internal sealed record LifeStep(int Number, Doing Doing, Ill Ill)
{
    /// <summary>All steps of a life; what befalls them ends before the last ones.</summary>
    public static IReadOnlyList<LifeStep> Of(int seed)
    {
        var random = new Random(seed);
        var steps = new List<LifeStep> { new(0, Doing.Edit, Ill.None), new(1, Doing.Edit, Ill.None) };
        for (var count = random.Next(8, 15); steps.Count < count;)
        {
            var doing = random.Next(12) switch
            {
                < 3 => Doing.Edit,
                3 => Doing.Wait,
                < 8 => Doing.Carry,
                8 => Doing.Verify,
                9 => Doing.Restore,
                10 => Doing.Damage,
                _ => Doing.CutPower,
            };
            var suffers = doing is Doing.Carry or Doing.Restore or Doing.Verify && random.Next(2) == 0;
            steps.Add(new(steps.Count, doing, suffers ? (Ill)random.Next(1, 7) : Ill.None));
        }
        var others = new Random(seed ^ 0x5EED);
        for (var number = 500; others.Next(2) == 0; number++)
            steps.Insert(others.Next(2, steps.Count + 1), new(number, others.Next(2) == 0 ? Doing.CarryAnother : Doing.PutBack, Ill.None));
        var lies = new Random(seed ^ 0x11E);
        for (var number = 700; seed % 3 == 1 && lies.Next(3) > 0; number++)
            steps.Insert(lies.Next(2, steps.Count + 1), new(number, Doing.Carry, Ill.Lie));
        var twins = new Random(seed ^ 0x7714);
        for (var number = 800; FoldsNames(seed) && twins.Next(3) > 0; number++)
            steps.Insert(twins.Next(1, steps.Count + 1), new(number, Doing.Twin, Ill.None));
        var copies = new Random(seed ^ 0x2C0);
        for (var number = 900; seed % 4 == 3 && copies.Next(4) > 0; number++)
        {
            var doing = copies.Next(5) switch { 0 or 1 => Doing.CopyAgain, 2 or 3 => Doing.Mend, _ => Doing.LastLook };
            var suffers = doing != Doing.LastLook && copies.Next(2) == 0;
            var ill = suffers ? (Ill)copies.Next(1, 7) : Ill.None;
            if (doing == Doing.CopyAgain && copies.Next(4) == 0) ill = Ill.Lie;
            steps.Insert(copies.Next(2, steps.Count + 1), new(number, doing, ill));
        }
        var maps = new Random(seed ^ 0x3A9);
        for (var number = 600; seed % 13 is 1 or 4 or 7 && maps.Next(6) > 0; number++)
            steps.Insert(maps.Next(2, steps.Count + 1), new(number, Doing.WriteInMemory, Ill.None));
        var closings = new Random(seed ^ 0xC105);
        for (var number = 400; seed % 12 is 1 or 3 or 4 or 5 && closings.Next(3) > 0; number++)
        {
            var at = closings.Next(2, steps.Count + 1);
            steps.Insert(at, new(number, Doing.Close, closings.Next(3) == 0 ? (Ill)closings.Next(1, 7) : Ill.None));
        }
        return steps;
    }

    /// <summary>Whether the depot of a life takes names for one that differ in case or form.</summary>
    public static bool FoldsNames(int seed) => seed % 5 == 2;

    /// <summary>Its own chance, for one purpose.</summary>
    public Random Chance(int seed, string purpose) => new(HashOf($"{seed}|{Number}|{purpose}"));

    /// <summary>The same number for the same text, on every run.</summary>
    public static int HashOf(string text) => (int)text.Aggregate(2166136261u, (hash, c) => (hash ^ c) * 16777619u);
}

/// <summary>A promise that was broken.</summary>
internal sealed class BrokenPromiseException(string what, Exception? inner = null) : Exception(what, inner);
