using YardRelay.Service.Browsers;

namespace YardRelay.Service.Accounts;

/// <summary>Programs that are let in by somebody who answers in a browser (after RFC 8628).</summary>
internal static class AskingEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/tokens/askings", AskingHandlers.AskAsync).AllowAnonymous().AlsoForPrograms()
            .WithName("AskForToken")
            .WithSummary("A program asks to be let in; it shows a code that somebody answers in a browser within ten minutes.");
        routes.MapGet("/tokens/askings/{code}", AskingHandlers.SeeAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("GetAsking")
            .WithSummary("Which program asks with a code.");
        routes.MapPost("/tokens/askings/{code}/let-in", AskingHandlers.LetInAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("LetProgramIn")
            .WithSummary("Lets the program in as the caller.");
        routes.MapDelete("/tokens/askings/{code}", AskingHandlers.RefuseAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("RefuseProgram")
            .WithSummary("Turns the program away.");
        routes.MapPost("/tokens/fetch", AskingHandlers.FetchAsync).AllowAnonymous().AlsoForPrograms()
            .WithName("FetchToken")
            .WithSummary("The token of a program that was let in; 202 while nobody answered.");
    }
}
