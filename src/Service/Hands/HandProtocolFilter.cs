using System.Globalization;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Hands;

/// <summary>
/// Refuses a hand that speaks otherwise than this service, in words for whoever stands beside it. Such a hand gets no order; one that has
/// an order stops, as it does when an order went on elsewhere, and the updated hand goes on from the parcel's journal.
/// </summary>
internal sealed class HandProtocolFilter : IEndpointFilter
{
    /// <summary>The hand at a computer is of an earlier version.</summary>
    private sealed record OlderHand(int Number) : ServiceProblem(
        "hand.older",
        $"This yardhand is older than the service: it speaks protocol {Number}, the service {HandProtocol.Number}. Update yardhand on this "
            + "computer to the service's version; nothing is lost, the updated one goes on where this one stopped.",
        409);

    /// <summary>The service is of an earlier version than a hand.</summary>
    private sealed record NewerHand(int Number) : ServiceProblem(
        "hand.newer",
        $"This yardhand is newer than the service: it speaks protocol {Number}, the service {HandProtocol.Number}. Update the service, or "
            + "use the yardhand that came with it; nothing is lost.",
        409);

    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var said = context.HttpContext.Request.Headers[HandProtocol.Header].ToString();
        // Hands of before there were numbers say none.
        var number = int.TryParse(said, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 1;
        return number switch
        {
            < HandProtocol.Number => new OlderHand(number).ToHttp(),
            > HandProtocol.Number => new NewerHand(number).ToHttp(),
            _ => await next(context)
        };
    }
}
