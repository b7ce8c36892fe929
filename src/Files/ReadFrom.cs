namespace YardRelay.Files;

/// <summary>Where the bytes come from that a system hands out.</summary>
public enum ReadFrom
{
    /// <summary>
    /// From the medium, as its own drive gives it: this computer kept nothing of it. A drive may have a memory of its own, which nobody can
    /// ask.
    /// </summary>
    Medium,

    /// <summary>From the memory of the computer that has the medium: that the medium has it, too, is not proven.</summary>
    Cache,

    /// <summary>From a server, or through another program: what these keep in memory, nobody can tell from here.</summary>
    Unknown,
}
