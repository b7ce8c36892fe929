namespace YardRelay.Core.Carrying;

/// <summary>How full a depot is: one rule for every page, and for the plan.</summary>
/// <param name="LiesBytes">What lies there.</param>
/// <param name="PromisedBytes">What swaps that are surveyed and not staged yet will bring.</param>
/// <param name="CapacityBytes">How much may lie there at once, as somebody set it; null: nobody did.</param>
/// <param name="SaysBytes">Room that it said it has left; null: it does not say.</param>
public readonly record struct DepotFill(long LiesBytes, long PromisedBytes, long? CapacityBytes, long? SaysBytes)
{
    // Less than a tenth left is soon full: a few large homes fill it in a day.
    private const int SoonPart = 10;

    /// <summary>Room that is left now: what it says, and no more than what was set leaves; null: not known.</summary>
    public long? FreeBytes => (CapacityBytes - LiesBytes, SaysBytes) switch
    {
        ({ } left, { } says) => Math.Max(0, Math.Min(left, says)),
        ({ } left, null) => Math.Max(0, left),
        (null, { } says) => Math.Max(0, says),
        _ => null,
    };

    /// <summary>What lies there and what is free together; null: not known.</summary>
    public long? WholeBytes => FreeBytes + LiesBytes;

    /// <summary>How that is to be taken.</summary>
    public DepotFillState State => FreeBytes switch
    {
        null => DepotFillState.Unknown,
        { } free when free == 0 || free < PromisedBytes => DepotFillState.Full,
        { } free when free - PromisedBytes < WholeBytes / SoonPart => DepotFillState.SoonFull,
        _ => DepotFillState.Roomy,
    };
}

/// <summary>How full a depot is.</summary>
public enum DepotFillState
{
    /// <summary>Nobody set how much may lie there, and it does not say.</summary>
    Unknown,

    /// <summary>What was promised fits, and more.</summary>
    Roomy,

    /// <summary>What was promised fits, and little more.</summary>
    SoonFull,

    /// <summary>What was promised does not fit.</summary>
    Full,
}
