namespace YardRelay.Line.Verbs;

/// <summary>What the command line answers to the shell.</summary>
internal static class ExitCodes
{
    public const int Done = 0;

    /// <summary>The service refused, or something is not as it must be.</summary>
    public const int Refused = 1;
    public const int Usage = 2;
    public const int Unreachable = 3;
}
