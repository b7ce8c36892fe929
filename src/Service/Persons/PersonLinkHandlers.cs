using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Notices;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>The work behind <see cref="PersonLinkEndpoints"/>.</summary>
internal static class PersonLinkHandlers
{
    private const int MostListed = 50;
    private const int MostAsked = 5;

    private static readonly ServiceProblem Nothing = new LinkNothingProblem();

    internal static async Task<Results<Ok<PersonLinkMade>, ProblemHttpResult>> MakeAsync(
        SwapId swap, PersonLinkWanted? wanted, HttpRequest request, Writer writer, ServiceOptions options, CancellationToken cancel)
    {
        wanted ??= new();
        if (wanted.Way is not (PersonLinks.ByMail or PersonLinks.OnPaper)) return new LinkWayProblem(wanted.Way).ToHttp();
        return (await writer.WriteAsync<PersonLinkMade>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap, cancel);
            if (wanted.Way == PersonLinks.ByMail) return await MailAsync(w, row, options, cancel);
            var before = await w.Db.Links.CountAsync(l => l.Swap == row.Id && l.Way == PersonLinks.OnPaper, cancel);
            var (secret, link) = PersonLinks.Make(row, PersonLinks.OnPaper, w.By, w.Now);
            w.Db.Links.Add(link);
            w.Note(
                "person.link-made",
                swap,
                $"{w.By} made a personal link for {row.Name} to hand over{(before == 0 ? "" : $", beside {before} before")}",
                new() { ["before"] = before });
            return new PersonLinkMade(
                PersonLinks.Address(options.Address ?? $"{request.Scheme}://{request.Host}{request.PathBase}", secret), link.Expires);
        }, cancel)).ToHttp();
    }

    /// <summary>Sends a new link to the address on record: nobody else sees it.</summary>
    private static async Task<Result<PersonLinkMade>> MailAsync(
        Change w, SwapRow swap, ServiceOptions options, CancellationToken cancel)
    {
        if (options.Mail is null) return new LinkNoMailProblem();
        if (w.Refresh.NoticesSince is null) return new LinkNoticesOffProblem();
        var person = await w.Db.People.AsNoTracking().FirstAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel);
        if (person.Mail is not { Length: > 0 } mail) return new LinkNoAddressProblem(swap.Name);
        await AskAsync(w, swap, person, $"{w.By} had a new link sent to {swap.Name}, to the address on record", cancel);
        return new PersonLinkMade(null, w.Now + PersonLinks.Lives, mail);
    }

    internal static async Task<Results<Ok<List<PersonLinkSeen>>, ProblemHttpResult>> ListAsync(
        SwapId swap, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        if (!await db.Swaps.AnyAsync(s => s.Id == swap, cancel)) return ServiceProblem.NotFound("swap", swap).ToHttp();
        var now = time.GetUtcNow();
        return TypedResults.Ok((await db.Links.AsNoTracking()
            .Where(l => l.Swap == swap)
            .OrderByDescending(l => l.MadeAt)
            .Take(MostListed)
            .ToListAsync(cancel))
            .ConvertAll(l => new PersonLinkSeen(
                PersonLinks.Refusal(l, now) ?? (l.OpenedAt is null ? "waits" : "open"),
                l.MadeBy,
                l.MadeAt,
                l.Expires,
                l.OpenedAt,
                l.SeenAt)));
    }

    internal static async Task<Results<Ok<PersonLinksWithdrawn>, ProblemHttpResult>> WithdrawAsync(
        SwapId swap, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<PersonLinksWithdrawn>(swap.Refresh, async w =>
        {
            var open = await w.Db.Links.Where(l => l.Swap == swap && l.WithdrawnAt == null && l.Expires > w.Now).ToListAsync(cancel);
            foreach (var link in open) link.WithdrawnAt = w.Now;
            if (open.Count > 0)
                w.Note(
                    "person.links-withdrawn",
                    swap,
                    $"{w.By} withdrew {(open.Count == 1 ? "the personal link" : $"{open.Count} personal links")} of "
                        + $"{await w.Db.Swaps.Where(s => s.Id == swap).Select(s => s.Name).FirstAsync(cancel)}");
            return new PersonLinksWithdrawn(open.Count);
        }, cancel)).ToHttp();
    }

    internal static async Task<Ok<List<LinkRefusalsSeen>>> RefusalsAsync(YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.LinkRefusals.AsNoTracking()
            .OrderByDescending(r => r.Day)
            .ThenBy(r => r.Cause)
            .Take(400)
            .Select(r => new LinkRefusalsSeen(r.Day, r.Cause, r.Count))
            .ToListAsync(cancel));

    internal static async Task<Results<NoContent, ProblemHttpResult>> OpenAsync(
        PersonLinkOpened opened, HttpContext context, YardDb db, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        var (sha256, now) = (TokenAuthentication.Digest(opened.Secret.Trim()), time.GetUtcNow());
        // This device has it open already.
        if ((await context.AuthenticateAsync(PersonLinks.Scheme)).Principal?.FindFirstValue("link") == sha256)
            return TypedResults.NoContent();
        // Staff act as themselves: on the device where they are signed in, the link opens for nobody, and stays as it is.
        if ((await context.AuthenticateAsync(CookieAuthenticationDefaults.AuthenticationScheme)).Principal is { } staff
            && staff.RoleOf() != Roles.Person)
            return new LinkOfStaffProblem(staff.ShownOf()).ToHttp();
        var link = await db.Links.AsNoTracking().FirstOrDefaultAsync(l => l.Sha256 == sha256, cancel);
        var cause = PersonLinks.Refusal(link, now);
        if (cause is null)
        {
            var swap = await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == link!.Swap, cancel);
            var bound = await writer.WriteAsync<LinkRow>(link!.Refresh, async w =>
            {
                // Of two devices at the same moment the refresh's lock lets one be the first.
                var row = await w.Db.Links.FirstAsync(l => l.Sha256 == sha256, cancel);
                if (row.OpenedAt is not null || row.WithdrawnAt is not null) return Nothing;
                (row.OpenedAt, row.SeenAt) = (w.Now, w.Now);
                w.Note(
                    "person.page-opened",
                    swap.Id,
                    row.Way != PersonLinks.OnPaper
                        ? $"{swap.Name} opened their own page"
                        : $"The page of {swap.Name} was opened by the link that {row.MadeBy} handed over");
                return row;
            }, cancel, PersonLinks.ActsAs(link, swap));
            if (bound.IsOk)
            {
                await context.SignInAsync(
                    PersonLinks.Scheme, PersonLinks.UserOf(link, swap), new() { IsPersistent = true, ExpiresUtc = link.Expires });
                return TypedResults.NoContent();
            }
            cause = "elsewhere";
        }
        await PersonLinks.CountAsync(db, cause, now, cancel);
        return Nothing.ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> AskAsync(
        LinkWanted wanted, YardDb db, Writer writer, ServiceOptions options, CancellationToken cancel)
    {
        var mail = wanted.Mail?.Trim() ?? "";
        if (mail.Length is < 3 or > 254 || !mail.Contains('@'))
            return new LinkMailProblem().ToHttp();
        if (options.Mail is null)
            return new LinkNoMailProblem().ToHttp();
        var lower = mail.ToLowerInvariant();
#pragma warning disable CA1862 // The database compares; it knows no other way to leave case aside.
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.CalledOffAt == null
                && s.PurgedAt == null
                && db.People.Any(p => p.Refresh == s.Refresh && p.Key == s.Person && p.Mail != null && p.Mail.ToLower() == lower)
                && db.Refreshes.Any(r => r.Key == s.Refresh && r.NoticesSince != null))
            .OrderByDescending(s => s.Id)
            .Take(MostAsked)
            .ToListAsync(cancel);
