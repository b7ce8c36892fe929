namespace YardRelay.Core.Orders;

/// <summary>
/// A folder in a depot as a place of its own, however the depot that names it is called: two depots may be one share, and one may lie in
/// another.
/// </summary>
public sealed class Ground
{
    /// <summary>What stands for an address where the service's own depot is meant.</summary>
    public const string BuiltIn = "built-in";

    private readonly string _store;
    private readonly string[] _names;
    private readonly string[] _parts;

    private Ground(string store, string[] names, Func<string, string> folds) =>
        (_store, _names, _parts) = (folds(store), names, [.. names.Select(folds)]);

    /// <summary>The ground of a folder.</summary>
    /// <param name="depot">Address of the depot: <see cref="BuiltIn"/>, <c>file:///path</c> with <c>#LABEL</c> for the disk of that label,
    /// <c>http(s)://host/path</c>, <c>sftp://host/path</c>.</param>
    /// <param name="folder">Path in it, names with <c>/</c> between; empty: the depot itself.</param>
    /// <param name="folds">Makes names one that some store takes for one: letters in either case, however their marks are written.</param>
    public static Ground Of(string depot, string folder, Func<string, string> folds)
    {
        var (store, path) = StoreOf(depot);
        return new(store, [.. Names(path), .. Names(folder)], folds);
    }

    // A removable disk is told apart by its label, wherever it is mounted. Who opens a share, and by which port, makes it no other one.
    private static (string Store, string Path) StoreOf(string depot) =>
        !Uri.TryCreate(depot, UriKind.Absolute, out var uri) ? (depot, "")
        : uri.IsFile && uri.Fragment.Length > 1 ? ("disk " + Uri.UnescapeDataString(uri.Fragment[1..]), "")
        : (
            $"{(uri.Scheme == Uri.UriSchemeHttps ? Uri.UriSchemeHttp : uri.Scheme)} {uri.Host}",
            Uri.UnescapeDataString(uri.AbsolutePath));

    private static IEnumerable<string> Names(string path) => path.Split('/', StringSplitOptions.RemoveEmptyEntries).Where(p => p != ".");

    /// <summary>Whether it is the other one, or lies in it.</summary>
    public bool IsIn(Ground other) => _store == other._store && _parts.AsSpan().StartsWith(other._parts);

    /// <summary>The path to it from one in which it lies, as it was given; null: it does not lie in that one.</summary>
    public string? Below(Ground other) => IsIn(other) ? string.Join('/', _names.Skip(other._names.Length)) : null;

    /// <summary>Whether both are one.</summary>
    public bool Is(Ground other) => IsIn(other) && other.IsIn(this);

    /// <summary>Whether one of them is the other, or lies in it: whoever has one reaches something of the other.</summary>
    public bool Meets(Ground other) => IsIn(other) || other.IsIn(this);
}

/// <summary>A folder that a parcel has.</summary>
/// <param name="Swap">Whose parcel it is.</param>
/// <param name="RescuedFrom">The swap whose lost computer left it the parcel; null: it is of its own computer.</param>
public sealed record Holding(Ground Ground, string Swap, string? RescuedFrom = null);

/// <summary>An order would reach what its swap has no claim to.</summary>
/// <param name="Folder">What it was to be given, as it lies in the depot.</param>
/// <param name="Swap">Whose parcel it would reach; null: it is no parcel's, but a folder that holds them.</param>
public sealed record OutOfReach(string Folder, string? Swap) : Problem(
    "order.out-of-reach",
    Swap is null
        ? $"'{Folder}' is where parcels lie, and no folder of one. Name the folder that is meant, below it."
        : $"'{Folder}' is the parcel of {Swap}, lies in it or holds it. An order reaches the parcel of its own swap only.");

/// <summary>
/// Which folders of depots an order may be given: asked when it is given, when it is handed out, and by the service's own depot when it is
/// shown the ticket.
/// </summary>
public static class Claims
{
    /// <summary>Why a swap may not be given a folder; null: it may.</summary>
    /// <param name="folder">As it lies in the depot, for the words.</param>
    /// <param name="ground">The same as a place.</param>
    /// <param name="swap">Who asks.</param>
    /// <param name="parcels">All parcels that it could meet, its own and second copies among them.</param>
    /// <param name="roots">Folders in which parcels lie: of depots and refreshes.</param>
    public static OutOfReach? Against(
        string folder, Ground ground, string swap, IReadOnlyCollection<Holding> parcels, IEnumerable<Ground> roots)
    {
        if (roots.Any(r => r.IsIn(ground))) return new(folder, null);
        var same = parcels.Where(p => p.Ground.Is(ground)).DistinctBy(p => p.Swap).ToDictionary(p => p.Swap);
        var lost = LostOf(swap, same);
        var met = parcels.FirstOrDefault(p =>
            p.Swap != swap && p.Ground.Meets(ground) && !(p.Ground.Is(ground) && LostOf(p.Swap, same) == lost));
        return met is null ? null : new(folder, met.Swap);
    }

    // One parcel serves the swap of a lost computer and each rescue of it, also one of a rescue whose new computer was lost in turn.
    private static string LostOf(string swap, Dictionary<string, Holding> same)
    {
        for (var steps = same.Count; steps > 0 && same.GetValueOrDefault(swap)?.RescuedFrom is { } from; steps--) swap = from;
        return swap;
    }
}
