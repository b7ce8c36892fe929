using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Choosing;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>The work behind <see cref="SlotEndpoints"/>.</summary>
internal static class SlotHandlers
{
    private const int MostWaitDays = 31;

    internal static async Task<Results<Ok<SlotsSeen>, ProblemHttpResult>> ListAsync(
        ClaimsPrincipal user, YardDb db, SlotDesk desk, TimeProvider time, CancellationToken cancel)
    {
        if (await PersonScope.SwapAsync(db, user, cancel) is not { } swap) return PersonScope.NoSwap.ToHttp();
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == swap.Refresh, cancel);
        var names = await db.Technicians.AsNoTracking()
            .Where(t => t.Refresh == swap.Refresh)
            .ToDictionaryAsync(t => t.Key, t => t.Name, cancel);
        var (clock, now) = (new RefreshClock(refresh), time.GetUtcNow());
        if (PersonBooking.Shut(swap, refresh, now) is { } shut) return shut.ToHttp();
        var offered = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh.Key && s.Offer != null && s.Id != swap.Id && s.Start != null)
            .OrderBy(s => s.Start)
            .Take(PersonBooking.MostOffers)
            .ToListAsync(cancel);
        var asked = (await db.Exchanges.AsNoTracking()
            .Where(x => x.Asks == swap.Id && x.End == null)
            .Select(x => x.Asked)
            .ToListAsync(cancel)).ToHashSet();
        using var held = await desk.HoldAsync(refresh.Key, cancel);
        if (!(await held.LaidAsync(db, refresh, [swap.Id], cancel)).TryGet(out var laid, out var problem)) return problem.ToHttp();
        return TypedResults.Ok(new SlotsSeen(
            [.. SlotDesk.Free(laid, refresh, swap, desk.Earliest(refresh), refresh.Days * Core.Planning.Minutes.PerDay, SlotDesk.Most)
                .Select(s => new SlotSeen(
                    clock.At(s.At.Start),
                    clock.At(s.End),
                    names.GetValueOrDefault(s.At.Technician, s.At.Technician),
                    clock.At(s.At.Start) == swap.Start))],
            [.. SlotDesk.Exchangeable(laid, swap, offered.Where(o => PersonBooking.Refusal(o, refresh, now) is null))
                .Select(e => new OfferSeen(
                    e.Offered.Offer!, clock.At(e.Slot.At.Start), clock.At(e.Slot.End), asked.Contains(e.Offered.Id)))]));
    }

    internal static async Task<Results<Ok<PersonPage>, ProblemHttpResult>> ChooseAsync(
        SlotWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, SlotDesk slots, CancellationToken cancel)
    {
        if (await PersonScope.SwapAsync(db, user, cancel) is not { } swap) return PersonScope.NoSwap.ToHttp();
        using (var held = await slots.HoldAsync(swap.Refresh, cancel))
        {
            var done = await writer.WriteAsync<long>(swap.Refresh, async w =>
            {
                var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap.Id, cancel);
                // Chosen twice is chosen once.
                if (row.Start == wanted.Start) return w.Refresh.WorldVersion;
                if (PersonBooking.Shut(row, w.Refresh, w.Now) is { } shut) return shut;
                if (row.Start is null)
                    return new SlotNoneProblem();
                if (await PersonBooking.TakeAsync(
                    w,
                    held,
                    row,
                    wanted.Start,
                    $"{row.Name} chose {new RefreshClock(w.Refresh).Local(wanted.Start):ddd d MMM HH:mm}",
                    cancel) is { } refused)
                    return refused;
                return w.Refresh.WorldVersion;
            }, cancel);
            if (!done.IsOk) return done.Problems.ToHttp();
            held.Keep(done.Value);
        }
        return TypedResults.Ok(await reader.ReadAsync(await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap.Id, cancel), cancel));
    }

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> WaitAsync(
        WaitWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (PersonBooking.Shut(swap, w.Refresh, w.Now) is { } shut) return shut;
            if (wanted.Until <= wanted.From || wanted.Until - wanted.From > TimeSpan.FromDays(MostWaitDays))
                return new WaitSpanProblem(MostWaitDays);
            if (wanted.Until <= w.Now) return new WaitPastProblem();
            if (swap.Start >= wanted.From && swap.End <= wanted.Until)
                return new WaitHasProblem();
            var row = await w.Db.Waits.FirstOrDefaultAsync(v => v.Swap == swap.Id, cancel);
            // The same again keeps its place in the line.
            if (row is not null && row.From == wanted.From && row.Until == wanted.Until) return null;
            if (row is null) w.Db.Waits.Add(row = new() { Swap = swap.Id, Refresh = swap.Refresh });
            (row.From, row.Until, row.At) = (wanted.From, wanted.Until, w.Now);
            var clock = new RefreshClock(w.Refresh);
            w.Note(
                "swap.waits",
                swap.Id,
                $"{swap.Name} waits for a time between {clock.Local(wanted.From):ddd d MMM HH:mm} and "
                    + $"{clock.Local(wanted.Until):ddd d MMM HH:mm}");
            return null;
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> StopAsync(
        ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (await w.Db.Waits.FirstOrDefaultAsync(v => v.Swap == swap.Id, cancel) is not { } row) return null;
            w.Db.Waits.Remove(row);
            w.Note("swap.waits-no-more", swap.Id, $"{swap.Name} waits for no other time any more");
            return null;
        }, cancel);
}
