using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Planning;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Facts;
using YardRelay.Service.OldComputers;
using YardRelay.Service.Orders;
using YardRelay.Service.Parcels;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Detours;

/// <summary>Persons: one who wants it later, somebody else at the desk, one who misses files.</summary>
internal sealed partial class DetourWork
{
    private async Task<Result<string>> LaterAsync(DetourTold told, CancellationToken cancel)
    {
        var from = told.From!.Value;
        var last = w.Refresh.Starts.AddDays(w.Refresh.Days - 1);
        if (from <= _clock.DayOf(w.Now)) return new LaterTodayProblem(from);
        if (from > last) return new LaterThanRefreshProblem(from, last);
        var words = $"{swap.Name} wants all of it later, from {Day(from)} on{Because(told.Reason)}";
        if (FreeFrom(from, last) is not { Count: > 0 } free) return new LaterNeverFreeProblem(swap.Name, from);
        swap.Free = free;
        await WithdrawAsync(o => o.State == OrderStates.Waiting && o.Tag == swap.NewTag, cancel);
        if (swap.Start is { } had) _lines.Add($"Its appointment of {When(had)} is free for others.");
        var begin = (from.DayNumber - w.Refresh.Starts.DayNumber) * Minutes.PerDay;
        var placed = await PlaceAsync(
            desk => desk.Soonest(swap.Id, desk.WhoWorksAt(swap.Site), begin, w.Refresh.Days * Minutes.PerDay),
            $"{words}, and nobody has room from then on.",
            cancel);
        if (!placed.TryGet(out var is_placed, out var problem)) return problem;
        if (SwapFacts.HasParcel(swap))
            _lines.Add("What was carried is held. What is made until then comes with a closing trip shortly before the new time.");
        if (!is_placed)
            await FollowUpAsync(
                $"Find a time with {swap.Name} from {Day(from)} on.", FollowUpHold.Nothing, cancel, _clock.StartOf(from));
        return words;
    }

    /// <summary>When they are free from a day on: what they said of it, or every day.</summary>
    private List<string> FreeFrom(DateOnly from, DateOnly last) => swap.Free.Count > 0
        ? swap.Free.FindAll(f => WorldReader.FreeOf(f).Day >= from)
        : [.. Enumerable.Range(0, last.DayNumber - from.DayNumber + 1)
            .Select(d => string.Create(CultureInfo.InvariantCulture, $"{from.AddDays(d):yyyy-MM-dd} 00:00-23:59"))];

    private async Task<Result<string>> WrongPersonAsync(DetourTold told, CancellationToken cancel)
    {
        if (await w.Db.Swaps.FirstOrDefaultAsync(s => s.Refresh == swap.Refresh && s.Id == told.Other, cancel) is not { } other
            || !reaches(other.Site))
            return ServiceProblem.NotFound("swap", told.Other!);
        if (other.Id == swap.Id) return new SamePersonProblem(swap.Name);
        var words = $"{other.Name} came to the desk instead of {swap.Name}{Because(told.Reason)}";
        _lines.Add(other switch
        {
            { CalledOffAt: not null } => $"The swap of {other.Name} is called off: {other.CalledOffBecause}.",
            { SwappedAt: not null } => $"The computer of {other.Name} is swapped already.",
            { Start: { } at } => $"{other.Name} is to come {When(at)}, {other.Site}, to {await TechnicianAsync(other, cancel)}.",
            _ => $"{other.Name} has no appointment yet.",
        });
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        var today = _clock.StartOf(_clock.DayOf(w.Now));
        var done = facts.Steps.Where(s => facts.Rows.GetValueOrDefault(s.Step.Key)?.At >= today).Select(s => s.Step.Title).ToList();
        if (done.Count > 0)
            _lines.Add($"Ticked today for {swap.Name}; open again what was done for {other.Name}: {string.Join("; ", done)}.");
        if (told.Exchange != true)
        {
            _lines.Add($"Nothing else changes. The two can have each other's time, if nothing stands in the way.");
            return words;
        }
        return await ExchangeTimesAsync(other, cancel) is { } no ? no : words;
    }

