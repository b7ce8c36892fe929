using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Worlds;

/// <summary>Groups of people that want to be near each other in time, as they are seen.</summary>
internal static class GroupReader
{
    /// <summary>All groups of a refresh, by name.</summary>
    public static async Task<List<GroupSeen>> ReadGroupsAsync(YardDb db, string refresh, CancellationToken cancel)
    {
        var rows = await db.Groups.AsNoTracking()
            .Where(g => g.Refresh == refresh)
            .OrderBy(g => g.Name)
            .ThenBy(g => g.Key)
            .ToListAsync(cancel);
        var ids = rows.SelectMany(g => g.Swaps).Distinct().ToList();
        var names = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && ids.Contains(s.Id))
            .ToDictionaryAsync(s => s.Id, s => s.Name, cancel);
        // Who sees some sites only sees of a group who is there.
        if (db.IsNarrow)
            foreach (var group in rows) group.Swaps = group.Swaps.FindAll(names.ContainsKey);
        return rows.FindAll(g => g.Swaps.Count > 0).ConvertAll(g => Seen(g, names));
    }

    internal static GroupSeen Seen(GroupRow g, IReadOnlyDictionary<string, string> names) =>
        new(g.Key, g.Name, g.Swaps, [.. g.Swaps.Select(s => names.GetValueOrDefault(s, s))], g.AtOnce, g.OneDay);
}
