using System.Collections.Concurrent;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Names;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What of a parcel would land on one another on the new computer: by the landing plan, or because the disk there may take two names for
/// one. The first that lands has the name, and what comes after keeps away from it: a clash rule speaks of what stood there before.
/// </summary>
internal sealed class Meetings(LandingPlan plan)
{
    private readonly SiblingTwins _siblings = new(NameHash.Folded);
    private readonly Dictionary<ulong, (ulong Exact, bool IsFolder)> _targets = [];
    private readonly HashSet<ulong> _met = [];
    private readonly ConcurrentDictionary<ulong, bool> _folders = [];
    private readonly Dictionary<ulong, List<Arrival>> _arrived = [];

    /// <summary>What landed in a place where others may.</summary>
    /// <param name="At">Its whole path on the new computer, as it is called there.</param>
    private sealed record Arrival(byte[] At, string? Sha256, Landed How)
    {
        public byte[] Name => At[(At.AsSpan().LastIndexOf((byte)'/') + 1)..];

        // What stayed away, or was not whole, has not taken the name.
        public bool HasTheName => How is Landed.Restored or Landed.Replaced or Landed.Stood;
    }

    /// <summary>Looks at the next entry of the parcel, all of which come before any lands.</summary>
    public void Look(Entry entry)
    {
        var isFolder = entry.Kind == EntryKind.Folder;
        if (entry.Path.IsRoot || entry.GoneSince is not null || (!isFolder && !plan.Wants(entry.Shown))) return;
        var target = plan.TargetOf(entry.Shown);
        if (plan.Moves.Count == 0)
        {
            if (_siblings.IsTwin(entry.Shown)) _met.Add(NameHash.Folded(target));
            return;
        }
        // Where folders land elsewhere, what meets is not neighbours. Folders that are one simply hold what is in both.
        var (folded, exact) = (NameHash.Folded(target), NameHash.Of(target));
        if (_targets.TryAdd(folded, (exact, isFolder))) return;
        if (!isFolder || _targets[folded] != (exact, true)) _met.Add(folded);
    }

    /// <summary>Whether something else may land where an entry does: those come one after the other.</summary>
    public bool Meets(Entry entry) => _met.Count > 0 && _met.Contains(NameHash.Folded(plan.TargetOf(entry.Shown)));

    /// <summary>A folder that others may meet is there.</summary>
    public void Entered(byte[] at) => _folders[NameHash.Folded(PercentText.Encode(at))] = true;

    /// <summary>What became of a file or a link.</summary>
    /// <param name="at">Its whole path on the new computer.</param>
    public void Came(Entry entry, byte[] at, Landed how)
    {
        if (!Meets(entry)) return;
        var key = NameHash.Folded(plan.TargetOf(entry.Shown));
        if (!_arrived.TryGetValue(key, out var all)) _arrived[key] = all = [];
        all.Add(new(at, entry.Sha256, how));
    }

    /// <summary>What landed before an entry under the very name that it would have; null: nothing did.</summary>
    /// <returns>Its digest, which a link has not.</returns>
    public (bool Is, string? Sha256) Before(Entry entry, byte[] at) =>
        Arrivals(entry).FirstOrDefault(a => a.At.AsSpan().SequenceEqual(at)) is { } first ? (true, first.Sha256) : (false, null);

    /// <summary>Whether what stands under a name landed before an entry, also where the disk takes its name for another.</summary>
    /// <param name="above">Path of the folder on the new computer.</param>
    public bool IsOurs(Entry entry, byte[] above, OpenFolder folder, byte[] name)
    {
        if (!Meets(entry) || folder.TryFacts(name, out _) is not { } stands) return false;
        if (stands.Kind == NodeKind.Folder) return _folders.ContainsKey(NameHash.Folded(PercentText.Encode(Join(above, name))));
        // A disk that takes two names for one calls what stands there by the first, or by neither, where it has a form of its own.
        return Before(entry, Join(above, name)).Is
            || Arrivals(entry).Any(a => a.At.AsSpan().StartsWith(above) && !(IsListed(folder, name) && IsListed(folder, a.Name)));
    }

    private IEnumerable<Arrival> Arrivals(Entry entry) =>
        _met.Count > 0 && _arrived.TryGetValue(NameHash.Folded(plan.TargetOf(entry.Shown)), out var all)
            ? all.Where(a => a.HasTheName)
            : [];

    /// <summary>Whether a folder calls something just so: else the disk took the name for another.</summary>
    public static bool IsListed(OpenFolder folder, byte[] name) => folder.Names().Any(n => n.AsSpan().SequenceEqual(name));

    /// <summary>The path of a name in a folder.</summary>
    public static byte[] Join(byte[] above, byte[] name) => above.Length == 0 ? name : [.. above, (byte)'/', .. name];
}
