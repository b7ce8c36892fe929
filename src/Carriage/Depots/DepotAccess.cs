namespace YardRelay.Carriage.Depots;

/// <summary>What opens a depot to somebody. Never part of an address, never logged.</summary>
/// <param name="User">Name for a WebDAV share or an SSH server; null: the one in the address or in YARD_DEPOT_USER.</param>
/// <param name="Password">Its password, or the passphrase of the key; null: that of YARD_DEPOT_PASSWORD.</param>
/// <param name="PrivateKey">Text of a private key for an SSH server; null: the file that YARD_DEPOT_KEY names.</param>
/// <param name="HostKey">Key of the SSH server as <c>SHA256:…</c>; null: that of YARD_DEPOT_HOSTKEY, or of the known hosts.</param>
/// <param name="Code">Code that pairs two hands for the direct way; null: that of YARD_DIRECT_CODE.</param>
public sealed record DepotAccess(
    string? User = null, string? Password = null, string? PrivateKey = null, string? HostKey = null, string? Code = null)
{
    /// <summary>What the environment gives.</summary>
    public static readonly DepotAccess OfEnvironment = new();

    /// <inheritdoc/>
    public override string ToString() => nameof(DepotAccess);
}
