using System.Collections.Immutable;

namespace YardRelay.Files.Simulated;

/// <summary>A file, folder or link of a simulated disk; it never changes, a call puts another in its place.</summary>
internal sealed record SimulatedNode(NodeKind Kind, ushort Mode, Stamp Modified, Stamp Changed)
{
    /// <summary>How many names it has.</summary>
    public uint Links { get; init; } = 1;

    /// <summary>The mount that it says it is on.</summary>
    public ulong Device { get; init; } = 1;

    /// <summary>To whom it belongs.</summary>
    public NodeOwner Owner { get; init; }

    /// <summary>Content of a file.</summary>
    public Blocks Content { get; init; } = Blocks.Empty;

    /// <summary>What stands in a folder: numbers of nodes by name.</summary>
    public ImmutableSortedDictionary<ByteName, ulong> Names { get; init; } = ImmutableSortedDictionary<ByteName, ulong>.Empty;

    /// <summary>Where a link points to.</summary>
    public byte[] Target { get; init; } = [];

    /// <summary>Extended attributes.</summary>
    public ImmutableSortedDictionary<string, byte[]> Attributes { get; init; } =
        ImmutableSortedDictionary.Create<string, byte[]>(StringComparer.Ordinal);

    public NodeFacts Facts(ulong number) => new(
        Kind,
        Mode,
        Kind == NodeKind.File ? Content.Bytes : Target.Length,
        Content.Written.Count * (Blocks.Size / 512),
        Kind == NodeKind.Folder ? 2 : Links,
        Device,
        number,
        Modified,
        Changed)
    { Owner = Owner };
}
