using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;

namespace YardRelay.Service.Facts;

/// <summary>The technicians of some refreshes: what they are called, and when they are away. The home of "is somebody away then".</summary>
internal sealed class Crew
{
    private readonly Dictionary<(string Refresh, string Key), Member> _members;

    private Crew(Dictionary<(string, string), Member> members) => _members = members;

    /// <summary>A stretch of time, <c>[From, Until)</c>.</summary>
    public readonly record struct Stretch(DateTimeOffset From, DateTimeOffset Until);

    /// <summary>A technician.</summary>
    public sealed record Member(string Key, string Name, IReadOnlyList<Stretch> Away);

    public static async Task<Crew> ReadAsync(YardDb db, IReadOnlyList<string> refreshes, CancellationToken cancel)
    {
        var rows = await db.Technicians.AsNoTracking()
            .Where(t => refreshes.Contains(t.Refresh))
            .Select(t => new { t.Refresh, t.Key, t.Name, t.Absences })
            .ToListAsync(cancel);
        var absent = rows.Where(t => t.Absences.Count > 0).Select(t => t.Refresh).ToHashSet();
        var zones = absent.Count == 0
            ? []
            : await db.Refreshes.AsNoTracking().Where(r => absent.Contains(r.Key)).ToDictionaryAsync(r => r.Key, cancel);
        return new(rows.ToDictionary(
            t => (t.Refresh, t.Key),
            t => new Member(
                t.Key, t.Name, t.Absences.Count == 0 ? [] : [.. t.Absences.Select(a => StretchOf(a, zones[t.Refresh]))])));
    }

    private static Stretch StretchOf(string absence, RefreshRow refresh)
    {
        var (clock, minutes) = (new RefreshClock(refresh), LocalSpan.Parse(absence).Value.Since(refresh.Starts));
        return new(clock.At(minutes.Start), clock.At(minutes.End));
    }

    /// <summary>What a technician is called; their key where the refresh has them no more.</summary>
    public string NameOf(string refresh, string key) => _members.GetValueOrDefault((refresh, key))?.Name ?? key;

    /// <summary>Those of a refresh who are away at some time after a moment.</summary>
    public IEnumerable<Member> AwayAfter(string refresh, DateTimeOffset now) =>
        _members.Where(m => m.Key.Refresh == refresh && m.Value.Away.Any(a => a.Until > now)).Select(m => m.Value);

    /// <summary>Who is away when between two moments, cut to them.</summary>
    public IReadOnlyList<AwaySeen> AwayBetween(string refresh, DateTimeOffset from, DateTimeOffset until) =>
    [
        .. _members.Where(m => m.Key.Refresh == refresh)
            .SelectMany(m => m.Value.Away
                .Where(a => a.From < until && from < a.Until)
                .Select(a => new AwaySeen(
                    m.Value.Key, m.Value.Name, a.From < from ? from : a.From, a.Until > until ? until : a.Until)))
            .OrderBy(a => a.From)
            .ThenBy(a => a.Name, StringComparer.Ordinal),
    ];

    /// <summary>Whether a technician is away while their hands are wanted at an appointment.</summary>
    public bool IsAwayFrom(SwapRow s) =>
        s is { Technician: { } who, Start: { } start, HandsOnUntil: { } until, Finish: { } finish, End: { } end }
        && s.AcceptedAt is null
        && IsAway(s.Refresh, who, new(start, until), new(finish, end));

    /// <summary>Whether a technician is away during one of these.</summary>
    public bool IsAway(string refresh, string key, params Stretch[] handsOn) =>
        _members.GetValueOrDefault((refresh, key)) is { } member
        && member.Away.Any(a => handsOn.Any(h => h.From < a.Until && a.From < h.Until));
}
