using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Depots;
using YardRelay.Service.Live;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>Orders: people give them, hands take them with a lease, renew it and report numbered batches.</summary>
internal static class OrderEndpoints
{
    /// <summary>How long an order is left to whoever took it, without a word.</summary>
    public const int LeaseSeconds = 60;
    private static readonly TimeSpan LongestPoll = TimeSpan.FromSeconds(25);

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/orders", GiveOneAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("GiveOrder")
            .WithSummary("Orders a hand to survey, carry, verify or restore.");
        routes.MapPost("/refreshes/{refresh}/orders", GiveManyAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("GiveOrders")
            .WithSummary("Orders the same at many swaps at once.");
        routes.MapPut("/swaps/{swap}/pause", PauseOneAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("PauseOrder")
            .WithSummary("Lets the work of a hand at a swap rest, or go on; its place is kept.");
        routes.MapPost("/hand/orders/next", NextAsync)
            .RequireAuthorization(Roles.Hands)
            .WithName("TakeOrder")
            .WithSummary("The hand's next order; waits up to 25 s for one, then answers 204.")
            .WithMetadata(AnswersSecret.Yes)
            .Produces(204);
        routes.MapPost("/hand/orders/{order}/reports/{number:int}", ReportAsync)
            .RequireAuthorization(Roles.Hands)
            .WithName("ReportOrder")
            .WithSummary("A numbered batch; renews the lease. A repeated number changes nothing.");
    }

    private static async Task<Results<Ok<OrderSeen>, ProblemHttpResult>> GiveOneAsync(
        string swap, OrderWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (!OrderKinds.All.Contains(wanted.Kind))
            return new Problem[]
            {
                new("order.kind", $"'{wanted.Kind}' is not an order. Use {string.Join(", ", OrderKinds.All)}.")
            }.ToHttp();
        if (await SwapEndpoints.ScopeAsync(db, swap, user, cancel) is { } refusal) return refusal;
        return (await writer.WriteAsync<OrderSeen>(SwapEndpoints.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            var given = await GiveAsync(w, row, wanted, cancel);
            return given.TryGet(out var order, out var problem) ? Seen(order) : problem;
        }, cancel)).ToHttp();
    }

    private static async Task<Results<Ok<OrdersMade>, ProblemHttpResult>> GiveManyAsync(
        string refresh, OrdersWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (!OrderKinds.All.Contains(wanted.Kind))
            return new Problem[]
            {
                new("order.kind", $"'{wanted.Kind}' is not an order. Use {string.Join(", ", OrderKinds.All)}.")
            }.ToHttp();
        if (wanted.Kind is OrderKinds.Purge or OrderKinds.PartRestore or OrderKinds.Adopt or OrderKinds.Folders)
            return new Problem[] { new("order.one", $"{OrderKinds.Words(wanted.Kind)} is ordered for one swap at a time.") }.ToHttp();
        return (await writer.WriteAsync<OrdersMade>(refresh, async w =>
        {
            var rows = await w.Db.Swaps.Where(s => s.Refresh == refresh).OrderBy(s => s.Id).ToListAsync(cancel);
            if (wanted.Swaps.Except(rows.Select(r => r.Id)).FirstOrDefault() is { } unknown)
                return ServiceProblem.NotFound("swap", unknown);
            var (given, skipped) = (0, new List<string>());
            foreach (var row in rows.Where(r => wanted.Swaps.Count == 0 || wanted.Swaps.Contains(r.Id)))
            {
                if ((await GiveAsync(
                    w, row, new(wanted.Kind, ByService: wanted.ByService, ByNeed: wanted.ByNeed, Beside: wanted.Beside), cancel))
                    .TryGet(out _, out var problem))
                    given++;
                else skipped.Add($"{row.Id} {row.Name}: {problem.Message}");
            }
            return new OrdersMade(given, skipped);
        }, cancel)).ToHttp();
    }

    private static async Task<Results<Ok<OrderSeen>, ProblemHttpResult>> PauseOneAsync(
        string swap, PauseWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        if (await SwapEndpoints.ScopeAsync(db, swap, user, cancel) is { } refusal) return refusal;
        return (await writer.WriteAsync<OrderSeen>(
            SwapEndpoints.RefreshOf(swap),
            async w => (await PauseAsync(w, swap, wanted.Paused, cancel)).TryGet(out var order, out var problem) ? Seen(order) : problem,
            cancel)).ToHttp();
    }

    private static OrderSeen Seen(OrderRow order) =>
        new(order.Id, order.Kind, order.Tag, order.State, order.MadeAt, order.MadeBy, order.EndedAt, order.Words);

