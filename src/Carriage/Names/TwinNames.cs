using YardRelay.Files.Names;

namespace YardRelay.Carriage.Names;

/// <summary>
/// Which names a parcel has, for a depot that takes some for one: what comes new must not take the place of what is kept there from
/// earlier trips, also where that stands at the source no more. Takes some 40 bytes a name.
/// </summary>
/// <param name="tellsCase">Only names that differ in form are one to the depot.</param>
internal sealed class TwinNames(bool tellsCase)
{
    private readonly Dictionary<ulong, ulong> _kept = [];

    /// <summary>The same for all names that are one to the depot.</summary>
    public ulong Fold(string name) => tellsCase ? NameHash.Formed(name) : NameHash.Folded(name);

    /// <summary>The parcel has this path.</summary>
    public void Keep(string path) => _kept.TryAdd(Fold(path), NameHash.Of(path));

    /// <summary>Whether the parcel has this very path.</summary>
    public bool Has(string path) => _kept.TryGetValue(Fold(path), out var kept) && kept == NameHash.Of(path);

    /// <summary>Whether the parcel has one that is another path, and the same to the depot.</summary>
    public bool HasTwin(string path) => _kept.TryGetValue(Fold(path), out var kept) && kept != NameHash.Of(path);
}
