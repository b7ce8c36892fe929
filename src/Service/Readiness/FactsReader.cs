using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Checklists;
using YardRelay.Core.Orders;
using YardRelay.Core.Readiness;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Notices;

namespace YardRelay.Service.Readiness;

/// <summary>What is known of the preparation of some visits of a refresh, read for all of them together.</summary>
internal sealed class FactsReader
{
    private readonly NoticeOutlook _notices;
    private readonly IReadOnlyDictionary<string, PersonRow> _people;
    private readonly Crew _crew;
    private readonly IReadOnlyDictionary<string, HandRow> _hands;
    private readonly IReadOnlyDictionary<string, VisitFacts.Batch> _batches;
    private readonly List<SpareRow> _spares;
    private readonly HashSet<string> _carrying;
    private readonly string? _firstDepot;
    private readonly bool _canSend;
    private readonly DateTimeOffset _now;

    private FactsReader(
        NoticeOutlook notices, IReadOnlyDictionary<string, PersonRow> people, Crew crew, IReadOnlyDictionary<string, HandRow> hands,
        IReadOnlyDictionary<string, VisitFacts.Batch> batches, List<SpareRow> spares, HashSet<string> carrying, string? firstDepot,
        bool canSend, DateTimeOffset now)
    {
        (_notices, _people, _crew, _hands, _batches) = (notices, people, crew, hands, batches);
        (_spares, _carrying, _firstDepot, _canSend, _now) = (spares, carrying, firstDepot, canSend, now);
    }

    /// <param name="canSend">Whether the service has a mail server.</param>
    public static async Task<FactsReader> ReadAsync(
        YardDb db, RefreshRow refresh, List<SwapRow> rows, bool canSend, DateTimeOffset now, CancellationToken cancel)
    {
        var (key, ids) = (refresh.Key, rows.ConvertAll(s => s.Id));
        var people = rows.Select(s => s.Person).Distinct().ToList();
        var tags = rows.Select(s => s.OldTag).OfType<string>().Distinct().ToList();
        var clock = new RefreshClock(refresh);
        var deliveries = await db.Deliveries.AsNoTracking().Where(d => d.Refresh == key).ToListAsync(cancel);
        var carrying = await db.Orders.AsNoTracking()
            .Where(o => ids.Contains(o.Swap) && o.State == OrderStates.UnderWay && o.Kind == OrderNames.FirstTrip)
            .Select(o => o.Swap)
            .ToListAsync(cancel);
        return new(
            await NoticeOutlook.ReadAsync(db, refresh, cancel, ids),
            await db.People.AsNoTracking().Where(p => p.Refresh == key && people.Contains(p.Key)).ToDictionaryAsync(p => p.Key, cancel),
            await Crew.ReadAsync(db, [key], cancel),
            (await db.Hands.AsNoTracking()
                .Where(h => h.Refresh == key && h.ReplacedAt == null && tags.Contains(h.Tag))
                .ToListAsync(cancel))
                .GroupBy(h => h.Tag)
                .ToDictionary(g => g.Key, g => g.MaxBy(h => h.EnrolledAt)!),
            deliveries.SelectMany(d => d.Tags.Select(t => (Tag: t, Batch: new VisitFacts.Batch(
                    d.Name, clock.At(DateTime.ParseExact(d.Arrives, "yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture))))))
                .GroupBy(d => d.Tag)
                .ToDictionary(g => g.Key, g => g.First().Batch),
            await db.Spares.AsNoTracking().Where(s => s.Refresh == key && s.Trouble == null).OrderBy(s => s.Key).ToListAsync(cancel),
            [.. carrying],
            await db.Depots.AsNoTracking().Where(d => d.Refresh == key).OrderBy(d => d.Key).Select(d => d.Key).FirstOrDefaultAsync(cancel),
            canSend,
            now);
    }

    /// <summary>What a swap's technician is called; null: nobody does it yet.</summary>
    public string? TechnicianOf(SwapRow s) => s.Technician is { } key ? _crew.NameOf(s.Refresh, key) : null;

    /// <summary>When the last mail goes that tells one of these their time; null: none is to go.</summary>
    public DateTimeOffset? ToldUntil(IEnumerable<SwapRow> rows) => rows
        .Select(s => _notices.NextOf(s, _people.GetValueOrDefault(s.Person), _canSend, _now))
        .Where(n => n is { Moment: "booked" or "moved", Due: not null })
        .Max(n => n!.Due);

    /// <param name="seen">The same swap as it is listed.</param>
    /// <param name="full">Depots that are full: name by key.</param>
    public VisitFacts Of(SwapRow s, SwapListed seen, IReadOnlyList<StepNow> steps, IReadOnlyDictionary<string, string> full)
    {
        var person = _people.GetValueOrDefault(s.Person);
        var hand = s.OldTag is { } tag ? _hands.GetValueOrDefault(tag) : null;
        var depot = s.Depot ?? _firstDepot;
        return new(s.Kind, s.Start)
        {
            IsBegun = SwapFacts.IsUnderWay(s),
            LeftOutBecause = s.LeftOutBecause,
            Failure = seen.Sign.Sign == "stopped" ? seen.Sign.Words : null,
            UntoldBecause = s.Kind == SwapKind.Leave ? null : _notices.UntoldBecause(s, person, _canSend, _now),
            Reach = Reach(s, person),
            AwayTechnician = _crew.IsAwayFrom(s) ? TechnicianOf(s) : null,
            OldTag = s.OldDiedAt is null ? s.OldTag : null,
            NewTag = s.NewTag,
            Delivery = s.NewTag is { } isNew ? _batches.GetValueOrDefault(isNew) : null,
            Spare = _spares.Find(p => p.Site == s.Site && (s.NewModel is null || p.Model == s.NewModel))?.Key,
            HasHand = hand is not null,
            HandHeardAt = hand?.SeenAt ?? hand?.EnrolledAt,
            IsSurveyed = s.SurveyedAt is not null,
            IsStaging = SwapFacts.HasParcel(s) || _carrying.Contains(s.Id),
            HasDepot = depot is not null,
            FullDepot = depot is null ? null : full.GetValueOrDefault(depot),
            OpenSnags = seen.OpenSnags,
            HasPreparationAhead = s.BenchStart > _now && s.BenchStart < s.Start,
            Steps = steps,
        };
    }

    private static string? Reach(SwapRow s, PersonRow? person) =>
        string.Join(", ", new[] { s.Room, person?.Mail }.OfType<string>()) is { Length: > 0 } text ? text : null;
}
