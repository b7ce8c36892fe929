using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Detours;
using YardRelay.Service.Facts;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Parcels;

namespace YardRelay.Service.Swaps;

/// <summary>Reads swaps as people see them.</summary>
internal sealed class SwapReader(YardDb db, TimeProvider time)
{
    private const int MostSnags = 500;

    private static AppointmentSeen? AppointmentOf(SwapRow s, IReadOnlyDictionary<(string, string), string> names) =>
        s is { Start: { } start, HandsOnUntil: { } until, Finish: { } finish, End: { } end, Technician: { } technician }
            ? new(
                s.Id, s.Name, s.Site, s.Room, technician, names.GetValueOrDefault((s.Refresh, technician), technician), start, until,
                finish, end, IsPinned: s.PinnedStart is not null || s.PinnedTechnician is not null)
            : null;

    /// <summary>Rows as list items: three more queries for all of them together.</summary>
    public async Task<List<SwapListed>> ListAsync(IReadOnlyList<SwapRow> swaps, CancellationToken cancel)
    {
        var ids = swaps.Select(s => s.Id).ToList();
        var snags = await db.Snags.AsNoTracking()
            .Where(n => ids.Contains(n.Swap) && n.End == "open")
            .GroupBy(n => n.Swap)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Since = g.Min(n => n.At),
                Path = g.Min(n => n.Path),
                Reason = g.Min(n => n.Reason)
            })
            .ToDictionaryAsync(g => g.Key, cancel);
        var files = await SnagNames.ReadAsync(db, [.. snags.Where(n => n.Value.Count == 1).Select(n => n.Key)], cancel);
        var orders = (await db.Orders.AsNoTracking()
            .Where(o => ids.Contains(o.Swap)
                && (o.State == OrderStates.Waiting
                    || o.State == OrderStates.UnderWay
                    || (o.State == OrderStates.Failed && !db.Orders.Any(l => l.Swap == o.Swap && l.MadeAt > o.MadeAt))))
            .ToListAsync(cancel))
            .ToLookup(o => o.Swap);
        var refreshes = swaps.Select(s => s.Refresh).Distinct().ToList();
        var names = (await db.Technicians.AsNoTracking()
            .Where(t => refreshes.Contains(t.Refresh))
            .Select(t => new { t.Refresh, t.Key, t.Name })
            .ToListAsync(cancel))
            .ToDictionary(t => (t.Refresh, t.Key), t => t.Name);
        var now = time.GetUtcNow();
        return [.. swaps.Select(s =>
        {
            var open = snags.TryGetValue(s.Id, out var found) ? found.Count : 0;
            var mine = orders[s.Id].OrderByDescending(o => o.MadeAt).ToList();
            var moving = mine.FirstOrDefault(o => o.State == OrderStates.UnderWay);
            return new SwapListed(
                s.Id, s.Person, s.Name, s.Site, s.Room, s.Kind, s.OldTag, s.NewTag, LineOf(s),
                s.CalledOffAt is null ? s.Next : SwapLine.Next(SwapLine.Of(s.Kind, SwapFacts.Reached(s))),
                SignOf(
                    s,
                    mine,
                    open,
                    found is { Count: 1 } one ? $"{LastOf(files.Of(s.Id, one.Path!))}: {one.Reason}" : null,
                    found?.Since,
                    now),
                moving is null
                    ? null
                    : new(
                        moving.Id, moving.Kind, moving.Files, moving.TotalFiles, moving.Bytes, moving.TotalBytes, moving.BytesPerSecond,
                        moving.TakenAt ?? moving.MadeAt, moving.HeardAt, moving.Beside, moving.PausedAt, moving.Waits),
                AppointmentOf(s, names), open, mine.Any(o => o.State is OrderStates.Waiting or OrderStates.UnderWay));
        })];
    }

    private static IReadOnlyList<StopSeen> LineOf(SwapRow s) =>
    [
        .. SwapLine.Of(s.Kind, SwapFacts.Reached(s)).Select(stop => new StopSeen(stop.Station, stop.At, stop.At is not null
            ? null
            : stop.Station switch
        {
            Station.Staged or Station.Swapped => s.Start,
            Station.Restored => s.Finish,
            Station.Accepted => s.End,
            _ => null,
        })),
    ];

    private static SignSeen SignOf(
        SwapRow s, List<OrderRow> orders, int openSnags, string? oneSnag, DateTimeOffset? snagSince, DateTimeOffset now)
    {
        if (s.CalledOffAt is { } off) return new("off", $"Called off: {s.CalledOffBecause}", off);
        if (SwapFacts.IsOver(s)) return new("done", "Done", s.HandedInAt ?? s.AcceptedAt);
        // A failure counts until a later order of any kind stands.
        if (orders.FirstOrDefault() is { State: OrderStates.Failed } failed)
            return new("stopped", $"{Order.WordsOf(failed.Kind)} failed: {failed.Words}", failed.EndedAt);
        if (openSnags > 0) return new("wants", openSnags == 1 ? oneSnag! : $"{openSnags} snags: retry or waive each", snagSince);
        if (orders.FirstOrDefault(o => o.State == OrderStates.UnderWay) is { } moving)
            return moving.LeaseUntil < now
                ? new("wants", $"{Order.WordsOf(moving.Kind)}: nothing heard from the hand at {moving.Tag}", moving.HeardAt)
                : new(
                    "moving",
                    moving.Kind == OrderNames.Restore && s.UrgentReadyAt is not null
                        ? "Restore: what is needed first is there"
                        : Order.WordsOf(moving.Kind),
                    moving.TakenAt);
        if (orders.FirstOrDefault(o => o.State == OrderStates.Waiting) is { } waiting)
            return new("ahead", $"{Order.WordsOf(waiting.Kind)} waits for the hand at {waiting.Tag}", waiting.MadeAt);
        if (s.LeftOutBecause is { } because) return new("wants", $"No appointment. {because}", null);
        if (s.Start < now && s.SwappedAt is null && s.End < now) return new("wants", "Its time has passed and nothing was swapped", s.End);
        if (s.RestoredAt is not null && s.AcceptedAt is null) return new("wants", "Restored: the person can look now", s.RestoredAt);
        return new("ahead", s.Next == 0 ? "Not told yet" : $"Next: {StationWords(SwapLine.StationsOf(s.Kind).ElementAt(s.Next))}", null);
    }

    private static string LastOf(string path) => path[(path.TrimEnd('/').LastIndexOf('/') + 1)..];

    private static string StationWords(Station station) =>
        station == Station.HandedIn ? "handed in" : station.ToString().ToLowerInvariant();

    /// <summary>All of one swap; null when there is none.</summary>
    public async Task<SwapSeen?> GetAsync(string id, CancellationToken cancel)
    {
        var swap = await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == id, cancel);
        if (swap is null) return null;
        var person = await db.People.AsNoTracking().FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel);
        var folders = await db.Folders.AsNoTracking().Where(f => f.Swap == id).ToListAsync(cancel);
        var snags = (await SnagNames.ReadAsync(db, [id], cancel))
            .Of(await db.Snags.AsNoTracking()
                .Where(n => n.Swap == id)
                .OrderBy(n => n.End == "open" ? 0 : 1)
                .ThenBy(n => n.At)
                .ToListAsync(cancel));
        var orders = await db.Orders.AsNoTracking().Where(o => o.Swap == id).OrderByDescending(o => o.MadeAt).Take(50).ToListAsync(cancel);
        var history = await db.Ledger.AsNoTracking()
            .Where(l => l.Swap == id)
            .OrderByDescending(l => l.Number)
            .Take(200)
            .Select(l => new HistorySeen(l.Number, l.At, l.By, l.Kind, l.Words))
            .ToListAsync(cancel);
        var depot = swap.Depot is null
            ? null
            : await db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel);
        var account = SwapFacts.Account(folders, snags);
        var (checklist, signOffs) = await ChecklistAsync(swap, account, snags, cancel);
        return new(
            (await ListAsync([swap], cancel))[0], person?.Mail, person?.Department, swap.OldModel, swap.NewModel, swap.Receiver,
            swap.Parcel is null || depot is null
                ? null
                : new(
                    depot.Name,
                    depot.Address,
                    swap.Parcel,
                    swap.Trips,
                    swap.VerifiedWhole && swap.VerifiedAt >= swap.TripAt,
                    depot.SealTo.Count > 0,
                    await HoldAsync(swap, cancel),
                    SwapFacts.HasUnfinishedParcel(swap)),
            account, FolderAccount.Total([.. account]), checklist, [.. snags.Take(MostSnags).Select(Seen)], signOffs,
            [.. orders.Select(o => new OrderSeen(o.Id, o.Kind, o.Tag, o.State, o.MadeAt, o.MadeBy, o.EndedAt, o.Words))],
            history,
            await Parcels.Rescues.ReadAsync(db, swap, cancel),
            swap.RestoreSkippedAt is { } skipped ? new(swap.RestoreSkippedBy ?? "", skipped, swap.RestoreSkipReason ?? "") : null,
            await Receivers.ReadAsync(db, swap, cancel),
            await FollowUpDesk.OfSwapAsync(db, id, cancel),
            (await new OldComputers.OldComputerReader(db, time).ReadAsync([swap], cancel)).FirstOrDefault(),
            await Handovers.NewestAsync(db, swap, cancel),
            await DetourReader.OfSwapAsync(db, id, cancel),
            Core.Detours.DetourRule.Open(
                DetourReader.FactsOf(swap, signOffs.Any(s => s.Part == SignOffPart.Technician && s.By is not null)),
                time.GetUtcNow()));
    }

    public async Task<HoldSeen> HoldAsync(SwapRow swap, CancellationToken cancel) =>
        await Parcels.HoldReader.ReadAsync(
            db,
            swap,
            new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == swap.Refresh, cancel))
                .DayOf(time.GetUtcNow()),
            cancel);

    public static SnagSeen Seen(SnagRow n) =>
        new(
            n.Id, n.Swap, n.Path, n.Kind, n.Side, n.Bytes, n.Reason, n.CountsAsFile, n.End, n.EndedBy, n.EndReason, n.At, n.EndedAt,
            n.Doubt);

    public async Task<(ChecklistSeen Checklist, IReadOnlyList<SignOffSeen> SignOffs)> ChecklistAsync(
        SwapRow swap, IReadOnlyList<FolderAccount> account, IReadOnlyList<SnagRow> snags, CancellationToken cancel)
    {
        var facts = await ChecklistFacts.ReadAsync(db, swap, cancel);
        var signed = await db.SignOffs.AsNoTracking().Where(s => s.Swap == swap.Id).ToListAsync(cancel);
        var steps = facts.Steps;
        var parts = signed.Select(s => s.Part).ToList();
        var followUps = await FollowUpDesk.OpenOfAsync(db, swap.Id, cancel);
        var checklist = StepView.Of(facts, parts);
        var seen = SignOffPaper.Sha256Of(SignOffDesk.FactsOf(facts, account, snags));
        return (checklist, [.. Enum.GetValues<SignOffPart>().Select(part => signed.FirstOrDefault(s => s.Part == part) is { } done
            ? SignOffDesk.Seen(done)
            : new SignOffSeen(
                part,
                null,
                null,
                SignOffRule.Missing(
                    part, swap.Kind, steps, [.. account], snags.Count(n => n.End == "open"), swap.StagedAt is not null,
                    swap.RestoredAt is not null, swap.ReceiverAcceptedAt is not null, parts, followUps),
                seen,
                null,
                SignOffPaper.StatementOf(part)))]);
    }
}
