namespace YardRelay.Core.Swaps;

/// <summary>What kind of change of computer a swap is.</summary>
public enum SwapKind
{
    /// <summary>The old computer goes, a new one comes.</summary>
    Renew,

    /// <summary>A new computer comes, the old one stays in use.</summary>
    Second,

    /// <summary>The same computer, set up afresh.</summary>
    Reimage,

    /// <summary>The old computer is lost or broken; a new one comes.</summary>
    Rescue,

    /// <summary>No new computer: somebody else receives the data.</summary>
    Leave,

    /// <summary>A new computer without an old one.</summary>
    Issue,
}

/// <summary>What the kinds of swap have and have not.</summary>
public static class SwapKinds
{
    /// <summary>Whether the kind needs an old computer.</summary>
    public static bool NeedsOld(this SwapKind kind) => kind is SwapKind.Renew or SwapKind.Second or SwapKind.Reimage or SwapKind.Leave;

    /// <summary>Whether the kind needs a new computer (that is another one than the old).</summary>
    public static bool NeedsNew(this SwapKind kind) => kind is SwapKind.Renew or SwapKind.Second or SwapKind.Rescue or SwapKind.Issue;

    /// <summary>Whether files are staged: only where an old computer can be read.</summary>
    public static bool Stages(this SwapKind kind) => kind is not (SwapKind.Issue or SwapKind.Rescue);

    /// <summary>
    /// Whether files are restored to a computer of this swap. Those of a rescue were staged by the swap whose computer was lost.
    /// </summary>
    public static bool Restores(this SwapKind kind) => kind is SwapKind.Renew or SwapKind.Second or SwapKind.Reimage or SwapKind.Rescue;

    /// <summary>Whether an old computer is handed in.</summary>
    public static bool HandsIn(this SwapKind kind) => kind is SwapKind.Renew or SwapKind.Leave;
}
