namespace YardRelay.Files;

/// <summary>
/// What tells one folder from another beyond its path, as far as the system says. Evidence, never proof: disks are cloned, and some
/// systems number anew at each mount.
/// </summary>
/// <param name="FileSystem">Names the file system for as long as it is not made anew; null: it does not say.</param>
/// <param name="Inode">Which folder of it.</param>
/// <param name="Born">When it was made; null: it does not say.</param>
/// <param name="Owner">Number of the account that owns it.</param>
public sealed record NodeIdentity(string? FileSystem, ulong Inode, Stamp? Born, uint Owner);
