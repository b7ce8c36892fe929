namespace YardRelay.Hand.Runs;

/// <summary>What the hand answers to the shell.</summary>
internal static class ExitCodes
{
    public const int AllAccounted = 0;
    public const int SnagsOrDamage = 1;
    public const int Usage = 2;
    public const int Unreachable = 3;
    public const int Stopped = 130;
}
