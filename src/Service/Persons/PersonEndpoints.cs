using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Orders;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Checklists;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Hands;
using YardRelay.Service.Orders;
using YardRelay.Service.Parcels;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>A person's own page, and what they can do on it.</summary>
internal static class PersonEndpoints
{
    /// <summary>Most characters that a person says at once.</summary>
    public const int MostWords = 400;

    private const int LeastPassphrase = 12;
    private const int MostPassphrase = 200;

    /// <summary>What a person may start themselves.</summary>
    public static readonly IReadOnlyList<string> OwnOrders = [OrderNames.FirstTrip, OrderNames.Restore];

    /// <summary>Languages that page and mails come in.</summary>
    public static readonly IReadOnlyList<string> Languages = ["en", "de"];

    public static void Map(IEndpointRouteBuilder routes)
    {
        void Name(RouteHandlerBuilder endpoint, string name, string summary) =>
            endpoint.RequireAuthorization(Roles.Owns).WithName(name).WithSummary(summary);
        Name(
            routes.MapGet("/person", GetAsync),
            "GetPersonPage",
            "The person's own page: what happens when, what comes along, what is theirs to do.");
        Name(routes.MapPut("/person/language", LanguageAsync), "SetLanguage", "The language of page and mails.");
        Name(routes.MapPut("/person/mail", MailAsync), "SetMail", "Whether the person wants mail that the change could do without.");
        Name(routes.MapPut("/person/steps/{step}", StepAsync), "SetOwnStep", "Says that one of their own steps is done, or not yet.");
        Name(
            routes.MapPut("/person/carry-list", CarryAsync),
            "ChangeOwnCarryList",
            "Decides what comes along, what stays, and what is needed first.");
        Name(
            routes.MapPost("/person/words", SayAsync),
            "SayWords",
            "Asks something, says that the time does not suit, or what is missing: a follow-up is opened.");
        Name(routes.MapPost("/person/acceptance", AcceptAsync), "AcceptSwap", "Accepts: signs for the person, with what they saw.");
        Name(
            routes.MapPut("/person/passphrase", PassphraseAsync),
            "SetPassphrase",
            "Gives the passphrase that is to open the sealed files from the next trip on.");
        Name(routes.MapPost("/person/orders", OrderAsync), "StartOwnOrder", "Starts the first trip or the restore oneself.");
        Name(
            routes.MapPut("/person/names", NamesAsync),
            "AllowNames",
            "Says whether technicians may see the names of files that did not come along.");
        Name(routes.MapPut("/person/pause", PauseAsync), "PauseOwn", "Lets what moves rest, or go on; its place is kept.");
        Name(routes.MapPost("/person/parts", PartAsync), "AskForPart", "Asks for one folder or file back, while the files are held.");
    }

    private static async Task<Results<Ok<PersonPage>, ProblemHttpResult>> GetAsync(
        ClaimsPrincipal user, YardDb db, PersonReader reader, CancellationToken cancel) =>
        await PersonScope.SwapAsync(db, user, cancel) is { } swap
            ? TypedResults.Ok(await reader.ReadAsync(swap, cancel))
            : new Problem[] { PersonScope.NoSwap }.ToHttp();