    /// <summary>Lets what is under way at a swap rest, or go on. The hand hears of it with its next report, within a second.</summary>
    public static async Task<Result<OrderRow>> PauseAsync(Writing.Writing w, string swap, bool paused, CancellationToken cancel)
    {
        if (await w.Db.Orders.FirstOrDefaultAsync(
            o => o.Swap == swap && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay), cancel) is not { } order)
            return ServiceProblem.Conflict("order.nothing", "Nothing is under way that could rest.");
        if (!OrderKinds.IsTrip(order.Kind) && order.Kind is not (OrderKinds.Restore or OrderKinds.Verify or OrderKinds.PartRestore))
            return ServiceProblem.Conflict("order.short", $"{OrderKinds.Words(order.Kind)} is over in moments, and is not paused.");
        if (paused == order.PausedAt is not null) return order;
        order.PausedAt = paused ? w.Now : null;
        w.Note(
            paused ? "order.paused" : "order.resumed",
            swap,
            $"{w.By} {(paused ? "let rest" : "let go on")}: {OrderKinds.Words(order.Kind).ToLowerInvariant()}",
            new() { ["order"] = order.Id });
        return order;
    }

    /// <summary>Gives an order, or finds the same one that is still to be done.</summary>
    public static async Task<Result<OrderRow>> GiveAsync(Writing.Writing w, SwapRow swap, OrderWanted wanted, CancellationToken cancel)
    {
        var kind = wanted.Kind;
        var (tag, refusal) = OrderKinds.For(kind, swap);
        if (refusal is not null || tag is null)
            return new ServiceProblem(
                "order.not-now", $"{OrderKinds.Words(kind)} cannot be ordered for {swap.Id}: {refusal ?? "it has no such computer"}.", 409);
        if (swap.Depot is null && kind is not (OrderKinds.Survey or OrderKinds.Folders or OrderKinds.SurveyNew))
        {
            var depot = await w.Db.Depots.Where(d => d.Refresh == swap.Refresh).OrderBy(d => d.Key).FirstOrDefaultAsync(cancel);
            if (depot is null)
                return new ServiceProblem("order.no-depot", "The refresh has no depot yet. Add one with 'yardline depot set'.", 409);
            swap.Depot = depot.Key;
            swap.Parcel = ParcelOf(swap);
        }
        if (kind == OrderKinds.PartRestore && wanted.Only is not { Count: > 0 })
            return new Problem("order.only", "Which part is wanted? Name folders or files as the parcel has them.");
        string? folder = null;
        if (kind == OrderKinds.Adopt)
        {
            folder = wanted.Folder?.Trim().Trim('/');
            if (folder is null or "" || Carriage.Depots.DepotPath.TryParse(folder) is not { } parsed)
                return new Problem(
                    "order.folder",
                    "Which folder? Name it as it lies in the depot, such as 'Old shares/Ida', without '.', '..' or empty parts.");
            if (await w.Db.Swaps.FirstOrDefaultAsync(
                s => s.Refresh == swap.Refresh && s.Depot == swap.Depot && s.Parcel == folder && s.Id != swap.Id, cancel) is { } other)
                return new Problem("order.folder", $"'{parsed}' is the parcel of {other.Id} {other.Name}.");
        }
        if (kind == OrderKinds.Purge)
        {
            if (wanted.Confirm != swap.Parcel)
                return new Problem(
                    "order.confirm",
                    $"Nothing was ordered. A purge cannot be taken back: say the name of the parcel once more, '{swap.Parcel}'.");
            var hold = await Parcels.HoldReader.ReadAsync(w.Db, swap, new Refreshes.RefreshClock(w.Refresh).DayOf(w.Now), cancel);
            if (hold.Missing.Count > 0)
                return new ServiceProblem("parcel.held", $"The parcel of {swap.Id} is not purged: {string.Join(' ', hold.Missing)}", 409);
        }
        if (kind == OrderKinds.SecondCopy && await SecondAsync(w.Db, swap, cancel) is null)
            return new ServiceProblem(
                "order.no-second",
                $"The depot of {swap.Id} has no other one that keeps a second copy. Name one with 'yardline depot set {swap.Depot} "
                    + $"--copy-to KEY'.",
                409);
        if (kind == OrderKinds.Verify && (wanted.ByService ?? await IsBuiltInAsync(w.Db, swap, cancel))) tag = ServiceHand.Tag;
        else if (wanted.ByService == true)
            return new Problem("order.by-service", "The service itself only verifies; all else is done by a hand.");
        string? landing = null;
        if (OrderKinds.Lands(kind))
        {
            var cargo = await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
            var plan = Parcels.KeptLanding.Of(cargo).Plan;
            var only = kind == OrderKinds.PartRestore ? wanted.Only!.Select(o => o.Trim('/')).ToList() : [];
            if (Parcels.KeptLanding.Read(plan, only) is { IsOk: false } bad) return Result<OrderRow>.Failed(bad.Problems);
            landing = JsonSerializer.Serialize(new Parcels.OrderedLanding(plan, only));
        }
        var open = await w.Db.Orders.FirstOrDefaultAsync(
            o => o.Swap == swap.Id && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay), cancel);
        if (open is not null)
            return open.Kind == kind
                ? open
                : new ServiceProblem(
                    "order.another",
                    $"{OrderKinds.Words(open.Kind)} is {(open.State == OrderStates.Waiting ? "waiting" : "under way")} for {swap.Id}. One "
                        + $"order at a time.",
                    409);
        var order = new OrderRow
        {
            Id = Guid.NewGuid().ToString("N"),
            Refresh = swap.Refresh,
            Swap = swap.Id,
            Kind = kind,
            Tag = tag,
            State = OrderStates.Waiting,
            MadeBy = w.By,
            MadeAt = w.Now,
            NextBatch = 1,
            Landing = landing,
            Folder = folder,
            ByNeed = OrderKinds.IsTrip(kind) && wanted.ByNeed == true,
            Beside = (OrderKinds.IsTrip(kind) || kind == OrderKinds.Restore) && wanted.Beside == true
        };
        if (kind == OrderKinds.Restore) swap.UrgentReadyAt = null;
        w.Db.Orders.Add(order);
        w.HandsToWake.Add(tag);
        w.Note(
            "order.given",
            swap.Id,
            $"{w.By} ordered: {OrderKinds.Words(kind).ToLowerInvariant()} {ServiceHand.At(tag)}"
                + $"{(order.ByNeed ? ", by need as far as there is room" : "")}{(order.Beside ? ", beside the person's own work" : "")}",
            new() { ["order"] = order.Id, ["kind"] = kind });
        return order;
    }

    /// <summary>The depot that keeps the second copy of a swap's parcel; null: none does.</summary>
    public static async Task<DepotRow?> SecondAsync(YardDb db, SwapRow swap, CancellationToken cancel) =>
        await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == swap.Refresh && d.Key == swap.Depot)
            .Select(d => d.CopyTo)
            .FirstOrDefaultAsync(cancel) is { } key
            ? await db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == key, cancel)
            : null;

    /// <summary>Whether the swap's parcel lies in the service's own depot.</summary>
    public static Task<bool> IsBuiltInAsync(YardDb db, SwapRow swap, CancellationToken cancel) =>
        db.Depots.AnyAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot && d.Address == BuiltInDepot.Address, cancel);

    /// <summary>A folder that a person recognises: refresh, name, swap number.</summary>
    public static string ParcelOf(SwapRow swap) =>
        $"{swap.Refresh}/{string.Concat(swap.Name.Select(c => char.IsLetterOrDigit(c) ? c : '-')).Trim('-')} "
            + $"{swap.Id[(swap.Id.LastIndexOf('-') + 1)..]}";

    private static async Task<Results<Ok<OrderTaken>, NoContent, ProblemHttpResult>> NextAsync(
        ClaimsPrincipal user, EventHub hub, IDbContextFactory<YardDb> records, Writer writer, Parcels.ParcelKeys keys, DepotSecrets secrets,
        TimeProvider time, IHostApplicationLifetime life, CancellationToken cancel, int waitSeconds = 25)
    {
        var (hand, tag, refresh) = (user.NameOf(), user.FindFirstValue("tag")!, user.FindFirstValue("refresh")!);
        var until = time.GetUtcNow() + TimeSpan.FromSeconds(Math.Clamp(waitSeconds, 0, LongestPoll.TotalSeconds));
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping);
        using var listening = hub.Listen(refresh, tag);
        while (true)
        {
            var now = time.GetUtcNow();
            bool due;
            await using (var db = await records.CreateDbContextAsync(cancel))
            {
                if (!await InForceAsync(db, hand, cancel)) return new Problem[] { Replaced }.ToHttp();
                due = await db.Orders.AnyAsync(
                    o => o.Refresh == refresh
                        && o.Tag == tag
                        && (o.State == OrderStates.Waiting || (o.State == OrderStates.UnderWay && (o.LeaseUntil < now || o.Hand == hand))),
                    cancel);
            }
            if (due)
            {
                var taken = await writer.WriteAsync<OrderTaken>(refresh, w => TakeAsync(w, hand, tag, keys, secrets, cancel), cancel);
                if (taken.IsOk) return TypedResults.Ok(taken.Value);
                if (taken.Problem == Replaced) return new[] { taken.Problem }.ToHttp();
            }
            var left = until - time.GetUtcNow();
            if (left <= TimeSpan.Zero || life.ApplicationStopping.IsCancellationRequested) return TypedResults.NoContent();
            try
            {
                // Leases run out without a wake, so look again now and then.
                await listening.NextAsync(left < TimeSpan.FromSeconds(5) ? left : TimeSpan.FromSeconds(5), ends.Token);
            }
            catch (OperationCanceledException)
            {
                return TypedResults.NoContent();
            }
        }
    }

    private static readonly ServiceProblem Replaced = new(
        "hand.replaced", "This hand was replaced by another at its computer. Enrol again with a new code.", 401);

    // A hand may be replaced while it waits: who it was when it asked is not who it is now.
    private static Task<bool> InForceAsync(YardDb db, string hand, CancellationToken cancel) =>
        db.Hands.AnyAsync(h => h.Id == hand && h.ReplacedAt == null, cancel);

    private static async Task<Result<OrderTaken>> TakeAsync(
        Writing.Writing w, string hand, string tag, Parcels.ParcelKeys keys, DepotSecrets secrets, CancellationToken cancel)
    {
        if (!await InForceAsync(w.Db, hand, cancel)) return Replaced;
        // A hand that asks while its own order is under way was restarted: it goes on with that one.
        var order = await w.Db.Orders.Where(o =>
            o.Refresh == w.Refresh.Key
                && o.Tag == tag
                && (o.State == OrderStates.Waiting || (o.State == OrderStates.UnderWay && (o.LeaseUntil < w.Now || o.Hand == hand))))
            .OrderBy(o => o.MadeAt)
            .FirstOrDefaultAsync(cancel);
        return order is null
            ? new Problem("order.none", "There is no order.")
            : await TakenAsync(w, order, hand, $"The hand at {tag}", keys, secrets, cancel);
    }

    /// <summary>Gives an order to whoever does it, with a lease and all that it needs.</summary>
    public static async Task<OrderTaken> TakenAsync(
        Writing.Writing w, OrderRow order, string hand, string who, Parcels.ParcelKeys keys, DepotSecrets secrets, CancellationToken cancel)
    {
        var swap = await w.Db.Swaps.AsNoTracking().FirstAsync(s => s.Id == order.Swap, cancel);
        var depot = swap.Depot is null
            ? null
            : await w.Db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel);
        (order.State, order.Hand, order.LeaseUntil, order.TakenAt, order.HeardAt, order.NextBatch) =
            (OrderStates.UnderWay, hand, w.Now.AddSeconds(LeaseSeconds), w.Now, w.Now, 1);
        (order.Files, order.TotalFiles, order.Bytes, order.TotalBytes, order.BytesPerSecond, order.Waits) = (0, 0, 0, 0, 0, null);
        order.Attempt++;
        w.Note(
            "order.taken",
            order.Swap,
            $"{who} began: {OrderKinds.Words(order.Kind).ToLowerInvariant()}{(order.Attempt > 1 ? $" (attempt {order.Attempt})" : "")}",
            new() { ["order"] = order.Id, ["attempt"] = order.Attempt });
        var cargo = await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        var carryList = OrderKinds.IsTrip(order.Kind) && KeptCarryList.EffectiveOf(cargo) is { IsEverything: false } list
            ? list.Write()
            : null;
        var landing = order.Landing is null ? null : JsonSerializer.Deserialize<Parcels.OrderedLanding>(order.Landing);
        var sealTo = OrderKinds.IsTrip(order.Kind) && swap.Trips == 0 && depot is { SealTo.Count: > 0 } ? depot.SealTo : null;
        var second = order.Kind == OrderKinds.SecondCopy ? await SecondAsync(w.Db, swap, cancel) : null;
        var passphrase = OrderKinds.IsTrip(order.Kind) && cargo?.Passphrase is { } phrase ? keys.Open(phrase) : null;
        return new OrderTaken(
            order.Id, order.Kind, order.Attempt, LeaseSeconds, depot?.Address == BuiltInDepot.Address ? BuiltInDepot.Path : depot?.Address,
            swap.Parcel, carryList, landing?.Plan, landing?.Only, sealTo, cargo?.ParcelKey is { } kept ? keys.Open(kept) : null,
            swap.ParcelId, await RateShare.OfAsync(w.Db, order, w.Now, cancel),
            depot is null ? null : secrets.For(depot, order, swap.Parcel), order.Folder, order.ByNeed ? true : null,
            order.Kind == OrderKinds.Survey ? w.Refresh.PlaceRules : null,
            second is null ? null : new(second.Address, secrets.Open(second.Access)), passphrase, order.Beside ? true : null);
    }

    private static async Task<Results<Ok<ReportTaken>, ProblemHttpResult>> ReportAsync(
        string order, int number, OrderReport report, ClaimsPrincipal user, OrderReports reports, CancellationToken cancel) =>
        (await reports.TakeAsync(order, number, report, user.NameOf(), user.FindFirstValue("refresh")!, cancel)).ToHttp();
}
