using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Depots;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Days;

/// <summary>
/// What needs somebody now, of one refresh: swaps that stand still or wait, follow-ups that are due, depots that delete too soon. At most
/// 50 swaps and 50 follow-ups.
/// </summary>
internal sealed class DayNeeds(YardDb db, DepotReader depots, FullDepots full, RefreshRow refresh, DateTimeOffset now)
{
    private const int Most = 50;
    private const int FewOfOneCause = 3;
    private readonly RefreshClock _clock = new(refresh);

    private IQueryable<SwapRow> Swaps => db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh.Key && s.CalledOffAt == null);

    /// <summary>Swaps that may need somebody; what each says of itself decides.</summary>
    public async Task<List<SwapRow>> RowsAsync(CancellationToken cancel)
    {
        // Each reason is asked for where the few that have it are found without passing over all swaps: what has waited longest first.
        List<SwapRow> rows =
        [
            .. await SwapsAsync(
                db.Snags.AsNoTracking()
                    .Where(n => n.Refresh == refresh.Key && n.End == "open")
                    .GroupBy(n => n.Swap)
                    .OrderBy(g => g.Min(n => n.At))
                    .Select(g => g.Key),
                4 * Most,
                cancel),
            .. await SwapsAsync(
                OrderStates.OpenFailures(db).AsNoTracking()
                    .Where(o => o.Refresh == refresh.Key)
                    .OrderBy(o => o.MadeAt)
                    .Select(o => o.Swap),
                4 * Most,
                cancel),
            // Whose hand is silent, rests because somebody wished it, or was never there.
            .. await SwapsAsync(
                db.Orders.AsNoTracking()
                    .Where(o => o.Refresh == refresh.Key
                        && ((o.State == OrderStates.UnderWay && (o.LeaseUntil < now || o.PausedAt != null))
                            || (o.State == OrderStates.Waiting
                                && o.Tag != HandsAt.Service
                                && !db.Hands.Any(h => h.Refresh == o.Refresh && h.Tag == o.Tag && h.ReplacedAt == null))))
                    .OrderBy(o => o.MadeAt)
                    .Select(o => o.Swap),
                4 * Most,
                cancel),
            .. await Swaps.Where(s => s.LeftOutBecause != null).OrderBy(s => s.Id).Take(4 * Most).ToListAsync(cancel),
            .. await Swaps.Where(s => s.RestoredAt != null && s.AcceptedAt == null)
                .OrderBy(s => s.RestoredAt)
                .Take(4 * Most)
                .ToListAsync(cancel),
            .. await Swaps.Where(s => s.End < now && s.SwappedAt == null && s.AcceptedAt == null)
                .OrderBy(s => s.End)
                .Take(4 * Most)
                .ToListAsync(cancel),
        ];
        return [.. rows.DistinctBy(s => s.Id)];
    }

    /// <summary>What they need, the most urgent first.</summary>
    /// <param name="rows">Those of <see cref="RowsAsync"/>.</param>
    /// <param name="all">What each says of itself, by its id.</param>
    public async Task<List<NeedSeen>> ReadAsync(
        IEnumerable<SwapRow> rows, IReadOnlyDictionary<string, SwapListed> all, CancellationToken cancel) =>
    [
        .. await DepotsAsync(cancel),
        .. await FullDepotsAsync(cancel),
        .. await AwayAsync(cancel),
        .. await FollowUpsAsync(cancel),
        .. rows.Select(s => all[s.Id])
            .Where(s => s.Sign.Sign is "wants" or "stopped")
            .OrderBy(s => s.Sign.Sign == "stopped" ? 0 : 1)
            .ThenBy(s => s.Sign.Since ?? now)
            .Take(Most)
            .Select(Of),
    ];

    /// <summary>The first of some swaps, in the order of their appointments.</summary>
    public async Task<List<SwapRow>> SwapsAsync(IQueryable<string> ids, int most, CancellationToken cancel)
    {
        var few = await ids.Take(most).ToListAsync(cancel);
        return few.Count == 0 ? [] : await Swaps.Where(s => few.Contains(s.Id)).OrderBy(s => s.Start).ThenBy(s => s.Id).ToListAsync(cancel);
    }

    /// <summary>Visits, and what prepares them, whose technician is away when they are wanted.</summary>
    private async Task<List<NeedSeen>> AwayAsync(CancellationToken cancel)
    {
        var crew = await Crew.ReadAsync(db, [refresh.Key], cancel);
        var needs = new List<(DateTimeOffset At, Crew.Member Who, NeedSeen Need)>();
        foreach (var who in crew.AwayAfter(refresh.Key, now))
            foreach (var away in who.Away.Where(a => a.Until > now))
            {
                void Add(SwapRow s, DateTimeOffset at, string what) => needs.Add((at, who, new(
                    s.Id, s.Name, "wants",
                    $"{what}{_clock.Local(at):ddd d MMM HH:mm} with {who.Name}, who is away then: hand it over or plan it anew",
                    at < now ? at : now, "open", "Hand it over")));
                foreach (var visit in await Swaps.Where(s => s.Technician == who.Key && s.AcceptedAt == null
                        && s.End > now && s.Start < away.Until && s.End > away.From)
                    .OrderBy(s => s.Start).Take(Most).ToListAsync(cancel))
                    if (crew.IsAwayFrom(visit)) Add(visit, visit.Start!.Value, "");
                foreach (var bench in await Swaps.Where(s => s.BenchTechnician == who.Key && s.SwappedAt == null
                        && s.BenchStart > now && s.BenchStart < away.Until && s.BenchHandsOnUntil > away.From)
                    .OrderBy(s => s.BenchStart).Take(Most).ToListAsync(cancel))
                    Add(bench, bench.BenchStart!.Value, "Bench preparation, ");
            }
        // Many of one absence are one cause, and one need.
        return [.. needs.OrderBy(n => n.At)
            .DistinctBy(n => (n.Need.Swap, n.Need.Words))
            .GroupBy(n => (n.Who.Key, _clock.DayOf(n.At)))
            .SelectMany(g => g.Count() < FewOfOneCause ? g.Select(n => n.Need) : [Together([.. g])])
            .Take(Most)];

        NeedSeen Together(List<(DateTimeOffset At, Crew.Member Who, NeedSeen Need)> all) => new(
            "",
            all[0].Who.Name,
            "wants",
            $"Away on {_clock.Local(all[0].At):ddd d MMM}, with {all.Count} visits, the first at {_clock.Local(all[0].At):HH:mm}, "
                + $"{all[0].Need.Name}: hand the day over, or plan again",
            all.Min(n => n.Need.Since),
            "plan",
            "See the plan");
    }

    /// <summary>Follow-ups that are due by the end of the day.</summary>
    private async Task<List<NeedSeen>> FollowUpsAsync(CancellationToken cancel)
    {
        var until = _clock.StartOf(_clock.DayOf(now).AddDays(1));
        var due = await db.FollowUps.AsNoTracking()
            .Where(f => f.Refresh == refresh.Key && f.DoneAt == null && f.Due <= until)
            .OrderBy(f => f.Due)
            .Take(Most)
            .Select(f => new
            {
                f.Swap,
                Name = db.Swaps.Where(s => s.Id == f.Swap).Select(s => s.Name).FirstOrDefault(),
                Owner = db.Accounts.Where(a => a.Name == f.Owner).Select(a => a.Shown).FirstOrDefault(),
                f.Words,
                f.Due,
                f.MadeAt
            })
                .ToListAsync(cancel);
        return due.ConvertAll(f => new NeedSeen(
            f.Swap,
            f.Name ?? f.Swap,
            "wants",
            $"{f.Words.TrimEnd('.')}. {(f.Due < now ? "Overdue" : "Due today")}, for {f.Owner}",
            f.MadeAt,
            "open",
            "Open swap"));
    }

    /// <summary>Depots that delete by themselves before what lies in them is safe.</summary>
    private async Task<List<NeedSeen>> DepotsAsync(CancellationToken cancel)
    {
        var (today, needs) = (_clock.DayOf(now), new List<NeedSeen>());
        SwapKind[] restores = [.. Enum.GetValues<SwapKind>().Where(k => k.Restores())];
        foreach (var depot in await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == refresh.Key && d.EndsOn != null)
            .OrderBy(d => d.EndsOn)
            .ToListAsync(cancel))
        {
            var ends = depot.EndsOn!.Value;
            if (ends.DayNumber - today.DayNumber > Core.Carrying.Hold.AlarmDays) continue;
            var there = db.Swaps.AsNoTracking().Where(s =>
                s.Refresh == refresh.Key && s.Depot == depot.Key && (s.Trips > 0 || s.ParcelId != null) && s.PurgedAt == null);
            var waiting = await there.CountAsync(s => s.RestoredAt == null && restores.Contains(s.Kind), cancel);
            var safe = _clock.StartOf(ends.AddDays(1 - depot.HoldDays));
            var held = await there.CountAsync(
                s => !(s.RestoredAt == null && restores.Contains(s.Kind)) && !db.SignOffs.Any(o => o.Swap == s.Id && o.At < safe), cancel);
            if (waiting + held > 0)
                needs.Add(new(
                    "",
                    depot.Name,
                    waiting > 0 ? "stopped" : "wants",
                    $"It deletes by itself on {ends:yyyy-MM-dd}: {(waiting > 0 ? $"{Parcels(waiting)} not restored" : "")}"
                        + $"{(waiting > 0 && held > 0 ? ", and " : "")}{(held > 0 ? $"{Parcels(held)} to be held longer" : "")}",
                    now,
                    "depot",
                    "See depots"));
        }
        return needs;

        static string Parcels(int count) => count == 1 ? "1 parcel is" : $"{count:#,0} parcels are";
    }

    /// <summary>Depots into which what was promised does not fit, or hardly, with what can be done.</summary>
    private async Task<List<NeedSeen>> FullDepotsAsync(CancellationToken cancel)
    {
        if (db.IsNarrow) return [];
        var rows = await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh.Key).OrderBy(d => d.Key).ToListAsync(cancel);
        if (rows.Count == 0) return [];
        var sums = await full.SumsAsync(db, refresh.Key, cancel);
        var all = rows.ConvertAll(d => (Row: d, Sum: sums.GetValueOrDefault(d.Key) ?? DepotSums.None))
            .ConvertAll(d => (d.Row, d.Sum, Fill: depots.FillOf(d.Row, d.Sum)));
        return [.. all.Where(d => d.Fill.State is DepotFillState.Full or DepotFillState.SoonFull).Select(d => new NeedSeen(
            "",
            d.Row.Name,
            d.Fill.State == DepotFillState.Full && d.Sum.PromisedBytes > 0 ? "stopped" : "wants",
            Words(d.Fill, d.Sum, [.. all.Where(o => o.Fill.State == DepotFillState.Roomy).Select(o => o.Row.Name)]),
            now,
            "depot",
            "See depots"))];

        static string Words(DepotFill fill, DepotSums sum, List<string> roomy)
        {
            var way = new List<string>();
            if (sum.OverParcels > 0)
                way.Add($"purge what is over ({ByteText.Of(sum.OverBytes)} of {sum.OverParcels:#,0}), once its hold has ended");
            if (roomy.Count > 0) way.Add($"let swaps that are not staged yet use {string.Join(" or ", roomy)}");
            way.Add("carry what is needed first, and the rest later");
            return $"{(fill.State == DepotFillState.Full ? "Full" : "Soon full")}: {ByteText.Of(fill.FreeBytes ?? 0)} free, "
                + $"{ByteText.Of(sum.PromisedBytes)} promised. You can {string.Join("; ", way)}";
        }
    }

    private NeedSeen Of(SwapListed s)
    {
        var (action, words) = s.Sign.Sign == "stopped"
            ? ("open", "See why")
            : s.OpenSnags > 0
            ? ("open", "Show files")
            : s.Line.Any(l => l is { Station: Core.Swaps.Station.Restored, At: not null })
            ? ("open", "Work checklist")
            : ("open", "Open swap");
        return new(s.Id, s.Name, s.Sign.Sign, s.Sign.Words, s.Sign.Since ?? now, action, words);
    }
}
