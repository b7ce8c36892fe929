using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Checklists;
using YardRelay.Service.Orders;
using YardRelay.Service.Parcels;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>The work behind <see cref="PersonEndpoints"/>.</summary>
internal static class PersonHandlers
{
    private const int LeastPassphrase = 12;
    private const int MostPassphrase = 200;

    internal static async Task<Results<Ok<PersonPage>, ProblemHttpResult>> GetAsync(
        ClaimsPrincipal user, YardDb db, PersonReader reader, CancellationToken cancel) =>
        await PersonScope.SwapAsync(db, user, cancel) is { } swap
            ? TypedResults.Ok(await reader.ReadAsync(swap, cancel))
            : PersonScope.NoSwap.ToHttp();

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> LanguageAsync(
        LanguageWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (!PersonDesk.Languages.Contains(wanted.Language))
                return new PersonLanguageProblem(wanted.Language, string.Join(" and ", PersonDesk.Languages));
            if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel) is { } person)
                person.Language = wanted.Language;
            return null;
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> MailAsync(
        MailWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
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

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> NamesAsync(
        NamesWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
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

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> StepAsync(
        StepKey step, PersonStep said, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
            if (facts.Steps.FirstOrDefault(s => s.Step.Key == step && s.Step.IsByPerson) is not { } found)
                return ServiceProblem.NotFound("step", step);
            // Said twice is said once; what a technician wrote down already stands.
            if (found.State.IsOpen != said.Done) return null;
            return PersonDesk.ProblemOf(await StepDesk.ClaimAsync(
                w, SwapId.Parse(swap.Id), step, said.Done ? new StepClaim.Ticked() : new StepClaim.Reopened(), null, null, null, cancel));
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> CarryAsync(
        CarryChange change, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (CarryListDesk.Faults(change) is { Count: > 0 } faults) return faults[0];
            if (swap.SwappedAt is not null)
                return new CarryListOverProblem();
            return PersonDesk.ProblemOf(await CarryListDesk.DecideAsync(w, swap.Id, change, cancel));
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> SayAsync(
        PersonSays says, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            var words = says.Words?.Trim() ?? "";
            if (words.Length is 0 or > PersonDesk.MostWords)
                return new PersonWordsProblem(PersonDesk.MostWords);
            if (PersonReader.Says.FirstOrDefault(s => s.Value == says.Kind) is not { Key: { } cause })
                return new PersonKindProblem(says.Kind);
            if (cause == "refusal" && await w.Db.SignOffs.AnyAsync(s => s.Swap == swap.Id && s.Part == SignOffPart.Person, cancel))
                return new RefusalSignedProblem();
            return await PersonDesk.AskAsync(w, swap, cause, words, cancel);
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> AcceptAsync(
        PersonAccepts accepts, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, TimeProvider time,
        CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
            SignOffDesk.DrawnFault(accepts.Drawn) ?? PersonDesk.ProblemOf(await SignOffDesk.SignPartAsync(
                w, swap.Id, new(SignOffPart.Person, accepts.Facts, accepts.Name, accepts.Drawn), isOwn: true, time, cancel)), cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> PassphraseAsync(
        PassphraseWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, ParcelKeys keys,
        CancellationToken cancel) =>
        PersonDesk.ChangeAsync(user, db, writer, reader, async (w, swap) =>
        {
            if (wanted.Passphrase.Length is < LeastPassphrase or > MostPassphrase)
                return new PersonPassphraseProblem(LeastPassphrase, MostPassphrase);
            if (!await ChecklistFacts.IsSealedAsync(w.Db, swap, cancel))
                return new PersonOpenProblem();
            if (swap.PurgedAt is not null || swap.SwappedAt is not null)
                return new PersonPassphraseLateProblem();
            var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
            if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
            cargo.Passphrase = keys.Seal(wanted.Passphrase);
            w.Note("person.passphrase", swap.Id, $"{swap.Name} gave a passphrase; the next trip seals the key with it");
            return null;
        }, cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> OrderAsync(
        PersonOrder wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(
            user,
            db,
            writer,
            reader,
            async (w, swap) =>
                PersonDesk.OwnOrders.Contains(wanted.Kind)
                    ? PersonDesk.ProblemOf(await OrderGiving.GiveAsync(w, swap, new(wanted.Kind, Beside: true), cancel))
                    : new OrderKindProblem(wanted.Kind, string.Join(" or ", PersonDesk.OwnOrders)),
            cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> PauseAsync(
        PauseWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(
            user,
            db,
            writer,
            reader,
            async (w, swap) => PersonDesk.ProblemOf(await OrderGiving.PauseAsync(w, swap.Id, wanted.Paused, cancel)),
            cancel);

    internal static Task<Results<Ok<PersonPage>, ProblemHttpResult>> PartAsync(
        PartWanted wanted, ClaimsPrincipal user, YardDb db, Writer writer, PersonReader reader, CancellationToken cancel) =>
        PersonDesk.ChangeAsync(
            user,
            db,
            writer,
            reader,
            async (w, swap) =>
                PersonDesk.ProblemOf(await OrderGiving.GiveAsync(w, swap, new(OrderNames.PartRestore, Only: [wanted.Path]), cancel)),
            cancel);
}