    private async Task<Problem?> ExchangeTimesAsync(SwapRow other, CancellationToken cancel)
    {
        if (other is not { CalledOffAt: null, SwappedAt: null, Start: { } theirs, Technician: { } theirTechnician })
            return new NoTimeToExchangeProblem(other.Name);
        var (mine, myTechnician) = (swap.Start!.Value, swap.Technician!);
        foreach (var row in new[] { swap, other }) (row.PinnedStart, row.PinnedTechnician) = (null, null);
        if (!(await BoardDesk.LayAsync(w, [swap.Id, other.Id], cancel)).TryGet(out var desk, out var problem)) return problem;
        var now = _clock.MinuteOf(w.Now);
        // Who is there is begun with as soon as can be, while the one who is missing would have been at it.
        var begun = _clock.MinuteOf(mine);
        if (await desk.PlaceAsync(swap.Id, theirTechnician, _clock.MinuteOf(theirs), [swap.Site, other.Site], cancel)
            is { Count: > 0 } against)
            return new TimesStandProblem(swap.Name, $"have {When(theirs)}", string.Join(' ', against));
        if (desk.Soonest(other.Id, [myTechnician], Math.Max(begun, now), Math.Max(begun, now) + MostWait) is null)
            return new TimesStandProblem(other.Name, "begin within the next hour", $"Their {myTechnician} has no room for it.");
        await desk.BookAsync("Exchanged.", cancel);
        foreach (var row in new[] { other, swap })
            _lines.Add($"{row.Name} has {When(row.Start!.Value)} with {await TechnicianAsync(row, cancel)} now.");
        other.ChecklistVersion++;
        w.Note(
            "swap.detour",
            other.Id,
            $"{other.Name} came in the place of {swap.Name}, who has their time",
            new() { ["detour"] = "Exchanged" });
        return null;
    }

    private async Task<Result<string>> FilesMissedAsync(DetourTold told, CancellationToken cancel)
    {
        if (SwapFacts.HasParcel(swap)) await SayParcelAsync(cancel);
        else _lines.Add("Nothing was carried, so no depot has a copy.");
        var left = await w.Db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).SumAsync(f => f.LeftOutFiles, cancel);
        if (left > 0)
            _lines.Add(
                $"{ByteText.Files(left)} {(left == 1 ? "was" : "were")} left out by rules or decisions: "
                    + "look into the carry list whether they are among them.");
        var waived = await w.Db.Snags.AsNoTracking()
            .Where(n => n.Swap == swap.Id && n.End == "waived")
            .OrderBy(n => n.Path)
            .ToListAsync(cancel);
        if (waived.Count > 0)
        {
            var names = await SnagNames.ReadAsync(w.Db, [swap.Id], cancel);
            _lines.Add($"Given up before, and named in the report: {waived.Count} {(waived.Count == 1 ? "snag" : "snags")}.");
            _lines.AddRange(waived.Take(MostNamed).Select(n => $"{names.Of(swap.Id, n.Path)}: {n.EndReason}"));
        }
        if (swap.OldTag is not null) await SayOldAsync(cancel);
        await FollowUpAsync($"{swap.Name} misses files: {told.Reason}", FollowUpHold.Wipe, cancel, cause: HoldReader.Missed);
        return $"{swap.Name} misses files: {told.Reason}";
    }

    private async Task SayParcelAsync(CancellationToken cancel)
    {
        if (swap.PurgedAt is { } purged)
        {
            _lines.Add($"The parcel was purged on {When(purged)}: no depot of the refresh has a copy any more.");
            return;
        }
        var depot = await w.Db.Depots.AsNoTracking()
            .Where(d => d.Refresh == swap.Refresh && d.Key == swap.Depot)
            .Select(d => d.Name)
            .FirstOrDefaultAsync(cancel);
        _lines.Add(
            $"What was carried lies in {depot ?? swap.Depot}"
                + $"{(swap.TripAt is { } trip ? $", as it was on {When(trip)}" : "")}, and is not purged while this is open. Restore it "
                + "beside what is there, and look for them in it.");
    }

    private async Task SayOldAsync(CancellationToken cancel)
    {
        var old = await w.Db.OldComputers.AsNoTracking()
            .FirstOrDefaultAsync(c => c.Refresh == swap.Refresh && c.Tag == swap.OldTag, cancel);
        _lines.Add(old switch
        {
            { WipeResult: "done", WipedAt: { } wiped } => $"{swap.OldTag} was wiped on {When(wiped)}: nothing is on it any more.",
            { End: { } end } when end.IsMissing() => $"{swap.OldTag} is {end.ToString().ToLowerInvariant()}.",
            { End: { } } => $"{swap.OldTag} has left to {old.EndedTo}.",
            _ when swap.OldDiedAt is not null => $"The disk of {swap.OldTag} died.",
            _ => $"{swap.OldTag} is not wiped, and is not while this is open: look on it"
                + $"{((old?.Holder ?? old?.Place) is { } at ? $", {at}" : "")}.",
        });
    }

    private async Task<string> TechnicianAsync(SwapRow of, CancellationToken cancel) =>
        await w.Db.Technicians.Where(t => t.Refresh == of.Refresh && t.Key == of.Technician).Select(t => t.Name).FirstOrDefaultAsync(cancel)
            ?? of.Technician ?? "nobody";

    private static string Day(DateOnly day) => day.ToString("ddd d MMM", CultureInfo.InvariantCulture);
}
