using YardRelay.Service.Accounts;

namespace YardRelay.Service.Persons;

/// <summary>Two people exchange their times: one offers, another asks, the first agrees. Neither hears who the other is.</summary>
internal static class ExchangeEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPut("/person/offer", ExchangeHandlers.OfferAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("OfferTime")
            .WithSummary("Offers one's time in exchange, or no longer.");
        routes.MapPost("/person/exchanges", ExchangeHandlers.AskAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("AskExchange")
            .WithSummary("Asks whoever offered a time to exchange it for one's own.");
        routes.MapPost("/person/exchanges/{exchange}/answer", ExchangeHandlers.AnswerAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("AnswerExchange")
            .WithSummary("Agrees, and both times are exchanged at once, or declines; whoever asked takes the question back by declining.");
    }
}
