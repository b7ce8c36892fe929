using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Worlds;

/// <summary>What a plan has to go by, as people see it.</summary>
internal static class WorldView
{
    public static ClosureSeen Seen(ClosureRow c) => new(c.Key, c.Name, c.Site, c.At);

    public static DeliverySeen Seen(DeliveryRow d) => new(d.Key, d.Name, d.Arrives, d.Tags);

    public static WaveSeen Seen(WaveRow v, int swaps) => new(v.Key, v.Name, v.From, v.Until, swaps);

    public static async Task<List<WaveSeen>> ReadWavesAsync(YardDb db, string refresh, CancellationToken cancel)
    {
        var counts = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && s.Wave != null)
            .GroupBy(s => s.Wave!)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        return (await db.Waves.AsNoTracking().Where(v => v.Refresh == refresh).OrderBy(v => v.From).ThenBy(v => v.Key).ToListAsync(cancel))
            .ConvertAll(v => Seen(v, counts.GetValueOrDefault(v.Key)));
    }

    public static EstimateRuleSeen Seen(EstimateRow r) =>
        new(r.Scope, r.Of, r.BeforeMinutes, r.UnattendedMinutes, r.AfterMinutes, WorldReader.RuleOf(r).Preparation);

    public static RoomSeen RoomOf(string text) =>
        new(text[..text.LastIndexOf(':')], int.Parse(text[(text.LastIndexOf(':') + 1)..], CultureInfo.InvariantCulture));

    public static SiteSeen Seen(SiteRow s) =>
        new(
            s.Key,
            s.Name,
            s.Rooms.Count > 0 ? s.Rooms.Sum(r => RoomOf(r).Benches) : s.Benches,
            [.. s.Rooms.Select(RoomOf)],
            s.Opens,
            s.Limits);

    public static WaySeen Seen(WayRow w) => new(w.From, w.To, w.Minutes);

    public static TechnicianSeen Seen(TechnicianRow t) => new(t.Key, t.Name, t.Sites, t.Shifts, t.Skills, t.Absences);
}
