using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Orders;

/// <summary>A name that is no order's.</summary>
internal sealed record UnknownOrder(string Name) : Problem(
    "order.kind", $"'{Name}' is not an order. Use {string.Join(", ", Order.All.Select(o => o.Name))}.");

/// <summary>An order that is given for one swap at a time was wanted for many.</summary>
internal sealed record OneByOne(Order Order) : Problem("order.one", $"{Order.Words} is ordered for one swap at a time.");

/// <summary>The swap cannot have it as it stands.</summary>
internal sealed record CannotBeOrdered(Order Order, string Swap, OrderNotNow Reason) : ServiceProblem(
    "order.not-now", $"{Order.Words} cannot be ordered for {Swap}: {Reason.Why}.", 409);

/// <summary>It names a folder of a depot, and who asks is no coordinator.</summary>
internal sealed record OrderOfCoordinators(Order Order) : ServiceProblem(
    "not-allowed",
    $"{Order.Words} is ordered by a coordinator: whoever names a folder of a depot decides whose files it holds. Ask one.",
    403);

/// <summary>There is nowhere to stage.</summary>
internal sealed record NoDepot() : ServiceProblem(
    "order.no-depot", "The refresh has no depot yet. Add one with 'yardline depot set'.", 409);

/// <summary>Another order is open; one at a time.</summary>
internal sealed record AnotherOpen(string Kind, string State, string Swap) : ServiceProblem(
    "order.another",
    $"{Order.WordsOf(Kind)} is {(State == OrderStates.Waiting ? "waiting" : "under way")} for {Swap}. One order at a time.",
    409);

/// <summary>Only a verification is done by the service itself.</summary>
internal sealed record NotByService() : Problem(
    "order.by-service", "The service itself only verifies; all else is done by a hand.");

/// <summary>Orders for many, and for nobody.</summary>
internal sealed record NoSwapsNamed() : Problem("order.which", "Name the swaps that are to have it, or say that all are.");

/// <summary>Nothing waits and nothing is under way.</summary>
internal sealed record NothingToWithdraw() : ServiceProblem(
    "order.nothing-open", "No order waits or is under way there: there is nothing to withdraw.", 409);

/// <summary>Nothing is under way that could rest.</summary>
internal sealed record NothingUnderWay() : ServiceProblem("order.nothing", "Nothing is under way that could rest.", 409);

/// <summary>It is over too soon to be let rest.</summary>
internal sealed record TooShortToRest(string Kind) : ServiceProblem(
    "order.short", $"{Order.WordsOf(Kind)} is over in moments, and is not paused.", 409);

/// <summary>There is nothing to do at that computer.</summary>
internal sealed record NoOrder() : Problem("order.none", "There is no order.");

/// <summary>A hand told the end of another kind of order.</summary>
internal sealed record OtherOutcome(string Kind) : Problem(
    "order.outcome", $"What came is no outcome of this order: {Order.WordsOf(Kind).ToLowerInvariant()}. Report what was ordered.");
