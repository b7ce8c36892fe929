using YardRelay.Contracts;
using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>Makes, lists, withdraws and opens personal links.</summary>
internal static class PersonLinkEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/person-links", PersonLinkHandlers.MakeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("MakePersonLink")
            .WithSummary(
                "A personal link to the person's own page, by mail to the address on record or to hand over. It opens on one device only, "
                    + "and is shown this once.")
            .WithMetadata(AnswersSecret.Yes);
        routes.MapGet("/swaps/{swap}/person-links", PersonLinkHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListPersonLinks")
            .WithSummary("The links of a swap, the newest first, without their secrets.");
        routes.MapDelete("/swaps/{swap}/person-links", PersonLinkHandlers.WithdrawAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WithdrawPersonLinks")
            .WithSummary("Withdraws all links of a swap; open pages are shut at once.");
        routes.MapGet("/link-refusals", PersonLinkHandlers.RefusalsAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("ListLinkRefusals")
            .WithSummary("How often links that open nothing were tried, by day and cause.");
        // The secret in the body is the permission; a wrong one is counted and gets nothing.
        routes.MapPost("/person/session", PersonLinkHandlers.OpenAsync).AllowAnonymous()
            .WithName("OpenPersonLink")
            .WithSummary("Opens a personal link on this device.")
            .Produces(204);
        routes.MapGet("/person/doors", (ServiceOptions options) =>
            new PersonDoors(options.Organisation is null ? null : OrganisationSignIn.Path, options.Mail is not null)).AllowAnonymous()
            .WithName("GetDoors")
            .WithSummary("How somebody without a link that opens comes to their page.");
        // Whoever asks learns nothing: a link goes to the address on record, or nowhere.
        routes.MapPost("/person/links", PersonLinkHandlers.AskAsync).AllowAnonymous()
            .WithName("AskForLink")
            .WithSummary(
                "Asks for a new personal link. It goes to the address that is on record for a swap under way, at most once an hour; the "
                    + "answer is the same where there is none.")
            .Produces(204);
        routes.MapDelete("/person/session", (Delegate)PersonLinkHandlers.CloseAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("ClosePersonPage")
            .WithSummary("Forgets the page on this device.");
    }
}
