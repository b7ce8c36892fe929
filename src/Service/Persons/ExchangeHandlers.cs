using System.Security.Claims;
using System.Security.Cryptography;
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

/// <summary>The work behind <see cref="ExchangeEndpoints"/>.</summary>
internal static class ExchangeHandlers
{
    private const int MostAsked = 5;

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> OfferAsync(
        OfferWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (wanted.Offered == swap.Offer is not null) return null;
            if (wanted.Offered && PersonBooking.Shut(swap, w.Refresh, w.Now) is { } shut) return shut;
            if (wanted.Offered && swap.Start is null)
                return new NoTimeToOffer();
            swap.Offer = wanted.Offered ? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12)) : null;
            if (!wanted.Offered)
                foreach (var asked in await w.Db.Exchanges.Where(x => x.Asked == swap.Id && x.End == null).ToListAsync(cancel))
                    (asked.End, asked.EndedAt) = ("declined", w.Now);
            w.Note(
                "swap.offered",
                swap.Id,
                wanted.Offered ? $"{swap.Name} offers their time in exchange" : $"{swap.Name} offers their time no longer");
            return null;
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> AskAsync(
        ExchangeWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (PersonBooking.Shut(swap, w.Refresh, w.Now) is { } shut) return shut;
            if (swap.Start is not { } mine)
                return new NoTimeToGive();
            var gone = new OfferGoneProblem();
            if (await w.Db.Swaps.FirstOrDefaultAsync(
                s => s.Refresh == swap.Refresh && s.Offer == wanted.Offer && s.Id != swap.Id, cancel) is not { Start: { } theirs } other
                || PersonBooking.Refusal(other, w.Refresh, w.Now) is not null)
                return gone;
            var open = await w.Db.Exchanges.Where(x => x.End == null && (x.Asks == swap.Id || x.Asked == other.Id)).ToListAsync(cancel);
            // Asked twice is asked once.
            if (open.Exists(x => x.Asks == swap.Id && x.Asked == other.Id && x.AsksStart == mine && x.AskedStart == theirs)) return null;
            if (open.Count(x => x.Asks == swap.Id) >= MostAsked)
                return new AskedTooMany(MostAsked);
            if (open.Count(x => x.Asked == other.Id) >= PersonBooking.Most)
                return new AskedByTooMany();
            w.Db.Exchanges.Add(new()
            {
                Id = Guid.CreateVersion7(w.Now).ToString("N"),
                Refresh = swap.Refresh,
                Asks = swap.Id,
                AsksStart = mine,
                Asked = other.Id,
                AskedStart = theirs,
                At = w.Now
            });
            w.Note("exchange.asked", swap.Id, $"{swap.Name} asks {other.Name} to exchange their times", new() { ["asked"] = other.Id });
            return null;
        }, cancel);

    internal static async Task<Results<Ok<PersonPage>, ProblemHttpResult>> AnswerAsync(
        string exchange, ExchangeAnswer answer, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, SlotDesk slots,
        CancellationToken cancel)
    {
        if (await PersonScope.SwapAsync(db, user, cancel) is not { } swap) return PersonScope.NoSwap.ToHttp();
        using (var held = await slots.HoldAsync(swap.Refresh, cancel))
        {
            var done = await writer.WriteAsync<long>(swap.Refresh, async w =>
            {
                if (await w.Db.Exchanges.FirstOrDefaultAsync(
                    x => x.Id == exchange && (x.Asked == swap.Id || x.Asks == swap.Id), cancel) is not { } row)
                    return ServiceProblem.NotFound("exchange", exchange);
                var isOwn = row.Asks == swap.Id;
                if (row.End is not null)
                    return row.End == (answer.Agrees ? "agreed" : isOwn ? "withdrawn" : "declined")
                        ? w.Refresh.WorldVersion
                        : new ExchangeOverProblem();
                if (answer.Agrees && isOwn) return new ExchangeOwnProblem();
                (row.End, row.EndedAt) = (answer.Agrees ? "agreed" : isOwn ? "withdrawn" : "declined", w.Now);
                if (answer.Agrees && await ExchangeAsync(w, held, row, cancel) is { } refused) return refused;
                return w.Refresh.WorldVersion;
            }, cancel);
            if (!done.IsOk) return done.Problems.ToHttp();
            held.Keep(done.Value);
        }
        return TypedResults.Ok(await reader.ReadAsync(await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap.Id, cancel), cancel));
    }

    private static async Task<Problem?> ExchangeAsync(Change w, SlotDesk.Held held, ExchangeRow row, CancellationToken cancel)
    {
        var (asks, asked) = (
            await w.Db.Swaps.FirstAsync(s => s.Id == row.Asks, cancel), await w.Db.Swaps.FirstAsync(s => s.Id == row.Asked, cancel));
        var gone = new ExchangeGoneProblem();
        if (asks.Start != row.AsksStart
            || asked.Start != row.AskedStart
            || PersonBooking.Refusal(asks, w.Refresh, w.Now) is not null
            || PersonBooking.Refusal(asked, w.Refresh, w.Now) is not null)
            return gone;
        var clock = new RefreshClock(w.Refresh);
        var (first, second) = (clock.MinuteOf(row.AskedStart), clock.MinuteOf(row.AsksStart));
        if (!(await held.DeskAsync(w, [asks.Id, asked.Id], cancel)).TryGet(out var desk, out var problem)) return problem;
        if (desk.Soonest(asks.Id, desk.WhoWorksAt(asks.Site), first, first + 1) is null
            || desk.Soonest(asked.Id, desk.WhoWorksAt(asked.Site), second, second + 1) is null)
            return new ExchangeMisfitProblem();
        w.Note("exchange.agreed", asked.Id, $"{asked.Name} and {asks.Name} exchange their times", new() { ["with"] = asks.Id });
        await desk.BookAsync("The times were exchanged.", cancel);
        await PersonBooking.SettleAsync(w, asks, cancel);
        await PersonBooking.SettleAsync(w, asked, cancel);
        // Settling ends what is open between others; this one is agreed.
        row.End = "agreed";
        return null;
    }
}
