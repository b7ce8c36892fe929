using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Days;

/// <summary>
/// What needs somebody now, of one refresh: swaps that stand still or wait, follow-ups that are due, depots that delete too soon. At most
/// 50 swaps and 50 follow-ups.
/// </summary>
internal sealed class DayNeeds(YardDb db, RefreshRow refresh, DateTimeOffset now)
{
    private const int Most = 50;
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
                db.Orders.AsNoTracking()
                    .Where(o => o.Refresh == refresh.Key)
                    .Where(o => (o.State == OrderStates.Failed && !db.Orders.Any(later => later.Swap == o.Swap && later.MadeAt > o.MadeAt))
                        || (o.State == OrderStates.UnderWay && o.LeaseUntil < now))
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