    /// <summary>Changes something of the person's own swap, and shows the page as it is then.</summary>
    public static async Task<Results<Ok<PersonPage>, ProblemHttpResult>> ChangeAsync(
        ClaimsPrincipal user,
        YardDb db,
        Writer writer,
        PersonReader reader,
        Func<Writing.Writing, SwapRow, Task<Problem?>> change,
        CancellationToken cancel)
    {
        if (await PersonScope.SwapAsync(db, user, cancel) is not { } swap) return new Problem[] { PersonScope.NoSwap }.ToHttp();
        var done = await writer.WriteAsync<string>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap.Id, cancel);
            return await change(w, row) is { } refused ? refused : row.Id;
        }, cancel);
        if (!done.IsOk) return done.Problems.ToHttp();
        return TypedResults.Ok(await reader.ReadAsync(await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap.Id, cancel), cancel));
    }

    private static Problem? ProblemOf<T>(Result<T> result) => result.IsOk ? null : result.Problem;

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> LanguageAsync(
        LanguageWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (!Languages.Contains(wanted.Language))
                return new Problem(
                    "person.language", $"'{wanted.Language}' is no language of this page. It has {string.Join(" and ", Languages)}.");
            if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel) is { } person)
                person.Language = wanted.Language;
            return null;
        }, cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> MailAsync(
        MailWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel) is { } person
                && person.MailOff != wanted.Off)
            {
                person.MailOff = wanted.Off;
                w.Note(
                    "person.mail",
                    swap.Id,
                    wanted.Off ? $"{swap.Name} wants no mail that the change can do without" : $"{swap.Name} wants all mail again");
            }
            return null;
        }, cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> NamesAsync(
        NamesWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel) is { } person
                && person.NamesAllowedAt is not null != wanted.Allowed)
            {
                person.NamesAllowedAt = wanted.Allowed ? w.Now : null;
                // What signers see is another now.
                swap.ChecklistVersion++;
                w.Note(
                    "person.names",
                    swap.Id,
                    wanted.Allowed
                        ? $"{swap.Name} lets technicians see the names of files"
                        : $"{swap.Name} lets technicians see the names of files no more");
            }
            return null;
        }, cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> StepAsync(
        string step, PersonStep said, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
            if (facts.Steps.FirstOrDefault(s => s.Step.Key == step && s.Step.IsByPerson) is not { } found)
                return ServiceProblem.NotFound("step", step);
            // Said twice is said once; what a technician wrote down already stands.
            if (found.State.IsOpen != said.Done) return null;
            return ProblemOf(await StepEndpoint.ClaimAsync(
                w, swap.Id, step, said.Done ? new StepClaim.Ticked() : new StepClaim.Reopened(), null, null, null, cancel));
        }, cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> CarryAsync(
        CarryChange change, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (CarryListEndpoints.Faults(change) is { Count: > 0 } faults) return faults[0];
            if (swap.SwappedAt is not null)
                return ServiceProblem.Conflict(
                    "carry-list.over",
                    "Your files have moved to the new computer already. Say what is missing, and somebody looks after it.");
            return ProblemOf(await CarryListEndpoints.DecideAsync(w, swap.Id, change, cancel));
        }, cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> SayAsync(
        PersonSays says, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            var words = says.Words?.Trim() ?? "";
            if (words.Length is 0 or > MostWords) return new Problem("person.words", $"Say it in 1 to {MostWords} characters.");
            if (PersonReader.Says.FirstOrDefault(s => s.Value == says.Kind) is not { Key: { } cause })
                return new Problem("person.kind", $"'{says.Kind}' cannot be said here. Use question, time, missing, folder or erasure.");
            if (cause == "refusal" && await w.Db.SignOffs.AnyAsync(s => s.Swap == swap.Id && s.Part == SignOffPart.Person, cancel))
                return ServiceProblem.Conflict(
                    "refusal.signed", "You have accepted already. Ask a question instead; somebody opens it again.");
            return await AskAsync(w, swap, cause, words, cancel);
        }, cancel);

    /// <summary>Opens what a person says as a follow-up.</summary>
    /// <param name="cause">One of <see cref="PersonReader.Says"/>.</param>
    public static async Task<Problem?> AskAsync(Writing.Writing w, SwapRow swap, string cause, string words, CancellationToken cancel)
    {
        // The same words once more, from a page that got no answer, are no second question.
        if (await w.Db.FollowUps.AnyAsync(
            f => f.Swap == swap.Id && f.Cause == cause && f.DoneAt == null && f.Words.EndsWith(words), cancel))
            return null;
        var (lead, holds) = cause switch
        {
            "refusal" => ($"{swap.Name} does not accept: ", FollowUpHold.SignOff),
            "time" => ($"The time does not suit {swap.Name}: ", FollowUpHold.Nothing),
            "folder" => ($"{swap.Name} filled a folder by hand: ", FollowUpHold.Nothing),
            "erasure" => ($"{swap.Name} asks that what is kept about them is erased: ", FollowUpHold.Nothing),
            _ => ($"{swap.Name} asks: ", FollowUpHold.Nothing)
        };
        if (await OwnerAsync(w.Db, swap, cause == "erasure", cancel) is not { } owner)
            return ServiceProblem.Conflict("person.nobody", "Nobody is there yet who could answer. Try again later.");
        return ProblemOf(await FollowUpEndpoints.AddAsync(w, swap.Id, lead + words, owner, null, holds, cause, cancel));
    }

    /// <summary>Who looks after what a person says: their technician, else a coordinator.</summary>
    private static async Task<string?> OwnerAsync(YardDb db, SwapRow swap, bool byCoordinator, CancellationToken cancel) =>
        !byCoordinator
            && swap.Technician is { } technician
            && await db.Accounts.AnyAsync(a => a.Name == technician && a.Role == Roles.Technician, cancel)
            ? technician
            : await db.Accounts.Where(a => a.Role == Roles.Coordinator)
                .OrderBy(a => a.Name)
                .Select(a => a.Name)
                .FirstOrDefaultAsync(cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> AcceptAsync(
        PersonAccepts accepts, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, TimeProvider time,
        CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
            SignOffEndpoints.DrawnFault(accepts.Drawn) ?? ProblemOf(await SignOffEndpoints.SignPartAsync(
                w, swap.Id, new(SignOffPart.Person, accepts.Facts, accepts.Name, accepts.Drawn), isOwn: true, time, cancel)), cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> PassphraseAsync(
        PassphraseWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, ParcelKeys keys,
        CancellationToken cancel) =>
        ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (wanted.Passphrase.Length is < LeastPassphrase or > MostPassphrase)
                return new Problem(
                    "person.passphrase",
                    $"A passphrase has {LeastPassphrase} to {MostPassphrase} characters; four or five words that only you would put "
                        + $"together are good.");
            if (!await ChecklistFacts.IsSealedAsync(w.Db, swap, cancel))
                return ServiceProblem.Conflict("person.open", "Your files are not sealed, so there is nothing to open with a passphrase.");
            if (swap.PurgedAt is not null || swap.SwappedAt is not null)
                return ServiceProblem.Conflict(
                    "person.passphrase-late", "Your files are on the new computer already; the passphrase cannot be changed any more.");
            var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
            if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
            cargo.Passphrase = keys.Seal(wanted.Passphrase);
            w.Note("person.passphrase", swap.Id, $"{swap.Name} gave a passphrase; the next trip seals the key with it");
            return null;
        }, cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> OrderAsync(
        PersonOrder wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(
            user,
            db,
            writer,
            reader,
            async (w, swap) =>
                OwnOrders.Contains(wanted.Kind)
                    ? ProblemOf(await OrderGiving.GiveAsync(w, swap, new(wanted.Kind, Beside: true), cancel))
                    : new Problem("order.kind", $"'{wanted.Kind}' is nothing that you can start. Use {string.Join(" or ", OwnOrders)}."),
            cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> PauseAsync(
        PauseWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(
            user,
            db,
            writer,
            reader,
            async (w, swap) => ProblemOf(await OrderGiving.PauseAsync(w, swap.Id, wanted.Paused, cancel)),
            cancel);

    private static Task<Results<Ok<PersonPage>, ProblemHttpResult>> PartAsync(
        PartWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        ChangeAsync(
            user,
            db,
            writer,
            reader,
            async (w, swap) => ProblemOf(await OrderGiving.GiveAsync(w, swap, new(OrderNames.PartRestore, Only: [wanted.Path]), cancel)),
            cancel);
}
