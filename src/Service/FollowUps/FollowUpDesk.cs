using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.FollowUps;

/// <summary>Follow-ups of a swap: read for people and gates, and opened within a change.</summary>
internal static class FollowUpDesk
{
    private const int MostOpen = 50;
    private const int LeastNoticeMinutes = 30;

    /// <summary>Open follow-ups of a swap, for its gates.</summary>
    public static async Task<List<OpenFollowUp>> OpenOfAsync(YardDb db, string swap, CancellationToken cancel) =>
        await db.FollowUps.AsNoTracking()
            .Where(f => f.Swap == swap && f.DoneAt == null)
            .OrderBy(f => f.Due)
            .Select(f => new OpenFollowUp(f.Words, f.Owner, f.Due, f.Holds))
            .ToListAsync(cancel);

    /// <summary>Follow-ups of a swap, open ones first.</summary>
    public static async Task<List<FollowUpSeen>> OfSwapAsync(YardDb db, string swap, CancellationToken cancel) =>
        await SeenAsync(
            db,
            await db.FollowUps.AsNoTracking()
                .Where(f => f.Swap == swap)
                .OrderBy(f => f.DoneAt == null ? 0 : 1)
                .ThenBy(f => f.Due)
                .Take(2 * MostOpen)
                .ToListAsync(cancel),
            cancel);

    internal static async Task<List<FollowUpSeen>> SeenAsync(YardDb db, List<FollowUpRow> rows, CancellationToken cancel)
    {
        var (ids, owners) = (rows.Select(r => r.Swap).Distinct().ToList(), rows.Select(r => r.Owner).Distinct().ToList());
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => ids.Contains(s.Id))
            .Select(s => new { s.Id, s.Name, s.Site })
            .ToDictionaryAsync(s => s.Id, cancel);
        var visiting = rows.Select(r => r.VisitTechnician).OfType<string>().Distinct().ToList();
        var technicians = visiting.Count == 0
            ? []
            : (await db.Technicians.AsNoTracking()
                .Where(t => visiting.Contains(t.Key))
                .Select(t => new { t.Key, t.Name })
                .ToListAsync(cancel))
                .DistinctBy(t => t.Key)
                .ToDictionary(t => t.Key, t => t.Name);
        var names = await db.Accounts.AsNoTracking()
            .Where(a => owners.Contains(a.Name))
            .ToDictionaryAsync(a => a.Name, a => a.Shown, cancel);
        return rows.ConvertAll(r => new FollowUpSeen(
            r.Id, r.Swap, swaps.GetValueOrDefault(r.Swap)?.Name ?? r.Swap, swaps.GetValueOrDefault(r.Swap)?.Site ?? "", r.Words, r.Owner,
            names.GetValueOrDefault(r.Owner, r.Owner), r.Due, r.Holds, r.Cause, r.MadeBy, r.MadeAt, r.DoneBy, r.DoneAt, r.Outcome,
            r.VisitMinutes is { } minutes
                ? new(minutes, r.VisitTechnician is { } who ? technicians.GetValueOrDefault(who, who) : null, r.VisitStart, r.VisitEnd)
                : null));
    }

    /// <summary>Opens a follow-up within a change.</summary>
    public static async Task<Result<FollowUpSeen>> AddAsync(
        Change w, string swap, string words, string owner, DateTimeOffset? due, FollowUpHold holds, string cause,
        CancellationToken cancel, int? visitMinutes = null)
    {
        if (visitMinutes is not null
            && await w.Db.FollowUps.FirstOrDefaultAsync(
                f => f.Swap == swap && f.DoneAt == null && f.VisitMinutes != null, cancel) is { } other)
            return new VisitPlannedAlready(swap, other.Words);
        if (!await w.Db.Accounts.AnyAsync(a => a.Name == owner && a.Role != Roles.Person && a.Role != Roles.Auditor, cancel))
            return new FollowUpOwnerProblem(owner);
        if (await w.Db.FollowUps.CountAsync(f => f.Swap == swap && f.DoneAt == null, cancel) >= MostOpen)
            return new FollowUpManyProblem(swap, MostOpen);
        var clock = new RefreshClock(w.Refresh);
        var row = new FollowUpRow
        {
            Id = Guid.CreateVersion7(w.Now).ToString(),
            Refresh = w.Refresh.Key,
            Swap = swap,
            Words = words.Length > MostWords ? words[..FollowUpDesk.MostWords] : words,
            Owner = owner,
            Due = due ?? clock.StartOf(clock.DayOf(w.Now).AddDays(2)),
            Holds = holds,
            Cause = cause,
            MadeBy = w.By,
            MadeAt = w.Now,
            VisitMinutes = visitMinutes,
        };
        w.Db.FollowUps.Add(row);
        await TouchAsync(w, swap, cancel);
        var shown = await w.Db.Accounts.Where(a => a.Name == owner).Select(a => a.Shown).FirstAsync(cancel);
        w.Note(
            "follow-up.opened",
            swap,
            $"{w.By}: {row.Words.TrimEnd('.')}, for {shown} until {clock.Local(row.Due):ddd d MMM HH:mm}"
                + $"{(holds == FollowUpHold.Nothing ? "" : holds == FollowUpHold.Wipe ? "; holds the wipe" : "; holds the sign-offs")}",
            new() { ["followUp"] = row.Id, ["holds"] = holds.ToString() });
        await w.Db.SaveChangesAsync(cancel);
        if (visitMinutes is not null) await FindVisitAsync(w, row, clock, cancel);
        return (await SeenAsync(w.Db, [row], cancel))[0];
    }

    /// <summary>The first time at which somebody who can do it has room; where there is none, the next plan looks again.</summary>
    private static async Task FindVisitAsync(Change w, FollowUpRow row, RefreshClock clock, CancellationToken cancel)
    {
        w.WorldChanged();
        var (visit, site) = (
            row.Swap + WorldProblem.ReturnSuffix, await w.Db.Swaps.Where(s => s.Id == row.Swap).Select(s => s.Site).FirstAsync(cancel));
        if (!(await BoardDesk.LayAsync(w, [visit], cancel)).TryGet(out var desk, out _)) return;
        var from = clock.MinuteOf(w.Now) + LeastNoticeMinutes;
        var last = w.Refresh.Days * Core.Planning.Minutes.PerDay;
        var who = desk.WhoWorksAt(site);
        // Whoever it waits for comes, where they can by the time it is due.
        if (!who.Contains(row.Owner) || desk.Soonest(visit, [row.Owner], from, Math.Min(last, clock.MinuteOf(row.Due))) is null)
            desk.Soonest(visit, who, from, last);
        await desk.BookAsync("Nobody has room for the return visit.", cancel);
        await w.Db.SaveChangesAsync(cancel);
    }

    // Gates are part of what a checklist's reader sees.
    internal static async Task TouchAsync(Change w, string swap, CancellationToken cancel) =>
        (await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel)).ChecklistVersion++;

    internal const int MostWords = 500;
}