#pragma warning restore CA1862
        foreach (var swap in swaps)
            await writer.WriteAsync<bool>(swap.Refresh, async w =>
            {
                var person = await w.Db.People.AsNoTracking().FirstAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel);
                await AskAsync(
                    w, swap, person, $"Somebody asked for a new link for {swap.Name}; it goes to the address on record", cancel);
                return true;
            }, cancel, "the system");
        return TypedResults.NoContent();
    }

    /// <summary>Has a new link sent: once an hour, however often somebody asks.</summary>
    private static async Task AskAsync(Change w, SwapRow swap, PersonRow person, string words, CancellationToken cancel)
    {
        var key = $"{NoticeMoment.NewLink.Key()}/{w.Now.UtcDateTime:yyyy-MM-dd'T'HH}";
        if (await w.Db.Notices.AnyAsync(n => n.Swap == swap.Id && n.Key == key, cancel)) return;
        var language = person.Language ?? "en";
        w.Db.Notices.Add(new()
        {
            Id = Guid.CreateVersion7(w.Now).ToString("N"),
            Refresh = swap.Refresh,
            Swap = swap.Id,
            Key = key,
            Moment = NoticeMoment.NewLink.Key(),
            Language = language,
            To = person.Mail!,
            Subject = language == "de" ? "Ihr neuer Link" : "Your new link",
            MadeAt = w.Now,
            LastUseful = w.Now.AddHours(2),
            TryAt = w.Now
        });
        w.Note("person.link-asked", swap.Id, words);
    }

    internal static async Task<NoContent> CloseAsync(HttpContext context)
    {
        await context.SignOutAsync(PersonLinks.Scheme);
        return TypedResults.NoContent();
    }
}
