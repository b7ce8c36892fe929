using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Signs;
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

    private static AppointmentSeen? AppointmentOf(SwapRow s, Crew crew) =>
        s is { Start: { } start, HandsOnUntil: { } until, Finish: { } finish, End: { } end, Technician: { } technician }
            ? new(
                s.Id, s.Name, s.Site, s.Room, technician, crew.NameOf(s.Refresh, technician), start, until, finish, end,
                IsPinned: s.PinnedStart is not null || s.PinnedTechnician is not null, IsAway: crew.IsAwayFrom(s))
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
            .Where(o => ids.Contains(o.Swap) && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay))
            .Concat(OrderStates.OpenFailures(db).AsNoTracking().Where(o => ids.Contains(o.Swap)))
            .ToListAsync(cancel))
            .ToLookup(o => o.Swap);
        var signed = (await db.SignOffs.AsNoTracking()
            .Where(o => ids.Contains(o.Swap) && o.Part == SignOffPart.Person)
            .Select(o => o.Swap)
            .ToListAsync(cancel)).ToHashSet();
        var hands = await HandsAt.ReadAsync(db, [.. orders.SelectMany(o => o).Where(o => o.State == OrderStates.Waiting)], cancel);
        var crew = await Crew.ReadAsync(db, [.. swaps.Select(s => s.Refresh).Distinct()], cancel);
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
                    new(s.Kind, SwapFacts.Reached(s), mine.ConvertAll(o => NowOf(o, now, hands)))
                    {
                        OpenSnags = open,
                        OneSnag = found is { Count: 1 } one ? $"{LastOf(files.Of(s.Id, one.Path!))}: {one.Reason}" : null,
                        SnagSince = found?.Since,
                        IsSigned = signed.Contains(s.Id)
                    },
                    now),
                moving is null
                    ? null
                    : new(
                        moving.Id, moving.Kind, moving.Files, moving.TotalFiles, moving.Bytes, moving.TotalBytes, moving.BytesPerSecond,
                        moving.TakenAt ?? moving.MadeAt, moving.HeardAt, moving.Beside, moving.PausedAt, moving.Waits),
                AppointmentOf(s, crew), open, mine.Any(o => o.State is OrderStates.Waiting or OrderStates.UnderWay));
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

    private static SignSeen SignOf(SwapRow s, SignFacts facts, DateTimeOffset now)
    {
        var sign = SwapSign.Of(
            facts with
            {
                CalledOffAt = s.CalledOffAt,
                CalledOffBecause = s.CalledOffBecause,
                LeftOutBecause = s.LeftOutBecause,
                End = s.End,
                UrgentReadyAt = s.UrgentReadyAt
            },
            now);
        return new(sign.Sign.ToString().ToLowerInvariant(), sign.Words, sign.Since);
    }

    private static OrderNow NowOf(OrderRow o, DateTimeOffset now, HandsAt hands) => o.State switch
    {
        OrderStates.Waiting => new OrderNow.Waiting(o.Kind, o.Tag, o.MadeAt, hands.HasFor(o)),
        OrderStates.UnderWay => new OrderNow.UnderWay(
            o.Kind, o.Tag, o.MadeAt, o.TakenAt, o.HeardAt, !(o.LeaseUntil < now), o.PausedAt, o.Waits),
        OrderStates.Failed => new OrderNow.Failed(o.Kind, o.Tag, o.MadeAt, o.Words ?? "", o.EndedAt),
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    private static string LastOf(string path) => path[(path.TrimEnd('/').LastIndexOf('/') + 1)..];

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
                DetourReader.FactsOf(
                    swap, signOffs.Any(s => s.Part == SignOffPart.Technician && s.By is not null),
                    await DetourReader.GoneAsync(db, swap, cancel)),
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
