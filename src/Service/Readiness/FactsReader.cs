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
    private FactsReader()
    {
    }

    public required NoticeOutlook Notices { get; init; }
    public required IReadOnlyDictionary<string, PersonRow> People { get; init; }
    public required Crew Crew { get; init; }
    public required IReadOnlyDictionary<string, HandRow> Hands { get; init; }
    public required IReadOnlyDictionary<string, VisitFacts.Batch> Batches { get; init; }
    public required List<SpareRow> Spares { get; init; }

    /// <summary>Swaps whose first trip is under way.</summary>
    public required HashSet<string> Carrying { get; init; }
    public required IReadOnlyDictionary<string, IReadOnlyList<StepNow>> Steps { get; init; }

    /// <summary>The depot of whoever has none of their own; null: there is none.</summary>
    public required string? FirstDepot { get; init; }
    public required bool CanSend { get; init; }
    public required DateTimeOffset Now { get; init; }

    /// <param name="canSend">Whether the service has a mail server.</param>
    public static async Task<FactsReader> ReadAsync(
        YardDb db, RefreshRow refresh, List<SwapRow> rows, bool canSend, DateTimeOffset now, CancellationToken cancel)
    {
        var (key, ids) = (refresh.Key, rows.ConvertAll(s => s.Id));
        var people = rows.Select(s => s.Person).Distinct().ToList();
        var tags = rows.Select(s => s.OldTag).OfType<string>().Distinct().ToList();
        var clock = new RefreshClock(refresh);
        var persons = await db.People.AsNoTracking()
            .Where(p => p.Refresh == key && people.Contains(p.Key))
            .ToDictionaryAsync(p => p.Key, cancel);
        var deliveries = await db.Deliveries.AsNoTracking().Where(d => d.Refresh == key).ToListAsync(cancel);
        var carrying = await db.Orders.AsNoTracking()
            .Where(o => ids.Contains(o.Swap) && o.State == OrderStates.UnderWay && o.Kind == OrderNames.FirstTrip)
            .Select(o => o.Swap)
            .ToListAsync(cancel);
        return new()
        {
            Notices = await NoticeOutlook.ReadAsync(db, refresh, cancel, ids),
            People = persons,
            Crew = await Crew.ReadAsync(db, [key], cancel),
            Hands = (await db.Hands.AsNoTracking()
                .Where(h => h.Refresh == key && h.ReplacedAt == null && tags.Contains(h.Tag))
                .ToListAsync(cancel))
                .GroupBy(h => h.Tag)
                .ToDictionary(g => g.Key, g => g.MaxBy(h => h.EnrolledAt)!),
            Batches = deliveries.SelectMany(d => d.Tags.Select(t => (Tag: t, Batch: new VisitFacts.Batch(
                    d.Name, clock.At(DateTime.ParseExact(d.Arrives, "yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture))))))
                .GroupBy(d => d.Tag)
                .ToDictionary(g => g.Key, g => g.First().Batch),
            Spares = await db.Spares.AsNoTracking()
                .Where(s => s.Refresh == key && s.Trouble == null)
                .OrderBy(s => s.Key)
                .ToListAsync(cancel),
            Carrying = [.. carrying],
            Steps = await StepsBefore.ReadAsync(db, key, rows, persons, cancel),
            FirstDepot = await db.Depots.AsNoTracking()
                .Where(d => d.Refresh == key)
                .OrderBy(d => d.Key)
                .Select(d => d.Key)
                .FirstOrDefaultAsync(cancel),
            CanSend = canSend,
            Now = now,
        };
    }

    /// <summary>What a swap's technician is called; null: nobody does it yet.</summary>
    public string? TechnicianOf(SwapRow s) => s.Technician is { } key ? Crew.NameOf(s.Refresh, key) : null;

    /// <summary>When the last mail goes that tells one of these their time; null: none is to go.</summary>
    public DateTimeOffset? ToldUntil(IEnumerable<SwapRow> rows) => rows
        .Select(s => Notices.NextOf(s, People.GetValueOrDefault(s.Person), CanSend, Now))
        .Where(n => n is { Moment: "booked" or "moved", Due: not null })
        .Max(n => n!.Due);

    /// <param name="seen">The same swap as it is listed.</param>
    /// <param name="full">Depots that are full: name by key.</param>
    public VisitFacts Of(SwapRow s, SwapListed seen, IReadOnlyDictionary<string, string> full)
    {
        var person = People.GetValueOrDefault(s.Person);
        var hand = s.OldTag is { } tag ? Hands.GetValueOrDefault(tag) : null;
        var depot = s.Depot ?? FirstDepot;
        return new(s.Kind, s.Start)
        {
            IsBegun = SwapFacts.IsUnderWay(s),
            LeftOutBecause = s.LeftOutBecause,
            Failure = seen.Sign.Sign == "stopped" ? seen.Sign.Words : null,
            UntoldBecause = s.Kind == SwapKind.Leave ? null : Notices.UntoldBecause(s, person, CanSend, Now),
            Mail = person?.Mail,
            AwayTechnician = Crew.IsAwayFrom(s) ? TechnicianOf(s) : null,
            OldTag = s.OldDiedAt is null ? s.OldTag : null,
            NewTag = s.NewTag,
            Delivery = s.NewTag is { } isNew ? Batches.GetValueOrDefault(isNew) : null,
            Spare = Spares.Find(p => p.Site == s.Site && (s.NewModel is null || p.Model == s.NewModel))?.Key,
            HasHand = hand is not null,
            HandHeardAt = hand?.SeenAt ?? hand?.EnrolledAt,
            IsSurveyed = s.SurveyedAt is not null,
            IsStaging = SwapFacts.HasParcel(s) || Carrying.Contains(s.Id),
            HasDepot = depot is not null,
            FullDepot = depot is null ? null : full.GetValueOrDefault(depot),
            OpenSnags = seen.OpenSnags,
            HasPreparationAhead = s.BenchStart > Now && s.BenchStart < s.Start,
            Steps = Steps[s.Id],
        };
    }
}
