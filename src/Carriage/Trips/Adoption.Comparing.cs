using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <content>The copy set against the old computer.</content>
public sealed partial class Adoption
{
    private sealed class Sum
    {
        public Amount There, Differs, Missing, Extra;
    }

    /// <summary>Sets the copy against the old computer by names and lengths. Contents are proven by the next trip.</summary>
    private async Task<(List<FolderAdopted>, List<TooDeep>)> CompareAsync(TreeRoot against, CancellationToken cancel)
    {
        // One number for each file keeps a large copy small in memory.
        var (copy, tops) = (new Dictionary<string, long>(StringComparer.Ordinal), new HashSet<string>(StringComparer.Ordinal));
        using (var entries = await EntryReader.OpenAsync(depot, _paths, ParcelPaths.Entries, null, cancel))
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                if (entry.Kind == EntryKind.File) copy[entry.Path.Text] = entry.Bytes;
                else if (!entry.Path.IsRoot && !entry.Path.Text.Contains('/', StringComparison.Ordinal)) tops.Add(entry.Path.Text);
            }
        var (sums, deep) = (new PerFolder<Sum>(), new SortedDictionary<string, Amount>(StringComparer.Ordinal));
        foreach (var item in new TreeReader(against, NameRule.Plain).Walk(cancel))
        {
            if (item.Facts is not { Kind: NodeKind.File } facts) continue;
            var sum = sums.Of(item.Stored.Text);
            if (copy.Remove(item.Stored.Text, out var bytes))
            {
                if (bytes == facts.Bytes) sum.There += Amount.File(bytes);
                else sum.Differs += Amount.File(facts.Bytes);
                continue;
            }
            sum.Missing += Amount.File(facts.Bytes);
            foreach (var top in tops)
                if (copy.TryGetValue($"{top}/{item.Stored.Text}", out var below) && below == facts.Bytes)
                    deep[top] = deep.GetValueOrDefault(top) + Amount.File(below);
        }
        foreach (var (path, bytes) in copy) sums.Of(path).Extra += Amount.File(bytes);
        return (
            [.. sums.All.Select(f => new FolderAdopted(f.Key, f.Value.There, f.Value.Differs, f.Value.Missing, f.Value.Extra))],
            [.. deep.Select(d => new TooDeep(d.Key, d.Value))]);
    }
}
