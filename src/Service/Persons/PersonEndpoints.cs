using YardRelay.Service.Accounts;

namespace YardRelay.Service.Persons;

/// <summary>A person's own page, and what they can do on it.</summary>
internal static class PersonEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        void Name(RouteHandlerBuilder endpoint, string name, string summary) =>
            endpoint.RequireAuthorization(Roles.Owns).WithName(name).WithSummary(summary);
        Name(
            routes.MapGet("/person", PersonHandlers.GetAsync),
            "GetPersonPage",
            "The person's own page: what happens when, what comes along, what is theirs to do.");
        Name(routes.MapPut("/person/language", PersonHandlers.LanguageAsync), "SetLanguage", "The language of page and mails.");
        Name(
            routes.MapPut("/person/mail", PersonHandlers.MailAsync),
            "SetMail",
            "Whether the person wants mail that the change could do without.");
        Name(
            routes.MapPut("/person/steps/{step}", PersonHandlers.StepAsync),
            "SetOwnStep",
            "Says that one of their own steps is done, or not yet.");
        Name(
            routes.MapPut("/person/carry-list", PersonHandlers.CarryAsync),
            "ChangeOwnCarryList",
            "Decides what comes along, what stays, and what is needed first.");
        Name(
            routes.MapPost("/person/words", PersonHandlers.SayAsync),
            "SayWords",
            "Asks something, says that the time does not suit, or what is missing: a follow-up is opened.");
        Name(
            routes.MapPost("/person/acceptance", PersonHandlers.AcceptAsync),
            "AcceptSwap",
            "Accepts: signs for the person, with what they saw.");
        Name(
            routes.MapPut("/person/passphrase", PersonHandlers.PassphraseAsync),
            "SetPassphrase",
            "Gives the passphrase that is to open the sealed files from the next trip on.");
        Name(routes.MapPost("/person/orders", PersonHandlers.OrderAsync), "StartOwnOrder", "Starts the first trip or the restore oneself.");
        Name(
            routes.MapPut("/person/names", PersonHandlers.NamesAsync),
            "AllowNames",
            "Says whether technicians may see the names of files that did not come along.");
        Name(routes.MapPut("/person/pause", PersonHandlers.PauseAsync), "PauseOwn", "Lets what moves rest, or go on; its place is kept.");
        Name(
            routes.MapPost("/person/parts", PersonHandlers.PartAsync),
            "AskForPart",
            "Asks for one folder or file back, while the files are held.");
    }
}
