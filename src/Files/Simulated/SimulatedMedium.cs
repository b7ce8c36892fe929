using System.Collections.Immutable;

namespace YardRelay.Files.Simulated;

using Nodes = ImmutableDictionary<ulong, SimulatedNode>;

/// <summary>
/// What of a simulated disk is on its medium, and what is only in the memory of the computer: what a power cut leaves. As on a file system
/// that keeps a journal of names: these come in the order in which they were changed, up to some moment since the last sync; content comes
/// in any order, in part or not at all.
/// </summary>
/// <param name="whole">What stands on it at first.</param>
internal sealed class SimulatedMedium(Nodes whole)
{
    private List<Nodes> _named = [whole];
    private Dictionary<ulong, Blocks> _safe = whole.ToDictionary(n => n.Key, n => n.Value.Content);
    private Dictionary<ulong, Blocks> _lost = [];

    /// <summary>Another one with the same on it.</summary>
    public SimulatedMedium Copy() => new(Nodes.Empty) { _named = [.. _named], _safe = new(_safe), _lost = new(_lost) };

    /// <summary>A name was made, changed or taken away.</summary>
    /// <param name="isSettled">No power cut brings back what was before.</param>
    public void Named(Nodes nodes, bool isSettled = false)
    {
        if (isSettled) _named.Clear();
        _named.Add(nodes);
    }

    /// <summary>All of it was brought onto the medium, but for what was lost by a sync that failed and not written since.</summary>
    public void Synced(Nodes nodes)
    {
        _named.Clear();
        _named.Add(nodes);
        foreach (var (number, node) in nodes)
            if (!_lost.TryGetValue(number, out var lost) || lost != node.Content) Synced(number, node.Content);
    }

    /// <summary>The content of one file was brought onto the medium; nothing is said of its name.</summary>
    public void Synced(ulong number, Blocks content)
    {
        if (_lost.TryGetValue(number, out var lost) && lost == content) return;
        _lost.Remove(number);
        _safe[number] = content;
    }

    /// <summary>A sync failed: what was still in memory counts as written there, and no later sync brings it.</summary>
    /// <param name="only">The one file of which it failed; null: of all.</param>
    public void Failed(Nodes nodes, ulong? only)
    {
        foreach (var (number, node) in nodes)
            if ((only is null || only == number) && node.Kind == NodeKind.File && _safe.GetValueOrDefault(number) != node.Content)
                _lost[number] = node.Content;
    }

    /// <summary>Whether it has a content.</summary>
    public bool Has(ulong number, Blocks content) => _safe.GetValueOrDefault(number) == content;

    /// <summary>
    /// What it has of a file of which it lost a content that counts as written, as long as that one; null: that content is not lost, it is
    /// still to come.
    /// </summary>
    public Blocks? Reveal(ulong number, Blocks content)
    {
        if (!_lost.TryGetValue(number, out var lost) || lost != content) return null;
        _lost.Remove(number);
        return _safe[number] = (_safe.GetValueOrDefault(number) ?? Blocks.Empty).Cut(content.Bytes);
    }

    /// <summary>What is left after a power cut.</summary>
    public Nodes Cut(Nodes now, Random random)
    {
        var left = _named[random.Next(_named.Count)];
        foreach (var (number, node) in left.OrderBy(n => n.Key))
        {
            if (node.Kind != NodeKind.File) continue;
            var safe = _safe.GetValueOrDefault(number) ?? Blocks.Empty;
            var last = now.GetValueOrDefault(number)?.Content ?? node.Content;
            var lost = _lost.TryGetValue(number, out var never) && never == last;
            left = left.SetItem(number, node with { Content = lost ? safe : Torn(safe, last, random) });
        }
        return left;
    }

    private static Blocks Torn(Blocks safe, Blocks last, Random random) => safe == last ? safe : random.Next(4) switch
    {
        0 => last,
        1 => safe,
        // The length is there, and some blocks are not: they read as zeros.
        2 => last with { Written = last.Written.RemoveRange(last.Written.Keys.Where(_ => random.Next(2) == 0)) },
        _ => last.Cut(random.NextInt64(last.Bytes + 1)),
    };
}
